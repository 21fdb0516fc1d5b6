"""Single rows of letters to text: what the engine passed over when it looked at the page as a whole."""

from collections.abc import Sequence

import cv2
import numpy as np
import tesserocr

from hollowstack.core.ocr.engine import set_page, text_engine
from hollowstack.core.ocr.extraction import found_lines
from hollowstack.core.ocr.model import Box, Line, Word
from hollowstack.core.page.raster import Raster, as_pixels

_HEIGHT_PX = 44
"""A row is brought to this height, which the engine's lines have inside."""
_AROUND = 0.4
"""Heights of the row that are looked at around it."""
_SURE = 60.0
"""Mean confidence of a row that is taken for text."""


def read_rows(page: Raster, rows: Sequence[Box], language: str) -> list[Line]:
    """Read rows of letters one by one.

    Args:
        page: Gray.
        rows: Around the letters of each, in its pixels.
        language: Models to use.

    Returns:
        The lines that are sure enough to be text, with their words in pixels of the page.

    Raises:
        ReadError: A model is missing.
    """
    engine = text_engine(language)
    engine.SetPageSegMode(tesserocr.PSM.RAW_LINE)
    try:
        found = [_read(engine, page, row) for row in rows]
    finally:
        engine.SetPageSegMode(tesserocr.PSM.AUTO)
    return [line for line in found if line is not None]


def _read(engine: tesserocr.PyTessBaseAPI, page: Raster, row: Box) -> Line | None:
    left, top, right, bottom = row
    more = max(3, round(_AROUND * (bottom - top)))
    x, y = max(0, left - more), max(0, top - more)
    part = page.pixels[y : bottom + more, x : right + more]
    scale = _HEIGHT_PX / max(1, bottom - top)
    how = cv2.INTER_CUBIC if scale > 1 else cv2.INTER_AREA
    pixels = as_pixels(np.ascontiguousarray(cv2.resize(part, None, fx=scale, fy=scale, interpolation=how)))
    set_page(engine, pixels, 300.0)
    try:
        engine.Recognize()
        words = [word for found in found_lines(engine) for word in found.line.words]
    finally:
        engine.Clear()
    if not words or sum(word.confidence for word in words) / len(words) < _SURE:
        return None
    moved = [_moved(word, scale, x, y) for word in words]
    base = float(bottom)
    return Line(words=moved, baseline=(float(left), base, float(right), base))


def _moved(word: Word, scale: float, x: int, y: int) -> Word:
    left, top, right, bottom = (round(value / scale) for value in word.box)
    return word.model_copy(update={"box": (left + x, top + y, max(right, left + 1) + x, max(bottom, top + 1) + y)})
