"""How dark paper and ink are around each place of a page."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.noise import deviation
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, as_pixels

_GRID_PPI = 75.0
"""Resolution at which paper and ink are looked for."""
_PAPER_MM, _NEAR_MM = 10.0, 1.6
"""Nothing that is ink is as wide; so near are the darkest pixels that ink goes by."""
_LEAST, _OF_GRAIN = 28.0, 5.0
"""By so many gray values, and so many times the grain of the paper, ink is darker than that."""


class Levels(NamedTuple):
    """A gray page; its paper, and by how many gray values the ink near by is darker, both on a coarse grid."""

    dark: Pixels
    paper: npt.NDArray[np.float32]
    contrast: npt.NDArray[np.float32]
    least: float
    """By so much ink is darker, wherever there is any."""
    ppi: float

    @property
    def enough(self) -> npt.NDArray[np.bool_]:
        """Where there may be ink, on the grid."""
        return self.contrast > self.least

    def below_paper(self, darker: npt.NDArray[np.float32]) -> Pixels:
        """The paper less so much, given on the grid, over the page; 0, which nothing is below, where there is no ink."""
        values = np.where(self.enough, np.maximum(self.paper - darker, 0), 0)
        return self.over_page(values.astype(np.uint8))

    def over_page(self, grid: Pixels) -> Pixels:
        """Values on the grid, brought over the page."""
        height, width = self.dark.shape
        return as_pixels(cv2.resize(grid, (width, height), interpolation=cv2.INTER_LINEAR))


def find_levels(page: Pixels, ppi: float) -> Levels:
    """Paper, by closing, and the darkest that is near.

    Args:
        page: (height, width, channels); paper is lighter than ink.
        ppi: Its resolution.

    Source:
        Local background and foreground as in J. Bernsen, Dynamic thresholding of grey-level images, ICPR 1986 (from memory);
        background by closing.
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
    return Levels(dark, paper, paper - ink, max(_LEAST, _OF_GRAIN * deviation(dark)), ppi)


def _disc(across: float) -> Pixels:
    size = max(3, round(across) | 1)
    return as_pixels(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
