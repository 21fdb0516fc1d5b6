"""What a page was cropped and levelled by, and whether that is to be relied on."""

import math

from hollowstack.core.check.finding import Finding, at_least
from hollowstack.core.check.reading import Read
from hollowstack.core.measure import Measurements
from hollowstack.core.page.paper_sizes import nearest_size
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.tilt import measured_tilt, sure_of_skew

_SURE_OF_EDGES = 0.85


def check_edges(found: Measurements) -> Finding:
    """Whether the outline is sure; one that was not seen all along is, where it is as large as a sheet of paper is made."""
    limit, sure = _SURE_OF_EDGES, found.edges_confidence
    if sure < limit and (paper := _paper_as_large(found)):
        message = f"The edges lie as far apart as those of {paper}."
        return Finding(check="page edges", verdict="pass", value=sure, limit=limit, message=message)
    bad = "An edge of the page is uncertain: look whether anything is cut off."
    return at_least("page edges", sure, limit, good="All four edges found.", bad=bad)


def check_tilt(found: Measurements, plan: Plan, read: Read | None) -> Finding:
    """What the page was levelled by; a page that fills its image and has no lines may lie askew."""
    levelled = f"Levelled by {-plan.skew_deg:+.2f}°" if plan.skew_deg else "Level as captured"
    if measured_tilt(found, plan.turn).rests_on == "paper":
        good = f"{levelled}, by the edges of its paper."
        return Finding(check="tilt", verdict="pass", value=None, limit=None, message=good)
    if found.skew_confidence < sure_of_skew(found) and read is not None and read.level_line:
        return Finding(check="tilt", verdict="pass", value=None, limit=None, message=f"{levelled}; a line of text is level.")
    return at_least(
        "tilt", found.skew_confidence, sure_of_skew(found),
        good=f"{levelled}.",
        bad="No clear text lines to level by: look whether it is straight.",
    )  # fmt: skip


_MADE_MM = 1.0
"""A page's sides differ from those of a size of paper by no more, if it is of that size."""


def _paper_as_large(found: Measurements) -> str:
    """The size of paper that an outline is as large as; empty where it is of none."""
    across, down = (MM_PER_INCH / v for v in found.ppi or (ASSUMED_PPI, ASSUMED_PPI))
    a, b, _, d = found.page_quad
    sides = [math.hypot((end.x - a.x) * across, (end.y - a.y) * down) for end in (b, d)]
    paper = nearest_size(sides[0], sides[1])
    if paper is None:
        return ""
    apart = [abs(side - own) for side, own in zip(sorted(sides), (paper.width_mm, paper.height_mm), strict=True)]
    return paper.name if max(apart) <= _MADE_MM else ""
