"""The paper behind the ink: its colour, and a page evened out so that bare paper is 1 everywhere."""

import math
from collections.abc import Iterator

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.paper_surface import SURFACE_PPI, fit_paper
from hollowstack.core.raster import BAND_ROWS, Pixels, Raster, as_pixels

Evened = npt.NDArray[np.float32]
PAPER_CODE = 230
"""Code that bare paper gets where a page is divided by it: leaves room above for grain."""
_DARKEST = (0.002, 0.0005)
_PALE, _THROUGH = 0.58, 0.86
"""Evened gray of a page's darkest pixels from which its writing is pale, and from which it is none."""
PALEST = 0.88
"""The lightest limit of ink; the back of a sheet shines through lighter."""
_LIMIT_MM, _LIMIT_PX_MM = 14.0, 3.0
"""Extent of what counts as nearby, and how fine it is looked at."""
_LIMIT_MARGIN = 0.02
"""How much darker than what shines through pale print is where it is looked for nearby: stains are as pale."""
_OF_PALE = 0.6
"""How far from paper to the darkest pixels the limit lies."""


def evened(page: Raster, paper: Pixels | None = None) -> Evened:
    """Gray divided by the local paper: about 1 on bare paper, near 0 in solid ink, whatever the light.

    Args:
        page: Gray, at 40 to 200 ppi; slower the finer.
        paper: Its paper, gray, over the same extent and of any size (``paper_surface``); None fits it here.

    Returns:
        float32, (rows, cols), 0 to 1.2.

    Source:
        Flat-field correction (common practice, no source).
    """
    return as_evened(page.pixels, paper_ground(page, paper))


def as_evened(gray: Pixels, ground: Pixels) -> Evened:
    """Gray over ground of the same shape, 0 to 1.2."""
    ratio = np.asarray(cv2.divide(gray, ground, dtype=cv2.CV_32F), dtype=np.float32)
    return np.minimum(ratio, np.float32(1.2), out=ratio)


def ink_limit(light: Evened, usual: float) -> float:
    """The evened gray below which a page has ink: ``usual``, or lighter where all of its writing is pale.

    Where the darkest five-hundredth of a page (on a nearly bare one, two-thousandth) is paler than writing usually is, and
    darker than what shines through from the other side, it is what the page has for ink; the limit then lies so near paper
    that most of its strokes are taken in.
    """
    few = light[::2, ::2].ravel()
    many, least = (int(share * (few.size - 1)) for share in _DARKEST)
    ordered = np.partition(few, (least, many))
    dark = float(ordered[many] if ordered[many] < _THROUGH else ordered[least])
    if not _PALE < dark < _THROUGH:
        return usual
    return max(usual, min(PALEST, 1 - _OF_PALE * (1 - dark)))


def local_ink_limit(light: Evened, px_mm: float, usual: float) -> Evened:
    """The evened gray below which there is ink, place by place: ``usual``, or lighter where all writing nearby is pale.

    A dark headline says nothing of pale print further down.
    """
    step = max(1, round(px_mm / _LIMIT_PX_MM))
    rows, cols = light.shape
    small = cv2.resize(light, (max(1, cols // step), max(1, rows // step)), interpolation=cv2.INTER_AREA)
    reach = max(3, round(_LIMIT_MM * px_mm / step) | 1)
    dark = cv2.erode(cv2.blur(small, (2, 2)), np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_REPLICATE)
    pale = (dark > _PALE) & (dark < _THROUGH - _LIMIT_MARGIN)
    limit = np.where(pale, np.clip(1 - _OF_PALE * (1 - dark), usual, PALEST), usual).astype(np.float32)
    return np.asarray(cv2.resize(limit, (cols, rows), interpolation=cv2.INTER_NEAREST), np.float32)


def over_paper(page: Raster, paper: Pixels | None = None) -> Pixels:
    """The page, gray or colour, divided by the local paper: uint8 of the same shape, ``PAPER_CODE`` on bare paper."""
    out = np.empty_like(page.pixels)
    for rows, ground in _ground_by_bands(page, paper):
        cv2.divide(page.pixels[rows], ground, dst=out[rows], scale=PAPER_CODE)
    return out


def paper_ground(page: Raster, paper: Pixels | None = None) -> Pixels:
    """The local paper at every pixel of a page, gray or colour; same shape, and nowhere too dark to divide by."""
    out = np.empty_like(page.pixels)
    for rows, ground in _ground_by_bands(page, paper):
        out[rows] = ground
    return out


def _ground_by_bands(page: Raster, paper: Pixels | None) -> Iterator[tuple[slice, Pixels]]:
    """The paper a few rows at a time: whole, it is as large as the page itself."""
    smooth = fit_paper(page).level if paper is None else paper
    factor = page.divisor(SURFACE_PPI)
    size = (max(1, page.width // factor), max(1, page.height // factor))
    if smooth.shape[1::-1] != size:
        smooth = as_pixels(cv2.resize(smooth, size, interpolation=cv2.INTER_LINEAR))
    if factor == 1:
        yield slice(0, page.height), smooth
        return
    around = cv2.copyMakeBorder(smooth, 1, 1, 1, 1, cv2.BORDER_REPLICATE)
    step = max(1, BAND_ROWS // factor)
    for first in range(0, math.ceil(page.height / factor), step):
        part = around[first : first + step + 2]
        large = cv2.resize(part, None, fx=factor, fy=factor, interpolation=cv2.INTER_LINEAR)
        rows = slice(first * factor, min(page.height, (first + step) * factor))
        # Rows and columns that a whole-number reduction leaves out go by the last ones it has.
        missing = (rows.stop - rows.start + factor - large.shape[0], page.width + factor - large.shape[1])
        if max(missing) > 0:
            large = cv2.copyMakeBorder(large, 0, max(0, missing[0]), 0, max(0, missing[1]), cv2.BORDER_REPLICATE)
        yield rows, as_pixels(large[factor : factor + rows.stop - rows.start, factor : factor + page.width])


def ranked(pixels: Pixels, share: float, where: Pixels | None = None) -> tuple[int, ...]:
    """The value of each channel at or below which a share (0 to 1) of the pixels lies; by counting, so fast on any size.

    Args:
        pixels: Any shape whose last axis is 3 for colour; everything else is one channel.
        share: 0.5 gives the (lower) median.
        where: Mask of the same rows and columns; pixels at which it is 0 do not count.
    """
    return tuple(int(np.searchsorted(count.cumsum(), share * count.sum())) for count in _counts(pixels, where))


def commonest(pixels: Pixels) -> tuple[int, ...]:
    """The commonest value of each channel, found on a smoothed histogram; on a written page, the paper's."""
    kernel = np.array([1, 2, 4, 6, 4, 2, 1])
    return tuple(int(np.convolve(count, kernel, mode="same").argmax()) for count in _counts(pixels))


def _counts(pixels: Pixels, where: Pixels | None = None) -> list[npt.NDArray[np.int64]]:
    """How often each of the 256 values occurs, channel by channel."""
    colour = pixels.ndim > 1 and pixels.shape[-1] == 3
    flat = np.ascontiguousarray(pixels).reshape(-1, 1, 3 if colour else 1)
    mask = None if where is None else np.ascontiguousarray(where).reshape(-1, 1)
    return [
        cv2.calcHist([flat], [channel], mask, [256], [0, 256]).ravel().astype(np.int64) for channel in range(flat.shape[2])
    ]
