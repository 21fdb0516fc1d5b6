"""What lies on a page, runs through its image, or is too pale to be seen on it."""

import cv2
import numpy as np
import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import Measurements, measure
from hollowstack.core.measure.content.pale_traces import pale_traces
from hollowstack.core.measure.content.streaks import find_streaks
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment
from tests.conftest import typed_sheet

PPI = (150.0, 150.0)


def paper(rows: int = 1750, cols: int = 1240, seed: int = 1) -> np.ndarray:
    return np.random.default_rng(seed).normal(236, 2.2, (rows, cols))


def gray(values: np.ndarray, ppi: tuple[float, float] = PPI) -> Raster:
    return Raster(np.clip(values + 0.5, 0, 255).astype(np.uint8), ppi)


def typed(seed: int = 6) -> np.ndarray:
    """A typed page at 300 ppi, A5, with grain."""
    (ink,) = typed_sheet(seed, ppi=300).layers.values()
    page = 238 - np.asarray(ink, float) * 0.8
    return page + np.random.default_rng(seed).normal(0, 2, page.shape)


def checks(found: Measurements) -> set[str]:
    told = check_page(found, plan_page(found, Treatment()), None)
    return {one.check for one in told if one.verdict != "pass"}


@pytest.mark.parametrize(("depth", "seen"), [(0.06, False), (0.12, True), (0.5, True), (-0.12, True)])
def test_a_thin_line_down_the_whole_image_is_a_streak(depth, seen):
    page = paper()
    page[:, 500:503] *= 1 - depth
    found = find_streaks(gray(page))
    assert bool(found) is seen
    if seen:
        assert abs(found[0].place - 501.5) <= 1


@pytest.mark.parametrize(
    ("rows", "cols"),
    [
        (slice(120, None), slice(500, 503)),  # a rule that ends on the page
        (slice(0, 1630), slice(500, 503)),
        (slice(0, None), slice(500, 512)),  # too wide to be one
        (slice(0, None), slice(10, 13)),  # at the image's rim
        (slice(700, 703), slice(0, None)),  # across, as cards are ruled
    ],
)
def test_other_lines_are_none(rows, cols):
    page = paper()
    page[rows, cols] *= 0.5
    assert find_streaks(gray(page)) == []


def test_a_line_that_is_tilted_is_none():
    page = paper()
    line = np.zeros(page.shape, np.uint8)
    cv2.line(line, (500, 0), (512, 1749), 1, 3)
    page[line > 0] = 100
    assert find_streaks(gray(page)) == []


def test_the_shadow_beside_an_edge_is_none():
    page = paper()
    page[:, 600:] -= 40 * np.exp(-np.arange(640) / 12)
    assert find_streaks(gray(page)) == []


def test_a_streak_is_told_and_is_no_writing_that_runs_off():
    page = typed()
    page[:, 900:904] *= 0.4
    found = measure(gray(page, (300.0, 300.0)))
    assert len(found.streaks) == 1
    assert found.cut_off == ()
    assert "streak" in checks(found)


@pytest.mark.parametrize(("thick", "cut"), [(4, False), (16, True)])
def test_a_ruled_line_that_leaves_the_image_is_no_cut_writing(thick, cut):
    """Half a millimetre is 5.9 pixels: what is thicker may be a stroke."""
    page = typed()
    page[300 : 300 + thick, :500] = 60
    assert (measure(gray(page, (300.0, 300.0))).cut_off != ()) is cut


def lay(page: np.ndarray, box: tuple[int, int, int, int], tone: float) -> np.ndarray:
    left, top, right, bottom = box
    page[top:bottom, left:right] = tone
    return page


def test_a_slip_on_writing_is_told():
    page = typed()
    rows = np.flatnonzero((page < 150).sum(axis=1) > 20)
    middle = int(rows[len(rows) // 2])
    found = measure(gray(lay(page, (500, middle - 150, 1300, middle + 140), 170), (300.0, 300.0)))
    assert len(found.covered) == 1
    assert "object" in checks(found)


def test_a_tint_beside_writing_is_none():
    page = typed()
    bottom = int(np.flatnonzero((page < 150).sum(axis=1) > 20)[-1])
    found = measure(gray(lay(page, (300, bottom + 90, 1300, bottom + 420), 170), (300.0, 300.0)))
    assert [region.kind for region in found.regions if region.kind != "text"] == ["fill"]
    assert found.covered == ()


def test_writing_on_a_tint_is_not_covered():
    page = typed()
    rows = np.flatnonzero((page < 150).sum(axis=1) > 20)
    middle = int(rows[len(rows) // 2])
    box = np.s_[middle - 150 : middle + 140, 500:1300]
    page[box] = np.minimum(page[box], 170)
    assert measure(gray(page, (300.0, 300.0))).covered == ()


def written(contrast: float, soft: float = 0.0) -> np.ndarray:
    page = paper()
    drawn = np.zeros(page.shape, np.uint8)
    for row in range(8):
        cv2.putText(drawn, "lamp and oil and bread", (250, 500 + 60 * row), cv2.FONT_HERSHEY_SIMPLEX, 1.4, 255, 2)
    ink = drawn / 255.0
    return page - contrast * 236 * (cv2.GaussianBlur(ink, (0, 0), soft) if soft else ink)


@pytest.mark.parametrize(
    ("page", "seen"),
    [
        (paper(), False),
        (written(0.05), True),
        (written(0.1), True),
        (written(0.12, soft=4.0), False),
        (paper(90, 90), False),
    ],
    ids=["bare", "very pale", "pale", "shines through", "small"],
)
def test_pale_writing_leaves_traces(page, seen):
    assert (pale_traces(gray(page)) is not None) is seen


def test_traces_are_where_they_stand():
    left, top, wide, high = pale_traces(gray(written(0.1)))
    assert 200 <= left <= 260
    assert 420 <= top <= 500
    assert 880 <= top + high <= 1010
    assert wide > 300


def test_a_page_held_aside_as_blank_says_so_where_something_may_stand():
    found = measure(gray(written(0.05)))
    assert (found.marks, found.pale_traces is not None) == (0, True)
    assert checks(found) == {"blank"}
    assert checks(measure(gray(paper()))) == set()
