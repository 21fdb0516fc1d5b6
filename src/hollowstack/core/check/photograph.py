"""What the measurements of a photograph give reason to look at, each with the spot that shows it."""

from hollowstack.core.check.finding import Check, Finding
from hollowstack.core.measure import Measurements
from hollowstack.core.measure.capture_quality.photograph import Box, Photograph, Side

_SHARP_MM = 0.65
"""Edges wider than this, on a page of A4's length, and words begin to be lost (measured on drawn pages)."""
_MOST_CLIPPED = 0.3
"""Percent of the page; a smaller reflection is no more than a letter."""
_EVEN = 0.65
_LIGHT_ENOUGH = 90
_SURE_OF_CORNERS = 0.75
PHOTOGRAPH_CHECKS = frozenset({"corners", "cut off", "sharpness", "glare", "even light", "light"})
"""Names of the checks made here."""
_WAY: dict[Side, str] = {"left": "on the left", "top": "at the top", "right": "on the right", "bottom": "at the bottom"}


def check_photograph(found: Measurements) -> list[Finding]:
    """Corners, sharpness, light and what is cut off; nothing for a page that is no photograph."""
    photo = found.photograph
    if photo is None:
        return []
    return [_corners(found, photo), _cut(found, photo), _sharpness(photo), _glare(photo), _shadow(photo), _exposure(photo)]


def _corners(found: Measurements, photo: Photograph) -> Finding:
    value, limit = found.edges_confidence, _SURE_OF_CORNERS
    if not photo.table_seen:
        message = "The page's corners are not seen: step back until there is table around it."
        return Finding(check="corners", verdict="review", value=None, limit=None, message=message)
    if value < limit:
        message = "A corner is uncertain: lay the page on a plain, darker ground."
        return Finding(check="corners", verdict="review", value=value, limit=limit, message=message)
    return Finding(check="corners", verdict="pass", value=value, limit=limit, message="All four corners found.")


def _cut(found: Measurements, photo: Photograph) -> Finding:
    if not photo.cut_off:
        return Finding(check="cut off", verdict="pass", value=None, limit=None, message="The whole page is in the picture.")
    where = " and ".join(_WAY[side] for side in photo.cut_off)
    return Finding(
        check="cut off", verdict="fail", value=None, limit=None, spot=_strip(found.size_px, photo.cut_off[0]),
        message=f"The page runs out of the picture {where}: take it again with table all around.",
    )  # fmt: skip


def _sharpness(photo: Photograph) -> Finding:
    if photo.edge_mm is None:
        return Finding(
            check="sharpness", verdict="pass", value=None, limit=None, message="Nothing is written that could be blurred."
        )
    return _limited(
        "sharpness", photo.edge_mm, _SHARP_MM, photo.edge_mm <= _SHARP_MM, photo.edge_box, "Sharp.",
        "The writing is blurred here: hold still, or focus on the page, and take it again.",
    )  # fmt: skip


def _glare(photo: Photograph) -> Finding:
    return _limited(
        "glare", photo.clipped_percent, _MOST_CLIPPED, photo.clipped_percent <= _MOST_CLIPPED, photo.clipped_box,
        "No reflection.",
        "A reflection wipes out part of the page: turn the lamp away and take it again.",
    )  # fmt: skip


def _shadow(photo: Photograph) -> Finding:
    return _limited(
        "even light", photo.darkest, _EVEN, photo.darkest >= _EVEN, photo.darkest_box, "Evenly lit.",
        "A shadow lies here: move the lamp, or yourself, and take it again.",
    )  # fmt: skip


def _exposure(photo: Photograph) -> Finding:
    return _limited(
        "light", float(photo.paper), float(_LIGHT_ENOUGH), photo.paper >= _LIGHT_ENOUGH, None, "Light enough.",
        "The picture is too dark: give it more light and take it again.",
    )  # fmt: skip


def _limited(check: Check, value: float, limit: float, passed: bool, spot: Box | None, good: str, bad: str) -> Finding:
    return Finding(
        check=check, verdict="pass" if passed else "review", value=value, limit=limit, message=good if passed else bad,
        spot=None if passed else spot,
    )  # fmt: skip


def _strip(size: tuple[int, int], side: Side) -> Box:
    """Along one side of the picture."""
    width, height = size
    deep = max(1, min(size) // 20)
    return {
        "left": (0, 0, deep, height), "top": (0, 0, width, deep),
        "right": (width - deep, 0, deep, height), "bottom": (0, height - deep, width, deep),
    }[side]  # fmt: skip
