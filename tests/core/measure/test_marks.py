"""What on a page is a mark: each kind of thing that is none, from both sides of what tells it."""

import cv2
import numpy as np
import pytest

from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.measure.content.blankness import Blankness, measure_blankness
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 100.0
MM = PPI / 25.4
WIDE, HIGH = round(148 * MM), round(210 * MM)
PAPER = 235.0
MIDDLE = (74.0, 105.0)


def sheet() -> np.ndarray:
    return np.full((HIGH, WIDE), PAPER)


def found(page: np.ndarray, regions: tuple[Region, ...] = ()) -> Blankness:
    raster = Raster(np.clip(page + 0.5, 0, 255).astype(np.uint8), (PPI, PPI))
    return measure_blankness(raster, surface=fit_paper(raster), regions=regions)


def marked(page: np.ndarray) -> bool:
    return found(page).ink_percent > 0


def box(page: np.ndarray, at: tuple[float, float], wide: float, high: float, tone: float = 0.3) -> np.ndarray:
    """A rectangle with its middle at a place in mm, of a share of the paper's light."""
    left, top = round((at[0] - wide / 2) * MM), round((at[1] - high / 2) * MM)
    page[max(0, top) : top + max(1, round(high * MM)), max(0, left) : left + max(1, round(wide * MM))] = tone * PAPER
    return page


def test_a_bare_sheet_has_none():
    assert found(sheet()) == Blankness(0.0, 0)


@pytest.mark.parametrize(("side", "there"), [(0.5, False), (1.3, True), (3.0, True)])
def test_dust_is_smaller_than_a_millimetre(side, there):
    assert marked(box(sheet(), MIDDLE, side, side)) == there


@pytest.mark.parametrize(("tone", "there"), [(0.3, True), (0.72, True), (0.8, False)])
def test_a_soft_mark_has_a_dark_core(tone, there):
    page = sheet()
    page -= PAPER - cv2.GaussianBlur(box(sheet(), MIDDLE, 10, 10, tone), (0, 0), 6)
    assert marked(page) == there


@pytest.mark.parametrize(("tone", "side", "there"), [(0.85, 4.0, True), (0.85, 2.2, False), (0.92, 4.0, False)])
def test_a_faint_mark_is_crisp_and_not_small(tone, side, there):
    assert marked(box(sheet(), MIDDLE, side, side, tone)) == there


def test_a_faint_mark_with_soft_edges_shines_through():
    page = cv2.GaussianBlur(box(sheet(), MIDDLE, 8, 8, 0.85), (0, 0), 5)
    assert not marked(page)


@pytest.mark.parametrize(
    ("diameter", "from_edge", "there"), [(6.0, 12.0, False), (6.0, 40.0, True), (2.6, 12.0, True), (11.0, 12.0, True)]
)
def test_a_punch_hole_is_round_of_its_size_and_near_an_edge(diameter, from_edge, there):
    page = sheet()
    cv2.circle(page, (round(from_edge * MM), round(105 * MM)), round(diameter / 2 * MM), 30, -1)
    assert marked(page) == there


def test_a_square_as_large_as_a_hole_is_a_mark():
    assert marked(box(sheet(), (12.0, 105.0), 6, 6))


@pytest.mark.parametrize(
    ("long", "wide", "from_edge", "there"),
    [
        (10.0, 0.6, 12.0, False),
        (3.5, 0.6, 12.0, True),
        (19.0, 0.6, 12.0, True),
        (10.0, 2.4, 12.0, True),
        (10.0, 0.6, 45.0, True),
    ],
)
def test_a_staple_is_a_wire_of_its_length_near_an_edge(long, wide, from_edge, there):
    assert marked(box(sheet(), (74.0, from_edge), long, wide)) == there


@pytest.mark.parametrize(("long", "tone", "there"), [(30.0, 0.68, False), (30.0, 0.4, True), (9.0, 0.68, True)])
def test_a_crease_is_long_and_never_dark(long, tone, there):
    assert marked(box(sheet(), MIDDLE, long, 0.6, tone)) == there


@pytest.mark.parametrize(("long", "there"), [(58.0, True), (66.0, False)])
def test_a_dark_line_is_a_rule_until_it_is_a_fold(long, there):
    assert marked(box(sheet(), MIDDLE, long, 0.5)) == there


@pytest.mark.parametrize(("wide", "long"), [(1.2, 210.0), (3.0, 120.0)])
@pytest.mark.parametrize("turned", [False, True])
def test_shade_along_an_edge_is_none(wide, long, turned):
    page = sheet()
    page[: round(long * MM), : round(wide * MM)] = 0.4 * PAPER
    assert not marked(np.ascontiguousarray(np.rot90(page)) if turned else page)


@pytest.mark.parametrize(("from_edge", "there"), [(0.8, False), (3.4, True), (8.0, True)])
def test_a_number_near_the_edge_is_one(from_edge, there):
    """Of 2.4 by 1.6 millimetres; where it is wholly within the shade of the edge nothing tells it from that."""
    assert marked(box(sheet(), (74.0, 210 - from_edge), 1.6, 2.4 if there else 1.6)) == there


def area(kind: str, **how: object) -> Region:
    about = {"certainty": 1.0, "level": 0.5, "spread": 0.1, "coloured": False, "area_mm2": 400.0, **how}
    outline = how.pop("outline", tuple(Quad.rectangle(100, 100, 180, 180)))
    return Region(kind=kind, outline=outline, **{k: v for k, v in about.items() if k != "outline"})  # type: ignore[arg-type]


ROUND = tuple(Quad.of([(140, 100), (180, 140), (140, 180), (100, 140)]))
TRIANGLE = tuple(Quad.of([(100, 100), (180, 100), (100, 180), (100, 140)]))


@pytest.mark.parametrize(
    ("region", "there"),
    [
        (area("picture"), True), (area("solid"), True), (area("text"), False), (area("line art"), False),
        (area("fill", level=0.7), True), (area("fill", level=0.9, coloured=True), True), (area("fill", level=0.9), True),
        (area("fill", level=0.94), False), (area("fill", level=0.9, outline=TRIANGLE), False),
        (area("fill", level=0.9, outline=ROUND), True), (area("picture", area_mm2=0.2), False),
    ],
)  # fmt: skip
def test_areas_are_marks_unless_they_may_be_stains(region, there):
    assert (found(sheet(), (region,)).ink_percent > 0) == there


def test_ink_is_weighed_by_its_darkness_and_area():
    dark, pale = found(box(sheet(), MIDDLE, 20, 20, 0.1)), found(box(sheet(), MIDDLE, 20, 20, 0.65))
    share = 100 * 400 / (148 * 210)
    assert dark.ink_percent == pytest.approx(share, rel=0.05)
    assert pale.ink_percent == pytest.approx(share / 2, rel=0.08)
    assert (dark.marks, pale.marks) == (1, 1)
