"""The one resampling of a page."""

import cv2
import numpy as np

from hollowstack.core.geometry import Quad, Transform
from hollowstack.core.raster import Pixels, as_pixels

_BAND = 4096
"""Rows and columns resampled at once: OpenCV's coordinates end at 32,767, and memory stays bounded."""
_REACH = 4
"""Source pixels a cubic kernel may ask for beyond the band's own outline."""


def warp(pixels: Pixels, quad: Quad, size: tuple[int, int], fill: tuple[int, ...]) -> Pixels:
    """The quadrilateral of an image as an upright image of the given size; bicubic (Keys 1981, by OpenCV).

    A whole-pixel cut or quarter turn of a page is copied exactly, without resampling.

    Args:
        pixels: uint8, (rows, cols) or (rows, cols, 3).
        quad: Corners in output order, pixel centres at +0.5.
        size: Width and height of the result.
        fill: Value of what lies outside the image, one a channel.
    """
    exact = _exact(pixels, quad, size)
    if exact is not None:
        return exact
    width, height = size
    to_source = Transform.onto(quad, width, height).inverse()
    out = np.empty((height, width, *pixels.shape[2:]), np.uint8)
    for top in range(0, height, _BAND):
        for left in range(0, width, _BAND):
            bottom, right = min(height, top + _BAND), min(width, left + _BAND)
            out[top:bottom, left:right] = _band(pixels, to_source, (left, top, right, bottom), fill)
    return out


def _band(pixels: Pixels, to_source: Transform, box: tuple[int, int, int, int], fill: tuple[int, ...]) -> Pixels:
    left, top, right, bottom = box
    needed = to_source.apply([(left, top), (right, top), (right, bottom), (left, bottom)])
    rows, cols = pixels.shape[:2]
    x0, y0 = np.clip(np.floor(needed.min(axis=0)).astype(int) - _REACH, 0, (cols, rows))
    x1, y1 = np.clip(np.ceil(needed.max(axis=0)).astype(int) + _REACH, 0, (cols, rows))
    value = fill if len(fill) > 1 else fill[0]
    if x0 >= x1 or y0 >= y1:
        return np.full((bottom - top, right - left, *pixels.shape[2:]), value, np.uint8)
    # OpenCV counts from pixel centres, we from pixel corners.
    half_in = np.array([[1, 0, left + 0.5], [0, 1, top + 0.5], [0, 0, 1]])
    half_out = np.array([[1, 0, -x0 - 0.5], [0, 1, -y0 - 0.5], [0, 0, 1]])
    return as_pixels(
        cv2.warpPerspective(
            pixels[y0:y1, x0:x1],
            half_out @ to_source.matrix @ half_in,
            (right - left, bottom - top),
            flags=cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_CONSTANT,
            borderValue=[float(v) for v in fill],
        )
    )


def _exact(pixels: Pixels, quad: Quad, size: tuple[int, int]) -> Pixels | None:
    """The result where it is a whole-pixel cut and quarter turn of the image; None otherwise."""
    corners = quad.array()
    whole = np.rint(corners)
    if np.abs(corners - whole).max() > 1e-3:
        return None
    (left, top), (right, bottom) = whole.min(axis=0).astype(int), whole.max(axis=0).astype(int)
    if left < 0 or top < 0 or right > pixels.shape[1] or bottom > pixels.shape[0]:
        return None
    part = pixels[top:bottom, left:right]
    for quarter in range(4):
        w, h = (right - left, bottom - top) if quarter % 2 == 0 else (bottom - top, right - left)
        ring = np.array([(left, top), (right, top), (right, bottom), (left, bottom)])
        # After a clockwise quarter turn the output's top-left was the source's bottom-left.
        if (w, h) == size and np.array_equal(np.roll(ring, quarter, axis=0), whole):
            return np.ascontiguousarray(np.rot90(part, -quarter))
    return None
