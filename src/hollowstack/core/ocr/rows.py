"""Single rows of letters to text: what the engine passed over when it looked at the page as a whole."""

import re
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
    found = _read_each(page, rows, language, tesserocr.PSM.RAW_LINE)
    return [line for line in found if line is not None]


def read_figures(page: Raster, places: Sequence[Box], language: str) -> list[Line | None]:
    """Read figures, one or two together, that stand alone; None at places where none do.

    They are read as a bare line, as a line and as a block: each takes some figures for what they are not, a 9 for a letter
    or a 1 for a rule. Where several give a figure, the surest one is taken.
    """
    modes = (tesserocr.PSM.RAW_LINE, tesserocr.PSM.SINGLE_LINE, tesserocr.PSM.SINGLE_BLOCK)
    tries = zip(*(_read_each(page, places, language, mode) for mode in modes), strict=True)
    return [max((one for one in read if one and _FIGURES.fullmatch(one.text)), key=_sure, default=None) for read in tries]


_FIGURES = re.compile(r"\d{1,2}")


def _sure(line: Line) -> float:
    return sum(word.confidence for word in line.words) / len(line.words)


def _read_each(page: Raster, rows: Sequence[Box], language: str, mode: int) -> list[Line | None]:
    engine = text_engine(language)
    engine.SetPageSegMode(mode)
    try:
        return [_read(engine, page, row) for row in rows]
    finally:
        engine.SetPageSegMode(tesserocr.PSM.AUTO)


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
    base = float(bottom)
    line = Line(words=[_moved(word, scale, x, y) for word in words], baseline=(float(left), base, float(right), base))
    return line if words and _sure(line) >= _SURE else None


def _moved(word: Word, scale: float, x: int, y: int) -> Word:
    left, top, right, bottom = (round(value / scale) for value in word.box)
    return word.model_copy(update={"box": (left + x, top + y, max(right, left + 1) + x, max(bottom, top + 1) + y)})
