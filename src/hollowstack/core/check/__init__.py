"""What the measurements of a page give reason to look at. A finding never changes a page."""

from hollowstack.core.check.border import box_of, check_border
from hollowstack.core.check.finding import Finding, Verdict, at_least
from hollowstack.core.check.outline import check_edges, check_tilt
from hollowstack.core.check.photograph import check_photograph
from hollowstack.core.check.pictures import check_clipped, is_of_picture
from hollowstack.core.check.quality import check_quality
from hollowstack.core.check.reading import (
    Read,
    check_level,
    check_reading,
    reads_like_noise,
    unsure_of_turn,
    where_it_reads_well,
)
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.plan.plan import Plan

__all__ = ["Finding", "Read", "Verdict", "check_page", "unsure_of_turn"]


def check_page(found: Measurements, plan: Plan, reading: Read | None) -> list[Finding]:
    """All checks of one page, passed ones too, so that a report shows what was looked at.

    Args:
        found: What was measured.
        plan: What is done about it.
        reading: What was read; None where nothing was.
    """
    if found.lies_between:
        return []
    blank = found.marks == 0
    photo = check_photograph(found)
    findings = photo or [
        at_least(
            "resolution", None if found.ppi is None else min(found.ppi), 150.0,
            good=_resolution_words(found, plan),
            bad="The file does not say its resolution; 300 ppi were taken." if found.ppi is None
            else f"Only {min(found.ppi):g} ppi: small print may not be legible.",
        ),
    ]  # fmt: skip
    if not blank:
        if reading is not None and reading.sideways:
            message = "Its words run up or down the page: turn it upright."
            findings.append(Finding(check="orientation", verdict="review", value=None, limit=None, message=message))
        elif not unsure_of_turn(found, reading):
            findings.append(_upright(found, plan))
        elif reads_like_noise(found, reading):
            message = "Hardly a word of it can be read: look whether it is upright."
            findings.append(Finding(check="orientation", verdict="review", value=None, limit=None, message=message))
        findings += [check_tilt(found, plan, reading), *check_level(reading)]
    if plan.aside == "blank" and found.pale_traces is not None:
        message = "It was held aside as blank, and something very pale may stand here: look whether it does."
        findings.append(
            Finding(
                check="blank",
                verdict="review",
                value=None,
                limit=None,
                message=message,
                spot=box_of(found.pale_traces, found.size_px),
            )
        )
    if not photo:
        quality = [where_it_reads_well(one, reading) for one in check_quality(found)]
        findings += [*check_border(found, plan), *(one for one in quality if not is_of_picture(one, found, reading))]
        findings += check_clipped(found)
    if found.gutter is not None:
        message = "These look like two facing pages: split them, if they are."
        findings.append(Finding(check="facing pages", verdict="review", value=None, limit=None, message=message))
    if found.lid_seen and not photo:
        findings.append(check_edges(found))
    if reading is not None:
        findings += check_reading(found, plan, reading)
    return findings


def _upright(found: Measurements, plan: Plan) -> Finding:
    """Which way is up; where nothing tells that, the pages around it are asked (``check.stack``)."""
    good = f"Upright after a turn of {plan.turn}°." if plan.turn else "Upright as captured."
    if found.turn_confidence < SURE_OF_TURN:
        good = "Upright, as its words were read."
    return Finding(check="orientation", verdict="pass", value=found.turn_confidence, limit=SURE_OF_TURN, message=good)


def _resolution_words(found: Measurements, plan: Plan) -> str:
    if found.ppi is not None and plan.ppi[0] > 1.05 * max(found.ppi):
        return f"Enlarged from {found.ppi[0]:g} to {plan.ppi[0]:g} ppi, which adds no detail."
    if found.ppi == found.ppi_said:
        return f"{plan.ppi[0]:g} ppi."
    said = "nothing of its resolution" if found.ppi_said is None else f"{found.ppi_said[0]:g} ppi"
    return f"The file says {said}; by paper size and letters it is {plan.ppi[0]:g} ppi, which is taken."
