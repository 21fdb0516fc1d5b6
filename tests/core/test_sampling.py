"""Lots that are smaller than their sample, samples drawn again, decisions, and the rules of switching."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.check.sampling import AQLS, Plan, chance_to_pass, code_letter, decision, draw_sample, sampling_plan
from hollowstack.core.check.switching import Lot, standing

GOOD, BAD = Lot(280, 0, "normal", True), Lot(280, 4, "normal", False)


def test_a_small_lot_is_looked_at_whole():
    assert sampling_plan(6, "II", "0.65") == Plan("F", 6, 0, 1)


@pytest.mark.parametrize("pages", [1, 0, -3])
def test_a_page_is_no_lot(pages):
    with pytest.raises(ValueError, match="two pages or more"):
        code_letter(pages, "II")


@given(st.integers(2, 5000), st.integers(0, 10**9))
def test_a_sample_is_drawn_again_from_its_seed(lot, seed):
    size = sampling_plan(lot, "II", "1.5").size
    drawn = draw_sample(lot, size, seed)
    assert drawn == draw_sample(lot, size, seed) == sorted(set(drawn))
    assert len(drawn) == size
    assert all(0 <= place < lot for place in drawn)


def test_every_page_may_be_drawn():
    counts = [0] * 40
    for seed in range(4000):
        for place in draw_sample(40, 8, seed):
            counts[place] += 1
    assert min(counts) > 680  # 800 of each are expected, with a deviation of 25
    assert max(counts) < 920


@given(st.sampled_from(AQLS), st.integers(10, 20_000))
def test_the_worse_a_lot_the_less_it_passes(aql, lot):
    plan = sampling_plan(lot, "II", aql)
    chances = [chance_to_pass(plan, share / 100) for share in range(0, 40, 3)]
    assert chances[0] == 1
    assert chances == sorted(chances, reverse=True)


@pytest.mark.parametrize(
    ("plan", "bad", "said"),
    [
        (Plan("G", 32, 1, 2), 1, "accepted"),
        (Plan("G", 32, 1, 2), 2, "rejected"),
        (Plan("K", 50, 1, 4), 1, "accepted"),
        (Plan("K", 50, 1, 4), 2, "accepted, normal again"),
        (Plan("K", 50, 1, 4), 3, "accepted, normal again"),
        (Plan("K", 50, 1, 4), 4, "rejected"),
    ],
)
def test_decisions(plan, bad, said):
    assert decision(plan, bad) == said


def now(*lots: Lot):
    return standing(lots, "II", "1.5")


def test_the_first_lot_is_looked_at_as_usual():
    assert now() == ("normal", 0, False)


@pytest.mark.parametrize(
    ("lots", "severity"),
    [
        ([BAD], "normal"),
        ([BAD, BAD], "tightened"),
        ([BAD, GOOD, GOOD, GOOD, BAD], "tightened"),
        ([BAD, GOOD, GOOD, GOOD, GOOD, BAD], "normal"),
    ],
)
def test_two_of_five_lead_to_tightened_plans(lots, severity):
    assert now(*lots).severity == severity


@pytest.mark.parametrize(("after", "severity"), [(4, "tightened"), (5, "normal")])
def test_five_in_a_row_lead_back(after, severity):
    assert now(BAD, BAD, *[GOOD] * after).severity == severity
    assert now(BAD, BAD, *[GOOD] * 3, BAD, *[GOOD] * 4).severity == "tightened"


@pytest.mark.parametrize(("lots", "score", "severity"), [(14, 28, "normal"), (15, 30, "reduced")])
def test_a_long_good_record_leads_to_reduced_plans(lots, score, severity):
    """With one bad page borne each accepted lot scores two."""
    assert now(*[GOOD] * lots)[:2] == (severity, score)


def test_where_more_may_be_bad_a_lot_must_be_better_than_that():
    """2,000 pages at 1.5: five of 125 may be bad; at 1.0 three."""
    assert [standing([Lot(2_000, bad, "normal", True)], "II", "1.5").score for bad in (3, 4)] == [3, 0]


@pytest.mark.parametrize("last", [BAD, Lot(280, 1, "reduced", True)])
def test_one_lot_leads_back_from_reduced_plans(last):
    """Not accepted, or between acceptance and rejection."""
    assert now(*[GOOD] * 15, last).severity == "normal"
    assert now(*[GOOD] * 16).severity == "reduced"


@pytest.mark.parametrize(("more", "stopped"), [(4, False), (5, True)])
def test_a_source_that_does_not_get_better_is_stopped(more, stopped):
    assert now(BAD, BAD, *[BAD] * more).stopped is stopped
