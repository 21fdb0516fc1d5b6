"""What is decided about a page, and that the page gets it."""

import math

import numpy as np
import pytest
from pydantic import ValidationError

from hollowstack.core.measure import Measurements, measure
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.geometry import Point, Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page, split_overrides
from hollowstack.core.render import render
from hollowstack.core.settings.override import Override, Split
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet

EVERYDAY = Treatment()
WHOLE = Quad.rectangle(0, 0, 1000, 1400)
PAGE = Measurements(
    size_px=(1000, 1400), ppi=(300.0, 300.0), page_quad=WHOLE, bright_quad=WHOLE, lid_seen=False,
    edges_confidence=1.0, turn=0, turn_confidence=12.0, skew_deg=0.0, skew_confidence=1.0, ink_percent=3.0, marks=900,
    colour="bitonal", dyed=False, coloured_percent=0.0, midtone_percent=0.0, paper=(236,), ink=40,
    text_quad=Quad.rectangle(100, 100, 900, 1300),
)  # fmt: skip


def planned(override: Override | None = None, treatment: Treatment = EVERYDAY, **found: object) -> Plan:
    return plan_page(PAGE.model_copy(update=found), treatment, override)


def test_a_straight_page_is_left_where_it_lies():
    plan = planned()
    assert plan.quad == PAGE.page_quad
    assert plan.size_px == PAGE.size_px


@pytest.mark.parametrize(("turn", "size"), [(90, (1400, 1000)), (180, (1000, 1400)), (270, (1400, 1000))])
def test_turned_upright(turn, size):
    plan = planned(turn=turn)
    assert (plan.turn, plan.size_px) == (turn, size)


def test_an_unsure_turn_is_not_made():
    assert planned(turn=180, turn_confidence=0.4).turn == 0


def test_an_unsure_tilt_is_not_made():
    assert planned(skew_deg=2.0, skew_confidence=0.1).skew_deg == 0


def test_levelling_keeps_size_and_resolution():
    plan = planned(skew_deg=2.0)
    assert plan.size_px == PAGE.size_px
    across = np.hypot(*np.subtract(plan.quad[1], plan.quad[0]))
    assert across == pytest.approx(1000, abs=0.01)


def test_resolution_follows_the_turn():
    assert planned(turn=90, ppi=(204.0, 98.0)).ppi == (98.0, 204.0)


@pytest.mark.parametrize(
    ("found", "mode"),
    [
        ({"colour": "bitonal"}, "bitonal"),
        ({"colour": "bitonal", "ppi": (200.0, 200.0)}, "grey"),
        ({"colour": "bitonal", "ppi": None}, "bitonal"),
        ({"colour": "grey"}, "grey"),
        ({"colour": "colour"}, "colour"),
    ],
)
def test_colour_mode(found, mode):
    assert planned(**found).colour == mode


def test_blank_pages_go_aside_and_come_back_by_hand():
    blank = {"ink_percent": 0.0, "marks": 0}
    assert planned(**blank).aside == "blank"
    assert planned(Override(aside=False), **blank).aside is None
    assert planned(Override(aside=True)).aside == "by hand"
    assert planned(treatment=SHIPPED["single-sided"], **blank).aside is None


def test_holding_aside_does_not_change_what_is_made_of_the_page():
    assert planned().digest() == planned(Override(aside=True)).digest()
    assert planned().digest() != planned(skew_deg=1.0).digest()


def area(kind: str, share: float, **more: object) -> Region:
    """A region that takes up a share of the page (84.7 by 118.5 mm)."""
    outline = tuple(Quad.rectangle(0, 0, 1000, 1400))
    about = {"certainty": 1.0, "level": 0.5, "spread": 0.4, "coloured": False, **more}
    return Region(kind=kind, outline=outline, area_mm2=share * 84.667 * 118.533, **about)  # type: ignore[arg-type]


@pytest.mark.parametrize(("share", "background_normalised"), [(0.0, True), (0.59, True), (0.61, False), (1.0, False)])
def test_a_page_that_is_all_picture_has_no_paper_to_go_by(share, background_normalised):
    assert (planned(regions=(area("picture", share),)).tone is not None) == background_normalised


