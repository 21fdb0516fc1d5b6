"""Every figure grows with what it stands for, and a good scan has nothing to say."""

from collections.abc import Callable

import cv2
import numpy as np
import pytest

from hollowstack.core.check.quality import check_quality
from hollowstack.core.measure import Measurements, measure
from hollowstack.core.measure.capture_quality.scan import Quality
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet

RNG = np.random.default_rng(8)
GOOD = captured(typed_sheet(ppi=300), wear=Wear(age=0.1, foxing=0, fade=0)).pixels


ROWS, COLS = (np.linspace(-1, 1, side) for side in GOOD.shape[:2])
SHADOW = np.exp(-8 * (ROWS[:, None] ** 4 + COLS[None, :] ** 4))[..., None]
"""Over the middle of the page."""


def found(pixels: np.ndarray, ppi: float = 300.0) -> Measurements:
    return measure(Raster(np.clip(pixels + 0.5, 0, 255).astype(np.uint8), (ppi, ppi)))


def flagged(pixels: np.ndarray, ppi: float = 300.0) -> set[str]:
    return {finding.check for finding in check_quality(found(pixels, ppi)) if finding.verdict != "pass"}


def noise(amount: float) -> np.ndarray:
    return RNG.normal(0, amount, GOOD.shape[:2])[..., None]


def test_a_good_scan_has_nothing_to_say():
    assert flagged(GOOD) == set()
    assert len(check_quality(found(GOOD))) == 6


def test_ruled_paper_is_not_blurred():
    ruled = GOOD.copy()
    ruled[1500::90, 150:1600] = 90
    ruled[1501::90, 150:1600] = 90
    assert flagged(ruled) == set()


def test_a_small_card_on_a_dark_lid_is_not_blurred():
    """What is seen around it is no writing."""
    card = typed_sheet(5, ppi=300, width=110, height=75)
    lid = Glass(skew=1.5, margins_mm=(9, 8, 7, 9), lid=34)
    assert flagged(captured(card, lid, Wear(age=0.1, foxing=0, fade=0)).pixels) == set()


def test_a_blank_page_cannot_be_judged():
    blank = found(np.full((2480, 1748, 3), 240.0) + RNG.normal(0, 1, (2480, 1748, 1)))
    assert check_quality(blank) == []
    assert blank.quality is not None
    assert blank.quality.edge_mm is None


GETTING_WORSE: dict[str, tuple[str, int, list[Callable[[], np.ndarray]]]] = {
    "edge_mm": ("wider", 1, [lambda s=s: cv2.GaussianBlur(GOOD, (0, 0), s) for s in (0.5, 1.5, 3, 5)]),
    "motion_blur": ("wider", 1, [lambda n=n: cv2.filter2D(GOOD, -1, np.ones((1, n)) / n) for n in (1, 7, 13, 19)]),
    "contrast": ("less", -1, [lambda a=a: 230 + (GOOD - 230.0) * a for a in (1, 0.7, 0.5, 0.36)]),
    "noise": ("more", 1, [lambda a=a: GOOD + noise(a) for a in (0, 8, 20, 40)]),
    "darkest": ("less", -1, [lambda a=a: GOOD * (1 - a * np.linspace(0, 1, GOOD.shape[0])[:, None, None]) for a in (0, 0.3, 0.6, 0.8)]),
    "clipped_percent": ("more", 1, [lambda a=a: GOOD * a for a in (1, 1.1, 1.15, 1.4)]),
}  # fmt: skip


@pytest.mark.parametrize("figure", GETTING_WORSE)
def test_a_figure_follows_what_it_stands_for(figure):
    _, sign, pages = GETTING_WORSE[figure]
    values = [getattr(found(make()).quality, figure) for make in pages]
    assert all(value is not None for value in values)
    assert (np.diff(values) * sign > 0).all(), values


def test_show_through_is_seen_step_by_step():
    back = typed_sheet(ppi=300, seed=9)
    values = [
        found(captured(typed_sheet(ppi=300), wear=Wear(show_through=a), back=back).pixels).quality.shows_through_percent  # type: ignore[union-attr]
        for a in (0.0, 1.0, 1.8)
    ]
    assert values[0] < values[1] < values[2]


