"""Long strips in tiles that overlap: where each lies, and one text from those that were read of them."""

from collections.abc import Iterator
from typing import NamedTuple

from hollowstack.core.ocr.model import BlockKind, Box, Line, Word

FROM_PX = 14_000
"""Longer side from which a page is read in tiles: the engine ends at 32,767, and loses its layout long before."""
LONG_PX = 8_000
OVERLAP_PX = 1_600
"""No word is as long: what a tile's end cuts is whole in the next one."""
_SAME_LINE = 0.6
"""Share of a line's height by which two parts of it may lie apart."""
_WORD_GAP = 3.0
"""Heights of a line that two of its words are apart at most."""


class Tile(NamedTuple):
    """Where a tile begins and ends along the page, and which part of it is its own: every place is one tile's own."""

    start: int
    end: int
    own_start: float
    own_end: float


class FoundLine(NamedTuple):
    """A line as the engine gives it, in a block of a kind; ``starts`` says whether that begins with it."""

    line: Line
    starts: bool = False
    kind: BlockKind = "text"


def tiles(length: int) -> Iterator[Tile]:
    """The tiles of a side of so many pixels; one where it is no longer than ``FROM_PX``."""
    if length <= FROM_PX:
        yield Tile(0, length, float("-inf"), float("inf"))
        return
    step = LONG_PX - OVERLAP_PX
    start = 0
    while True:
        end = length if start + LONG_PX + step // 2 >= length else start + LONG_PX
        last = end == length
        yield Tile(
            start,
            end,
            float("-inf") if start == 0 else start + OVERLAP_PX / 2,
            float("inf") if last else end - OVERLAP_PX / 2,
        )
        if last:
            return
        start += step


def own_lines(lines: list[FoundLine], tile: Tile, *, across: bool) -> list[FoundLine]:
    """The lines of a tile, moved to their place on the page, with the words whose middle lies in its own part."""
    kept = []
    for found in lines:
        moved = [_moved(word, tile.start, across=across) for word in found.line.words]
        words = [word for word in moved if _owns(tile, word, across=across)]
        if words:
            x, y = (tile.start, 0) if across else (0, tile.start)
            x1, y1, x2, y2 = found.line.baseline
            kept.append(found._replace(line=Line(words=words, baseline=(x1 + x, y1 + y, x2 + x, y2 + y))))
    return kept


def joined(parts: list[list[FoundLine]], *, across: bool) -> list[FoundLine]:
    """The lines of all tiles in order; those that a seam cuts in two are one line again."""
    whole: list[FoundLine] = []
    before: list[int] = []
    for lines in parts:
        open_ends, before = (before if across else []), []
        for found in lines:
            place = next((at for at in open_ends if _goes_on(whole[at].line, found.line)), None)
            if place is None:
                before.append(len(whole))
                whole.append(found)
                continue
            first = whole[place]
            x1, y1, _, _ = first.line.baseline
            _, _, x2, y2 = found.line.baseline
            both = Line(words=[*first.line.words, *found.line.words], baseline=(x1, y1, x2, y2))
            whole[place] = first._replace(line=both)
            before.append(place)
            open_ends = [at for at in open_ends if at != place]
    return whole


def _goes_on(first: Line, second: Line) -> bool:
    """Whether a line is what follows another one on the same height."""
    left, right = first.words[-1].box, second.words[0].box
    height = max(left[3] - left[1], right[3] - right[1], 1)
    middles = (left[1] + left[3]) / 2 - (right[1] + right[3]) / 2
    return abs(middles) <= _SAME_LINE * height and 0 <= right[0] - left[2] <= _WORD_GAP * height


def _moved(word: Word, by: int, *, across: bool) -> Word:
    left, top, right, bottom = word.box
    box: Box = (left + by, top, right + by, bottom) if across else (left, top + by, right, bottom + by)
    return word.model_copy(update={"box": box})


def _owns(tile: Tile, word: Word, *, across: bool) -> bool:
    left, top, right, bottom = word.box
    middle = (left + right) / 2 if across else (top + bottom) / 2
    return tile.own_start <= middle < tile.own_end
