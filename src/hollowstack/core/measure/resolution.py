"""The true resolution of a page: what the file says, held against paper sizes and the height of its letters."""

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from hollowstack.core.measure.ground import evened
from hollowstack.core.paper import nearest_size
from hollowstack.core.raster import Raster

_USUAL = (75, 100, 150, 200, 300, 400, 600, 1200)
"""Resolutions that devices are set to."""
_COMMON = ("A3", "A4", "A5", "A6", "B5", "Letter", "Legal")
"""Sizes that pages have; with more of them, some size would fit any page at some resolution."""
_X_HEIGHT_MM = (1.15, 3.3)
"""From print of 7 points to handwriting and headlines (common practice, no source)."""
_USUAL_X_HEIGHT_MM = 1.8
"""Typewriting and print of 10 to 12 points."""
_WITHIN = 0.012
_LEAST_LETTERS = 40
_INK = 0.7


@dataclass(frozen=True, slots=True)
class Resolution:
    """``ppi`` to reckon with, how sure that is (0 to 1), and on what it rests."""

    ppi: float
    confidence: float
    rests_on: Literal["file", "file and paper size", "paper size and letters", "paper size", "letters", "nothing"]
    x_height_px: float | None


def measure_resolution(page: Raster, said: float | None, assumed: float = 300.0) -> Resolution:
    """How many pixels an inch a page really has.

    What the file says stands where it makes the page a known size, or its letters as high as letters are. Where it says
    nothing, or what cannot be (72 for a page of letters an inch high), the usual resolution that makes both fit is taken.

    Args:
        page: Gray, upright, cut to its edges, in full resolution.
        said: What the file says, of both axes the mean; None where it says nothing.
        assumed: Where nothing can be told.
    """
    letters = x_height(page)
    if said is not None:
        if _fits_paper(page, said) and _letters_fit(letters, said) is not False:
            return Resolution(said, 0.98, "file and paper size", letters)
        if _letters_fit(letters, said):
            return Resolution(said, 0.85, "file", letters)
    known = [ppi for ppi in _USUAL if _fits_paper(page, ppi)]
    with_letters = [ppi for ppi in known if _letters_fit(letters, ppi)]
    if with_letters and letters is not None:
        best = min(with_letters, key=lambda ppi: _apart(letters, ppi))
        return Resolution(float(best), 0.9 if len(with_letters) == 1 else 0.75, "paper size and letters", letters)
    if letters is None and said is not None:
        return Resolution(said, 0.6, "file", None)
    if known and letters is None:
        return Resolution(float(min(known, key=lambda ppi: abs(math.log(ppi / assumed)))), 0.5, "paper size", None)
    if letters is not None:
        best = min(_USUAL, key=lambda ppi: _apart(letters, ppi))
        return Resolution(float(best), 0.45, "letters", letters)
    return Resolution(said or assumed, 0.2, "nothing", None)


def x_height(page: Raster) -> float | None:
    """The commonest height of letters, in pixels: that of letters without strokes up or down; None where there are few.

    Source:
        Heights of connected components (after Nagy 1968 and later practice); two in three letters of running text have
        neither ascender nor descender.
    """
    light = evened(Raster(page.pixels, None) if page.ppi is None else page)
    _, _, stats, _ = cv2.connectedComponentsWithStats((light < _INK).astype(np.uint8), connectivity=8)
    high, wide, area = stats[1:, cv2.CC_STAT_HEIGHT], stats[1:, cv2.CC_STAT_WIDTH], stats[1:, cv2.CC_STAT_AREA]
    letter = (high >= 5) & (wide >= 3) & (wide < 3 * high) & (high < 4 * wide) & (area > 0.12 * high * wide)
    heights = high[letter & (high < page.height / 12)]
    if len(heights) < _LEAST_LETTERS:
        return None
    # On a scale of equal shares, so that a peak is as wide at 10 pixels as at 60.
    logs = np.log(heights)
    bins = np.arange(logs.min() - 0.1, logs.max() + 0.2, 0.05)
    count, edges = np.histogram(logs, bins)
    smooth = np.convolve(count, [1, 2, 3, 2, 1], mode="same")
    peak = int(smooth.argmax())
    return round(float(np.exp((edges[peak] + edges[peak + 1]) / 2)), 1)


def _fits_paper(page: Raster, ppi: float) -> bool:
    size = nearest_size(page.width / ppi * 25.4, page.height / ppi * 25.4, _WITHIN)
    return size is not None and size.name in _COMMON


def _letters_fit(letters: float | None, ppi: float) -> bool | None:
    if letters is None:
        return None
    return _X_HEIGHT_MM[0] <= letters / ppi * 25.4 <= _X_HEIGHT_MM[1]


def _apart(letters: float, ppi: float) -> float:
    return abs(math.log(letters / ppi * 25.4 / _USUAL_X_HEIGHT_MM))
