"""Where the output page lies, from both sides of every rule that decides it."""

import math

import numpy as np
import pytest

from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.geometry import Point, Quad
from hollowstack.core.plan.page_group import PageGroup, PageShape, find_page_groups
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.override import Override, Split
from hollowstack.core.settings.treatment import Treatment
from tests.core.test_outline import PX_MM, planned_size, sized
from tests.core.test_plan import PAGE, planned

GROUP = PageGroup(width_mm=150, height_mm=212, text_left_mm=20, text_top_mm=25)
UNIFORM = Treatment(page_size="uniform")
WHOLE = ((0, 0), (1000, 0), (1000, 1400), (0, 1400))


def corners(plan: Plan) -> list[tuple[int, int]]:
    return [(round(x), round(y)) for x, y in plan.quad]


@pytest.mark.parametrize(
    ("mm", "becomes"),
    [
        ((204, 297), (210, 297)), ((203, 297), (203, 297)), ((210, 305.5), (210, 297)), ((210, 306.5), (210, 306.5)),
        ((297, 210), (297, 210)), ((300, 208), (297, 210)), ((150, 208), (148, 210)),
    ],
)  # fmt: skip
def test_the_nearest_standard_is_within_three_hundredths(mm, becomes):
    assert plan_page(sized(mm), Treatment(page_size="nearest standard")).size_px == planned_size(becomes)


@pytest.mark.parametrize(
    ("mm", "uniform"), [((141.1, 212), True), ((140.9, 212), False), ((150, 224.6), True), ((150, 224.8), False)]
)
def test_a_page_is_one_of_its_group_within_six_hundredths(mm, uniform):
    made = plan_page(sized(mm), UNIFORM, page_group=GROUP).size_px
    assert made == (planned_size((150, 212)) if uniform else planned_size(mm))


def test_corners_and_halves_have_sizes_of_their_own_among_uniform_pages():
    page = sized((148, 210))
    half = Override(split=Split(start=Point(874, 0), end=Point(874, 2480), keep="left"))
    assert plan_page(page, UNIFORM, page_group=GROUP).size_px == planned_size((150, 212))
    assert plan_page(page, UNIFORM, half, page_group=GROUP).size_px == (874, 2480)
    quad = Override(quad=Quad.rectangle(5, 5, 1700, 2400))
    assert plan_page(page, UNIFORM, quad, page_group=GROUP).size_px == (1695, 2395)
    assert plan_page(page, Treatment(), page_group=GROUP).size_px == page.size_px
    assert plan_page(page, UNIFORM).size_px == page.size_px


def test_a_group_needs_three_pages_that_are_alike():
    page = PageShape("recto", 148, 210, 20, 25)
    assert find_page_groups([page, page]) == {}
    assert find_page_groups([page, page, page])["verso"].width_mm == 148
    assert find_page_groups([page, page, PageShape("recto", 160, 210, 20, 25)]) == {}
    bare = PageShape("verso", 148, 210, None, None)
    assert find_page_groups([bare, bare, bare])["recto"] == PageGroup(
        width_mm=148, height_mm=210, text_left_mm=0, text_top_mm=0
    )


@pytest.mark.parametrize("skew", [2.0, -2.0])
def test_a_tilted_page_on_a_lid_is_cut_to_the_rectangle_around_it(skew):
    """800 × 1200 pixels turned by two degrees within their image."""
    angle = math.radians(skew)
    across, down = np.array([math.cos(angle), math.sin(angle)]), np.array([-math.sin(angle), math.cos(angle)])
    middle = np.array([500.0, 700.0])
    page = Quad.of([middle + x * across + y * down for x, y in ((-400, -600), (400, -600), (400, 600), (-400, 600))])
    plan = planned(lid_seen=True, page_quad=page, bright_quad=page, skew_deg=skew)
    assert plan.size_px == (800, 1200)
    assert np.abs(plan.quad.array() - page.array()).max() < 1
    level = planned(lid_seen=True, page_quad=page, bright_quad=page, skew_deg=0.0)
    assert level.size_px[0] == pytest.approx(800 * math.cos(angle) + 1200 * abs(math.sin(angle)), abs=1.5)


def test_a_page_that_fills_its_image_keeps_its_size_when_it_is_levelled():
    assert planned(skew_deg=1.5).size_px == (1000, 1400)
    assert planned(skew_deg=1.5, turn=90).size_px == (1400, 1000)
    assert planned(treatment=Treatment(crop=False), skew_deg=1.5, lid_seen=True).size_px != (1000, 1400)


RIM = {"lid_seen": True, "page_quad": Quad.of([(30, 20), (980, 40), (960, 1360), (10, 1380)])}


