"""By what a page is levelled: its text, or the edges of its paper."""

import math

import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import Measurements
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.plan.tilt import measured_tilt, paper_tilt
from hollowstack.core.settings.treatment import Treatment

SIZE = (1000, 1400)


def turned(degrees: float, box=(100, 120, 900, 1250)) -> Quad:
    return Transform.rotation(degrees, Point(500, 700)).quad(Quad.rectangle(*box))


def region(kind: str, area: float) -> Region:
    outline = (Point(0, 0), Point(9, 0), Point(9, 9))
    return Region(kind=kind, outline=outline, certainty=1, level=0.5, spread=0.5, coloured=False, area_mm2=area)


def page(tilt: float = 1.5, **found: object) -> Measurements:
    quad = turned(tilt)
    given = {
        "size_px": SIZE, "ppi": (100.0, 100.0), "page_quad": quad, "bright_quad": quad, "lid_seen": True,
        "edges_confidence": 1.0, "turn": 0, "turn_confidence": 12.0, "skew_deg": 0.9, "skew_confidence": 1.0,
        "ink_percent": 3.0, "marks": 900, "colour": "bitonal", "dyed": False, "coloured_percent": 0.0,
        "midtone_percent": 0.0, "paper": (236,), "ink": 40, "text_quad": None,
        "regions": (region("text", 5000.0),),
    }  # fmt: skip
    return Measurements.model_validate({**given, **found})


@pytest.mark.parametrize("degrees", [-7.5, -0.4, 0.0, 2.25])
def test_the_paper_s_edges_have_its_tilt(degrees):
    assert paper_tilt(page(degrees)) == pytest.approx(degrees, abs=0.01)


def test_text_tells_first():
    assert measured_tilt(page(), 0) == (0.9, "text")


def test_where_no_line_tells_the_paper_does():
    assert measured_tilt(page(skew_confidence=0.1), 0) == (pytest.approx(1.5, abs=0.01), "paper")


def test_and_where_there_is_more_picture_than_text():
    more = page(regions=(region("picture", 5001.0), region("text", 5000.0)))
    less = page(regions=(region("picture", 4999.0), region("text", 5000.0)))
    assert measured_tilt(more, 0).rests_on == "paper"
    assert measured_tilt(less, 0).rests_on == "text"


@pytest.mark.parametrize("kind", ["picture", "half-tone", "solid", "inverse"])
def test_woodcuts_and_half_tones_are_pictures(kind):
    assert measured_tilt(page(regions=(region(kind, 9000.0), region("text", 100.0))), 0).rests_on == "paper"


@pytest.mark.parametrize("found", [
    {"lid_seen": False}, {"edges_confidence": 0.94}, {"page_quad": turned(10.5)},
    {"page_quad": Quad.of([(100, 120), (900, 120), (900, 1260), (100, 1240)])},
])  # fmt: skip
def test_an_unsure_outline_tells_nothing(found):
    unsure = page(skew_confidence=0.1, **found)
    assert paper_tilt(unsure) is None
    assert measured_tilt(unsure, 0) == (0.0, "nothing")


def test_sides_of_the_image_itself_say_nothing():
    """Feeders cut a page that lies askew: its long sides may be the image's."""
    cut = page(page_quad=Quad.of([(0, 100), (1000, 100), (1000, 1300), (0, 1300)]))
    assert paper_tilt(cut) == 0.0
    assert paper_tilt(page(page_quad=Quad.rectangle(0, 0, *SIZE))) is None


def test_a_page_on_its_side_has_the_same_tilt_of_paper():
    assert measured_tilt(page(turn=0, skew_confidence=0.0), 90).degrees == pytest.approx(1.5, abs=0.01)


def test_a_picture_is_levelled_by_its_paper_and_that_is_said():
    found = page(regions=(region("picture", 9000.0),), skew_deg=-3.0)
    plan = plan_page(found, Treatment())
    assert plan.skew_deg == pytest.approx(1.5, abs=0.01)
    told = {one.check: one for one in check_page(found, plan, None)}
    assert told["tilt"].verdict == "pass"
    assert "-1.50°, by the edges of its paper" in told["tilt"].message


def test_what_is_not_to_be_levelled_is_not():
    found = page(regions=(region("picture", 9000.0),))
    assert plan_page(found, Treatment(level=False)).skew_deg == 0.0


A5 = (148.0, 210.0)


@pytest.mark.parametrize(("more", "verdict"), [(0.9, "pass"), (-0.9, "pass"), (1.2, "review")])
def test_an_outline_as_large_as_paper_is_made_is_sure(more, verdict):
    wide, high = (math.floor((mm + more) / 25.4 * 100 * 100) / 100 for mm in A5)
    quad = Quad.rectangle(50, 50, 50 + wide, 50 + high)
    found = page(page_quad=quad, edges_confidence=0.7)
    told = {one.check: one for one in check_page(found, plan_page(found, Treatment()), None)}
    assert told["page edges"].verdict == verdict
    assert ("those of A5" in told["page edges"].message) == (verdict == "pass")


@pytest.mark.parametrize(("share", "area", "told"), [(0.21, 400.0, True), (0.2, 400.0, False), (0.9, 399.0, False)])
def test_tones_that_a_picture_has_lost_are_told(share, area, told):
    picture = region("picture", area).model_copy(update={"clipped": share})
    found = page(regions=(picture, region("text", 9000.0)))
    checks = {one.check: one for one in check_page(found, plan_page(found, Treatment()), None)}
    assert ("clipped" in checks) == told
    if told:
        assert "21% of this picture" in checks["clipped"].message
