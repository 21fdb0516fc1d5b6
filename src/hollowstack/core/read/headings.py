"""Which blocks of a page are headings, and what stands in the cells of a table's row."""

from collections.abc import Sequence
from statistics import median

from hollowstack.core.ocr.model import Block, Line, Reading

_LARGER = 1.35
"""How much higher than the page's usual ones the letters of a heading are."""
_CHIEF = 1.9
"""From here on it is a heading of the first rank."""
_MOST_LINES, _MOST_WORDS = 3, 14
_LEAST_LETTERS = 3
"""Letters of a heading, and of a word by whose height others are judged."""
_CELL_GAP = 1.5
"""Heights of letters between two cells of a row at least."""


def heading_level(block: Block, usual: float) -> int:
    """1 or 2 for a heading of that rank, 0 for what is none.

    By the height of its words alone: a heading that is only set bold or apart is not told from text.

    Args:
        block: Of a reading.
        usual: Height of the page's words in pixels, of ``usual_height``; 0 where that is not known.
    """
    words = [word for line in block.lines for word in line.words]
    if block.kind != "text" or not words or usual <= 0:
        return 0
    letters = sum(char.isalpha() for word in words for char in word.text)
    if len(block.lines) > _MOST_LINES or len(words) > _MOST_WORDS or letters < _LEAST_LETTERS:
        return 0
    ratio = _height(block.lines) / usual
    return 0 if ratio < _LARGER else 1 if ratio >= _CHIEF else 2


def usual_height(reading: Reading) -> float:
    """Median height in pixels of the words of a page's blocks of text; 0 where there are none."""
    heights = [
        word.box[3] - word.box[1]
        for block in reading.blocks
        if block.kind == "text"
        for line in block.lines
        for word in line.words
        if len(word.text) >= _LEAST_LETTERS
    ]
    return float(median(heights)) if heights else 0.0


def cells_of(row: Line) -> list[Line]:
    """The words of a table's row, parted where a wide gap lies between them."""
    height = median(word.box[3] - word.box[1] for word in row.words)
    cells = [[row.words[0]]]
    for before, word in zip(row.words, row.words[1:], strict=False):
        if word.box[0] - before.box[2] > _CELL_GAP * height:
            cells.append([])
        cells[-1].append(word)
    return [row.model_copy(update={"words": words}) for words in cells]


def _height(lines: Sequence[Line]) -> float:
    heights = [word.box[3] - word.box[1] for line in lines for word in line.words if len(word.text) >= _LEAST_LETTERS]
    return float(median(heights or [word.box[3] - word.box[1] for line in lines for word in line.words]))
