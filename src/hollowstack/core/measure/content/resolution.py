"""The true resolution of a page: what the file says, held against paper sizes and the height of its letters."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from hollowstack.core.measure.content.writing import Writing
from hollowstack.core.page.paper_sizes import nearest_size

_USUAL = (75, 100, 150, 200, 300, 400, 600, 1200)
"""Resolutions that devices are set to."""
_COMMON = ("A3", "A4", "A5", "A6", "B5", "Letter", "Legal")
"""Sizes that pages have; with more of them, some size would fit any page at some resolution."""
_X_HEIGHT_MM = (1.15, 3.3)
"""From print of 7 points to handwriting and headlines (common practice, no source)."""
_POSSIBLE_MM = (0.6, 7.0)
"""From footnotes to the largest handwriting; beyond it, a stated resolution cannot be right."""
_SET_ON_PURPOSE = 100.0
_USUAL_X_HEIGHT_MM = 1.8
"""Typewriting and print of 10 to 12 points."""
_USUAL_LENGTH_MM = 250.0
"""Between an octavo's and A4's."""
_WITHIN = 0.012
_LEAST_LETTERS = 40


@dataclass(frozen=True, slots=True)
class Resolution:
    """``ppi`` to reckon with, how sure that is (0 to 1), and on what it rests."""

    ppi: float
    confidence: float
    rests_on: Literal["file", "file and paper size", "paper size and letters", "paper size", "letters", "nothing"]


def measure_resolution(
    size_px: tuple[float, float], letters: float | None, said: float | None, assumed: float = 300.0
) -> Resolution:
    """How many pixels an inch a page really has.

    What the file says stands where it makes the page a known size, or its letters as high as letters are. Where it says
    nothing, or what cannot be (72 for a page of letters an inch high), the usual resolution that makes both fit is taken.

    Args:
        size_px: The page's sides, in either order.
        letters: Height of its small letters in pixels; None where there are too few to tell.
        said: What the file says; None where it says nothing.
        assumed: Where nothing can be told.
    """
    if said is not None:
        possible = _letters_fit(letters, said, _POSSIBLE_MM) is not False
        if _fits_paper(size_px, said) and possible:
            return Resolution(said, 0.98, "file and paper size")
        # A resolution that no device is set to, but programs write where they know none, has to prove itself.
        if _letters_fit(letters, said) or (said >= _SET_ON_PURPOSE and possible and letters is not None):
            return Resolution(said, 0.85, "file")
    known = [ppi for ppi in _USUAL if _fits_paper(size_px, ppi)]
    with_letters = [ppi for ppi in known if _letters_fit(letters, ppi)]
    if with_letters and letters is not None:
        best = min(with_letters, key=lambda ppi: _apart(letters, ppi))
        return Resolution(float(best), 0.9 if len(with_letters) == 1 else 0.75, "paper size and letters")
    if letters is None and said is not None:
        return Resolution(said, 0.6, "file")
    if known and letters is None:
        return Resolution(float(min(known, key=lambda ppi: abs(math.log(ppi / assumed)))), 0.5, "paper size")
    if letters is not None:
        best = min(_USUAL, key=lambda ppi: _apart(letters, ppi))
        return Resolution(float(best), 0.45, "letters")
    if said is not None:
        return Resolution(said, 0.2, "nothing")
    # Neither letters nor a size that is known: the usual resolution that makes it as long as a book or a letter is, but no
    # finer than the everyday one.
    likely = min(_USUAL, key=lambda ppi: abs(math.log(max(size_px) / ppi * 25.4 / _USUAL_LENGTH_MM)))
    return Resolution(float(min(assumed, likely)), 0.2, "nothing")


def x_height(writing: Writing, *, lies: bool = False) -> float | None:
    """The commonest height of letters, in pixels of the page: that of letters without strokes up or down.

    Args:
        writing: What was found on the page.
        lies: Whether its lines run down the page.

    Returns:
        None where there are too few letters to tell.

    Source:
        Heights of connected components (common practice, no source); two in three letters of running text have neither
        ascender nor descender.
    """
    wide, high = (writing.letters[:, 3], writing.letters[:, 2]) if lies else (writing.letters[:, 2], writing.letters[:, 3])
    heights = high[(high >= 4) & (wide >= 3) & (wide < 3 * high) & (high < 4 * wide)]
    if len(heights) < _LEAST_LETTERS:
        return None
    # On a scale of equal shares, so that a peak is as wide at 10 pixels as at 60.
    logs = np.log(heights)
    count, edges = np.histogram(logs, np.arange(logs.min() - 0.1, logs.max() + 0.2, 0.05))
    smooth = np.convolve(count, [1, 2, 3, 2, 1], mode="same")
    peak = int(smooth.argmax())
    return round(float(np.exp((edges[peak] + edges[peak + 1]) / 2)) * writing.scale, 1)


def _fits_paper(size_px: tuple[float, float], ppi: float) -> bool:
    size = nearest_size(size_px[0] / ppi * 25.4, size_px[1] / ppi * 25.4, _WITHIN)
    return size is not None and size.name in _COMMON


def _letters_fit(letters: float | None, ppi: float, range_mm: tuple[float, float] = _X_HEIGHT_MM) -> bool | None:
    if letters is None:
        return None
    return range_mm[0] <= letters / ppi * 25.4 <= range_mm[1]


def _apart(letters: float, ppi: float) -> float:
    return abs(math.log(letters / ppi * 25.4 / _USUAL_X_HEIGHT_MM))
