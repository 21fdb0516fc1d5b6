"""Every limit that planning decides by, from both of its sides."""

import numpy as np
import pytest

from hollowstack.core.measure import SURE_OF_TURN
from hollowstack.core.page.geometry import Quad
from hollowstack.core.plan.plan import TwoTones
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from tests.core.test_plan import PAGE, area, planned

TWO_TONES = Treatment(colour="bitonal")


def two_tones(treatment: Treatment = TWO_TONES, **found: object) -> TwoTones:
    how = planned(treatment=treatment, **found).two_tones
    assert how is not None
    return how


@pytest.mark.parametrize(
    ("measured", "planned_limit"), [(0.3, 0.42), (0.42, 0.42), (0.43, 0.43), (0.79, 0.79), (0.8, 0.8), (0.95, 0.8)]
)
def test_ink_ends_between_two_shares_of_papers_light(measured, planned_limit):
    assert two_tones(ink_limit=measured).limit == planned_limit


def test_each_way_to_two_tones_has_its_own_limit():
    found = {"ink_limit": 0.6, "gray_limit": 102}
    assert two_tones(Treatment(colour="bitonal", bitonal_method="global"), **found).limit == 0.4
    assert two_tones(Treatment(colour="bitonal", bitonal_method="local"), **found).limit is None
    assert two_tones(inverse=True, **found) == TwoTones(method="global", limit=0.4)
    assert two_tones(two_valued=True) == TwoTones(method="middle", despeckle=False)


@pytest.mark.parametrize(
    ("noise", "smooth"), [(0.0, 0.0), (16.0, 0.0), (16.1, 0.032), (50.0, 0.1), (60.0, 0.12), (90.0, 0.12)]
)
def test_heavy_grain_is_smoothed_as_far_as_it_asks_for(noise, smooth):
    assert two_tones(noise=noise).smooth_mm == smooth


@pytest.mark.parametrize(("confidence", "turn"), [(0.999 * SURE_OF_TURN, 0), (SURE_OF_TURN, 180), (12.0, 180)])
def test_a_page_is_turned_from_some_sureness_on(confidence, turn):
    assert planned(turn=180, turn_confidence=confidence).turn == turn


def test_turning_can_be_switched_off_and_done_by_hand():
    assert planned(treatment=Treatment(turn_upright=False), turn=180).turn == 0
    assert planned(Override(turn=90), turn=180).turn == 90
    assert planned(Override(turn=0), turn=180).turn == 0


@pytest.mark.parametrize(
    ("skew", "confidence", "levelled"), [(1.0, 0.25, 1.0), (1.0, 0.249, 0.0), (0.03, 1.0, 0.03), (0.029, 1.0, 0.0)]
)
def test_a_page_is_levelled_where_its_tilt_is_sure_and_can_be_seen(skew, confidence, levelled):
    assert planned(skew_deg=skew, skew_confidence=confidence).skew_deg == levelled
    assert planned(skew_deg=-skew, skew_confidence=confidence).skew_deg == -levelled
    assert planned(treatment=Treatment(level=False), skew_deg=skew, skew_confidence=confidence).skew_deg == 0


@pytest.mark.parametrize(
    ("share", "confidence", "levelled"), [(0.39, 0.3, 1.0), (0.401, 0.89, 0.0), (0.401, 0.9, 1.0), (0.9, 0.6, 0.0)]
)
def test_what_lies_askew_in_a_photograph_is_no_line_of_text(share, confidence, levelled):
    plan = planned(skew_deg=1.0, skew_confidence=confidence, regions=(area("picture", share),))
    assert plan.skew_deg == levelled


def test_the_tilt_of_lines_says_nothing_of_a_page_put_on_its_side_by_hand():
    tilted = {"skew_deg": 1.0, "skew_confidence": 1.0}
    assert planned(Override(turn=90), **tilted).skew_deg == 0
    assert planned(Override(turn=180), **tilted).skew_deg == 1.0
    assert planned(Override(turn=90), turn=270, **tilted).skew_deg == 1.0
    # An unsure turn was not made when the tilt was measured.
    assert planned(Override(turn=90), turn=90, turn_confidence=0.1, **tilted).skew_deg == 0
    assert planned(Override(skew=-2.5), **tilted).skew_deg == -2.5
    assert planned(Override(skew=0.0), **tilted).skew_deg == 0


@pytest.mark.parametrize(
    ("treatment", "ppi", "made"),
    [
        (Treatment(target_ppi=150), 300.0, 150.0),
        (Treatment(target_ppi=400), 300.0, 300.0),
        (Treatment(target_ppi=450, enlarge=True), 300.0, 450.0),
        (Treatment(colour="bitonal", bitonal_ppi=600), 300.0, 600.0),
        (Treatment(colour="bitonal", bitonal_ppi=600), 600.0, 600.0),
        (Treatment(colour="bitonal", bitonal_ppi=300), 600.0, 600.0),
        (Treatment(colour="grey", bitonal_ppi=600), 300.0, 300.0),
        (Treatment(colour="bitonal", bitonal_ppi=None), 300.0, 300.0),
    ],
)
def test_resolution_of_the_output(treatment, ppi, made):
    plan = planned(treatment=treatment, ppi=(ppi, ppi))
    assert plan.ppi == (made, made)
    assert plan.size_px == (round(1000 * made / ppi), round(1400 * made / ppi))


LID = {
    "lid_seen": True,
    "page_quad": Quad.rectangle(20, 20, 980, 1380),
    "bright_quad": Quad.rectangle(25, 25, 975, 1375),
}


