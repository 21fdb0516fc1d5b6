"""The grain of an image: how heavy it is, and smoothing it."""

import cv2
import numpy as np

from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

_APART = 7
"""Rows and columns between two places at which grain is measured: not 8, where JPEG has its blocks."""


_FINE = 16.0
"""Deviation of grain, in gray values, up to which no threshold makes specks of it."""
_SMOOTH_MM = 0.002
"""How far heavier grain is smoothed, for each gray value of its deviation: no more than it asks for, as thin strokes go."""
_MOST_SMOOTH_MM = 0.12


def smoothing_mm(noise: float) -> float:
    """How far grain is smoothed, in mm, so that it does not come out of a threshold as specks.

    Args:
        noise: Its deviation in gray values.

    Source:
        Common practice, no source; measured on drawn pages.
    """
    return round(min(_SMOOTH_MM * noise, _MOST_SMOOTH_MM), 3) if noise > _FINE else 0.0


def deviation(pixels: Pixels) -> float:
    """Standard deviation of the noise of a gray image, in gray values; 0 where it has fewer than 3 rows or columns.

    Source:
        J. Immerkær, Fast noise variance estimation, Computer Vision and Image Understanding 64 (1996), with the median for
        the mean, so that what is written does not count, and at some rows and columns only.
    """
    down = _second_difference(pixels)
    # The difference of two Laplacians, blind to slopes and edges that run straight.
    response = _second_difference(down.T)
    return float(np.median(np.abs(response))) / (0.6745 * 6) if response.size else 0.0


def smoothed(page: Raster, mm: float) -> Pixels:
    """The page after a Gaussian of that deviation, in mm on the page."""
    across, down = (mm * ppi / MM_PER_INCH for ppi in page.scale_ppi)
    return as_pixels(cv2.GaussianBlur(page.pixels, (0, 0), across, sigmaY=down))


def _second_difference(values: np.ndarray) -> np.ndarray:
    """Down the rows."""
    last = len(values) - 2
    if last < 1:
        return np.empty((0, 0), np.int16)
    above, here, below = (values[start : last + start : _APART].astype(np.int16) for start in (0, 1, 2))
    return np.asarray(above - 2 * here + below)