def test_what_has_no_paper_is_not_evened():
    assert planned(inverse=True).tone is None
    assert planned(two_valued=True).tone is None
    assert planned(paper=(59,)).tone is None
    assert planned(paper=(60,)).tone is not None
    assert planned(Override(even_tone=True), paper=(50,)).tone is not None


@pytest.mark.parametrize(
    ("found", "bare"),
    [
        ({}, True),
        ({"dyed": True}, False),
        ({"inverse": True}, False),
        ({"paper_range": 0.61}, False),
        ({"paper_range": 0.62}, True),
        ({"paper": (164,)}, False),
        ({"paper": (165,)}, True),
        ({"paper": (160, 140, 119)}, True),
        ({"paper": (160, 140, 121)}, False),
    ],
)
def test_a_page_without_marks_is_blank_only_where_it_is_paper(found, bare):
    blank = planned(**{"ink_percent": 0.0, "marks": 0, **found})
    assert blank.aside == ("blank" if bare else None)


def test_two_tones_stay_two_tones_at_any_resolution():
    plan = planned(two_valued=True, ppi=(100.0, 100.0))
    assert plan.colour == "bitonal"
    assert plan.two_tones is not None
    assert (plan.two_tones.method, plan.two_tones.despeckle) == ("middle", False)


@pytest.mark.parametrize(("confidence", "halves"), [(0.79, 1), (0.8, 2)])
def test_a_spread_is_split_where_its_fold_is_sure(confidence, halves):
    found = PAGE.model_copy(update={"gutter": (Point(500, 0), Point(500, 1400)), "gutter_confidence": confidence})
    made = split_overrides(found, SHIPPED["everyday"])
    assert len(made) == halves
    assert [override.split.keep for override in made if override.split] == ["left", "right"][: halves if halves == 2 else 0]
    assert len(split_overrides(found, SHIPPED["as-captured"])) == 1
    assert len(split_overrides(found, SHIPPED["everyday"], Override(turn=90))) == 1


def test_plans_survive_json():
    plan = planned(skew_deg=1.25, lid_seen=True)
    assert Plan.model_validate_json(plan.model_dump_json()) == plan


def test_unknown_settings_are_errors():
    with pytest.raises(ValidationError):
        Treatment.model_validate({"sharpen": True})


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_every_way_up_comes_out_upright_and_cut(turn):
    """Drawn at 200 ppi, tilted, on a lid: the words' true boxes must lie inside the clean page, and nothing dark around it."""
    made = captured(typed_sheet(20, ppi=200), Glass(skew=1.3, turn=turn, margins_mm=(8, 9, 7, 6), lid=25))
    image = Raster(made.pixels, (200.0, 200.0))
    plan = plan_page(measure(image), EVERYDAY)
    page = render(image, plan)
    assert plan.turn == (360 - turn) % 360
    assert (page.width, page.height) == pytest.approx((148 / 25.4 * 200, 210 / 25.4 * 200), abs=6)
    gray = page.gray().pixels
    frame = np.concatenate([gray[:4].ravel(), gray[-4:].ravel(), gray[:, :4].ravel(), gray[:, -4:].ravel()])
    assert (frame > 180).mean() > 0.99


@pytest.mark.parametrize(("turn", "size"), [(0, (400, 300)), (90, (300, 400)), (180, (400, 300)), (270, (300, 400))])
def test_corners_by_hand_are_taken_as_they_are_and_turn_with_the_page(turn, size):
    quad = Quad.rectangle(100, 200, 500, 500)
    plan = planned(Override(quad=quad, turn=turn), skew_deg=2.0)
    assert (plan.size_px, plan.skew_deg, plan.clear_outside) == (size, 0.0, None)
    image = np.full((1400, 1000), 255, np.uint8)
    image[200:260, 100:200] = 0  # a mark in the top-left corner as captured
    page = render(Raster(image, (300.0, 300.0)), plan.model_copy(update={"tone": None}))
    dark = np.argwhere(page.pixels < 128).mean(axis=0) / page.pixels.shape[:2]
    expected = {0: (0.1, 0.12), 90: (0.12, 0.9), 180: (0.9, 0.88), 270: (0.88, 0.1)}[turn]
    assert dark == pytest.approx(expected, abs=0.02)


