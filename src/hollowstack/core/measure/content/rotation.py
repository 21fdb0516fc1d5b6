"""Which way is up: by the lines, by what letters stand on, and where that does not tell, by the OCR engine's model."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import cast

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.imaging.ink_limit import ink_limit
from hollowstack.core.measure.content.resolution import x_height
from hollowstack.core.measure.content.skew import Skew, refined_skew, rough_skew
from hollowstack.core.measure.content.upright_words import turn_by_words
from hollowstack.core.measure.content.writing import Points, Writing, find_writing
from hollowstack.core.ocr.engine import orientation_engine, set_page
from hollowstack.core.page.geometry import Turn
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

SURE_OF_TURN = 2.5
"""Confidence from which a turn is believed: the scale is that of the engine's own model."""
_SURE_OF_SHARPNESS = 0.14
"""How much more sharply letters must stand than hang. Latin letters and figures reach 0.17 and more, Greek and Cyrillic
only a few hundredths either way (measured on drawn pages); those are left to the engine's model."""
_AXIS = 1.25
"""How much further the lines of one axis must stand out than those of the other."""
_LEAST_LETTERS, _LEAST_LINE = 40, 4
_PPI, _ENLARGED_PPI = 200.0, 300.0
"""Reduced so that grain goes, then enlarged to the size of letters the model knows best: twice as sure as without."""
_INK = 0.74


@dataclass(frozen=True, slots=True)
class Orientation:
    """``turn`` clockwise makes the page upright; ``confidence`` from ``SURE_OF_TURN`` on is sure, 0 where nothing tells.

    ``tilt`` is that of the lines, whichever way they run: a quarter turn does not change it.
    """

    turn: Turn
    confidence: float
    skew: Skew
    lies: bool
    """Whether lines run down the page as it lies."""


def measure_orientation(page: Raster, writing: Writing | None = None, paper: Pixels | None = None) -> Orientation:
    """The clockwise quarter turn that makes a page upright.

    Lines of writing run across or down: the projection of ink tells. Within a line, letters stand on one height and reach
    up to several; so where the lower ends lie on a sharper line than the upper ones, the page is upright, and upside down
    where it is the other way round. That holds for Latin letters and for figures. Where the difference is too small, the
    engine's model is asked, and believed if it agrees about the axis; it is not asked where writing is so pale that its
    letters are in pieces, of which it is sure and wrong.

    Args:
        page: Gray, cut to its edges, any way up; its tilt may be up to 15 degrees.
        writing: What was found on it, where that is known already.
        paper: Its paper, of any size, where that is known already.

    Source:
        Projection: W. Postl, ICPR 1986. Stand against reach: after D. Bloomberg, G. Kopec and L. Dasari, Measuring
        document image skew and orientation, SPIE 2422 (1995), who count ascenders and descenders. The model:
        R. Unnikrishnan and R. Smith, Combined script and page orientation estimation using the Tesseract OCR engine,
        MOCR 2009.
    """
    found = writing or find_writing(page, paper)
    across, down = rough_skew(found.across, found.px_mm), rough_skew(found.down, found.px_mm)
    lies = down.peak_to_median > across.peak_to_median
    other = across if lies else down
    skew = refined_skew(found.down if lies else found.across, found.px_mm, down if lies else across)
    axis_sure = skew.peak_to_median >= _AXIS * max(other.peak_to_median, 1.0)
    baseline_sharpness = _baseline_sharpness(_turned(found.letters) if lies else found.letters, skew.degrees)
    turn, confidence = 0, 0.0
    if axis_sure and abs(baseline_sharpness) >= _SURE_OF_SHARPNESS:
        # Turned by 90 degrees counter-clockwise its lines run across; so that is its turn if letters then stand.
        turn = (270 if baseline_sharpness > 0 else 90) if lies else (0 if baseline_sharpness > 0 else 180)
        confidence = round(SURE_OF_TURN * abs(baseline_sharpness) / _SURE_OF_SHARPNESS, 2)
    elif not found.in_pieces:
        turn, confidence = _by_model(page, paper)
        if axis_sure and (turn % 180 == 90) != lies:
            turn, confidence = 0, 0.0
    if (turn or confidence < SURE_OF_TURN) and len(found.letters) >= _LEAST_LETTERS:
        turn, confidence = _as_read(page, found, (turn, confidence), lies if axis_sure else None)
    return Orientation(cast("Turn", turn if confidence else 0), confidence, skew, lies)


