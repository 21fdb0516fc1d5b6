"""What is said of a page before the camera, at the limits of each."""

import numpy as np
import pytest

from hollowstack.core.measure.capture_quality import live
from hollowstack.core.measure.capture_quality.live import look, softness
from hollowstack.core.measure.layout.live_outline import Found, LiveOutline
from hollowstack.core.page.geometry import Quad

PAGE = np.s_[30:195, 120:280]
"""Of a frame of 225 × 400."""
TABLE = (70, 60, 50)


def table() -> np.ndarray:
    return np.full((225, 400, 3), TABLE, np.uint8)


def with_page(tone: int = 230, where=PAGE) -> np.ndarray:
    pixels = table()
    pixels[where] = tone
    return pixels


def test_a_page_that_lies_well():
    sight = look(with_page())
    assert sight.fault is None
    assert sight.outline is not None
    assert np.abs(sight.outline.quad.array() - Quad.rectangle(120, 30, 280, 195).array()).max() < 0.8


def test_an_empty_table():
    assert look(table()).fault == "no page"


def test_writing_without_an_outline_wants_another_table():
    pixels = np.full((225, 400, 3), 200, np.uint8)
    pixels[80:150:8, 120:280:3] = 60
    assert look(pixels).fault == "no contrast"


@pytest.mark.parametrize(("tone", "fault"), [(live.DARK - 1, "dark"), (live.DARK, None)])
def test_too_dark_by_its_lightest(tone: int, fault: str | None):
    pixels = (with_page(tone) * [1, 1, 1]).astype(np.uint8)
    pixels[np.all(pixels == TABLE, axis=2)] = 20
    assert look(pixels).fault == fault


@pytest.mark.parametrize(("tone", "fault"), [(live.NIGHT - 1, "dark"), (live.NIGHT, "no page")])
def test_with_nothing_seen_only_night_is_dark(tone: int, fault: str):
    assert look(np.full((225, 400, 3), tone, np.uint8)).fault == fault


def seen_at(monkeypatch: pytest.MonkeyPatch, quad: Quad, confidence: float = 1.0) -> live.Sight:
    """What is said of a page that was found so."""
    monkeypatch.setattr(live, "live_outline", lambda *_: Found(LiveOutline(quad, confidence), ()))
    return look(with_page())


@pytest.mark.parametrize(
    ("quad", "sides"),
    [
        (Quad.rectangle(2.3, 30, 280, 195), (0,)),
        (Quad.rectangle(2.4, 30, 280, 195), ()),
        (Quad.rectangle(120, 2.3, 280, 195), (1,)),
        (Quad.rectangle(120, 30, 397.7, 222.7), (2, 3)),
        (Quad.rectangle(120, 30, 397.6, 222.6), ()),
    ],
)
def test_a_corner_at_the_rim_counts_as_cut_off(monkeypatch, quad: Quad, sides: tuple[int, ...]):
    """Within 0.6 % of the longer side: 2.4 pixels of 400."""
    sight = seen_at(monkeypatch, quad)
    assert (sight.fault, sight.sides) == (("cut off", sides) if sides else (None, ()))


@pytest.mark.parametrize(("confidence", "fault"), [(live.COVERED - 0.001, "covered"), (live.COVERED, None)])
def test_a_side_that_is_hardly_seen_is_covered(monkeypatch, confidence: float, fault: str | None):
    assert seen_at(monkeypatch, Quad.rectangle(120, 30, 280, 195), confidence).fault == fault


def test_a_page_at_the_rim_is_cut_off_there():
    sight = look(with_page(where=np.s_[30:195, 0:290]))
    assert (sight.fault, sight.sides) == ("cut off", (0,))


def test_light_that_wipes_out_is_told_from_white_paper():
    pixels = with_page(live.WIPED - 1)
    assert look(pixels).fault is None
    pixels[60:74, 150:164] = live.WIPED
    assert look(pixels).fault == "reflection"


def test_a_hand_over_a_side_covers_it():
    pixels = with_page()
    pixels[120:225, 180:235] = (196, 152, 124)
    assert look(pixels).fault == "covered"


def stripes(width: int) -> np.ndarray:
    """Writing whose edges take so many pixels."""
    line = np.concatenate(
        [np.full(12, 220.0), np.linspace(220, 40, width + 1)[1:-1], np.full(12, 40.0), np.linspace(40, 220, width + 1)[1:-1]]
    )
    row = np.tile(line, 60)[:1200]
    return np.tile(row, (700, 1)).astype(np.uint8)


@pytest.mark.parametrize(("width", "soft"), [(1, False), (3, False), (5, True), (8, True)])
def test_soft_writing_is_not_sharp(width: int, soft: bool):
    found = softness(stripes(width), Quad.rectangle(50, 40, 1150, 660))
    assert found is not None
    assert (found > live.SOFT_PX) == soft


def test_where_nothing_is_written_the_papers_own_edge_tells():
    edge = np.full((700, 1200), 60.0)
    edge[100:600, 200:1000] = 230
    quad = Quad.rectangle(200, 100, 1000, 600)
    sharp = softness(edge.astype(np.uint8), quad)
    kernel = np.ones(9) / 9
    dull = np.apply_along_axis(lambda row: np.convolve(row, kernel, "same"), 1, edge)
    dull = np.apply_along_axis(lambda row: np.convolve(row, kernel, "same"), 0, dull)
    soft = softness(dull.astype(np.uint8), quad)
    assert sharp is not None and sharp < live.SOFT_PX  # noqa: PT018
    assert soft is not None and soft > live.SOFT_PX  # noqa: PT018


def test_where_there_is_neither_nothing_is_told():
    assert softness(np.full((700, 1200), 200, np.uint8), Quad.rectangle(200, 100, 1000, 600)) is None
