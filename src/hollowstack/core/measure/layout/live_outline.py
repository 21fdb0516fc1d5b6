"""Where the page lies in a frame of a camera's stream: quick enough for ten frames a second and more."""

from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.measure.layout.corners import Points, crossing, settled, steps_of
from hollowstack.core.measure.layout.table_pieces import HALF, Steps, pieces_of, without_writing
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels

LONGEST_PX = 400
"""The longer side of the reduction that is looked at: a corner is found to about half a pixel of it."""
_NARROWEST_PX = 40
LEAST, MOST = 0.06, 0.97
"""Share of the frame that a page takes up."""
SEEN = 0.4
"""Share of the weakest side that is seen where there is a page."""
_FULL, _HOLLOW = 0.86, 0.6
"""Share of a four-sided shape that the hull within it fills where it is a page, and of that hull that the piece does."""
_REACHES = (0.008, 0.02)
"""Shares of the longer side within which a side is looked for: a patterned table has others near, a curled page's is far."""
_VOTE, _AGREE_PX = 0.15, 3.0
"""What an outline gains by each that agrees with it, and how near that is."""
_STAYS = 2
"""Votes of the frame before."""
_PLAIN, _PLAIN_VOTES = 0.95, 4
"""Confidence and votes from which nothing else is looked for."""
_RUNS_OUT = 0.08
"""Share of a side of the frame that a page takes up where it runs out of it."""


class LiveOutline(NamedTuple):
    """``quad`` in pixels, from the corner nearest to the top left on; ``confidence``: the share of its weakest side seen."""

    quad: Quad
    confidence: float


class Found(NamedTuple):
    """The page, None where none can be made out; and the sides of the frame (0 left, 1 top, 2 right, 3 bottom) that
    something in its middle runs out of."""

    outline: LiveOutline | None
    runs_out: tuple[int, ...]


def live_outline(pixels: Pixels, before: Quad | None = None) -> Found:
    """The page in a frame.

    What may be a page is found in several ways that fail on different tables; each is made four-sided, and its sides are
    settled where the step is steepest. The page is what is large, seen all along its sides, and found more than once: pages
    have pictures, and pictures have no pages.

    Args:
        pixels: RGB, (rows, cols, 3), about ``LONGEST_PX`` long; no page is seen in a strip.
        before: Where it lay in the frame before; between two that are as good, it is the one that lies there still.

    Source:
        Four sides of a hull: A. Aggarwal, J. Chang and C. Yap, "Minimum area circumscribing polygons", 1985, greedily.
        Settling: as in ``corners``. Weighing what several ways agree in: common practice, no source.
    """
    if min(pixels.shape[:2]) < _NARROWEST_PX:
        return Found(None, ())
    steps = steps_of(without_writing(pixels))
    found: list[LiveOutline] = []
    best: LiveOutline | None = None
    left: set[int] = set()
    for pieces in pieces_of(pixels, steps):
        outlines = [HALF * outline for piece in pieces if (outline := _around(piece)) is not None]
        found += [one for outline in outlines for reach in _REACHES if (one := _settled_outline(steps, outline, reach))]
        best = max(found, key=lambda one: _weight(one, found, before), default=None)
        left.update(side for piece in pieces for side in _sides_left(piece))
        if best is not None and best.confidence >= _PLAIN and _votes(best, found) >= _PLAIN_VOTES:
            break
    return Found(best, tuple(sorted(left)))


def _weight(one: LiveOutline, found: list[LiveOutline], before: Quad | None) -> float:
    votes = _votes(one, found) + (_STAYS if before is not None and apart(one.quad, before) <= _AGREE_PX else 0)
    return one.quad.area() * one.confidence**2 * (1 + _VOTE * votes)


def _votes(one: LiveOutline, found: list[LiveOutline]) -> int:
    return sum(apart(one.quad, other.quad) <= _AGREE_PX for other in found)


def apart(one: Quad, other: Quad) -> float:
    """How far the corners of two outlines are apart at the most along either axis, whichever is called the first."""
    return min(float(np.abs(np.roll(other.array(), turn, axis=0) - one.array()).max()) for turn in range(4))


def _sides_left(piece: Pixels) -> list[int]:
    rims = (piece[:, 0], piece[0], piece[:, -1], piece[-1])
    sides = [side for side, rim in enumerate(rims) if rim.mean() >= _RUNS_OUT]
    return sides if len(sides) <= 2 else []  # rather the table itself


def _around(piece: Pixels) -> Points | None:
    """Four corners around a piece; None where it is no four-sided thing."""
    cols = piece.shape[1]
    # The first and last pixel of each row are enough for a hull.
    down = np.nonzero(piece.any(axis=1))[0]
    first, last = piece[down].argmax(axis=1), cols - piece[down, ::-1].argmax(axis=1)
    ends = [np.column_stack([x, y]) for x in (first, last) for y in (down, down + 1)]
    hull = cv2.convexHull(np.vstack(ends).astype(np.float32)).reshape(-1, 2).astype(np.float64)
    shape = _four_sides(hull)
    if shape is None:
        return None
    area, inside, whole = float(piece.sum()), _area(hull), _area(shape)
    full = inside >= _FULL * whole and area >= _HOLLOW * inside
    return shape if full and whole > LEAST * piece.size else None


def _four_sides(hull: Points) -> Points | None:
    """What is left of a hull when, again and again, the side is dropped that costs the least area."""
    points = list(hull)
    while len(points) > 4:
        best: tuple[float, int, Points] | None = None
        for at, end in enumerate(points):
            before, start, after = points[at - 2], points[at - 1], points[(at + 1) % len(points)]
            along, back = start - before, end - after
            det = float(along[0] * back[1] - along[1] * back[0])
            share = float((after - before)[0] * back[1] - (after - before)[1] * back[0]) / det if abs(det) > 1e-9 else 0.0
            if share <= 1:
                continue  # the neighbours go apart
            meet = before + share * along
            cost = abs(float((end - start)[0] * (meet - start)[1] - (end - start)[1] * (meet - start)[0])) / 2
            if best is None or cost < best[0]:
                best = (cost, at, meet)
        if best is None:
            return None
        _, at, meet = best
        points[at] = meet
        del points[at - 1]
    return np.array(points) if len(points) == 4 else None


def _settled_outline(steps: Steps, outline: Points, reach: float) -> LiveOutline | None:
    sides = [settled(steps, outline[i], outline[(i + 1) % 4], reach) for i in range(4)]
    corners = [crossing(sides[i - 1][0], sides[i][0]) for i in range(4)]
    if any(corner is None for corner in corners):
        return None
    quad = np.array(corners)
    rows, cols = steps.shape
    confidence = round(min(share for _, share in sides), 3)
    within = bool((quad >= -2).all() and (quad <= np.array([cols, rows]) + 2).all())
    if confidence < SEEN or not within or not cv2.isContourConvex(quad.astype(np.float32)):
        return None
    if not LEAST < _area(quad) / steps.size < MOST:
        return None
    first = int(quad.sum(axis=1).argmin())
    return LiveOutline(Quad.of(np.roll(np.clip(quad, 0, [cols, rows]), -first, axis=0)), confidence)


def _area(points: Points) -> float:
    x, y = points.T
    return abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
