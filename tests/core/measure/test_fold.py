"""The fold before a neighbour's strip, from both sides of what tells it from rules, creases, text and shade."""

import numpy as np
import pytest

from hollowstack.core.measure.layout.cut import Cut, SideView
from hollowstack.core.measure.layout.fold import find_fold

PX_MM = 75 / 25.4
ROWS, COLS = 880, 620
PAPER = 230.0


def sheet(
    at_mm: float = 12.0,
    *,
    depth: float = 0.12,
    tone: float = 0.93,
    slope: float = 0.0,
    seen: float = 1.0,
    first: int = 0,
    last: int = ROWS,
) -> np.ndarray:
    """A page, and beyond a dark line on its left the paper of another one; ``seen`` is the share of the line that shows."""
    light = np.full((ROWS, COLS), PAPER)
    for row in range(ROWS):
        at = round(at_mm * PX_MM + slope * (row - ROWS / 2))
        light[row, : max(0, at)] *= tone
        if first <= row < last and (row // 8 * 0.618034) % 1 < seen:
            light[row, max(0, at - 1) : at + 2] *= 1 - depth
    return light


def found(light: np.ndarray) -> Cut | None:
    values = np.clip(light, 0, 255).astype(np.uint8)
    return find_fold(SideView(values < 0.6 * PAPER, values, None, PAPER, PX_MM, bitonal=False))


@pytest.mark.parametrize("slope", [0.0, 0.03, -0.05, 0.1])
def test_it_is_found_where_it_lies(slope):
    cut = found(sheet(25.0, slope=slope))
    assert cut is not None
    assert cut.kind == "neighbour"
    assert cut.slope == pytest.approx(slope, abs=0.003)
    assert cut.depth(ROWS) == pytest.approx(25.0 * PX_MM, abs=2.5)


@pytest.mark.parametrize(("share", "there"), [(0.15, True), (0.26, True), (0.31, False), (0.5, False)])
def test_nearer_to_the_middle_lie_two_pages(share, there):
    assert (found(sheet(share * COLS / PX_MM)) is not None) == there


@pytest.mark.parametrize(("at_mm", "there"), [(0.1, False), (2.5, True)])
def test_a_narrower_strip_is_the_shade_of_the_edge(at_mm, there):
    assert (found(sheet(at_mm)) is not None) == there


@pytest.mark.parametrize(("depth", "there"), [(0.015, False), (0.035, True), (0.06, True)])
def test_it_is_darker_than_the_paper_beside_it(depth, there):
    assert (found(sheet(depth=depth)) is not None) == there


@pytest.mark.parametrize(("tone", "there"), [(1.0, False), (0.98, False), (0.95, True), (1.06, True)])
def test_beyond_it_lies_another_sheet(tone, there):
    assert (found(sheet(tone=tone)) is not None) == there


def test_print_that_the_rim_cuts_is_another_sheet_too():
    light = sheet(tone=1.0)
    for row in range(20, ROWS - 20, 18):
        light[row : row + 6, :20:2] = 60
    assert found(light) is not None


@pytest.mark.parametrize(("end_mm", "there"), [(4.0, True), (30.0, False)])
def test_a_printed_rule_ends_before_the_rim(end_mm, there):
    end = round(end_mm * PX_MM)
    assert (found(sheet(first=end)) is not None) == there
    assert (found(sheet(last=ROWS - end)) is not None) == there


@pytest.mark.parametrize(("across", "there"), [(2, True), (12, False)])
def test_a_crease_is_written_across(across, there):
    """Lines of text over the fold: a few may be stains, more are this page's."""
    light = sheet(30.0)
    for number in range(across):
        top = 40 + number * (ROWS - 80) // across
        light[top : top + 20, 40:160:3] = 50
    assert (found(light) is not None) == there


@pytest.mark.parametrize(("count", "there"), [(3, True), (8, False)])
def test_the_pages_below_show_a_few_edges_and_text_has_more(count, there):
    light = sheet(40.0)
    for number in range(count):
        at = 10 + number * 12
        light[:, at : at + 2] *= 0.85
    assert (found(light) is not None) == there


def test_a_page_with_too_few_heights_has_none():
    values = np.clip(sheet(), 0, 255).astype(np.uint8)
    for rows, there in ((23 * 8 + 7, False), (24 * 8, True)):
        part = values[:rows]
        side = SideView(part < 0.6 * PAPER, part, None, PAPER, PX_MM, bitonal=False)
        assert (find_fold(side) is not None) == there
