"""What is wrong with a page before the camera, while it can still be changed.

As for the outline, a port stands in the browser (``web/src/engine/camera``) and is held to this by a test.
"""

from typing import Literal, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.live_outline import LiveOutline, live_outline
from hollowstack.core.measure.layout.table_pieces import without_writing
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels

LiveFault = Literal["no page", "no contrast", "cut off", "covered", "dark", "reflection", "blurred", "moves"]
"""No page is there; one is there and cannot be told from the table; it runs out of the frame; something lies over one of
its sides; there is too little light, or so much that all is wiped out somewhere; it is not sharp; it moves."""

COVERED = 0.75
"""Share of a side that is seen, below which something lies over it."""
DARK, NIGHT = 84, 40
"""Gray that the lightest twentieth of a frame must reach where a page is seen in it, and where none is."""
WIPED, WIPED_SHARE = 252, 0.004
"""Gray from which the sensor has seen nothing but light, and the share of the page that may be so."""
AT_RIM = 0.006
"""Share of the frame's longer side within which a corner counts as cut off."""
SOFT_PX = 3.4
"""Width of the edges of writing, in pixels of a frame of ``SHARP_PX``, from which it is not sharp."""
SHARP_PX = 1280
"""The longer side of the frame on which sharpness is judged; a smaller one is judged as it is."""
INK_CONTRAST, INK_SHARE = 24, 0.006
"""Gray levels by which strokes differ from what is around them, and the share of the middle that they take up on a page."""
_TILES = 12
_TILE_CONTRAST = 40
"""Tiles along the page's longer side, and gray levels in one below which there is nothing to judge by."""
_PROFILES, _PROFILE_PX = 40, 12
"""Places along a side at which its edge is looked at, and how far to either side of it."""


class Sight(NamedTuple):
    """What is seen in a frame: the page, and the first thing that is wrong with it.

    ``sides`` are those (0 left to 3 bottom) at which it is cut off.
    """

    outline: LiveOutline | None
    fault: LiveFault | None
    sides: tuple[int, ...] = ()


def look(pixels: Pixels, before: Quad | None = None) -> Sight:
    """What a frame shows.

    Args:
        pixels: RGB, as for ``live_outline``.
        before: Where the page lay in the frame before.

    Source:
        What a photograph of a page needs (light, a contrasting ground, the whole page inside): common practice, no source.
        The limits are measured on drawn streams; ``make accuracy`` prints how well they tell.
    """
    outline, runs_out = live_outline(pixels, before)
    gray = as_pixels(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY))
    if _level(gray, 0.95) < (NIGHT if outline is None else DARK):
        return Sight(outline, "dark")
    if outline is None:
        if runs_out:
            return Sight(None, "cut off", runs_out)
        return Sight(None, "no contrast" if _is_written_on(gray) else "no page")
    cut = _cut_off(outline.quad, gray.shape[1], gray.shape[0])
    if cut:
        return Sight(outline, "cut off", cut)
    if outline.confidence < COVERED:
        return Sight(outline, "covered")
    if _wiped(gray, outline.quad) > WIPED_SHARE:
        return Sight(outline, "reflection")
    return Sight(outline, None)


