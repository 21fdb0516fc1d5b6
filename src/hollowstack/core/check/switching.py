"""Switching rules: by what the last lots of a source came to, the next is looked at more closely, as usual, or less closely.

A source is whoever made the lots: an operator, a station.
"""

from collections.abc import Iterable
from typing import NamedTuple

from hollowstack.core.check.sampling import AQLS, Aql, Level, Plan, Severity, sampling_plan

_WINDOW, _REJECTED_OF = 5, 2
"""Two of five or fewer lots in a row that are not accepted lead to tightened plans."""
_ACCEPTED_IN_A_ROW = 5
"""So many accepted in a row lead back from them."""
_STOPPED = 5
"""So many not accepted under tightened plans, in all, stop sampling until something is done about the source."""
_SCORE = 30


class Lot(NamedTuple):
    """A lot that was decided: how many pages it had, how many bad ones were in its sample, and by which severity."""

    pages: int
    bad: int
    severity: Severity
    accepted: bool


class Standing(NamedTuple):
    """How the next lot of a source is looked at."""

    severity: Severity
    score: int
    """Switching score: from 30 on reduced plans are allowed."""
    stopped: bool
    """Whether so many lots were not accepted that all pages are to be looked at until something is done."""


def standing(lots: Iterable[Lot], level: Level, aql: Aql) -> Standing:
    """How the next lot is looked at, from all earlier ones in their order.

    Source:
        ISO 2859-1:1999, 9.3 (switching rules and the switching score) and 9.4 (discontinuation).
    """
    severity: Severity = "normal"
    score, accepted, stopped_by = 0, 0, 0
    recent: list[bool] = []
    for lot in lots:
        recent = [*recent, lot.accepted][-_WINDOW:]
        accepted = accepted + 1 if lot.accepted else 0
        if severity == "normal":
            score = _scored(score, lot, level, aql)
            if recent.count(False) >= _REJECTED_OF:
                severity, score, accepted, stopped_by = "tightened", 0, 0, 0
            elif score >= _SCORE:
                severity = "reduced"
        elif severity == "tightened":
            stopped_by += not lot.accepted
            if accepted >= _ACCEPTED_IN_A_ROW:
                severity, recent, score = "normal", [], 0
        elif not lot.accepted or _in_between(lot, level, aql):
            severity, recent, score = "normal", [lot.accepted], 0
    return Standing(severity, score, severity == "tightened" and stopped_by >= _STOPPED)


def _scored(score: int, lot: Lot, level: Level, aql: Aql) -> int:
    plan = sampling_plan(lot.pages, level, aql)
    if plan.accept <= 1:
        return score + 2 if lot.accepted else 0
    tighter = _one_step_tighter(lot.pages, level, aql, plan)
    return score + 3 if lot.bad <= tighter else 0


def _one_step_tighter(pages: int, level: Level, aql: Aql, plan: Plan) -> int:
    """The acceptance number one AQL below, of the same sample; of the lowest AQL that of its own plan, less one."""
    at = AQLS.index(aql)
    if at == 0:
        return plan.accept - 1
    return min(sampling_plan(pages, level, AQLS[at - 1]).accept, plan.accept - 1)


def _in_between(lot: Lot, level: Level, aql: Aql) -> bool:
    return lot.bad > sampling_plan(lot.pages, level, aql, "reduced").accept