def _as_read(page: Raster, writing: Writing, known: tuple[int, float], lies: bool | None) -> tuple[int, float]:
    """What the engine reads has the last word where a page would be turned, or nothing has told yet.

    Figures stand as sharply on either end, titles in capitals too; most pages lie upright, so that this is seldom asked.
    """
    turns: tuple[Turn, ...] = (0, 90, 180, 270) if lies is None else (90, 270) if lies else (0, 180)
    turns = tuple(sorted(turns, key=lambda turn: turn != known[0]))
    height = x_height(writing, lies=bool(lies))
    turn, times = turn_by_words(page, writing, turns, height)
    if not times:
        return known
    return turn, round(max(SURE_OF_TURN, known[1] if turn == known[0] else 0.0), 2)


def _baseline_sharpness(letters: Points, skew: float) -> float:
    """How much more sharply letters stand than they hang, -1 to 1; 0 where there are too few to tell."""
    if len(letters) < _LEAST_LETTERS:
        return 0.0
    left, top, wide, high = letters.T
    usual = float(np.median(high))
    letter = (high > 0.55 * usual) & (high < 2.6 * usual) & (wide < 5 * high) & (high >= 4)
    if letter.sum() < _LEAST_LETTERS:
        return 0.0
    angle = np.radians(skew)
    middle = left[letter] + wide[letter] / 2
    upper = top[letter] * np.cos(angle) - middle * np.sin(angle)
    lower = upper + high[letter] * np.cos(angle)
    lines = _lines((upper + lower) / 2, middle, usual)
    near = max(1.0, 0.055 * usual)
    weight = total = 0.0
    for line in lines:
        if len(line) < _LEAST_LINE:
            continue
        ends = [float(np.mean(np.abs(end[line] - np.median(end[line])) <= near)) for end in (lower, upper)]
        total += len(line) * (ends[0] - ends[1])
        weight += len(line)
    return total / weight if weight >= _LEAST_LETTERS else 0.0


def _lines(at: npt.NDArray[np.float32], along: npt.NDArray[np.float32], usual: float) -> Iterator[npt.NDArray[np.int64]]:
    """Letters in lines: where no letter's middle lies for a while another begins, and where a gap is wide another column."""
    order = np.argsort(at, kind="stable")
    for line in np.split(order, np.flatnonzero(np.diff(at[order]) > 0.45 * usual) + 1):
        row = line[np.argsort(along[line], kind="stable")]
        yield from np.split(row, np.flatnonzero(np.diff(along[row]) > 3.0 * usual) + 1)


def _turned(boxes: Points) -> Points:
    """Boxes after a quarter turn counter-clockwise about the middle."""
    left, top, wide, high = boxes.T
    return np.column_stack([top, -left - wide, high, wide]).astype(np.float32)


def _by_model(page: Raster, paper: Pixels | None) -> tuple[int, float]:
    """Turn and confidence by the engine's orientation model."""
    small = page.reduced(_PPI)
    light = background_normalised(small, paper)
    even = as_pixels(np.clip(light * 200, 0, 255).astype(np.uint8))
    scale = _ENLARGED_PPI / small.scale_ppi[0]
    if scale > 1:
        even = as_pixels(cv2.resize(even, None, fx=scale, fy=scale, interpolation=cv2.INTER_CUBIC))
    _, two_tone = cv2.threshold(even, ink_limit(light, _INK) * 200, 255, cv2.THRESH_BINARY)
    engine = orientation_engine()
    set_page(engine, as_pixels(two_tone), _ENLARGED_PPI)
    try:
        found = engine.DetectOrientationScript()
    finally:
        engine.Clear()
    if not found or not found["orient_conf"] > 0:
        return 0, 0.0
    # The engine names the turn that the page has; what is wanted is the one that undoes it.
    return (360 - int(found["orient_deg"])) % 360, round(float(found["orient_conf"]), 2)