@pytest.mark.parametrize(
    ("check", "spoil"),
    [
        ("sharpness", lambda: cv2.GaussianBlur(GOOD, (0, 0), 7)),
        ("sharpness", lambda: cv2.filter2D(GOOD, -1, np.ones((1, 21)) / 21)),
        ("sharpness", lambda: cv2.filter2D(GOOD, -1, np.ones((1, 49)) / 49)),
        ("contrast", lambda: 230 + (GOOD - 230.0) * 0.21),
        ("contrast", lambda: GOOD * 2.2),
        ("grain", lambda: GOOD + noise(110)),
        ("even light", lambda: GOOD * (1 - 0.97 * SHADOW)),
    ],
)
def test_what_is_read_badly_or_soon_will_be_is_said(check, spoil):
    assert check in flagged(spoil())


def test_letters_with_too_few_pixels_are_said():
    small = cv2.resize(GOOD, None, fx=0.17, fy=0.17, interpolation=cv2.INTER_AREA)
    assert "letter size" in flagged(small, 51.0)


def test_a_spot_shows_where_it_is_worst():
    half = GOOD.copy()
    half[: GOOD.shape[0] // 2] = cv2.GaussianBlur(GOOD, (0, 0), 7)[: GOOD.shape[0] // 2]
    spots = {f.check: f.spot for f in check_quality(found(half)) if f.verdict != "pass"}
    assert spots["sharpness"] is not None
    assert spots["sharpness"][1] < GOOD.shape[0] // 2


def test_light_that_falls_off_over_bare_paper_is_no_blurred_writing():
    rows, cols = GOOD.shape[:2]
    slope = np.add.outer(np.linspace(0, 1, rows), np.linspace(0, 1, cols))[..., None] / 2
    quality = found(GOOD * (1 - 0.9 * slope**1.3)).quality
    plain = found(GOOD).quality
    assert quality is not None
    assert plain is not None
    assert quality.edge_mm == pytest.approx(plain.edge_mm, abs=0.15)
    assert quality.contrast == pytest.approx(plain.contrast, abs=0.12)


PLAIN = {
    "edge_mm": 0.3, "edge_px": 3.7, "edge_box": None, "motion_blur": 1.1, "contrast": 0.5, "contrast_box": None, "noise": 0.01,
    "contrast_to_noise": 40.0, "darkest": 0.9, "shows_through_percent": 0.0, "clipped_percent": 0.0, "letter_px": 20.0,
}  # fmt: skip
AT_THE_LIMIT = [
    ("sharpness", {"edge_mm": 0.87, "contrast": 0.32}, {"edge_mm": 0.871, "contrast": 0.32}),
    ("sharpness", {"edge_mm": 1.1, "contrast": 0.33}, {"edge_mm": 1.101, "contrast": 0.33}),
    ("sharpness", {"edge_mm": 0.62, "motion_blur": 1.85}, {"edge_mm": 0.621, "motion_blur": 1.85}),
    ("sharpness", {"edge_mm": 0.8, "motion_blur": 1.84}, {"edge_mm": 0.8, "motion_blur": 1.85}),
    ("sharpness", {"edge_mm": 1.5, "edge_px": 3.6}, {"edge_mm": 1.5, "edge_px": 3.61}),
    ("contrast", {"contrast": 0.145}, {"contrast": 0.144}),
    ("contrast", {"contrast": 0.53, "clipped_percent": 81.0}, {"contrast": 0.52, "clipped_percent": 81.0}),
    ("contrast", {"contrast": 0.52, "clipped_percent": 80.0}, {"contrast": 0.52, "clipped_percent": 80.1}),
    ("even light", {"darkest": 0.18}, {"darkest": 0.179}),
    ("show-through", {"shows_through_percent": 8.0}, {"shows_through_percent": 8.01}),
    ("show-through", {"shows_through_percent": 20.0, "noise": 0.12}, {"shows_through_percent": 20.0, "noise": 0.11}),
    ("grain", {"noise": 0.19, "contrast_to_noise": 3.0}, {"noise": 0.19, "contrast_to_noise": 2.9}),
    ("grain", {"noise": 0.19}, {"noise": 0.191}),
    ("letter size", {"letter_px": 4.6}, {"letter_px": 4.5}),
]


@pytest.mark.parametrize(("check", "good", "bad"), AT_THE_LIMIT)
def test_limits_are_where_they_are_said_to_be(check, good, bad):
    page = found(GOOD)

    def reviewed(figures: dict[str, float]) -> set[str]:
        judged = page.model_copy(update={"quality": Quality(**(PLAIN | figures))})
        return {finding.check for finding in check_quality(judged) if finding.verdict == "review"}

    assert reviewed(good) == set()
    assert reviewed(bad) == {check}
