"""Where ink ends and paper begins in the tones of a page, and how heavy its grain is: by these it is put in two tones."""

from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.imaging.background import PAPER_CODE, over_paper
from hollowstack.core.imaging.noise import deviation, smoothed, smoothing_mm
from hollowstack.core.imaging.threshold import otsu
from hollowstack.core.page.geometry import Matrix
from hollowstack.core.page.raster import Pixels, Raster, as_pixels


class Tones(NamedTuple):
    """Of one page as captured."""

    ink_limit: float
    """Share of bare paper's light that parts ink from paper best."""
    gray_limit: int
    """Gray value of the image that parts dark from light best."""
    noise: float
    """Standard deviation of its grain, in gray values."""


def measure_tones(image: Raster, page: Raster, paper: Pixels, outline: Matrix, corner: tuple[int, int]) -> Tones:
    """Thresholds of a page by single pixels of the image, as the means of a reduction would blur them. Heavy grain is
    smoothed first, as it is before the page is put in two tones.

    Args:
        image: As captured.
        page: The page cut out of a reduction, gray.
        paper: The paper's light over it, of any size.
        outline: Of plain paper, in pixels of the reduction.
        corner: Left and top of ``page`` there.

    Source:
        ``core.imaging.threshold.otsu`` and ``core.imaging.noise.deviation``.
    """
    rows, cols = image.height // 4, image.width // 4
    middle = image.pixels[rows : image.height - rows, cols : image.width - cols]
    noise = deviation(Raster(np.ascontiguousarray(middle)).gray().pixels)
    factor = max(1, round(image.scale_ppi[0] / page.scale_ppi[0]))
    left, top = corner
    smooth_mm = smoothing_mm(noise)
    pixels = smoothed(image.gray(), smooth_mm) if smooth_mm else image.pixels
    there = pixels[top * factor :: factor, left * factor :: factor][: page.height, : page.width]
    sample = Raster(np.ascontiguousarray(there), page.ppi).gray()
    painted = np.zeros((page.height, page.width), np.uint8)
    cv2.fillConvexPoly(painted, np.rint(outline - corner).astype(np.int32), 1)
    inside = painted[: sample.height, : sample.width] > 0
    if not inside.any():
        inside[:] = True
    evened = over_paper(sample, paper)
    return Tones(
        ink_limit=round(otsu(as_pixels(evened[inside])) / PAPER_CODE, 3),
        gray_limit=round(otsu(as_pixels(sample.pixels[inside]))),
        noise=round(noise, 1),
    )
