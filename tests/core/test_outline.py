"""Page sizes, margins, resolution: where the output page lies, and that no ink is lost on the way."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.plan.page_group import PageGroup, PageShape, find_page_groups
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from tests.core.test_plan import PAGE, planned

PX_MM = 300 / 25.4
LID = {"lid_seen": True, "page_quad": Quad.rectangle(60, 60, 940, 1340), "bright_quad": Quad.rectangle(110, 60, 940, 1340)}


def sized(mm: tuple[float, float], **found: object):
    size = tuple(round(v * PX_MM) for v in mm)
    whole = Quad.rectangle(0, 0, *size)
    return PAGE.model_copy(update={"size_px": size, "page_quad": whole, "bright_quad": whole, **found})


def test_nearly_a4_becomes_a4_with_the_page_in_its_middle():
    plan = plan_page(sized((208, 300)), Treatment(page_size="nearest standard"))
    assert plan.size_px == (round(210 * PX_MM), round(297 * PX_MM))
    assert np.mean(plan.quad, axis=0) == pytest.approx((208 * PX_MM / 2, 300 * PX_MM / 2), abs=1)


def test_a_size_of_its_own_stays():
    assert plan_page(sized((130, 190)), Treatment(page_size="nearest standard")).size_px == planned_size((130, 190))


def planned_size(mm: tuple[float, float]) -> tuple[int, int]:
    return tuple(round(v * PX_MM) for v in mm)  # type: ignore[return-value]


def test_a_margin_is_paper_around_the_page():
    plan = planned(treatment=Treatment(margin_mm=10), **LID)
    assert plan.size_px == (880 + round(20 * PX_MM), 1280 + round(20 * PX_MM))
    assert plan.clear_outside == LID["bright_quad"]


def test_a_margin_shows_no_lid_even_where_borders_are_kept():
    plan = planned(treatment=Treatment(margin_mm=10, clear_surround="never"), **LID)
    assert plan.clear_outside == LID["page_quad"]
    assert planned(treatment=Treatment(clear_surround="never"), **LID).clear_outside is None


def test_reduced_to_a_resolution_and_never_enlarged_unasked():
    assert planned(treatment=Treatment(target_ppi=150)).size_px == (500, 700)
    assert planned(treatment=Treatment(target_ppi=150)).ppi == (150, 150)
    assert planned(treatment=Treatment(target_ppi=600)).size_px == (1000, 1400)
    assert planned(treatment=Treatment(target_ppi=600, enlarge=True)).size_px == (2000, 2800)


def test_two_tones_are_made_finer_where_asked():
    plan = planned(treatment=Treatment(bitonal_ppi=600))
    assert (plan.size_px, plan.ppi) == ((2000, 2800), (600, 600))
    assert planned(treatment=Treatment(bitonal_ppi=600), colour="grey").size_px == (1000, 1400)


def test_feeder_pages_keep_their_borders_unless_told_otherwise():
    assert plan_page(PAGE.model_copy(update=LID), Treatment(), fed=True).clear_outside is None
    assert plan_page(PAGE.model_copy(update=LID), Treatment(), fed=False).clear_outside == LID["bright_quad"]
    assert plan_page(PAGE.model_copy(update=LID), Treatment(clear_surround="always"), fed=True).clear_outside is not None
    assert planned(Override(clear=False), **LID).clear_outside is None


def test_borders_by_hand_are_obeyed():
    plain = Quad.rectangle(80, 70, 930, 1330)
    ink = (Quad.rectangle(60, 500, 120, 560),)
    plan = planned(Override(plain=plain), border_ink=ink, **LID)
    assert plan.clear_outside == plain
    assert plan.protected == ()
    assert planned(border_ink=ink, **LID).protected == ink


def test_writing_that_runs_into_the_bar_stays_on_the_page():
    ink = (Quad.rectangle(20, 500, 120, 560),)
    plan = planned(border_ink=ink, **LID)
    left, right = plan.quad[0].x, plan.quad[1].x
    assert left <= 20
    assert right == 940
    assert planned(Override(clear=False), border_ink=ink, **LID).quad == LID["page_quad"]


def test_a_tilt_by_hand_wins_and_corners_win_over_it():
    assert planned(Override(skew=1.5), skew_deg=0.4).skew_deg == 1.5
    assert planned(Override(skew=0.0), skew_deg=0.4).skew_deg == 0.0
    corners = Quad.rectangle(10, 10, 900, 1300)
    assert planned(Override(skew=1.5, quad=corners)).skew_deg == 0.0
    assert planned(Override(skew=1.5, quad=corners)).quad == corners


def test_the_whole_image_by_hand():
    assert planned(Override(crop=False), **LID).size_px == (1000, 1400)


ROWS = [PageShape("recto" if n % 2 == 0 else "verso", 148 + n % 3, 210, 20 if n % 2 == 0 else 12, 25) for n in range(9)]


def test_fellows_are_the_median_and_each_side_has_its_own_margin():
    found = find_page_groups([*ROWS, PageShape("recto", 300, 210, 5, 5)])
    assert found["recto"].width_mm == pytest.approx(149)
    assert (found["recto"].text_left_mm, found["verso"].text_left_mm) == (20, 12)
    assert not found["recto"].like(300, 210)
    assert find_page_groups(ROWS[:2]) == {}


@given(left=st.floats(0, 60), top=st.floats(0, 80))
def test_uniform_pages_have_one_size_and_their_text_in_one_place_and_lose_none(left: float, top: float):
    page_group = PageGroup(width_mm=150, height_mm=212, text_left_mm=20, text_top_mm=25)
    text = Quad.rectangle(left * PX_MM, top * PX_MM, (left + 80) * PX_MM, (top + 120) * PX_MM)
    plan = plan_page(sized((148, 210), text_quad=text), Treatment(page_size="uniform"), page_group=page_group)
    assert plan.size_px == (round(150 * PX_MM), round(212 * PX_MM))
    box = Transform.onto(plan.quad, *plan.size_px).quad(text).array()
    assert box.min() >= -1
    assert (box.max(axis=0) <= np.array(plan.size_px) + 1).all()
    assert box.min(axis=0) == pytest.approx((20 * PX_MM, 25 * PX_MM), abs=1.5)


def test_a_plate_among_uniform_pages_stays_as_it_is():
    page_group = PageGroup(width_mm=150, height_mm=212, text_left_mm=20, text_top_mm=25)
    plate = sized((290, 210))
    assert plan_page(plate, Treatment(page_size="uniform"), page_group=page_group).size_px == plate.size_px


def test_a_reduced_plan_is_the_same_page():
    plan = planned(Override(quad=Quad.rectangle(100, 50, 900, 1250)))
    small = plan.reduced(0.25, 0.25)
    assert small.size_px == (200, 300)
    assert small.quad[0] == Point(25, 12.5)
    assert small.ppi == (75, 75)


def test_a_page_without_text_among_uniform_ones_lies_in_their_middle():
    page_group = PageGroup(width_mm=150, height_mm=216, text_left_mm=20, text_top_mm=25)
    plan = plan_page(sized((146, 210), text_quad=None), Treatment(page_size="uniform"), page_group=page_group)
    assert plan.size_px == (round(150 * PX_MM), round(216 * PX_MM))
    (left, top), (right, bottom) = plan.quad.array()[[0, 2]]
    assert (left, top) == pytest.approx((-2 * PX_MM, -3 * PX_MM), abs=1.0)
    assert (right, bottom) == pytest.approx((148 * PX_MM, 213 * PX_MM), abs=1.0)
