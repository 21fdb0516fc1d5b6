"""The clean page to text, by the OCR engine."""

import math

import cv2
import numpy as np
import tesserocr

from hollowstack.core.ocr.denoising import denoised
from hollowstack.core.ocr.engine import set_page, text_engine
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.ocr.tiles import joined, own_lines, tiles
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

__all__ = ["READ_VERSION", "Reading", "read_page"]

READ_VERSION = 6
"""Raised whenever a change here may change a reading; part of its key."""
_BEST_PX = 21.0
"""Height of small letters that the engine reads best, about (measured on the real pages: from 17 to 30)."""
_FROM_PX, _TO_PX = 14.0, 46.0
"""Between these, letters are read as they are."""
_MOST_SCALE = 3.5
_MOST_PIXELS = 30e6


def read_page(page: Raster, language: str = "eng", letter_px: float | None = None, *, denoise: bool = True) -> Reading:
    """Read a clean, upright page.

    Args:
        page: Gray or colour.
        language: Models to use, such as ``eng`` or ``eng+deu``.
        letter_px: Height of small letters in its pixels: the page is brought to the scale that the engine reads best.
        denoise: Whether noise is taken away first.

    Raises:
        ReadError: A model is missing.

    Source:
        R. Smith, An overview of the Tesseract OCR engine, ICDAR 2007; its LSTM recogniser.
    """
    engine = text_engine(language)
    gray = page.gray()
    pixels = denoised(gray) if denoise else gray.pixels
    scale = _scale(gray, letter_px)
    if scale != 1:
        how = cv2.INTER_CUBIC if scale > 1 else cv2.INTER_AREA
        pixels = as_pixels(cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=how))
    lines = _read_in_tiles(engine, pixels, page.scale_ppi[0] * scale)
    if scale != 1:
        lines = [_scaled(line, 1 / scale) for line in lines]
    return Reading(language=language, size_px=(page.width, page.height), lines=lines)


def _read_in_tiles(engine: tesserocr.PyTessBaseAPI, pixels: Pixels, ppi: float) -> list[Line]:
    """All lines of an image, in one go or, of a long strip, tile by tile."""
    across = pixels.shape[1] > pixels.shape[0]
    parts = []
    for tile in tiles(max(pixels.shape)):
        part = pixels[:, tile.start : tile.end] if across else pixels[tile.start : tile.end]
        set_page(engine, np.ascontiguousarray(part), ppi)
        try:
            engine.Recognize()
            parts.append(own_lines(_lines(engine), tile, across=across))
        finally:
            engine.Clear()
    return joined(parts, across=across)


def _scaled(line: Line, factor: float) -> Line:
    """A line of an image on another scale."""
    words = []
    for word in line.words:
        left, top, right, bottom = (round(v * factor) for v in word.box)
        words.append(word.model_copy(update={"box": (left, top, max(right, left + 1), max(bottom, top + 1))}))
    x1, y1, x2, y2 = (v * factor for v in line.baseline)
    return Line(words=words, baseline=(x1, y1, x2, y2), starts_block=line.starts_block)


def _scale(page: Raster, letter_px: float | None) -> float:
    """The factor that brings small letters to the height that is read best; 1 where they nearly have it."""
    if letter_px is None or _FROM_PX <= letter_px <= _TO_PX:
        return 1.0
    most = math.sqrt(_MOST_PIXELS / (page.width * page.height))
    return max(0.2, min(_BEST_PX / letter_px, _MOST_SCALE, most)) if letter_px < _FROM_PX else _TO_PX / letter_px


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
            left, top, right, bottom = box
            box = (left, top, max(right, left + 1), max(bottom, top + 1))
            words.append(Word(text=text.strip(), box=box, confidence=round(float(item.Confidence(level.WORD)), 1)))
    if words:
        lines.append(Line(words=words, baseline=baseline, starts_block=starts_block))
    return lines
