"""How high small letters are in an image of unknown resolution: the scale by which everything else is measured."""

import math

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Raster, as_pixels

_WORK_PIXELS = 1.2e6
"""Enough for letters of A4 at 100 ppi."""
_WINDOW = 0.05
"""Share of the shorter side over which the light is taken for its surroundings'."""
_DEVIATIONS = 0.5
_OF_STRONGEST = 0.12
"""How much darker than its surroundings ink is: in deviations of those, and as a share of the strongest on the page."""
_FAINTEST = 6.0
_LEAST_PX = 4
_FEWEST = 40
_HIGHEST = 1 / 15
"""Share of the longer side that no letter of running text is higher than."""


def letter_height(image: Raster) -> float | None:
    """The commonest height of letters, in pixels of the image, whatever its resolution and whichever way it lies.

    Larger pieces count for more, as specks are many: by the square root of their height.

    Returns:
        None where there are too few pieces like letters, or they are too small to tell from specks.

    Source:
        Heights of connected components (common practice, no source), on a local threshold after W. Niblack, An
        Introduction to Digital Image Processing, 1986.
    """
    gray = image.gray().pixels
    factor = max(1, math.ceil(math.sqrt(gray.size / _WORK_PIXELS)))
    if factor > 1:
        size = (max(1, gray.shape[1] // factor), max(1, gray.shape[0] // factor))
        gray = as_pixels(cv2.resize(gray, size, interpolation=cv2.INTER_AREA))
    window = max(15, round(min(gray.shape) * _WINDOW) | 1)
    size = (window, window)
    mean = cv2.boxFilter(gray, cv2.CV_32F, size, borderType=cv2.BORDER_REFLECT)
    square = cv2.sqrBoxFilter(gray, cv2.CV_32F, size, borderType=cv2.BORDER_REFLECT)
    spread = cv2.sqrt(cv2.max(square - mean * mean, 0))
    below = cv2.subtract(mean, gray, dtype=cv2.CV_32F)
    strongest = float(np.percentile(below[::3, ::3], 99))
    ink = below > np.maximum(_DEVIATIONS * spread, max(_FAINTEST, _OF_STRONGEST * strongest))
    _, _, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    heights = stats[1:, cv2.CC_STAT_HEIGHT][like_letters(stats[1:], max(gray.shape))]
    if len(heights) < _FEWEST:
        return None
    logs = np.log(heights)
    count, edges = np.histogram(logs, np.arange(logs.min() - 0.1, logs.max() + 0.2, 0.05))
    middle = (edges[:-1] + edges[1:]) / 2
    smooth = np.convolve(count, [1, 2, 3, 2, 1], mode="same") * np.exp(middle / 2)
    return round(float(np.exp(middle[int(smooth.argmax())])) * factor, 1)


def like_letters(stats: npt.NDArray[np.int32], longest: int) -> npt.NDArray[np.bool_]:
    """Which connected pieces have the shape of letters.

    Args:
        stats: A row a piece, as OpenCV gives them.
        longest: The longer side of the image they are in.
    """
    wide, high, area = (stats[:, column] for column in (cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT, cv2.CC_STAT_AREA))
    letter = (high >= _LEAST_PX) & (wide >= _LEAST_PX // 2) & (wide < 3 * high) & (high < 4 * wide)
    return np.asarray(letter & (area > 0.2 * wide * high) & (high < _HIGHEST * longest), np.bool_)
