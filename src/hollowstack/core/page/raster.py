"""The page image that every stage hands on: pixels with their scale on paper.

Conventions, stated once for the whole project: row 0 is the top edge; x grows to the right, y downwards; a point
is (x, y) with pixel centres at +0.5, so an image covers [0, width] x [0, height]; gray runs from 0 (black) to
255 (white), sRGB-encoded; angles are in degrees, clockwise as seen.
"""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

Pixels = npt.NDArray[np.uint8]
MM_PER_INCH = 25.4
ASSUMED_PPI = 300.0
"""Where a file does not say: the everyday archive choice (common practice, no source)."""

BAND_ROWS = 64
"""Rows of a large image worked on at once, which stay in the processor's cache."""


@dataclass(frozen=True, slots=True)
class Raster:
    """uint8 pixels in sRGB, (rows, cols) gray or (rows, cols, 3) RGB; ``ppi`` (x, y), None where unknown.

    ``stretch`` says by what factor a file's pixels were made longer across and down so that they are square.
    """

    pixels: Pixels
    ppi: tuple[float, float] | None = None
    stretch: tuple[float, float] = (1.0, 1.0)

    def __post_init__(self) -> None:
        shape = self.pixels.shape
        if self.pixels.dtype != np.uint8 or not (len(shape) == 2 or (len(shape) == 3 and shape[2] == 3)):
            raise ValueError(f"pixels must be uint8, (rows, cols) or (rows, cols, 3); got {self.pixels.dtype} {shape}")

    @property
    def width(self) -> int:
        """Columns."""
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        """Rows."""
        return int(self.pixels.shape[0])

    @property
    def is_gray(self) -> bool:
        """Whether there is one value a pixel."""
        return self.pixels.ndim == 2

    @property
    def scale_ppi(self) -> tuple[float, float]:
        """The resolution to reckon with: the file's, or 300 ppi where it says nothing."""
        return self.ppi or (ASSUMED_PPI, ASSUMED_PPI)

    def px(self, mm: float) -> int:
        """Length on paper, in whole pixels (of the mean resolution of both axes)."""
        x, y = self.scale_ppi
        return round(mm * (x + y) / 2 / MM_PER_INCH)

    def gray(self) -> "Raster":
        """The same page in gray, by the luma weights of ITU-R BT.601."""
        return self if self.is_gray else Raster(as_pixels(cv2.cvtColor(self.pixels, cv2.COLOR_RGB2GRAY)), self.ppi)

    def reduced(self, ppi: float) -> "Raster":
        """At most ``ppi`` on both axes, by area averaging; never enlarged, square pixels where it shrinks both."""
        x, y = self.scale_ppi
        fx, fy = min(1.0, ppi / x), min(1.0, ppi / y)
        if fx == fy == 1.0:
            return Raster(self.pixels, (x, y))
        size = (max(1, round(self.width * fx)), max(1, round(self.height * fy)))
        small = as_pixels(cv2.resize(self.pixels, size, interpolation=cv2.INTER_AREA))
        return Raster(small, (x * size[0] / self.width, y * size[1] / self.height))

    def divisor(self, ppi: float) -> int:
        """The greatest whole factor that reduces it to no less than ``ppi``."""
        return max(1, int(min(self.scale_ppi) / ppi + 1e-6))

    def downsampled(self, ppi: float) -> "Raster":
        """Reduced by a whole factor on both axes, to no less than ``ppi``: many times as fast as by any other factor."""
        factor = self.divisor(ppi)
        if factor == 1:
            return Raster(self.pixels, self.scale_ppi)
        size = (max(1, self.width // factor), max(1, self.height // factor))
        whole = self.pixels[: size[1] * factor, : size[0] * factor]
        small = as_pixels(cv2.resize(whole, size, interpolation=cv2.INTER_AREA))
        return Raster(small, (self.scale_ppi[0] / factor, self.scale_ppi[1] / factor))


def is_two_valued(pixels: Pixels) -> bool:
    """Whether gray pixels have no more than two values, wherever those lie: two tones as a scanner or a fax makes them."""
    return pixels.ndim == 2 and int(np.count_nonzero(cv2.calcHist([pixels], [0], None, [256], [0, 256]))) <= 2


def paint(pixels: Pixels, where: Pixels, value: tuple[int, ...]) -> None:
    """Set the pixels at which a mask of the same size is not 0, in place; by bands, many times as fast as by index."""
    band = np.empty((min(BAND_ROWS, len(pixels)), *pixels.shape[1:]), np.uint8)
    band[:] = value if pixels.ndim == 3 else value[0]
    for top in range(0, len(pixels), BAND_ROWS):
        part = pixels[top : top + BAND_ROWS]
        cv2.copyTo(band[: len(part)], where[top : top + BAND_ROWS], part)


def as_pixels(array: object) -> Pixels:
    """An array as uint8 pixels without a copy where it is so already; for results of untyped libraries."""
    return np.asarray(array, dtype=np.uint8)
