"""By how much a page is levelled: by its lines of text, or by the edges of its paper where no line tells."""

import math
from statistics import median
from typing import Literal, NamedTuple

from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.page.geometry import Turn
from hollowstack.core.plan.pictures import more_picture_than_text, picture_share

SURE_OF_SKEW = 0.25
"""Tilt confidence from which a page is levelled by its text."""
_SURE_ON_PICTURES, _MUCH_PICTURE = 0.9, 0.4
"""The same on a page that is so much picture: what lies askew in a photograph is no line of text."""
_SURE_OF_PAPER = 0.95
"""Confidence of an outline from which the edges of the paper may tell."""
_SIDES_AGREE_DEG = 0.6
_MOST_DEG = 10.0
"""An outline that lies more askew is none that a page was laid down by."""
_AT_RIM = 0.004
"""Share of the image's shorter side within which a side of the outline is the image's own."""


class Tilt(NamedTuple):
    """Degrees by which lines fall to the right, and what they rest on; 0 by nothing where neither text nor paper tells."""

    degrees: float
    rests_on: Literal["text", "paper", "nothing"]


def sure_of_skew(found: Measurements) -> float:
    """Tilt confidence from which a page is levelled by its text."""
    return SURE_OF_SKEW if picture_share(found) < _MUCH_PICTURE else _SURE_ON_PICTURES


def measured_tilt(found: Measurements, turn: Turn) -> Tilt:
    """The tilt of a page that is given a turn.

    Text tells first, as readers go by its lines. Where there is more picture than text, lines may be edges of something in
    it, and pictures stand square on their paper: then the paper tells first, and it does where no line tells.

    Args:
        found: What was measured.
        turn: The clockwise turn that will be made.
    """
    paper = paper_tilt(found)
    # The tilt was measured on the page turned by the measured angle; lines of a page on its side have no tilt to level.
    same_way = (turn - (found.turn if found.turn_confidence >= SURE_OF_TURN else 0)) % 180 == 0
    by_text = same_way and found.skew_confidence >= sure_of_skew(found)
    if paper is not None and (not by_text or more_picture_than_text(found)):
        return Tilt(paper, "paper")
    return Tilt(found.skew_deg, "text") if by_text else Tilt(0.0, "nothing")


def paper_tilt(found: Measurements) -> float | None:
    """The tilt of a scanned page's own edges in degrees, whichever way it is turned; None where they are not sure.

    Every side within the image tells its own; they must agree.
    """
    if not found.lid_seen or found.photograph is not None or found.edges_confidence < _SURE_OF_PAPER:
        return None
    corners = list(found.page_quad)
    near = _AT_RIM * min(found.size_px)
    tilts = []
    for (x1, y1), (x2, y2) in zip(corners, [*corners[1:], corners[0]], strict=True):
        if _at_rim((x1, x2), found.size_px[0], near) or _at_rim((y1, y2), found.size_px[1], near):
            continue
        tilts.append((math.degrees(math.atan2(y2 - y1, x2 - x1)) + 45) % 90 - 45)
    if len(tilts) < 2 or max(tilts) - min(tilts) > _SIDES_AGREE_DEG or abs(tilts[0]) > _MOST_DEG:
        return None
    return round(median(tilts), 3)


def _at_rim(ends: tuple[float, float], size: int, near: float) -> bool:
    return max(ends) <= near or min(ends) >= size - near
