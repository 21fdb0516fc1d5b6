"""A page without its grain, in which the OCR engine would lose its letters."""

import cv2
import numpy as np

from hollowstack.core.imaging.noise import deviation, smoothed
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

_NOISE_MM = 0.1
"""Deviation of the Gaussian that smooths a page: a quarter of a typewriter's stroke."""
_FINE = 8.0
"""Deviation of bare paper, in gray values, up to which smoothing is enough."""
_SPREAD = 3.0
"""Deviations of what grain is left that are taken to be paper."""
_LEAST_WHITE = 0.7
"""Share of the paper's tone that is never taken for grain, however coarse the pixels."""
_LEAST_PAPER = 160
"""Paper as dark as this may be none."""


def denoised(page: Raster) -> Pixels:
    """A gray page smoothed; in heavy grain, all that grain may be is made as light as paper.

    The engine takes one threshold for a page: where little is written on much grainy paper it falls amid the grain.

    Args:
        page: Clean, gray.

    Returns:
        As large as the page.
    """
    smooth = smoothed(page, _NOISE_MM)
    noise = deviation(page.pixels)
    if noise <= _FINE:
        return smooth
    paper = _paper(smooth)
    if paper < _LEAST_PAPER:
        return smooth
    across, down = (_NOISE_MM * ppi / MM_PER_INCH for ppi in page.scale_ppi)
    left = noise / (2 * np.sqrt(np.pi * max(across, 0.3) * max(down, 0.3)))
    scale = np.arange(256) * 255 / max(paper - _SPREAD * left, _LEAST_WHITE * paper)
    return as_pixels(cv2.LUT(smooth, np.clip(scale, 0, 255).astype(np.uint8)))


def _paper(pixels: Pixels) -> int:
    """The commonest value of the lighter half."""
    counts = cv2.calcHist([pixels], [0], None, [256], [0, 256]).ravel()
    return 128 + int(np.convolve(counts, np.ones(9), "same")[128:].argmax())
