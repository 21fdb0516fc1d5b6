"""Which pixels of a page are ink: darker than halfway between the paper around them and the darkest that is near."""

import cv2
import numpy as np

from hollowstack.core.imaging.noise import deviation
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, as_pixels

_GRID_PPI = 75.0
"""Resolution at which paper and ink are looked for."""
_PAPER_MM, _NEAR_MM = 10.0, 1.6
"""Nothing that is ink is as wide; so near are the darkest pixels that ink goes by."""
_LEAST, _OF_GRAIN = 28.0, 5.0
"""By so many gray values, and so many times the grain of the paper, ink is darker than that."""
_HALF = 0.5
_AROUND_MM, _THIN, _FAINT = 0.75, 0.15, 0.25
"""A hairline is darker than what lies so near, and than the paper, by such shares of the contrast: seldom is it as dark as
the strokes beside it."""


def find_ink(page: Pixels, ppi: float) -> Pixels:
    """1 where there is ink.

    Args:
        page: (height, width, channels); paper is lighter than ink.
        ppi: Its resolution.

    Source:
        A threshold halfway between local background and foreground, as in J. Bernsen, Dynamic thresholding of grey-level
        images, ICPR 1986 (from memory); background by closing.
    """
    dark = as_pixels(page[:, :, 0] if page.shape[2] == 1 else cv2.cvtColor(page, cv2.COLOR_RGB2GRAY))
    height, width = dark.shape
    step = max(1, round(ppi / _GRID_PPI))
    grid = (max(1, width // step), max(1, height // step))
    mm = ppi / step / MM_PER_INCH
    light = cv2.morphologyEx(cv2.resize(dark, grid, interpolation=cv2.INTER_AREA), cv2.MORPH_CLOSE, _disc(_PAPER_MM * mm))
    paper = cv2.GaussianBlur(light, (0, 0), max(0.5, mm)).astype(np.float32)
    lowest = cv2.erode(dark, np.ones((step + 2, step + 2), np.uint8))
    darkest = cv2.erode(cv2.resize(lowest, grid, interpolation=cv2.INTER_NEAREST), _disc(_NEAR_MM * mm))
    ink = cv2.GaussianBlur(darkest, (0, 0), max(0.5, _NEAR_MM * mm / 2)).astype(np.float32)
    contrast = paper - ink
    least = max(_LEAST, _OF_GRAIN * deviation(dark))
    enough = contrast > least

    def level(share: float) -> Pixels:
        below = np.where(enough, np.maximum(paper - np.maximum(contrast * share, 0.9 * least), 0), 0).astype(np.uint8)
        return as_pixels(cv2.resize(below, (width, height), interpolation=cv2.INTER_LINEAR))

    strokes = dark < level(_HALF)
    side = max(3, round(_AROUND_MM * ppi / MM_PER_INCH) | 1)
    around = cv2.subtract(cv2.blur(dark, (side, side)), dark)
    by = np.where(enough, contrast * _THIN, 255).astype(np.uint8)
    thin = cv2.resize(by, (width, height), interpolation=cv2.INTER_LINEAR)
    hairs = (around > thin) & (dark < level(_FAINT))
    return as_pixels((strokes | hairs).astype(np.uint8))


def _disc(across: float) -> Pixels:
    size = max(3, round(across) | 1)
    return as_pixels(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
