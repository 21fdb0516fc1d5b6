"""The corners of a page photographed on a table of much the same colour, or of many: by its edges alone."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

_COARSE_PX, _FINE_PX = 700, 1600
"""Longer sides of the reductions on which the page is found, and its sides are settled."""
_STROKE = 0.022
"""Share of the longer side that is wider than any stroke of writing."""
_STEP, _WEAK = 3.5, 1.8
"""Gray levels from one pixel to the next that are an edge and no shading; and that are one if they go on from it."""
_GAP_PX = 9
"""Gaps in an edge up to this are none."""
_LEAST, _MOST = 0.08, 0.97
"""Share of the picture that a page takes up."""
_REACHES = (0.008, 0.02)
"""Shares of the longer side within which a side is looked for: a patterned table has others near, a curled page's is far."""
_SAMPLES = 240
_AGREE_PX = 1.5
_SURE = 0.4

Points = npt.NDArray[np.float64]


class Corners(NamedTuple):
    """Corners in pixels of the picture, in its own order; ``confidence`` is the share of the weakest side that is seen."""

    quad: Quad
    confidence: float


def find_corners(image: Raster) -> Corners | None:
    """The page in the middle of a picture; None where its edges cannot be made out.

    Writing is closed away first. What is left around the page is its edge, by its step or by its shadow: the smooth piece in
    the picture's middle that edges enclose is the page. Each side is then settled where the step is steepest.

    Source:
        Closing: Serra 1982. Region between edges: common practice, no source. Lines: least squares, trimmed (Rousseeuw and
        Leroy 1987).
    """
    longest = max(image.width, image.height)
    coarse, fine = min(1.0, _COARSE_PX / longest), min(1.0, _FINE_PX / longest)
    roughly = steps_of(_closed(_scaled(image.pixels, coarse)))
    # A patterned table needs strong edges alone, a pale one the weak ones that go on from them.
    outlines = [outline for weak in (_STEP, _WEAK) if (outline := _smooth_middle(roughly, weak)) is not None]
    if not outlines:
        return None
    steps = steps_of(_closed(_scaled(image.pixels, fine)))
    found = [corners for outline in outlines if (corners := _exact(steps, outline * (fine / coarse), fine, image))]
    return max(found, key=lambda corners: corners.confidence, default=None)


def _exact(steps: npt.NDArray[np.float32], outline: Points, fine: float, image: Raster) -> Corners | None:
    """An outline on the fine reduction, its sides settled and crossed."""
    sides = [
        max((settled(steps, outline[i], outline[(i + 1) % 4], reach) for reach in _REACHES), key=lambda side: side[1])
        for i in range(4)
    ]
    corners = [crossing(sides[i - 1][0], sides[i][0]) for i in range(4)]
    if any(corner is None for corner in corners):
        return None
    quad = np.array(corners) / fine
    confidence = round(min(share for _, share in sides), 3)
    convex = cv2.isContourConvex(quad.astype(np.float32))
    if confidence < _SURE or not convex or (quad < -2).any() or (quad > np.array([image.width, image.height]) + 2).any():
        return None
    return Corners(Quad.of(np.clip(quad, 0, [image.width, image.height])), confidence)


def settled_corners(image: Raster, roughly: Quad) -> Corners | None:
    """Corners that are known roughly, settled where the picture's edges are steepest; None where they are not seen there."""
    fine = min(1.0, _FINE_PX / max(image.width, image.height))
    return _exact(steps_of(_closed(_scaled(image.pixels, fine))), roughly.array() * fine, fine, image)


def _scaled(pixels: Pixels, factor: float) -> Pixels:
    return as_pixels(cv2.resize(pixels, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)) if factor < 1 else pixels


