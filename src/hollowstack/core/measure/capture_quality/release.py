"""When a page before the camera is taken without a touch: once it lies still, whole and sharp, and has not been taken yet.

As for the outline, a port stands in the browser (``web/src/engine/camera``) and is held to this by a test.
"""

from collections.abc import Callable
from typing import Literal, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.capture_quality.live import SOFT_PX, LiveFault, Sight
from hollowstack.core.measure.layout.live_outline import apart
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels

HOLD_S = 0.6
"""A page that has not moved for so long lies still."""
GONE_S = 0.4
"""Once there was no page for so long, the next is another, however alike it looks."""
MOVED = 0.004
"""Share of the page's diagonal by which a corner may wander from one frame to the next: a hand-held camera trembles."""
STIR, SAME = 1.3, 1.6
"""Mean difference of two signatures, in gray levels, from which something stirs on a page, and up to which two are one."""
GRID = 24
_WITHIN, _CALM_PX = 0.04, 9

Signature = npt.NDArray[np.float64]
Said = LiveFault | Literal["steady", "taken", "same"]
"""What is said of a frame: what is wrong with it; that the page lies well; that it has been taken; or that something has
come in between and it looks like the one taken last, so that only somebody's word makes it another."""


class Watch(NamedTuple):
    """What is known of the frames so far. Times in seconds."""

    since: float | None = None
    """Since when the page has lain still."""
    quad: Quad | None = None
    signature: Signature | None = None
    taken: Signature | None = None
    """Of the page taken last, until it has gone."""
    gone: float | None = None
    """Since when there has been no page."""
    stirred: bool = False
    """Something has moved since the last one was taken."""


def signature_of(gray: Pixels, quad: Quad) -> Signature:
    """What a page looks like, roughly, however it lies: ``GRID`` × ``GRID`` grays, their mean put at 128.

    Args:
        gray: The reduced frame.
        quad: The page in it, as ``live_outline`` gives it.
    """
    corners = quad.array().astype(np.float32)
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], np.float32)
    at = (np.arange(GRID) + 0.5) / GRID * (1 - 2 * _WITHIN) + _WITHIN
    across, down = np.meshgrid(at, at)
    places = cv2.perspectiveTransform(
        np.stack([across, down], axis=-1).reshape(1, -1, 2).astype(np.float32), cv2.getPerspectiveTransform(unit, corners)
    ).reshape(GRID, GRID, 2)
    calm = cv2.blur(gray, (_CALM_PX, _CALM_PX), borderType=cv2.BORDER_REPLICATE)
    half = np.float32(0.5)
    found = cv2.remap(
        as_pixels(calm), places[..., 0] - half, places[..., 1] - half, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    ).astype(np.float64)
    return np.asarray(found * 128 / max(1.0, float(found.mean())))


def difference(one: Signature, other: Signature) -> float:
    """Mean absolute difference of two signatures, whatever the light, in gray levels."""
    off = one - other
    return float(np.abs(off - np.median(off)).mean())


def watched(
    watch: Watch, at: float, sight: Sight, signature: Signature | None, softness: Callable[[], float | None]
) -> tuple[Watch, Said, bool]:
    """The next frame: what is known after it, what is said of it, and whether the page is to be taken now.

    Args:
        watch: What was known before.
        at: When the frame came.
        sight: What is seen in it.
        signature: Of the page in it; None where there is none.
        softness: Gives the width of the edges; asked for only where the page lies still, as it takes longer.
    """
    if sight.fault == "no page" or sight.outline is None or signature is None:
        gone = at if watch.gone is None else watch.gone
        left = sight.fault == "no page" and at - gone >= GONE_S
        known = watch._replace(
            since=None, quad=None, signature=None, stirred=True, gone=gone if sight.fault == "no page" else None
        )
        return known._replace(taken=None) if left else known, sight.fault or "no page", False
    quad = sight.outline.quad
    stays = (
        watch.quad is not None and watch.signature is not None and not moved(watch.quad, quad, watch.signature, signature)
    )
    known = watch._replace(quad=quad, signature=signature, gone=None)
    if sight.fault is not None:
        return known._replace(since=None, stirred=watch.stirred or not stays), sight.fault, False
    if not stays:
        return known._replace(since=None, stirred=True), "moves", False
    since = at if watch.since is None else watch.since
    known = known._replace(since=since)
    if watch.taken is not None and difference(watch.taken, signature) <= SAME:
        return known, "same" if watch.stirred and at - since >= HOLD_S else "taken", False
    if at - since < HOLD_S:
        return known, "steady", False
    soft = softness()
    if soft is not None and soft > SOFT_PX:
        return known, "blurred", False
    return known._replace(taken=signature, stirred=False), "taken", True


def moved(before: Quad, now: Quad, was: Signature, is_now: Signature) -> bool:
    """Whether a page moved from one frame to the next, or something on it did."""
    extent = float(np.hypot(*np.ptp(now.array(), axis=0)))
    return apart(before, now) > MOVED * extent or difference(was, is_now) > STIR
