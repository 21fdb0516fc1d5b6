"""Which way is up by what the OCR engine reads: the turn in which it finds words and is sure of them."""

from collections.abc import Sequence

import cv2
import numpy as np
import tesserocr

from hollowstack.core.measure.content.writing import Writing
from hollowstack.core.ocr.engine import set_page, text_engine
from hollowstack.core.page.geometry import Turn
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

_LANGUAGE = "eng"
"""Letters are what counts here, not words: a model for one Latin script finds them in all."""
_SURE_WORD = 70.0
"""Confidence from which a word is believed."""
_LEAST_LETTERS = 3
_ENOUGH = 14.0
"""Letters in believed words, weighed by how sure they are, from which the turn with most of them is right."""
_PLENTY = 90.0
"""As many are read in no other turn: the rest need not be tried."""
_TIMES = 2.2
"""How many times as many they are as in the next turn."""
_PART_MM = 100.0
"""Side of the part of a page that is read: a few lines are enough."""
_X_HEIGHT_PX = 20.0
"""Height that small letters are brought to; the engine's models were trained on about that."""
_MOST_PX = 950


def turn_by_words(page: Raster, writing: Writing, turns: Sequence[Turn], x_height_px: float | None) -> tuple[Turn, float]:
    """The one of some turns in which words are read.

    Args:
        page: Gray, cut to its edges.
        writing: Its letters: where most of them stand is read.
        turns: Clockwise turns to try, the likeliest first.
        x_height_px: Height of small letters in pixels of ``page``; None where it is not known.

    Returns:
        The turn, and how many times as much was read in it as in the next, capped at 10; (0, 0) where none can be told.

    Source:
        R. Smith, An overview of the Tesseract OCR engine, ICDAR 2007; the comparison is ours.
    """
    part = _part(page, writing)
    scale = float(np.clip(_X_HEIGHT_PX / (x_height_px or _X_HEIGHT_PX), 0.3, 4.0))
    scale = min(scale, _MOST_PX / max(part.shape))
    if abs(scale - 1) > 0.1:
        how = cv2.INTER_CUBIC if scale > 1 else cv2.INTER_AREA
        part = as_pixels(cv2.resize(part, None, fx=scale, fy=scale, interpolation=how))
    read: dict[Turn, float] = {}
    for turn in turns:
        read[turn] = _read(np.ascontiguousarray(np.rot90(part, -turn // 90)))
        if read[turn] >= _PLENTY:
            break
    best = max(read, key=lambda turn: read[turn])
    others = max((found for turn, found in read.items() if turn != best), default=0.0)
    if read[best] < _ENOUGH or read[best] < _TIMES * others:
        return 0, 0.0
    return best, min(10.0, read[best] / max(others, 1.0))


def _part(page: Raster, writing: Writing) -> Pixels:
    """The square of the page with most letters."""
    side = min(page.px(_PART_MM), max(page.width, page.height))
    if not len(writing.letters) or max(page.width, page.height) <= side:
        return page.pixels
    at = (writing.letters[:, :2] + writing.letters[:, 2:] / 2) * writing.scale + [page.width / 2, page.height / 2]
    step = max(1, side // 3)
    counts = np.histogram2d(
        at[:, 0], at[:, 1], [np.arange(0, page.width + step, step), np.arange(0, page.height + step, step)]
    )[0]
    around = cv2.boxFilter(counts, -1, (3, 3), normalize=False, borderType=cv2.BORDER_CONSTANT)
    x, y = (int(v) for v in np.unravel_index(int(around.argmax()), around.shape))
    left = int(np.clip((x - 1) * step, 0, max(0, page.width - side)))
    top = int(np.clip((y - 1) * step, 0, max(0, page.height - side)))
    return np.ascontiguousarray(page.pixels[top : top + side, left : left + side])


def _read(part: Pixels) -> float:
    """Letters in words that are believed, each weighed by its word's confidence."""
    engine = text_engine(_LANGUAGE)
    set_page(engine, part, 300)
    total = 0.0
    # As one block: looking for blocks, the engine would find lines that run down the page and turn them itself.
    engine.SetPageSegMode(tesserocr.PSM.SINGLE_BLOCK)
    try:
        engine.Recognize()
        iterator = engine.GetIterator()
        for word in tesserocr.iterate_level(iterator, tesserocr.RIL.WORD) if iterator is not None else ():
            if word.Empty(tesserocr.RIL.WORD):
                continue
            text, confidence = word.GetUTF8Text(tesserocr.RIL.WORD), float(word.Confidence(tesserocr.RIL.WORD))
            letters = sum(char.isalpha() for char in text or "")
            if confidence >= _SURE_WORD and letters >= _LEAST_LETTERS:
                total += letters * (confidence - 50) / 50
    finally:
        engine.SetPageSegMode(tesserocr.PSM.AUTO)
        engine.Clear()
    return total
