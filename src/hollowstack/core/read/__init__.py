"""The clean page to text, by the OCR engine."""

import tesserocr

from hollowstack.core.ocr_engine import set_page, text_engine
from hollowstack.core.raster import Raster
from hollowstack.core.read.degrain import without_grain
from hollowstack.core.read.model import Line, Reading, Word

__all__ = ["READ_VERSION", "Reading", "read_page"]

READ_VERSION = 3
"""Raised whenever a change here may change a reading; part of its key."""


def read_page(page: Raster, language: str = "eng") -> Reading:
    """Read a clean, upright page.

    Args:
        page: Gray or colour.
        language: Models to use, such as ``eng`` or ``eng+deu``.

    Raises:
        ReadError: A model is missing.

    Source:
        R. Smith, An overview of the Tesseract OCR engine, ICDAR 2007; its LSTM recogniser.
    """
    engine = text_engine(language)
    set_page(engine, without_grain(page.gray()), page.scale_ppi[0])
    try:
        engine.Recognize()
        lines = _lines(engine)
    finally:
        engine.Clear()
    return Reading(language=language, size_px=(page.width, page.height), lines=lines)


def _lines(engine: tesserocr.PyTessBaseAPI) -> list[Line]:
    level = tesserocr.RIL
    lines: list[Line] = []
    words: list[Word] = []
    baseline = (0.0, 0.0, 0.0, 0.0)
    starts_block = False
    iterator = engine.GetIterator()
    if iterator is None:
        return lines
    for item in tesserocr.iterate_level(iterator, level.WORD):
        if item.IsAtBeginningOf(level.TEXTLINE):
            if words:
                lines.append(Line(words=words, baseline=baseline, starts_block=starts_block))
            words = []
            starts_block = item.IsAtBeginningOf(level.BLOCK)
            found = item.Baseline(level.TEXTLINE)
            box = item.BoundingBox(level.TEXTLINE) or (0, 0, 0, 0)
            (x1, y1), (x2, y2) = found or ((box[0], box[3]), (box[2], box[3]))
            baseline = (float(x1), float(y1), float(x2), float(y2))
        if item.Empty(level.WORD):
            continue
        text = item.GetUTF8Text(level.WORD)
        box = item.BoundingBox(level.WORD)
        if text and text.strip() and box:
            words.append(Word(text=text.strip(), box=box, confidence=round(float(item.Confidence(level.WORD)), 1)))
    if words:
        lines.append(Line(words=words, baseline=baseline, starts_block=starts_block))
    return lines
