"""Bars of lid and slivers of a neighbour along one side, from both sides of each limit."""

import numpy as np
import pytest

from hollowstack.core.measure.layout.bars import find_bar
from hollowstack.core.measure.layout.cut import Cut, SideView

PX_MM = 4.0
ROWS, COLS = 1200, 900
PAPER, LID = 235, 20


def mm(value: float) -> int:
    return round(value * PX_MM)


def two_toned(dark: np.ndarray) -> SideView:
    return SideView(dark, np.where(dark, 0, 255).astype(np.uint8), None, 255.0, PX_MM, bitonal=True)


def shaded(light: np.ndarray, colour: np.ndarray | None = None) -> SideView:
    return SideView(light < 0.6 * PAPER, light, colour, float(PAPER), PX_MM, bitonal=False)


def bare() -> np.ndarray:
    return np.zeros((ROWS, COLS), bool)


def paper() -> np.ndarray:
    return np.full((ROWS, COLS), PAPER, np.uint8)


def depth(cut: Cut | None) -> float | None:
    """In mm, in the middle of the side."""
    return None if cut is None else cut.depth(ROWS) / PX_MM


@pytest.mark.parametrize(("white", "found"), [(0.0, True), (2.0, True), (2.3, False), (3.5, False)])
def test_white_that_a_device_has_put_before_a_bar_is_no_page(white, found):
    """Up to two millimetres and a little."""
    dark = bare()
    dark[:, mm(white) : mm(white + 5)] = True
    assert depth(find_bar(two_toned(dark))) == (pytest.approx(white + 5, abs=0.5) if found else None)


def test_more_white_lies_beside_a_bar_that_was_cut_off():
    dark = bare()
    dark[:, mm(4) : mm(9)] = True
    assert find_bar(two_toned(dark)) is None
    assert depth(find_bar(two_toned(dark), again=True)) == pytest.approx(9, abs=0.5)


@pytest.mark.parametrize(("share", "found"), [(0.04, False), (0.045, False), (0.06, True), (0.3, True)])
def test_a_bar_is_longer_than_a_letter(share, found):
    light = paper()
    start = ROWS // 3
    light[start : start + round(share * ROWS), : mm(6)] = LID
    # Against the depth of a bar, what covers half of its side is cut off by it; less is harmless only where it is shallow.
    shallow = paper()
    shallow[start : start + round(share * ROWS), : mm(2)] = LID
    assert (find_bar(shaded(shallow)) is not None) == found


@pytest.mark.parametrize(("deep", "found"), [(0.2, False), (0.5, True), (13.0, True), (15.0, False)])
def test_a_bar_in_two_tones_is_neither_too_thin_nor_too_deep(deep, found):
    dark = bare()
    dark[:, : mm(deep)] = True
    dark[400:430] = dark[800:830] = False
    assert (find_bar(two_toned(dark)) is not None) == found


@pytest.mark.parametrize(
    ("share", "lights", "found"),
    [(0.2, 0, True), (0.36, 0, True), (0.42, 0, False), (0.2, 200, False), (0.2, 60, True)],
)
def test_a_deep_lid_is_dark_all_along_and_less_than_two_fifths_of_the_image(share, lights, found):
    light = paper()
    light[:, : round(share * COLS)] = LID
    if lights:
        light[300:700, mm(5) : mm(25)] = lights
    assert (find_bar(shaded(light)) is not None) == found


