"""Lines of a page: which stand in one row, pieces that belong into others, what a wide gap takes apart."""

from collections.abc import Callable, Sequence
from statistics import median
from typing import NamedTuple

from hollowstack.core.ocr.model import Block, Line, Reading, block_of

_SAME_ROW = 0.5
"""Share of a line's height by which the middles of two cells of a row lie apart at most."""
_GAP = 2.2
"""Heights of letters that two words of a line of prose are apart at most; a note in the margin is further away."""
_CELL_WORDS = 2.5
"""A column of prose has more words in a line than this, one of cells fewer."""
_SEAM_LINES = 3
"""Lines from which on a block may fall apart."""


class Row(NamedTuple):
    """Where a line stands, and how high its letters are, in pixels."""

    middle: float
    height: float


def row_of(line: Line) -> Row:
    """By the middle one of its words."""
    return Row(
        median((word.box[1] + word.box[3]) / 2 for word in line.words),
        median(word.box[3] - word.box[1] for word in line.words),
    )


def same_row(one: Row, other: Row) -> bool:
    """Whether two lines stand beside each other."""
    return abs(one.middle - other.middle) <= _SAME_ROW * max(one.height, other.height)


def is_cells(block: Block) -> bool:
    """Whether the lines of a block are short and mostly figures, as cells of a table are."""
    if block.kind == "table":
        return True
    words = sum(len(line.words) for line in block.lines)
    figures = sum(any(char.isdigit() for char in word.text) for line in block.lines for word in line.words)
    return words <= _CELL_WORDS * len(block.lines) and figures >= words / 2


def rejoined(blocks: Sequence[Block]) -> list[Block]:
    """Beginnings, ends and single words of lines that the engine made blocks of their own, back in their lines."""
    found = list(blocks)
    for part in sorted(blocks, key=lambda block: len(block.lines)):
        if not part.lines or len(part.lines) > _FEW_LINES or is_cells(part):
            continue
        for at, whole in enumerate(found):
            if whole is not part and whole.kind == "text" and (lines := _completed(whole, part)) is not None:
                found[at] = block_of(lines)
                found = [block for block in found if block is not part]
                break
    return found


def _completed(whole: Block, part: Block) -> list[Line] | None:
    """The lines of a block with those of another put to them; None where one of these has no place in any."""
    lines = list(whole.lines)
    for piece in part.lines:
        at = next((at for at, line in enumerate(lines) if _belongs(piece, line)), None)
        if at is None:
            return None
        words = sorted([*lines[at].words, *piece.words], key=lambda word: word.box[0])
        lines[at] = lines[at].model_copy(update={"words": words})
    return lines


def _belongs(piece: Line, line: Line) -> bool:
    """Whether a short piece stands close before, behind, or between the words of a line."""
    row, beside = row_of(piece), row_of(line)
    left, _, right, _ = piece.box
    tall = max(row.height, beside.height)
    if right - left > _NARROW * tall or not same_row(row, beside):
        return False
    close = line.box[0] - _CLOSE * tall <= right and left <= line.box[2] + _CLOSE * tall
    return close and all(right <= word.box[0] + tall / 4 or left >= word.box[2] - tall / 4 for word in line.words)


_FEW_LINES = 3
_NARROW = 8.0
"""Heights of a line that a piece of one is wide at most: a column is wider."""
_CLOSE = 1.2
"""Heights of a line between a piece and the line that it belongs to: between two columns there is more."""


def apart(block: Block) -> list[Block]:
    """A block in two where a wide gap runs down all of its lines, as it does beside a note or between two columns."""
    if block.kind == "table" or len(block.lines) < _SEAM_LINES:
        return [block]
    seam = _seam(block.lines)
    if seam is None:
        return [block]
    left = [part for line in block.lines if (part := _part(line, seam, left=True))]
    right = [part for line in block.lines if (part := _part(line, seam, left=False))]
    return [block_of(left, block.kind), block_of(right, block.kind)]


def _seam(lines: Sequence[Line]) -> float | None:
    """Where a block falls apart: a place that no word reaches over, in a wide gap of at least two of its lines."""
    words = [word for line in lines for word in line.words]
    height = median(word.box[3] - word.box[1] for word in words)
    gaps = [
        (one.box[2] + other.box[0]) / 2
        for line in lines
        for one, other in zip(line.words, line.words[1:], strict=False)
        if other.box[0] - one.box[2] > _GAP * height
    ]
    for place in sorted(gaps):
        clear = [word for word in words if word.box[0] - height / 4 < place < word.box[2] + height / 4]
        near = sum(abs(gap - place) < 2 * height for gap in gaps)
        if not clear and near >= 2:
            return place
    return None


def _part(line: Line, seam: float, *, left: bool) -> Line | None:
    words = [word for word in line.words if (word.box[2] <= seam) == left]
    return Line(words=words, baseline=line.baseline) if words else None


def leaving_out(reading: Reading, marked: Callable[[Line], Sequence[bool]]) -> Reading:
    """A reading without the words that are marked in each line; they lie with what was left out before.

    Blocks without lines of their own, pictures say, stay; one that has lost all its lines does not.
    """
    blocks, gone = [], list(reading.left_out)
    for block in reading.blocks:
        lines = []
        for line in block.lines:
            marks = marked(line)
            gone += [word for word, mark in zip(line.words, marks, strict=True) if mark]
            if kept := [word for word, mark in zip(line.words, marks, strict=True) if not mark]:
                lines.append(Line(words=kept, baseline=line.baseline))
        if lines:
            blocks.append(block_of(lines, block.kind))
        elif not block.lines:
            blocks.append(block)
    return reading.model_copy(update={"blocks": blocks, "left_out": gone})
