"""Whether what surrounds an outline is paper with print on it, and what was taken for a page is a picture printed there."""

import cv2
import numpy as np

from hollowstack.core.imaging.histogram import histogram_mode
from hollowstack.core.imaging.letter_rows import in_rows
from hollowstack.core.measure.layout.outside import outside_of
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

_PPI = 120.0
_AWAY_MM = 4.0
"""So far from the outline its own shade and ragged sides end."""
_LEAST_SHARE = 0.03
"""Share of the image that lies outside, at least: less holds no line of text."""
_STROKE_MM = 4.0
"""No stroke of text is wider."""
_CONTRAST = 30
"""Gray values by which letters differ from the ground they stand on."""
_ALIKE = 25
"""The ground's own tone lies so near that of the surround; a neighbour's paper beyond a dark lid does not."""
_LOW_MM, _HIGH_MM = 0.9, 8.0
_NARROW_MM, _WIDE, _HOLLOW = 0.15, 8.0, 0.25
"""Least width, the widest in heights, and how much of its box a piece fills: words run together; a hair is thin."""
_SOLID = 0.92
"""Share of its box that a letter fills at most, if it is as wide as high; dust and patches fill more."""
_IN_A_ROW = 6
"""Letters in one row that no dust makes."""


def is_lettered(image: Raster, quad: Quad) -> bool:
    """Whether letters stand in a row on what surrounds an outline: then it is no lid, and nothing may be cut off there.

    A plate with its caption, a woodcut, a photograph mounted on the dark sheet of an album: the picture is as sharp an
    outline against its sheet as a page is against a lid.

    Args:
        image: As captured, gray or colour.
        quad: The outline, in its pixels.

    Source:
        Top-hat on both sides of the ground's tone (Serra 1982); rows of components. The figures are ours, set on drawn
        plates.
    """
    small = image.reduced(_PPI).gray()
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    outside = outside_of(quad, small, image, round(_AWAY_MM * px_mm))
    if outside.mean() < _LEAST_SHARE:
        return False
    gray = small.pixels
    tone = int(histogram_mode(as_pixels(gray[outside > 0]))[0])
    side = round(_STROKE_MM * px_mm) | 1
    kernel = np.ones((side, side), np.uint8)
    for closing in (cv2.MORPH_CLOSE, cv2.MORPH_OPEN):  # dark letters on light paper; light ones on dark paper
        ground = cv2.morphologyEx(gray, closing, kernel, borderType=cv2.BORDER_REPLICATE).astype(np.int16)
        ink = (np.abs(ground - gray) >= _CONTRAST) & (np.abs(ground - tone) <= _ALIKE) & (outside > 0)
        if _has_row(as_pixels(ink.astype(np.uint8)), px_mm):
            return True
    return False


def _has_row(ink: Pixels, px_mm: float) -> bool:
    _, _, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    left, top, wide, high, area = stats[1:].T.astype(np.float64)
    letter = (high >= _LOW_MM * px_mm) & (high <= _HIGH_MM * px_mm)
    letter &= (wide >= _NARROW_MM * px_mm) & (wide <= _WIDE * high)
    letter &= (wide <= high) | (area >= _HOLLOW * wide * high)
    letter &= (area <= _SOLID * wide * high) | (wide < 0.5 * high)
    if not letter.any():
        return False
    boxes = np.stack([left, top, left + wide, top + high], axis=1)[letter]
    return bool(in_rows(boxes, float(np.median(high[letter])), _IN_A_ROW))