@pytest.mark.parametrize(
    ("clear", "by_hand", "cleared"),
    [
        ("always", None, True), ("never", None, False), ("by source", None, True),
        ("always", False, False), ("never", True, True),
    ],
)  # fmt: skip
def test_borders_are_cleared_where_that_is_asked_for(clear, by_hand, cleared):
    plan = planned(Override(clear=by_hand), Treatment(clear_surround=clear), **LID)
    assert (plan.clear_outside == LID["bright_quad"]) == cleared


def test_a_feeders_pages_have_no_borders_to_clear():
    found = PAGE.model_copy(update=LID)
    assert plan_page(found, Treatment(clear_surround="by source"), fed=True).clear_outside is None
    assert plan_page(found, Treatment(clear_surround="always"), fed=True).clear_outside is not None


def test_borders_by_hand_win_and_corners_by_hand_leave_none():
    plain = Quad.rectangle(40, 40, 900, 1300)
    assert planned(Override(plain=plain), **LID).clear_outside == plain
    assert planned(Override(plain=plain, clear=False), **LID).clear_outside is None
    assert planned(Override(quad=Quad.rectangle(30, 30, 900, 1300)), **LID).clear_outside is None
    assert planned(lid_seen=False).clear_outside is None


def test_notes_in_the_border_are_left_unless_borders_are_set_by_hand():
    note = (Quad.rectangle(2, 2, 18, 18),)
    assert planned(border_ink=note, **LID).protected == note
    assert planned(Override(plain=Quad.rectangle(40, 40, 900, 1300)), border_ink=note, **LID).protected == ()
    assert planned(treatment=Treatment(clear_surround="never"), border_ink=note, **LID).protected == ()


def test_a_page_with_a_note_in_its_border_is_not_blank():
    assert planned(ink_percent=0.0, marks=1, border_ink=(Quad.rectangle(2, 2, 18, 18),)).aside is None
    assert planned(ink_percent=0.0, marks=0).aside == "blank"


@pytest.mark.parametrize(("millimetres", "aside"), [(14.9, None), (15.1, "blank")])
def test_a_slip_is_too_small_to_be_called_blank(millimetres, aside):
    size = (round(millimetres / 25.4 * 300), 1400)
    assert planned(ink_percent=0.0, marks=0, size_px=size).aside == aside
    assert planned(ink_percent=0.0, marks=0, size_px=size[::-1]).aside == aside


@pytest.mark.parametrize(("ink", "aside"), [(0.019, "blank"), (0.02, None)])
def test_blank_is_what_has_less_ink_than_the_treatment_says(ink, aside):
    assert planned(treatment=Treatment(blank_below=0.02), ink_percent=ink).aside == aside


PINK = {"paper": (240, 200, 160), "mean": (100, 200, 150)}


def test_white_balance_makes_neutral_what_it_is_told_to():
    as_is, white, world = (
        planned(treatment=Treatment(balance=by, even_tone=False, colour="colour"), **PINK).balance
        for by in ("as captured", "paper white", "grey world")
    )
    assert as_is is None
    assert white is not None
    assert world is not None
    assert np.allclose(np.multiply(PINK["paper"], white), 160, atol=0.1)
    assert np.allclose(np.multiply(PINK["mean"], world), 100, atol=0.1)
    assert max(white) <= 1
    assert max(world) <= 1
    assert planned(treatment=Treatment(balance="paper white", even_tone=False, colour="grey"), **PINK).balance is None
    assert planned(treatment=Treatment(balance="paper white", colour="colour"), **PINK).balance is None


@pytest.mark.parametrize(("ink", "tone"), [(0, 0.0), (28, 0.0), (60, 0.134), (100, 0.3), (140, 0.3)])
def test_ink_is_darkened_with_restraint(ink, tone):
    plan = planned(paper=(236,), ink=ink)
    assert plan.tone is not None
    assert plan.tone.ink == tone


@pytest.mark.parametrize(("share", "grain"), [(0.199, (0.84, 0.95)), (0.2, (0.93, 0.98))])
def test_pale_writing_is_not_taken_for_grain(share, grain):
    plan = planned(pale_share=share)
    assert plan.tone is not None
    assert plan.tone.grain == grain


def test_dyed_paper_keeps_its_colour_at_the_lightness_of_paper():
    plan = planned(dyed=True, colour="colour", paper=(200, 160, 100))
    assert plan.tone is not None
    assert plan.tone.paper == (250, 200, 125)


@pytest.mark.parametrize(
    ("found", "override", "by_hand", "on_purpose"),
    [
        ({}, Override(), False, False),
        ({}, Override(colour="grey"), True, False),
        ({}, Override(even_tone=False), True, False),
        ({}, Override(clear=False), True, False),
        ({}, Override(quad=Quad.rectangle(30, 30, 900, 1300)), True, True),
        ({"neighbour": ("left",)}, Override(), False, True),
    ],
)
def test_what_was_set_by_hand_or_left_out_on_purpose_is_known(found, override, by_hand, on_purpose):
    plan = planned(override, **found)
    assert (plan.by_hand, plan.cut_on_purpose) == (by_hand, on_purpose)


@pytest.mark.parametrize(
    ("measured", "ppi", "target", "letters"), [(20.0, 300.0, 150, 10.0), (20.0, 300.0, None, 20.0), (None, 300.0, 150, None)]
)
def test_letters_are_as_high_as_the_output_makes_them(measured, ppi, target, letters):
    plan = planned(treatment=Treatment(target_ppi=target), letter_px=measured, ppi=(ppi, ppi))
    assert plan.letter_px == letters


@pytest.mark.parametrize(("ink", "colour"), [(2.0, "bitonal"), (2.1, "grey")])
def test_so_much_ink_without_text_is_a_pattern(ink, colour):
    assert planned(text_quad=None, ink_percent=ink, colour="bitonal").colour == colour
