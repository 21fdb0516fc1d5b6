"""What is printed or written on a page, all of it, as one outline: what no cut may take away."""

import cv2
import numpy as np

from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.page.geometry import Point, Quad
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

_PPI = 75.0
_INK = 0.84
_SPECK_MM = 0.9
_RIM_MM = 1.2
"""Pieces that lie as near to the page's edge are its shade, if they are longer than a letter along it."""
_WITHIN_RIM_MM = 1.5
"""Whatever lies wholly as near to the edge is what was left of a lid: the smallest letters are as high."""
_LETTER_MM = 6.0
_MOST_POINTS = 24


def print_outline(
    page: Raster, paper: Pixels, content: Pixels, quad: Quad, corner: tuple[float, float], scale: float
) -> tuple[Point, ...]:
    """The convex outline of all that is on a page.

    Args:
        page: Gray, cut to its edges.
        paper: Its paper, of any size.
        content: Where there is content, of any size.
        quad: The page's corners, in pixels of its own in the image as captured.
        corner: Left and top of ``page`` in pixels of its own in the image as captured.
        scale: Pixels of the image for one of the page.

    Returns:
        Points in pixels of the image; none on a bare page.

    Source:
        J. Sklansky, Finding the convex hull of a simple polygon, Pattern Recognition Letters 1 (1982), by OpenCV.
    """
    small = page.reduced(_PPI)
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    ink = as_pixels((background_normalised(small, paper) < _INK).astype(np.uint8))
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    left, top, wide, high = (stats[:, column] for column in range(4))
    keep = np.maximum(wide, high) >= _SPECK_MM * px_mm
    rim = _RIM_MM * px_mm
    along = ((left < rim) | (left + wide > small.width - rim)) & (high > _LETTER_MM * px_mm) & (wide < 4 * px_mm)
    along |= ((top < rim) | (top + high > small.height - rim)) & (wide > _LETTER_MM * px_mm) & (high < 4 * px_mm)
    keep &= ~along
    inner = _inner(quad, corner, page, small, round(_WITHIN_RIM_MM * px_mm))
    keep &= np.bincount(pieces[inner > 0].ravel(), minlength=len(keep)) > 0
    keep[0] = False
    filled = (cv2.resize(content, (small.width, small.height), interpolation=cv2.INTER_NEAREST) > 0) & (inner > 0)
    there = keep[pieces] | filled
    rows, cols = np.nonzero(there)
    if len(rows) < 2:
        return ()
    hull = cv2.convexHull(np.column_stack([cols, rows]).astype(np.float32)).reshape(-1, 2) + 0.5
    share = 0.002
    while len(hull) > _MOST_POINTS:
        hull = cv2.approxPolyDP(hull, share * cv2.arcLength(hull, True), True).reshape(-1, 2)
        share *= 1.6
    there_too = ((hull * [page.width / small.width, page.height / small.height] + corner) * scale).round(1)
    return tuple(Point(float(x), float(y)) for x, y in there_too)


def _inner(quad: Quad, corner: tuple[float, float], page: Raster, small: Raster, within: int) -> Pixels:
    """1 where it is farther than so many pixels from the page's edges."""
    inner = np.zeros((small.height, small.width), np.uint8)
    outline = (quad.array() - corner) * [small.width / page.width, small.height / page.height]
    cv2.fillConvexPoly(inner, np.rint(outline).astype(np.int32), 1)
    return as_pixels(cv2.erode(inner, np.ones((2 * within + 1, 2 * within + 1), np.uint8), borderValue=0))