def test_a_deep_lid_that_ends_half_way_may_be_a_picture():
    light = paper()
    light[: ROWS // 2, : COLS // 4] = LID
    assert find_bar(shaded(light)) is None


@pytest.mark.parametrize(("hue", "tone", "found"), [(0, 60, True), (25, 95, True), (60, 95, False), (60, 40, True)])
def test_a_coloured_column_is_no_lid_unless_it_is_black(hue, tone, found):
    light = paper()
    light[:, : COLS // 5] = tone
    colour = np.zeros_like(light)
    colour[:, : COLS // 5] = hue
    assert (find_bar(shaded(light, colour)) is not None) == found


@pytest.mark.parametrize(("soft_mm", "found"), [(0.5, True), (1.5, True), (14.0, False)])
def test_shade_ends_softly_and_lid_sharply(soft_mm, found):
    light = paper().astype(float)
    at = np.arange(COLS) / PX_MM
    light[:] = np.clip(LID + (at - 6) / soft_mm * (PAPER - LID), LID, PAPER)
    assert (find_bar(shaded(light.astype(np.uint8))) is not None) == found


@pytest.mark.parametrize(("steep", "found"), [(0.0, True), (0.028, True), (0.05, False)])
def test_a_wedge_is_cut_along_its_slope(steep, found):
    light = paper()
    reach = mm(3) + steep * np.arange(ROWS)
    light[np.arange(COLS)[None, :] < reach[:, None]] = LID
    cut = find_bar(shaded(light))
    assert cut is not None
    if found:
        assert cut.slope == pytest.approx(steep, abs=0.003)
        assert depth(cut) == pytest.approx(float(reach[ROWS // 2]) / PX_MM, abs=0.6)
    else:
        assert cut.slope <= 0.032


def lines(count: int, *, high: int = 12) -> np.ndarray:
    """The ends of a neighbour's lines at the rim, dots of ink with white between them, and this page's text farther in."""
    dark = bare()
    for number in range(count):
        top = 60 + number * (ROWS - 120) // count
        dark[top : top + high, : mm(6) : 3] = True
    for top in range(60, ROWS - 60, 36):
        dark[top : top + 12, mm(25) : mm(150) : 3] = True
    return dark


@pytest.mark.parametrize(("count", "kind"), [(7, None), (8, "neighbour"), (30, "neighbour")])
def test_a_sliver_has_eight_lines_at_least(count, kind):
    cut = find_bar(two_toned(lines(count, high=480 // count)))
    if kind is None:
        assert cut is None or cut.kind == "lid"
    else:
        assert cut is not None
        assert cut.kind == kind


def test_the_fold_lies_in_the_middle_of_the_bare_strip_but_no_deeper_than_a_margin():
    near, far = lines(30), lines(30)
    far[:, mm(20) :] = False
    far[60:-60:36, mm(60) : mm(150)] = True
    near[:, mm(8) :] = False
    near[60:-60:36, mm(12) : mm(150)] = True
    # Six millimetres of lines and a tenth; half of the six that are bare, or five.
    assert depth(find_bar(two_toned(near))) == pytest.approx(6 + 3, abs=0.7)
    assert depth(find_bar(two_toned(far))) == pytest.approx(6 + 5, abs=0.7)


@pytest.mark.parametrize(("gap", "cut"), [(2.0, False), (7.0, True)])
def test_what_is_as_near_as_letters_of_a_line_belongs_together(gap, cut):
    """A page whose lines the rim cuts is no sliver; one with a margin between is."""
    dark = bare()
    for top in range(60, ROWS - 60, 36):
        dark[top : top + 12, : mm(6)] = True
        dark[top : top + 12, mm(6 + gap) : mm(150)] = True
    assert (find_bar(two_toned(dark)) is not None) == cut


@pytest.mark.parametrize(("taper", "length", "found"), [(0.9, 0.5, True), (0.0, 0.5, False), (0.9, 0.1, False)])
def test_a_bar_that_does_not_reach_the_rim_is_thick_here_and_thin_there(taper, length, found):
    dark = bare()
    rows = np.arange(100, 100 + round(length * ROWS))
    thick = mm(1.2) * (1 - taper * np.abs(np.sin(rows / 90.0)))
    for row, wide in zip(rows, thick, strict=True):
        dark[row, mm(5) : mm(5) + max(1, round(wide))] = True
    cut = find_bar(two_toned(dark))
    assert (cut is not None) == found


@pytest.mark.parametrize("white", [0.0, 1.8])
def test_what_lies_along_the_sides_next_to_it_is_none_of_its(white):
    dark = bare()
    dark[mm(white) : mm(white + 4)] = True
    dark[-mm(white + 4) : ROWS - mm(white)] = True
    assert find_bar(two_toned(dark)) is None


@pytest.mark.parametrize(("reach", "kept"), [(6.0, False), (9.0, True)])
def test_a_mark_no_deeper_than_a_slivers_lines_goes_with_them(reach, kept):
    """The fold is as straight as the lines are, and lies behind the deepest of them."""
    dark = lines(30)
    dark[20:50, mm(reach - 2) : mm(reach)] = True
    cut = find_bar(two_toned(dark))
    assert cut is not None
    assert cut.kind == "neighbour"
    assert (cut.offset + cut.slope * 35 < mm(reach)) == kept
