"""Black in both corners of a side, from both sides of each limit: between them the page has ended."""

import numpy as np
import pytest

from hollowstack.core.measure.layout.corner_blocks import find_corner_blocks
from hollowstack.core.measure.layout.cut import Cut, SideView
from hollowstack.core.measure.layout.rim import find_rim
from hollowstack.core.page.raster import Raster

PX_MM = 4.0
ROWS, COLS = 1200, 900


def mm(value: float) -> int:
    return round(value * PX_MM)


def corners(first: float = 4.0, second: float = 4.0, long: float = 12.0) -> np.ndarray:
    """A page in two tones with black of some depths in mm in the corners of its left side."""
    dark = np.zeros((ROWS, COLS), bool)
    dark[: mm(long), : mm(first)] = True
    dark[ROWS - mm(long) :, : mm(second)] = True
    for top in range(100, ROWS - 100, 36):
        dark[top : top + 12, mm(20) : mm(150) : 3] = True
    return dark


def found(dark: np.ndarray) -> Cut | None:
    return find_corner_blocks(SideView(dark, np.where(dark, 0, 255).astype(np.uint8), None, 255.0, PX_MM, bitonal=True))


def test_the_page_begins_where_they_end():
    cut = found(corners(4.0, 4.5))
    assert cut is not None
    assert (cut.kind, cut.slope) == ("lid", 0.0)
    assert cut.offset / PX_MM == pytest.approx(4.6, abs=0.3)


@pytest.mark.parametrize(("deep", "seen"), [(0.5, False), (1.0, True), (6.75, True), (7.5, False)])
def test_they_are_so_deep(deep, seen):
    assert (found(corners(deep, deep)) is not None) == seen


@pytest.mark.parametrize(("second", "seen"), [(5.0, True), (5.5, False), (0.0, False)])
def test_both_are_there_and_alike(second, seen):
    assert (found(corners(4.0, second)) is not None) == seen


def test_the_bar_of_the_next_side_is_no_corner():
    dark = corners()
    dark[: mm(1.5)] = True
    assert found(dark) is None


@pytest.mark.parametrize("at_mm", [1.5, 3.0])
def test_what_is_printed_between_them_stays(at_mm):
    dark = corners()
    dark[400:412, mm(at_mm) : mm(at_mm + 3)] = True
    assert found(dark) is None


@pytest.mark.parametrize(("letters", "seen"), [(3, True), (7, False)])
def test_so_does_a_line_of_letters_that_the_rim_cuts(letters, seen):
    dark = corners()
    for number in range(letters):
        dark[300 + 20 * number : 310 + 20 * number, : mm(2)] = True
    assert (found(dark) is not None) == seen


@pytest.mark.parametrize(("beyond", "seen"), [(0.5, True), (2.0, False)])
def test_a_dirty_edge_is_cut_through_and_no_print(beyond, seen):
    dark = corners()
    dark[500:560, : mm(4.1 + beyond)] = True
    assert (found(dark) is not None) == seen


def test_the_papers_edge_between_them_is_none_of_it():
    dark = corners()
    dark[200:700, mm(4) - 1 : mm(4)] = True
    assert found(dark) is not None


def test_torn_corners_are_triangles():
    dark = corners(0.0, 0.0)
    for depth in range(mm(5)):
        dark[: mm(5) - depth, depth] = True
        dark[ROWS - mm(5) + depth :, depth] = True
    assert found(dark) is None


def test_a_page_in_two_tones_loses_the_strip_between_them():
    dark = corners()
    page = Raster(np.where(dark, 0, 255).astype(np.uint8), (PX_MM * 25.4,) * 2)
    left = find_rim(page, 255.0, bitonal=True).cuts[0]
    assert left is not None
    assert left.offset / PX_MM == pytest.approx(4.1, abs=0.4)
