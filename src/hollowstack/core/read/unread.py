"""Writing that was not read: rows of letters where the engine found no word."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.letter_rows import ROW, Row, in_rows
from hollowstack.core.ocr.model import Box, Reading
from hollowstack.core.page.raster import Pixels, as_pixels

_LOW, _HIGH = 0.55, 2.4
"""Heights of small letters that a letter has, points and strokes left aside."""
_WIDE = 14.0
"""Heights of small letters that a word is wide whose letters have run together."""
_CONTRAST = 14
"""Gray values by which a letter is darker than what surrounds it."""
_HOLLOW = 0.25
"""Share of its box that a word fills at least; a frame or a curve fills less."""
_SOLID = 0.92
"""Share of its box that a letter fills at most; a block of colour fills more."""
_OF_READ = 0.4
"""Share of the contrast of what was read that letters have at least: what shines through from the back has less."""
_MOST_ROWS = 120
"""No page has more rows that the engine passed over: so many are grain, or a picture."""
_LEAST_PX = 5
"""Height of small letters below which nobody reads them."""
_USUAL_SHARE = 0.7
"""Height of small letters in that of a word's box, where it is not known otherwise."""


class Letters(NamedTuple):
    """What looks like letters outside of all that was read or is said not to be text."""

    boxes: npt.NDArray[np.float64]
    """Left, top, right, bottom of each, (n, 4)."""
    small: float
    """Height of small letters in pixels."""


def unread_rows(page: Pixels, reading: Reading, letter_px: float | None) -> list[Row]:
    """Rows of letters outside of all that was read or is said not to be text, as ``unread_letters`` takes them."""
    letters = unread_letters(page, reading, letter_px)
    return rows_of(letters) if letters is not None else []


def rows_of(letters: Letters) -> list[Row]:
    """Letters that stand in rows, from left to right; none where there are so many rows that they are grain."""
    rows = in_rows(letters.boxes, letters.small)
    return rows if len(rows) <= _MOST_ROWS else []


def lone_figures(letters: Letters, reading: Reading) -> list[Box]:
    """Single letters above or below all that was read, as a page number of one figure is, which engines pass over.

    Returns:
        Around each that has nothing beside it, up to two figures wide; at most one above and one below.
    """
    boxes, small = letters
    words = reading.words
    if not words:
        return []
    first, last = min(word.box[1] for word in words), max(word.box[3] for word in words)
    found = []
    for beyond in (boxes[boxes[:, 3] <= first], boxes[boxes[:, 1] >= last]):
        figures = [row for row in in_rows(beyond, small, least=1) if row.letters < ROW]
        # Two of them are specks, or a drawing.
        if len(figures) == 1 and len(beyond) <= ROW - 1:
            found.append(figures[0].box)
    return found


def unread_letters(page: Pixels, reading: Reading, letter_px: float | None) -> Letters | None:
    """What looks like letters, and was not read.

    Args:
        page: The clean page in gray, before two tones.
        reading: What was read of it.
        letter_px: Height of small letters in pixels; None where it is not known.

    Returns:
        None where nothing tells how large letters are, or they are too small to be read.
    """
    small = letter_px or _letter_of(reading)
    if small is None or small < _LEAST_PX:
        return None
    block = int(4 * small) | 1
    # What stands out from its surroundings, in gray values; points of grain do not.
    smooth = cv2.GaussianBlur(page, (0, 0), max(0.6, small / 14)).astype(np.float32)
    contrast = np.maximum(cv2.boxFilter(smooth, -1, (block, block)) - smooth, 0)
    seen = _seen(reading, page.shape)
    read = contrast[seen.astype(bool) & (contrast > _CONTRAST)]
    least = max(_CONTRAST, _OF_READ * float(np.percentile(read, 75))) if read.size else _CONTRAST
    more = 2 * round(small / 3) + 1
    ink = (contrast > least).astype(np.uint8) & ~cv2.dilate(seen, np.ones((more, more), np.uint8))
    _, _, stats, _ = cv2.connectedComponentsWithStats(ink, connectivity=8)
    left, top, width, height, area = stats[1:].T.astype(np.float64)
    letter = (height >= _LOW * small) & (height <= _HIGH * small) & (width <= _WIDE * small) & (width >= 0.12 * small)
    letter &= area <= _SOLID * width * height
    letter &= (width <= 3 * small) | (area >= _HOLLOW * width * height)
    return Letters(np.stack([left, top, left + width, top + height], axis=1)[letter], small)


def _letter_of(reading: Reading) -> float | None:
    heights = [word.box[3] - word.box[1] for word in reading.words]
    return _USUAL_SHARE * float(np.median(heights)) if heights else None


def _seen(reading: Reading, shape: tuple[int, ...]) -> Pixels:
    """1 where something was read, left out, or is a picture."""
    seen = np.zeros(shape[:2], np.uint8)
    boxes = [word.box for word in (*reading.words, *reading.left_out)]
    boxes += [block.box for block in reading.blocks if not block.lines]
    for left, top, right, bottom in boxes:
        seen[max(0, top) : bottom, max(0, left) : right] = 1
    return as_pixels(seen)
