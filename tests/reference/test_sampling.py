"""Sampling plans against MIL-STD-105E (1989) cell by cell, as far as remembered, and chances against scipy's distributions."""

import pytest
from scipy.stats import binom, hypergeom

from hollowstack.core.check.sampling import AQLS, LETTERS, Plan, chance_to_pass, code_letter, sampling_plan

# MIL-STD-105E, Table I (values from memory).
LOTS = [
    (2, "I", "A"), (8, "II", "A"), (9, "II", "B"), (15, "III", "C"), (25, "I", "B"), (50, "II", "D"), (51, "II", "E"),
    (90, "III", "F"), (150, "II", "F"), (151, "II", "G"), (280, "II", "G"), (281, "II", "H"), (500, "III", "J"),
    (501, "I", "G"), (1200, "II", "J"), (1201, "II", "K"), (3200, "II", "K"), (10_000, "II", "L"), (35_000, "I", "K"),
    (150_000, "II", "N"), (500_000, "II", "P"), (500_001, "II", "Q"), (500_001, "III", "R"),
]  # fmt: skip


@pytest.mark.parametrize(("lot", "level", "letter"), LOTS)
def test_code_letters(lot, level, letter):
    assert code_letter(lot, level) == letter


# MIL-STD-105E, Tables II-A to II-C (values from memory): lot, level, AQL, severity, and the plan; arrows are marked.
PLANS = [
    (280, "II", "1.5", "normal", Plan("G", 32, 1, 2)),
    (500, "II", "1.0", "normal", Plan("H", 50, 1, 2)),
    (1_200, "II", "2.5", "normal", Plan("J", 80, 5, 6)),
    (3_200, "II", "0.65", "normal", Plan("K", 125, 2, 3)),
    (3_200, "II", "1.0", "normal", Plan("K", 125, 3, 4)),
    (3_200, "II", "4.0", "normal", Plan("K", 125, 10, 11)),
    (10_000, "II", "1.5", "normal", Plan("L", 200, 7, 8)),
    (35_000, "II", "2.5", "normal", Plan("M", 315, 14, 15)),
    (150_000, "II", "1.0", "normal", Plan("N", 500, 10, 11)),
    (1_200, "II", "1.0", "tightened", Plan("J", 80, 1, 2)),
    (3_200, "II", "1.0", "tightened", Plan("K", 125, 2, 3)),
    (10_000, "II", "2.5", "tightened", Plan("L", 200, 8, 9)),
    (3_200, "II", "1.0", "reduced", Plan("K", 50, 1, 4)),
    (10_000, "II", "1.0", "reduced", Plan("L", 80, 2, 5)),
    (1_200, "II", "2.5", "reduced", Plan("J", 32, 2, 5)),
    # Arrows: down to the first plan, up behind it, down from there, up from below the last one.
    (90, "II", "1.0", "normal", Plan("E", 13, 0, 1)),
    (50, "II", "0.65", "normal", Plan("F", 20, 0, 1)),
    (150, "II", "1.0", "normal", Plan("E", 13, 0, 1)),
    (280, "II", "1.0", "normal", Plan("H", 50, 1, 2)),
    (280, "II", "0.65", "normal", Plan("F", 20, 0, 1)),
    (280, "II", "1.0", "tightened", Plan("J", 80, 1, 2)),
    (500_001, "II", "4.0", "normal", Plan("M", 315, 21, 22)),
]


@pytest.mark.parametrize(("lot", "level", "aql", "severity", "plan"), PLANS)
def test_plans(lot, level, aql, severity, plan):
    assert sampling_plan(lot, level, aql, severity) == plan


@pytest.mark.parametrize("share", [0.0, 0.004, 0.01, 0.04, 0.1, 0.3, 1.0])
@pytest.mark.parametrize("plan", [Plan("G", 32, 1, 2), Plan("K", 125, 3, 4), Plan("E", 13, 0, 1)])
def test_chances_of_a_very_large_lot(plan, share):
    assert chance_to_pass(plan, share) == pytest.approx(binom.cdf(plan.accept, plan.size, share), abs=1e-12)


@pytest.mark.parametrize("share", [0.0, 0.01, 0.04, 0.1, 0.5, 1.0])
@pytest.mark.parametrize(
    ("plan", "lot"), [(Plan("G", 32, 1, 2), 280), (Plan("H", 50, 2, 3), 400), (Plan("E", 13, 0, 1), 13)]
)
def test_chances_of_a_lot_of_a_known_size(plan, lot, share):
    expected = hypergeom.cdf(plan.accept, lot, round(share * lot), plan.size)
    assert chance_to_pass(plan, share, lot) == pytest.approx(expected, abs=1e-9)


def test_what_the_standard_says_of_its_plans():
    """A lot at its AQL passes nearly always: 88 to 99 times in 100 (MIL-STD-105E, 4.11 and its operating curves)."""
    for letter, lot in zip(LETTERS[4:], (90, 150, 280, 500, 1200, 3200, 10_000, 35_000), strict=False):
        for aql in AQLS:
            plan = sampling_plan(lot, "II", aql)
            if plan.letter == letter:
                assert 0.86 <= chance_to_pass(plan, float(aql) / 100) <= 0.999, (letter, aql)