@pytest.mark.parametrize(
    ("sides", "box"),
    [
        ((), (10, 20, 980, 1380)), (("left",), (30, 20, 980, 1380)), (("top",), (10, 40, 980, 1380)),
        (("right",), (10, 20, 960, 1380)), (("bottom",), (10, 20, 980, 1360)), (("left", "bottom"), (30, 20, 980, 1360)),
    ],
)  # fmt: skip
def test_a_side_that_is_no_edge_of_paper_moves_in_to_where_nothing_but_page_is_left(sides, box):
    plan = planned(rim_sides=sides, **RIM)
    assert corners(plan) == [(box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])]


@pytest.mark.parametrize(("printed", "left"), [(200, 30), (42, 30), (38, 26), (15, 10)])
def test_it_moves_no_nearer_to_what_is_printed_than_a_millimetre(printed, left):
    """At 300 ppi a millimetre has 11.8 pixels."""
    outline = tuple(Point(x, y) for x, y in ((printed, 100), (900, 100), (900, 1300), (printed, 1300)))
    plan = planned(rim_sides=("left",), print_outline=outline, **RIM)
    assert corners(plan)[0][0] == pytest.approx(left, abs=1)
    assert corners(planned(rim_sides=("right",), print_outline=outline, **RIM))[0][0] == 10


def test_the_far_sides_keep_their_print_too():
    outline = tuple(Point(x, y) for x, y in ((100, 100), (955, 100), (955, 1355), (100, 1355)))
    plan = planned(rim_sides=("right", "bottom"), print_outline=outline, **RIM)
    assert corners(plan)[2] == (pytest.approx(967, abs=1), pytest.approx(1367, abs=1))


def test_a_note_in_the_border_widens_the_page_where_borders_are_cleared():
    note = Quad.rectangle(2, 600, 12, 640)
    found = {"lid_seen": True, "page_quad": Quad.rectangle(20, 20, 980, 1380), "border_ink": (note,)}
    assert corners(planned(**found))[0] == (2, 20)
    assert corners(planned(treatment=Treatment(clear_surround="never"), **found))[0] == (20, 20)
    assert corners(planned(treatment=Treatment(crop=False), **found)) == [*WHOLE]


@pytest.mark.parametrize(("turn", "first"), [(0, (100, 50)), (90, (100, 1250)), (180, (900, 1250)), (270, (900, 50))])
def test_corners_by_hand_begin_where_the_turned_page_does(turn, first):
    plan = planned(Override(quad=Quad.rectangle(100, 50, 900, 1250), turn=turn))
    assert corners(plan)[0] == first
    assert plan.size_px == ((800, 1200) if turn % 180 == 0 else (1200, 800))


def test_sides_by_hand_are_the_mean_of_those_that_face_each_other():
    plan = planned(Override(quad=Quad.of([(100, 100), (900, 100), (1000, 1300), (100, 1300)])))
    assert plan.size_px[0] == (800 + 900) // 2
    assert plan.size_px[1] == round((1200 + math.hypot(100, 1200)) / 2)


@pytest.mark.parametrize("margin", [5.0, 20.0])
def test_a_margin_goes_round_the_page(margin):
    plan = planned(treatment=Treatment(margin_mm=margin))
    assert plan.size_px == (1000 + round(2 * margin * PX_MM), 1400 + round(2 * margin * PX_MM))
    assert corners(plan)[0] == (pytest.approx(-margin * PX_MM, abs=1), pytest.approx(-margin * PX_MM, abs=1))


@pytest.mark.parametrize(("target", "size"), [(297.1, (1000, 1400)), (296.9, (990, 1386))])
def test_a_resolution_that_is_nearly_there_is(target, size):
    made = planned(treatment=Treatment.model_construct(**{**Treatment().model_dump(), "target_ppi": target})).size_px
    assert made == pytest.approx(size, abs=1)


def region(*, coloured: bool, level: float) -> Region:
    about = {"certainty": 1.0, "spread": 0.4, "area_mm2": 100.0, "kind": "solid"}
    return Region(outline=tuple(Quad.rectangle(0, 0, 90, 90)), coloured=coloured, level=level, **about)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("dyed", "areas", "evened"),
    [
        (True, (), True), (True, (region(coloured=False, level=0.5),), True), (True, (region(coloured=True, level=0.5),), False),
        (True, (region(coloured=False, level=1.1),), False), (False, (region(coloured=True, level=1.1),), True),
    ],
)  # fmt: skip
def test_dyed_paper_with_other_colours_on_it_is_not_evened(dyed, areas, evened):
    found = PAGE.model_copy(update={"dyed": dyed, "regions": areas, "paper": (240, 200, 160), "colour": "colour"})
    assert (plan_page(found, Treatment()).tone is not None) == evened
