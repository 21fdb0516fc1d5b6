"""The paper's edge as a thin broken line in two tones: told from rules, frames and lines of text."""

import numpy as np
import pytest

from hollowstack.core.measure.layout.cut import Cut, SideView
from hollowstack.core.measure.layout.traces import find_paper_edge

PX_MM = 110 / 25.4
ROWS, COLS = 1200, 900


def view(dark: np.ndarray) -> SideView:
    return SideView(dark, np.where(dark, 0, 255).astype(np.uint8), None, 255.0, PX_MM, bitonal=True)


def edge(at_mm: float = 6.0, *, start: int = 0, end: int = ROWS, slope: float = 0.003, gaps: bool = True) -> np.ndarray:
    """A line along the left, thick here and thin there."""
    dark = np.zeros((ROWS, COLS), bool)
    rng = np.random.default_rng(3)
    for row in range(start, end):
        if gaps and (row // 60) % 4 == 3:
            continue
        left = round(at_mm * PX_MM + slope * row)
        dark[row, left : left + int(rng.integers(1, 4))] = True
    return dark


def depth(cut: Cut | None) -> float | None:
    return None if cut is None else cut.depth(ROWS) / PX_MM


def test_the_edge_is_found_where_it_lies():
    assert depth(find_paper_edge(view(edge()))) == pytest.approx(6 + 0.003 * 600 / PX_MM + 1, abs=0.8)


@pytest.mark.parametrize(("at_mm", "found"), [(1.5, True), (7.0, True), (11.0, False)])
def test_only_near_the_rim(at_mm, found):
    assert (find_paper_edge(view(edge(at_mm))) is not None) == found


@pytest.mark.parametrize(("slope", "found"), [(0.004, False), (0.018, True), (-0.018, True)])
def test_farther_in_only_where_it_lies_askew(slope, found):
    """Eleven millimetres in: a rule of a sheet is as straight as the sheet was laid."""
    side = view(edge(11.0 - slope * ROWS / 2 / PX_MM, slope=slope))
    cut = find_paper_edge(side)
    assert (cut is not None) == found
    if cut is not None:
        assert depth(cut) == pytest.approx(12, abs=0.8)
        assert cut.slope == pytest.approx(slope, abs=0.0025)


@pytest.mark.parametrize(("start", "end"), [(150, ROWS), (0, ROWS - 150), (150, ROWS - 150)])
def test_a_frame_ends_within_the_page(start, end):
    assert find_paper_edge(view(edge(start=start, end=end))) is None


def test_a_printed_rule_is_even():
    dark = np.zeros((ROWS, COLS), bool)
    dark[:, 26:28] = True
    assert find_paper_edge(view(dark)) is None


def test_writing_beside_it_makes_it_part_of_the_page():
    dark = edge()
    for row in range(40, ROWS, 22):
        dark[row : row + 9, 32:38] = True
    assert find_paper_edge(view(dark)) is None


def test_the_ends_of_lines_are_no_edge():
    dark = np.zeros((ROWS, COLS), bool)
    for row in range(30, ROWS, 20):
        dark[row : row + 10, 24:600] = True
    assert find_paper_edge(view(dark)) is None


def test_beyond_a_cut_rows_begin_at_its_line():
    side = view(edge())
    cut = find_paper_edge(side)
    assert cut is not None
    left = side.beyond(cut)
    assert left.dark.shape == side.dark.shape
    assert not left.dark[:, :40].any()
    assert (left.light[:, -1] == 255).all()


def test_cuts_add_up():
    assert Cut(10, 0.01, "lid").within(Cut(5, -0.02, "neighbour")) == Cut(15, -0.01, "neighbour")
    assert Cut(10, 0.01, "lid").within(Cut(5, 0.0, "lid")).kind == "lid"