def _closed(pixels: Pixels) -> Pixels:
    size = max(3, round(_STROKE * max(pixels.shape[:2])) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    return as_pixels(cv2.morphologyEx(cv2.medianBlur(pixels, 5), cv2.MORPH_CLOSE, kernel, borderType=cv2.BORDER_REPLICATE))


def steps_of(pixels: Pixels) -> npt.NDArray[np.float32]:
    """Change from pixel to pixel in gray levels, in the channel in which it is greatest; (rows, cols)."""
    channels = cv2.split(pixels)
    slopes = [
        cv2.magnitude(cv2.Sobel(c, cv2.CV_32F, 1, 0, scale=0.125), cv2.Sobel(c, cv2.CV_32F, 0, 1, scale=0.125))
        for c in channels
    ]
    return np.asarray(np.max(slopes, axis=0), dtype=np.float32)


def _smooth_middle(steps: npt.NDArray[np.float32], weak: float) -> Points | None:
    """Four corners, clockwise from the top left, around the smooth piece in the middle."""
    rows, cols = steps.shape
    # With hysteresis after Canny 1986: an edge goes on where it is weak.
    count, pieces = cv2.connectedComponents((steps >= weak).astype(np.uint8), connectivity=8)
    strong = np.zeros(count, bool)
    strong[np.unique(pieces[steps >= _STEP])] = True
    free = 1 - strong[pieces].astype(np.uint8)
    free = cv2.erode(free, np.ones((_GAP_PX, _GAP_PX), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0)
    _, labels = cv2.connectedComponents(free, connectivity=4)
    middle = labels[rows // 3 : rows - rows // 3, cols // 3 : cols - cols // 3]
    sizes = np.bincount(middle[middle > 0].ravel()) if (middle > 0).any() else np.zeros(1)
    if sizes.max() < 0.2 * middle.size:
        return None
    piece = cv2.dilate((labels == sizes.argmax()).astype(np.uint8), np.ones((_GAP_PX, _GAP_PX), np.uint8))
    contours, _ = cv2.findContours(piece, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    hull = cv2.convexHull(max(contours, key=cv2.contourArea))
    area = cv2.contourArea(hull)
    if not _LEAST < area / steps.size < _MOST:
        return None
    for share in np.arange(0.01, 0.12, 0.005):
        shape = cv2.approxPolyDP(hull, share * cv2.arcLength(hull, True), True).reshape(-1, 2)
        if len(shape) == 4:
            return _in_order(shape.astype(np.float64) + 0.5) if cv2.contourArea(shape) > 0.85 * area else None
    return None


def _in_order(corners: Points) -> Points:
    """Clockwise as seen, from the one nearest to the picture's top left."""
    middle = corners.mean(axis=0)
    around = corners[np.argsort(np.arctan2(corners[:, 1] - middle[1], corners[:, 0] - middle[0]))]
    return np.asarray(np.roll(around, -int(around.sum(axis=1).argmin()), axis=0), dtype=np.float64)


def settled(steps: npt.NDArray[np.float32], start: Points, end: Points, within: float) -> tuple[Points, float]:
    """A side moved to where the step is steepest: (point, direction), and the share of it that is seen there.

    Args:
        steps: As ``steps_of`` gives them.
        start: Where the side begins, roughly, in pixels.
        end: Where it ends.
        within: How far off it may lie, as a share of the longer side of ``steps``.
    """
    along = (end - start) / max(1e-6, float(np.hypot(*(end - start))))
    across = np.array([-along[1], along[0]])
    reach = max(4, round(within * max(steps.shape)))
    at = start + np.linspace(0.06, 0.94, _SAMPLES)[:, None] * (end - start)
    offsets = np.arange(-reach, reach + 1, 0.5)
    places = at[:, None] + offsets[None, :, None] * across
    found = cv2.remap(
        steps, (places[..., 0] - 0.5).astype(np.float32), (places[..., 1] - 0.5).astype(np.float32), cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    best = found.argmax(axis=1)
    seen = found[np.arange(_SAMPLES), best] >= _WEAK
    if seen.sum() < _SAMPLES // 6:
        return np.array([start, along]), 0.0
    where, offset = np.linspace(0, 1, _SAMPLES)[seen], offsets[best[seen]]
    keep = np.abs(offset - np.median(offset)) <= max(4.0, 2 * float(np.median(np.abs(offset - np.median(offset)))))
    slope, base = 0.0, float(np.median(offset))
    for _ in range(6):
        if keep.sum() < 8:
            break
        slope, base = (float(v) for v in np.polyfit(where[keep], offset[keep], 1))
        off = np.abs(offset - base - slope * where)
        keep = off <= max(_AGREE_PX, 1.5 * float(np.median(off)))
    agreeing = float((np.abs(offset - base - slope * where) <= 2 * _AGREE_PX).sum()) / _SAMPLES
    first, last = at[0] + base * across, at[-1] + (base + slope) * across
    return np.array([first, (last - first) / max(1e-6, float(np.hypot(*(last - first))))]), agreeing


def crossing(one: Points, other: Points) -> Points | None:
    """Where two lines (point, direction) cross; None where they hardly do."""
    (p, d), (q, e) = one, other
    det = float(d[0] * e[1] - d[1] * e[0])
    if abs(det) < 0.2:
        return None
    share = float((q[0] - p[0]) * e[1] - (q[1] - p[1]) * e[0]) / det
    return np.asarray(p + share * d, dtype=np.float64)
