"""Acceptance sampling by attributes: how many pages of a lot are looked at, and how many of them may be bad.

Single sampling plans after ISO 2859-1, whose tables are those of MIL-STD-105E (1989), which is in the public domain: Table I
(code letters), II-A (normal), II-B (tightened), II-C (reduced).
"""

import math
import random
from bisect import bisect_left
from typing import Literal, NamedTuple

Level = Literal["I", "II", "III"]
"""How much is looked at: I less, III more than usual."""
Severity = Literal["normal", "tightened", "reduced"]
Aql = Literal["0.65", "1.0", "1.5", "2.5", "4.0"]
"""Acceptance quality limit: bad pages in a hundred that are still borne as a mean over many lots."""

AQLS: tuple[Aql, ...] = ("0.65", "1.0", "1.5", "2.5", "4.0")
LETTERS = "ABCDEFGHJKLMNPQR"
_LOTS = (8, 15, 25, 50, 90, 150, 280, 500, 1_200, 3_200, 10_000, 35_000, 150_000, 500_000)
"""The largest lots of each row of Table I; what is larger belongs to the row behind them."""
_LEVELS: dict[Level, str] = {"I": "AABCCDEFGHJKLMN", "II": "ABCDEFGHJKLMNPQ", "III": "BCDEFGHJKLMNPQR"}
_SIZES: dict[Severity, tuple[int, ...]] = {
    "normal": (2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1_250, 2_000),
    "tightened": (2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1_250, 2_000),
    "reduced": (2, 2, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800),
}
_ACCEPT: dict[Severity, tuple[tuple[int, int], ...]] = {
    "normal": ((0, 1), (1, 2), (2, 3), (3, 4), (5, 6), (7, 8), (10, 11), (14, 15), (21, 22)),
    "tightened": ((0, 1), (1, 2), (2, 3), (3, 4), (5, 6), (8, 9), (12, 13), (18, 19)),
    "reduced": ((0, 1), (0, 2), (1, 3), (1, 4), (2, 5), (3, 6), (5, 8), (7, 10), (10, 13)),
}
"""Acceptance and rejection numbers in the order in which they stand below each other in every column."""
_FIRST: dict[Severity, dict[Aql, str]] = {
    "normal": {"0.65": "F", "1.0": "E", "1.5": "D", "2.5": "C", "4.0": "B"},
    "tightened": {"0.65": "G", "1.0": "F", "1.5": "E", "2.5": "D", "4.0": "C"},
    "reduced": {"0.65": "F", "1.0": "E", "1.5": "D", "2.5": "C", "4.0": "B"},
}
"""The letter at which the first numbers of a column stand; the next ones stand three letters further on, then one each."""
_GAP = 3


class Plan(NamedTuple):
    """A single sampling plan: of ``size`` pages up to ``accept`` may be bad; from ``reject`` on the lot is not accepted."""

    letter: str
    """The code letter after arrows were followed."""
    size: int
    accept: int
    reject: int


def code_letter(lot: int, level: Level) -> str:
    """The code letter for a lot of so many pages, 2 or more. Raises ValueError below.

    Source:
        MIL-STD-105E, Table I, general inspection levels.
    """
    if lot < 2:
        raise ValueError("A lot has two pages or more.")
    return _LEVELS[level][bisect_left(_LOTS, lot)]


def sampling_plan(lot: int, level: Level, aql: Aql, severity: Severity = "normal") -> Plan:
    """The plan for a lot; where it asks for as many pages as there are, or more, all of them are looked at.

    Where an arrow stands in the table, the plan that it points to is taken, with that one's own sample size.

    Raises:
        ValueError: The lot has fewer than two pages.

    Source:
        MIL-STD-105E, Tables II-A, II-B, II-C; 4.9.1 and the notes below the tables (arrows).
    """
    letter = _followed(code_letter(lot, level), aql, severity)
    at = LETTERS.index(letter)
    accept, reject = _numbers(letter, aql, severity)
    return Plan(letter, min(_SIZES[severity][at], lot), accept, reject)


def _followed(letter: str, aql: Aql, severity: Severity) -> str:
    """The letter whose numbers count: down to the first of them, up from the gap behind it, down within, up at the end."""
    first = LETTERS.index(_FIRST[severity][aql])
    at = LETTERS.index(letter)
    last = min(first + _GAP + len(_ACCEPT[severity]) - 2, len(LETTERS) - 1)
    if at <= first:
        return LETTERS[first]
    if at < first + _GAP:
        # Tightened plans point down throughout; the others point up first, to what looks at fewer pages.
        up = severity != "tightened" and at == first + 1
        return LETTERS[first if up else first + _GAP]
    return LETTERS[min(at, last)]


def _numbers(letter: str, aql: Aql, severity: Severity) -> tuple[int, int]:
    place = LETTERS.index(letter) - LETTERS.index(_FIRST[severity][aql])
    return _ACCEPT[severity][0 if place == 0 else place - _GAP + 1]


def draw_sample(lot: int, size: int, seed: int) -> list[int]:
    """Places of a lot, from 0 and in order, drawn by chance without preference; the same seed draws the same again."""
    return sorted(random.Random(seed).sample(range(lot), min(size, lot)))


def chance_to_pass(plan: Plan, share: float, lot: int | None = None) -> float:
    """The chance, 0 to 1, that a lot passes of which a share of pages, 0 to 1, is bad.

    Args:
        plan: The plan.
        share: Of bad pages; of a lot of a known size it is brought to whole pages.
        lot: Pages of the lot; None for one that is very much larger than its sample.

    Source:
        Operating characteristic: binomial, or hypergeometric for a lot of a known size (MIL-STD-105E, 4.11; E. G. Schilling,
        Acceptance Sampling in Quality Control).
    """
    if lot is None:
        terms = (math.comb(plan.size, bad) * share**bad * (1 - share) ** (plan.size - bad) for bad in range(plan.accept + 1))
        return min(1.0, sum(terms))
    bad_ones = round(share * lot)
    good = lot - bad_ones
    ways = sum(
        math.comb(bad_ones, bad) * math.comb(good, plan.size - bad)
        for bad in range(min(plan.accept, plan.size) + 1)
        if plan.size - bad <= good
    )
    return ways / math.comb(lot, plan.size)


def decision(plan: Plan, bad: int) -> Literal["accepted", "accepted, normal again", "rejected"]:
    """What follows from so many bad pages in the sample.

    Under reduced plans there is room between acceptance and rejection: such a lot is accepted, and the next one looked at
    by a normal plan (MIL-STD-105E, 4.8.2 and 4.10.1.4).
    """
    if bad <= plan.accept:
        return "accepted"
    return "rejected" if bad >= plan.reject else "accepted, normal again"
