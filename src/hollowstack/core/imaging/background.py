"""The paper behind the ink: its colour, and a page evened out so that bare paper is 1 everywhere."""

import math
from collections.abc import Iterator

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.paper_surface import SURFACE_PPI, fit_paper
from hollowstack.core.page.raster import BAND_ROWS, Pixels, Raster, as_pixels

Normalised = npt.NDArray[np.float32]
PAPER_CODE = 230
"""Code that bare paper gets where a page is divided by it: leaves room above for grain."""


def background_normalised(page: Raster, paper: Pixels | None = None) -> Normalised:
    """Gray divided by the local paper: about 1 on bare paper, near 0 in solid ink, whatever the light.

    Args:
        page: Gray, at 40 to 200 ppi; slower the finer.
        paper: Its paper, gray, over the same extent and of any size (``paper_surface``); None fits it here.

    Returns:
        float32, (rows, cols), 0 to 1.2.

    Source:
        Flat-field correction (common practice, no source).
    """
    return normalised_by(page.pixels, background_of(page, paper))


def normalised_by(gray: Pixels, background: Pixels) -> Normalised:
    """Gray over ground of the same shape, 0 to 1.2."""
    ratio = np.asarray(cv2.divide(gray, background, dtype=cv2.CV_32F), dtype=np.float32)
    return np.minimum(ratio, np.float32(1.2), out=ratio)


def over_paper(page: Raster, paper: Pixels | None = None) -> Pixels:
    """The page, gray or colour, divided by the local paper: uint8 of the same shape, ``PAPER_CODE`` on bare paper."""
    out = np.empty_like(page.pixels)
    for rows, background in _background_by_bands(page, paper):
        cv2.divide(page.pixels[rows], background, dst=out[rows], scale=PAPER_CODE)
    return out


def background_of(page: Raster, paper: Pixels | None = None) -> Pixels:
    """The local paper at every pixel of a page, gray or colour; same shape, and nowhere too dark to divide by."""
    out = np.empty_like(page.pixels)
    for rows, background in _background_by_bands(page, paper):
        out[rows] = background
    return out


def _background_by_bands(page: Raster, paper: Pixels | None) -> Iterator[tuple[slice, Pixels]]:
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
