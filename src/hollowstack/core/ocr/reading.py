"""The clean page to text, by the OCR engine."""

import math

import cv2
import numpy as np
import tesserocr

from hollowstack.core.ocr.denoising import denoised
from hollowstack.core.ocr.engine import set_page, text_engine
from hollowstack.core.ocr.extraction import found_lines
from hollowstack.core.ocr.model import Block, Line, Reading, block_of
from hollowstack.core.ocr.tiles import FoundLine, joined, own_lines, tiles
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

__all__ = ["READ_VERSION", "Reading", "read_page"]

READ_VERSION = 11
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
    return Reading(language=language, size_px=(page.width, page.height), blocks=_blocks(lines))


def _read_in_tiles(engine: tesserocr.PyTessBaseAPI, pixels: Pixels, ppi: float) -> list[FoundLine]:
    """All lines of an image, in one go or, of a long strip, tile by tile."""
    across = pixels.shape[1] > pixels.shape[0]
    parts = []
    for tile in tiles(max(pixels.shape)):
        part = pixels[:, tile.start : tile.end] if across else pixels[tile.start : tile.end]
        set_page(engine, np.ascontiguousarray(part), ppi)
        try:
            engine.Recognize()
            parts.append(own_lines(found_lines(engine), tile, across=across))
        finally:
            engine.Clear()
    return joined(parts, across=across)


def _blocks(found: list[FoundLine]) -> list[Block]:
    parts: list[list[FoundLine]] = []
    for line in found:
        if line.starts or not parts:
            parts.append([])
        parts[-1].append(line)
    return [block_of([one.line for one in part], part[0].kind) for part in parts]


def _scaled(found: FoundLine, factor: float) -> FoundLine:
    """A line of an image on another scale."""
    words = []
    for word in found.line.words:
        left, top, right, bottom = (round(v * factor) for v in word.box)
        words.append(word.model_copy(update={"box": (left, top, max(right, left + 1), max(bottom, top + 1))}))
    x1, y1, x2, y2 = (v * factor for v in found.line.baseline)
    return found._replace(line=Line(words=words, baseline=(x1, y1, x2, y2)))


def _scale(page: Raster, letter_px: float | None) -> float:
    """The factor that brings small letters to the height that is read best; 1 where they nearly have it."""
    if letter_px is None or _FROM_PX <= letter_px <= _TO_PX:
        return 1.0
    most = math.sqrt(_MOST_PIXELS / (page.width * page.height))
    return max(0.2, min(_BEST_PX / letter_px, _MOST_SCALE, most)) if letter_px < _FROM_PX else _TO_PX / letter_px
