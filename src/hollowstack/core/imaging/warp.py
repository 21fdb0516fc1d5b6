"""The one resampling of a page."""

import math

import cv2
import numpy as np

from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels

_BAND = 2048
"""Rows and columns resampled at once: OpenCV's coordinates end at 32,767, and memory stays bounded."""
_REACH = 4
"""Source pixels a cubic kernel may ask for beyond the band's own outline."""
_FLAT = 5e-6
"""Share by which the scale may change across a band for that to be no perspective: less than a fiftieth of a pixel."""
_SHRINKS = 1.25
"""Source pixels for one of the output, from which a cubic kernel would pass over some of them."""


def warp(pixels: Pixels, quad: Quad, size: tuple[int, int], fill: tuple[int, ...]) -> Pixels:
    """The quadrilateral of an image as an upright image of the given size.

    Cubic convolution after Keys 1981, by OpenCV, whose parameter a is −0.75 (Keys's own, −0.5, is softer). Where the image
    shrinks, the mean over the area that each output pixel covers. A whole-pixel cut or quarter turn of a page is copied
    exactly, without resampling.

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
    fine = _samples(quad, size)
    band = _BAND // fine
    out = np.empty((height, width, *pixels.shape[2:]), np.uint8)
    for top in range(0, height, band):
        for left in range(0, width, band):
            box = (left, top, min(width, left + band), min(height, top + band))
            place = out[top : box[3], left : box[2]]
            if fine == 1:
                _sample(pixels, to_source, box, fill, fine, place)
                continue
            wide, high = (box[2] - left) * fine, (box[3] - top) * fine
            part = np.empty((high, wide, *pixels.shape[2:]), np.uint8)
            _sample(pixels, to_source, box, fill, fine, part)
            cv2.resize(part, place.shape[1::-1], dst=place, interpolation=cv2.INTER_AREA)
    return out


def _samples(quad: Quad, size: tuple[int, int]) -> int:
    """How many places across and down each output pixel is the mean of: as many as it covers source pixels."""
    a, b, c, d = quad
    across, down = (math.dist(a, b) + math.dist(d, c)) / 2 / size[0], (math.dist(a, d) + math.dist(b, c)) / 2 / size[1]
    shrink = max(across, down)
    return 1 if shrink < _SHRINKS else math.ceil(shrink)


def _sample(
    pixels: Pixels, to_source: Transform, box: tuple[int, int, int, int], fill: tuple[int, ...], fine: int, out: Pixels
) -> None:
    """One part of the output, ``fine`` times as large as it will be, into ``out``."""
    left, top, right, bottom = box
    needed = to_source.apply([(left, top), (right, top), (right, bottom), (left, bottom)])
    rows, cols = pixels.shape[:2]
    x0, y0 = np.clip(np.floor(needed.min(axis=0)).astype(int) - _REACH, 0, (cols, rows))
    x1, y1 = np.clip(np.ceil(needed.max(axis=0)).astype(int) + _REACH, 0, (cols, rows))
    if x0 >= x1 or y0 >= y1:
        out[:] = fill if len(fill) > 1 else fill[0]
        return
    high, wide = out.shape[:2]
    # OpenCV counts from pixel centres, we from pixel corners.
    half_in = np.array([[1 / fine, 0, left + 0.5 / fine], [0, 1 / fine, top + 0.5 / fine], [0, 0, 1]])
    half_out = np.array([[1, 0, -x0 - 0.5], [0, 1, -y0 - 0.5], [0, 0, 1]])
    matrix = half_out @ to_source.matrix @ half_in
    # A page that is only turned, moved and scaled needs no division at every pixel, which is most of a warp's time.
    flat = bool(np.abs(matrix[2, :2]).max() * max(wide, high) < _FLAT * abs(matrix[2, 2]))
    apply, matrix = (cv2.warpAffine, matrix[:2] / matrix[2, 2]) if flat else (cv2.warpPerspective, matrix)
    apply(
        pixels[y0:y1, x0:x1],
        matrix,
        (wide, high),
        dst=out,
        flags=(cv2.INTER_CUBIC if fine == 1 else cv2.INTER_LINEAR) | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=[float(v) for v in fill],
    )


def _exact(pixels: Pixels, quad: Quad, size: tuple[int, int]) -> Pixels | None:
    """The result where it is a whole-pixel cut and quarter turn of the image, or a reduction of that; None otherwise."""
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
        if not np.array_equal(np.roll(ring, quarter, axis=0), whole):
            continue
        if (w, h) == size:
            return np.ascontiguousarray(np.rot90(part, -quarter))
        if w > _SHRINKS * size[0] and h > _SHRINKS * size[1]:
            small = cv2.resize(part, size if quarter % 2 == 0 else size[::-1], interpolation=cv2.INTER_AREA)
            return np.ascontiguousarray(np.rot90(small, -quarter))
    return None
