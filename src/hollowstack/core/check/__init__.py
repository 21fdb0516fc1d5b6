"""What the measurements of a page give reason to look at. A finding never changes a page."""

from hollowstack.core.check.border import box_of, check_border
from hollowstack.core.check.finding import Finding, Verdict, at_least
from hollowstack.core.check.photograph import check_photograph
from hollowstack.core.check.quality import check_quality
from hollowstack.core.check.reading import READ_SHARP, Read, check_reading, unsure_of_turn, where_it_reads_well
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import sure_of_skew

__all__ = ["Finding", "Read", "Verdict", "check_page", "unsure_of_turn"]

_SURE_OF_EDGES = 0.85


def check_page(found: Measurements, plan: Plan, reading: Read | None) -> list[Finding]:
    """All checks of one page, passed ones too, so that a report shows what was looked at.

    Args:
        found: What was measured.
        plan: What is done about it.
        reading: What was read; None where nothing was.
    """
    if found.separator:
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
        if not unsure_of_turn(found, reading):
            findings.append(_upright(found, plan))
        findings += [
            at_least(
                "tilt", found.skew_confidence, sure_of_skew(found),
                good=f"Levelled by {-plan.skew_deg:+.2f}°." if plan.skew_deg else "Level as captured.",
                bad="No clear text lines to level by: look whether it is straight.",
            ),
        ]  # fmt: skip
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
        findings += [*check_border(found, plan), *(one for one in quality if not _of_picture(one, found, reading))]
    if found.gutter is not None:
        message = "These look like two facing pages: split them, if they are."
        findings.append(Finding(check="facing pages", verdict="review", value=None, limit=None, message=message))
    if found.lid_seen and not photo:
        findings.append(
            at_least(
                "page edges", found.edges_confidence, _SURE_OF_EDGES,
                good="All four edges found.", bad="An edge of the page is uncertain: look whether anything is cut off.",
            )
        )  # fmt: skip
    if reading is not None:
        findings += check_reading(found, plan, reading)
    return findings


def _upright(found: Measurements, plan: Plan) -> Finding:
    """Which way is up; where nothing tells that, the pages around it are asked (``check.stack``)."""
    good = f"Upright after a turn of {plan.turn}°." if plan.turn else "Upright as captured."
    if found.turn_confidence < SURE_OF_TURN:
        good = "Upright, as its words were read."
    return Finding(check="orientation", verdict="pass", value=found.turn_confidence, limit=SURE_OF_TURN, message=good)


_MOSTLY_PICTURE = 0.2
"""Share of the page in pictures from which, where little is written, the pictures' own edges and tones are measured."""
_PICTURES = frozenset({"picture", "half-tone"})


def _of_picture(finding: Finding, found: Measurements, read: Read | None) -> bool:
    """Whether a finding of a page's writing is one of the pictures on it."""
    if finding.verdict == "pass" or finding.check not in {"sharpness", "even light", "contrast", "grain"}:
        return False
    if read is not None and read.sure_words >= READ_SHARP:
        return False
    across, down = found.ppi or (ASSUMED_PPI, ASSUMED_PPI)
    page_mm2 = found.size_px[0] / across * found.size_px[1] / down * MM_PER_INCH**2
    return sum(one.area_mm2 for one in found.regions if one.kind in _PICTURES) >= _MOSTLY_PICTURE * page_mm2


def _resolution_words(found: Measurements, plan: Plan) -> str:
    if found.ppi is not None and plan.ppi[0] > 1.05 * max(found.ppi):
        return f"Enlarged from {found.ppi[0]:g} to {plan.ppi[0]:g} ppi, which adds no detail."
    if found.ppi == found.ppi_said:
        return f"{plan.ppi[0]:g} ppi."
    said = "nothing of its resolution" if found.ppi_said is None else f"{found.ppi_said[0]:g} ppi"
    return f"The file says {said}; by paper size and letters it is {plan.ppi[0]:g} ppi, which is taken."