@pytest.mark.parametrize(("turn", "left", "right"), [(0, (0, 420), (380, 1000)), (180, (0, 420), (380, 1000))])
def test_a_split_cuts_where_the_line_is_and_loses_nothing(turn, left, right):
    line = {"start": (420, 0), "end": (380, 1400)}
    for keep, (start, end) in (("left", left), ("right", right)):
        plan = planned(Override(split={"keep": keep, **line}, turn=turn))
        xs = [x for x, _ in plan.quad]
        assert (min(xs), max(xs)) == pytest.approx((start, end))
        assert plan.size_px == (end - start, 1400)


def test_a_split_line_beside_the_page_keeps_it_whole():
    off = Override(split={"keep": "right", "start": (1200, 0), "end": (1200, 1400)})
    assert planned(off).size_px == (1000, 1400)


def test_a_picture_is_evened_only_where_that_is_asked_for():
    assert planned(regions=(area("picture", 0.9),)).tone is None
    assert planned(Override(even_tone=True), regions=(area("picture", 0.9),)).tone is not None
    assert planned(Override(even_tone=False)).tone is None


@pytest.mark.parametrize("field", ["quad", "plain"])
def test_corners_that_make_no_page_are_refused_in_a_sentence(field):
    with pytest.raises(ValueError, match="The four corners make no page: set them around it"):
        Override.model_validate({field: [[0, 0], [10, 10], [20, 20], [30, 30]]})


@pytest.mark.parametrize("end", [(5.0, 5.5), (math.inf, 5.0), (math.nan, 5.0)])
def test_a_split_line_without_a_length_is_refused(end):
    with pytest.raises(ValueError, match="The split line has no length"):
        Split(start=Point(5, 5), end=Point(*end), keep="left")


@pytest.mark.parametrize(
    ("pixels", "colour"),
    [(np.arange(1200).astype(np.uint8).reshape(40, 30), "grey"), (np.full((40, 30, 3), 200, np.uint8), "colour")],
)
def test_as_it_came_keeps_the_channels_there_are(pixels, colour):
    plan = plan_page(measure(Raster(pixels, (100.0, 100.0))), SHIPPED["as-captured"])
    assert plan.colour == colour
    assert plan.leaves_alone(30, 40, gray=pixels.ndim == 2)
    assert not plan.leaves_alone(30, 41, gray=pixels.ndim == 2)
    assert not plan.leaves_alone(30, 40, gray=pixels.ndim == 3)
    assert not plan.model_copy(update={"turn": 90, "quad": Quad.rectangle(0, 0, 30, 39)}).leaves_alone(30, 40, gray=False)


def test_a_page_that_is_neither_writing_nor_bare_paper_keeps_its_tones():
    """A sky, a cover: in two tones nothing of it would be left."""
    bare = {"text_quad": None, "ink_percent": 0.0, "marks": 0}
    assert planned(**bare).colour == "bitonal"
    assert planned(**bare, paper_range=0.5).colour == "grey"
    assert planned(**bare, paper_range=0.5, paper=(150, 160, 170), mean=(150, 160, 170)).colour == "colour"
    assert planned(**bare, paper_range=0.5, paper=(160, 160, 165), mean=(160, 160, 165)).colour == "grey"
    assert planned(paper_range=0.5).colour == "bitonal"  # lines of text in the shade


@pytest.mark.parametrize(
    ("shade", "aside"), [((149, 169, 175), None), ((165, 169, 172), "blank"), ((190, 176, 140), "blank")]
)
def test_a_blue_sheet_is_no_blank_and_a_yellow_one_is(shade, aside):
    rng = np.random.default_rng(3)
    pixels = np.clip(np.array(shade) + rng.normal(0, 1.5, (900, 640, 1)), 0, 255).astype(np.uint8)
    assert plan_page(measure(Raster(pixels, (100.0, 100.0))), EVERYDAY).aside == aside