def softness(gray: Pixels, quad: Quad) -> float | None:
    """The width of the edges of writing where they are widest, in pixels; of the paper's own where nothing is written.

    None where neither can be told.

    Args:
        gray: The frame, (rows, cols), at about ``SHARP_PX``.
        quad: The page in it.

    Source:
        As in ``photograph``: the gray range of a tile over its steepest slope.
    """
    corners = quad.array()
    size = max(24, int(np.hypot(*(np.roll(corners, -1, axis=0) - corners).T).max()) // _TILES)
    left, top = np.maximum(np.floor(corners.min(axis=0)).astype(int), 0)
    right, bottom = np.minimum(np.ceil(corners.max(axis=0)).astype(int), gray.shape[::-1])
    widest = None
    for y in range(top, bottom - size + 1, size):
        for x in range(left, right - size + 1, size):
            if _depth(corners, x + size / 2, y + size / 2) < 0.72 * size:
                continue
            width = _edge_width(gray[y : y + size, x : x + size])
            if width is not None and (widest is None or width > widest):
                widest = width
    return _paper_edge(gray, corners) if widest is None else widest


def _paper_edge(gray: Pixels, corners: npt.NDArray[np.float64]) -> float | None:
    """The width of the paper's own edge on its sharpest side: others may lie in shadow, or bend."""
    widths = []
    for start, end in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        along = (end - start) / max(1e-6, float(np.hypot(*(end - start))))
        across = np.array([-along[1], along[0]])
        at = start + np.linspace(0.1, 0.9, _PROFILES)[:, None] * (end - start)
        places = at[:, None] + np.arange(-_PROFILE_PX, _PROFILE_PX + 1)[None, :, None] * across
        x, y = (places[..., axis].astype(np.float32) - np.float32(0.5) for axis in (0, 1))
        found = cv2.remap(gray.astype(np.float32), x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        contrast = np.ptp(found, axis=1)
        steep = np.abs(found[:, 2:] - found[:, :-2]).max(axis=1) / 2
        clear = contrast >= _TILE_CONTRAST
        if clear.sum() * 2 >= _PROFILES:
            widths.append(float(np.sort(contrast[clear] / np.maximum(steep[clear], 1e-3))[int(clear.sum()) // 2]))
    return min(widths, default=None)


def _edge_width(tile: Pixels) -> float | None:
    low, high = _level(tile, 0.005), _level(tile, 0.9)
    if high - low < _TILE_CONTRAST:
        return None
    values = tile.astype(np.float32)
    across = values[:, 2:] - values[:, :-2]
    down = values[2:] - values[:-2]
    steep = np.sort(np.hypot(across[1:-1], down[:, 1:-1]).ravel()) / 2
    return float((high - low) / max(float(steep[int(0.997 * len(steep))]), 1e-3))


def _level(gray: Pixels, share: float) -> int:
    """The gray that this share of the pixels lies below."""
    counts = np.cumsum(np.bincount(gray.ravel(), minlength=256))
    return int(np.searchsorted(counts, share * gray.size, side="right"))


def _depth(corners: npt.NDArray[np.float64], x: float, y: float) -> float:
    """How far a point lies within an outline, from its nearest side; negative outside."""
    along = np.roll(corners, -1, axis=0) - corners
    off = along[:, 0] * (y - corners[:, 1]) - along[:, 1] * (x - corners[:, 0])
    return float((off / np.maximum(np.hypot(*along.T), 1e-6)).min())


def _cut_off(quad: Quad, width: int, height: int) -> tuple[int, ...]:
    corners, near = quad.array(), AT_RIM * max(width, height)
    there = (corners[:, 0] < near, corners[:, 1] < near, corners[:, 0] > width - near, corners[:, 1] > height - near)
    return tuple(side for side, at in enumerate(there) if at.any())


def _wiped(gray: Pixels, quad: Quad) -> float:
    """Share of the page that is nothing but light, in pieces of some size."""
    inside = np.zeros(gray.shape, np.uint8)
    cv2.fillConvexPoly(inside, np.rint(quad.array()).astype(np.int32), 1)
    light = cv2.morphologyEx(as_pixels((gray >= WIPED) * inside), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    return float(light.sum() / max(1, int(inside.sum())))


def _is_written_on(gray: Pixels) -> bool:
    """Whether there are dark strokes in the frame's middle."""
    rows, cols = gray.shape
    ink = without_writing(gray).astype(np.int16) - gray >= INK_CONTRAST
    middle = ink[rows // 3 : rows - rows // 3, cols // 3 : cols - cols // 3]
    return bool(middle.mean() >= INK_SHARE)
