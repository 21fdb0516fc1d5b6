"""What is written along the sides of a page, where clearing or cropping would take it."""

import math
from collections.abc import Iterable

import numpy as np

from hollowstack.core.check.finding import Check, Finding
from hollowstack.core.measure import Measurements
from hollowstack.core.page.geometry import Point, Quad
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.plan import Plan

_CORNER_MM = 18.0


def check_border(found: Measurements, plan: Plan) -> list[Finding]:
    """Writing in a border, writing that runs off the image, missing corners; nothing where all is well."""
    findings = []
    if found.border_ink and plan.clear_outside is not None:
        where = _places(len(found.border_ink))
        if plan.protected:
            message = f"Something is written in the dark border{where}: the border was left there."
        else:
            message = f"Something is written in the border that is cleared by hand{where}: look whether it is lost."
        findings.append(_review("border", message, box_of(found.border_ink[0], found.size_px)))
    if found.cut_off:
        message = f"Writing runs off the image{_places(len(found.cut_off))}: capture it again with more around it."
        findings.append(_review("cut off", message, box_of(found.cut_off[0], found.size_px)))
    if found.meets_edge:
        message = (
            f"Writing is cut off at the edge of the page{_places(len(found.meets_edge))}: look whether something lies on it."
        )
        findings.append(_review("touched", message, box_of(found.meets_edge[0], found.size_px)))
    if found.streaks:
        many = "A thin line runs" if len(found.streaks) == 1 else f"{len(found.streaks)} thin lines run"
        message = f"{many} through the whole image: clean the glass, and capture it again."
        findings.append(_review("streak", message, box_of(found.streaks[0], found.size_px)))
    if found.covered:
        outline = np.array(found.regions[found.covered[0]].outline)
        (left, top), (right, bottom) = outline.min(axis=0), outline.max(axis=0)
        message = f"Something lies on the writing{_places(len(found.covered))}: take it off, and capture it again."
        findings.append(_review("object", message, box_of(Quad.rectangle(left, top, right, bottom), found.size_px)))
    if found.torn:
        many = "A corner of the page is" if len(found.torn) == 1 else f"{len(found.torn)} corners of the page are"
        message = f"{many} missing: what shows there was left as it is."
        findings.append(_review("corner", message, _around(found.torn[0], found)))
    return findings


def _review(check: Check, message: str, spot: tuple[int, int, int, int]) -> Finding:
    return Finding(check=check, verdict="review", value=None, limit=None, message=message, spot=spot)


def _places(count: int) -> str:
    return "" if count == 1 else f" at {count} places"


def _around(corner: Point, found: Measurements) -> tuple[int, int, int, int]:
    reach = _CORNER_MM / MM_PER_INCH * (found.ppi or (ASSUMED_PPI, ASSUMED_PPI))[0]
    x, y = corner
    return box_of(Quad.rectangle(x - reach, y - reach, x + reach, y + reach), found.size_px)


def box_of(outline: Iterable[Point], size: tuple[int, int]) -> tuple[int, int, int, int]:
    """Left, top, width and height of the upright box around points, a quad's say, within the image."""
    corners = np.clip(np.array(list(outline)), 0, size)
    (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
    return math.floor(left), math.floor(top), math.ceil(right - left), math.ceil(bottom - top)
