"""The order in which a page is read: columns one after the other, tables row by row, notes behind what they stand beside.

The engine gives each column of a table as a block of its own, puts a heading behind the first column that it spans, and a
note amid the lines that it stands beside.
"""

from collections.abc import Iterator, Sequence
from statistics import median
from typing import NamedTuple

from hollowstack.core.ocr.model import Block, Box, Line, Reading, Word, around, block_of

_SAME_ROW = 0.5
"""Share of a line's height by which the middles of two cells of a row lie apart at most."""
_ROWS = 3
"""Rows from which on blocks side by side may be a table."""
_ALIGNED = 0.7
"""Share of a column's lines that stand beside a line of the other."""
_CELL_WORDS = 2.5
"""A column of prose has more words in a line than this, one of cells fewer."""
_GAP = 2.2
"""Heights of letters that two words of a line of prose are apart at most; a note in the margin is further away."""
_NOTE_WIDTH = 0.3
"""Share of the text's width that a note in the margin has at most."""
_NOTE_LINES = 8


def in_reading_order(reading: Reading) -> Reading:
    """The same reading with its blocks in the order in which a person would read them.

    Source:
        T. M. Breuel, High performance document layout analysis, SDIUT 2003: the partial order of its section on reading
        order (from memory). What becomes of tables and notes is our own.
    """
    blocks = [part for block in reading.blocks for part in _apart(_as_it_is(block))]
    blocks = _tables(_rejoined(blocks))
    return reading.model_copy(update={"blocks": _with_notes(blocks)})


def with_line(blocks: Sequence[Block], line: Line) -> list[Block]:
    """A line more among others: in the block that it lies in, or goes on, or else as a block of its own."""
    left, top, right, bottom = line.box
    middle, tall = (top + bottom) / 2, bottom - top
    for at, block in enumerate(blocks):
        shared = min(right, block.box[2]) - max(left, block.box[0])
        within = block.box[1] - _NEXT * tall <= middle <= block.box[3] + _NEXT * tall
        if not block.lines or not within or shared < _OF_A_BLOCK * min(right - left, block.box[2] - block.box[0]):
            continue
        if block.kind == "table":
            return [*blocks[:at], _table([block, block_of([line])]), *blocks[at + 1 :]]
        lines = sorted([*block.lines, line], key=lambda one: _row(one).middle)
        return [*blocks[:at], block_of(lines), *blocks[at + 1 :]]
    return [*blocks, block_of([line])]


_NEXT = 1.6
"""Heights of a line from the block's rim to the middle of one that goes on with it."""
_OF_A_BLOCK = 0.6
"""Share of the narrower of a line and a block that lies under the other where the line is one of the block's."""


def by_hand(blocks: Sequence[Block], places: Sequence[tuple[float, float]]) -> list[Block]:
    """Blocks in an order given by hand.

    Args:
        blocks: In the order found.
        places: A place in each block, in the wanted order; a block without one follows the block that it followed before.

    Returns:
        The same blocks, each once.
    """
    wanted: list[int] = []
    for place in places:
        at = next((i for i, block in enumerate(blocks) if i not in wanted and _holds(block.box, place)), None)
        if at is not None:
            wanted.append(at)
    order = list(wanted)
    for at in range(len(blocks)):
        if at in wanted:
            continue
        before = order.index(at - 1) + 1 if at and at - 1 in order else 0
        order.insert(before, at)
    return [blocks[at] for at in order]


def _holds(box: Box, place: tuple[float, float]) -> bool:
    return box[0] <= place[0] <= box[2] and box[1] <= place[1] <= box[3]


def _as_it_is(block: Block) -> Block:
    """The engine calls columns of prose tables, too: a table has figures."""
    if block.kind != "table":
        return block
    words = [word for line in block.lines for word in line.words]
    figures = sum(any(char.isdigit() for char in word.text) for word in words)
    return block if figures >= _FIGURES * len(words) else block_of(block.lines)


_FIGURES = 0.25
"""Share of a table's words that hold a figure."""


def _rejoined(blocks: Sequence[Block]) -> list[Block]:
    """Beginnings, ends and single words of lines that the engine made blocks of their own, back in their lines."""
    found = list(blocks)
    for part in sorted(blocks, key=lambda block: len(block.lines)):
        if not part.lines or len(part.lines) > _FEW_LINES or _is_cells(part):
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
    row, beside = _row(piece), _row(line)
    left, _, right, _ = piece.box
    tall = max(row.height, beside.height)
    if right - left > _NARROW * tall or not _same_row(row, beside):
        return False
    close = line.box[0] - _CLOSE * tall <= right and left <= line.box[2] + _CLOSE * tall
    return close and all(right <= word.box[0] + tall / 4 or left >= word.box[2] - tall / 4 for word in line.words)


_FEW_LINES = 3
_NARROW = 8.0
"""Heights of a line that a piece of one is wide at most: a column is wider."""
_CLOSE = 1.2
"""Heights of a line between a piece and the line that it belongs to: between two columns there is more."""


# Notes that the engine took into the lines of the text


def _apart(block: Block) -> list[Block]:
    """A block in two where a wide gap runs down all of its lines, as it does beside a note or between two columns."""
    if block.kind == "table" or len(block.lines) < _ROWS:
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


# Tables


class _Row(NamedTuple):
    middle: float
    height: float


def _tables(blocks: Sequence[Block]) -> list[Block]:
    """Columns of cells that stand side by side made one table, and what else stands in its rows with it."""
    found = _stacked(blocks)
    while (pair := next(_pairs(found), None)) is not None:
        one, other = pair
        table = _table([found[one], found[other]])
        found = [block for at, block in enumerate(found) if at not in pair]
        found.insert(one, table)
    return found


def _stacked(blocks: Sequence[Block]) -> list[Block]:
    """Figures that stand below each other by themselves made one column: the engine gives some of them one by one."""
    found: list[Block] = []
    for block in sorted(blocks, key=lambda one: one.box[1]):
        above = next((at for at, other in enumerate(found) if _stands_below(other, block)), None)
        if above is None:
            found.append(block)
        else:
            found[above] = block_of([*found[above].lines, *block.lines])
    # In the order in which they came, but for those that went into one above them.
    place = {id(line): at for at, block in enumerate(blocks) for line in block.lines[:1]}
    return sorted(found, key=lambda one: place[id(one.lines[0])] if one.lines else list(blocks).index(one))


def _stands_below(column: Block, cell: Block) -> bool:
    """Whether a figure goes on a column of figures: set flush with it, not too far below."""
    if len(cell.lines) != 1 or not column.lines or not (_is_cells(column) and _is_cells(cell)):
        return False
    if "table" in (column.kind, cell.kind):
        return False
    tall = cell.box[3] - cell.box[1]
    flush = min(abs(column.box[0] - cell.box[0]), abs(column.box[2] - cell.box[2])) <= tall / 2
    return flush and 0 <= cell.box[1] - column.box[3] <= _PITCH * tall


_PITCH = 6.0
"""Heights of a figure to the next one below at most, where a cell may be empty in between."""


def _pairs(blocks: Sequence[Block]) -> Iterator[tuple[int, int]]:
    """Places of blocks that are parts of one table."""
    for one in range(len(blocks)):
        for other in range(one + 1, len(blocks)):
            if _are_columns(blocks[one], blocks[other]) or _goes_on(blocks, one, other):
                yield one, other


def _goes_on(blocks: Sequence[Block], one: int, other: int) -> bool:
    """Whether a block lies within a table, or is part of a row right above or below it, with other cells beside it."""
    table, part = sorted((blocks[one], blocks[other]), key=lambda block: (block.kind != "table", -len(block.lines)))
    if table.kind != "table":
        return False
    if not part.lines or len(table.lines) < _ROWS or not _within(part.box, table.box):
        return False
    if table.box[1] <= (part.box[1] + part.box[3]) / 2 <= table.box[3]:
        return True
    pitch = (table.box[3] - table.box[1]) / (len(table.lines) - 1)
    away = max(part.box[1] - table.box[3], table.box[1] - part.box[3])
    if away > pitch or len(part.lines) > 1:
        return False
    row = _row(part.lines[0])
    return any(
        len(block.lines) == 1 and block is not part and block is not table and _same_row(_row(block.lines[0]), row)
        for block in blocks
    )


def _within(part: Box, whole: Box) -> bool:
    """Whether a box lies between the left and the right side of another."""
    return part[0] >= whole[0] - _OVERHANG and part[2] <= whole[2] + _OVERHANG


_OVERHANG = 12
"""Pixels by which a cell may stand out of the column that it is in: type is set by eye."""


def _are_columns(one: Block, other: Block) -> bool:
    """Whether two blocks are columns of one table: side by side, row by row, and one of them of short cells."""
    if one.box[2] > other.box[0] and other.box[2] > one.box[0]:
        return False
    shorter, longer = sorted((one, other), key=lambda block: len(block.lines))
    if not shorter.lines or not (_is_cells(one) or _is_cells(other)):
        return False
    rows = [_row(line) for line in longer.lines]
    beside = sum(any(_same_row(_row(line), row) for row in rows) for line in shorter.lines)
    enough = _ROWS if "table" not in (one.kind, other.kind) else 1
    return beside >= max(enough, _ALIGNED * len(shorter.lines))


def _is_cells(block: Block) -> bool:
    if block.kind == "table":
        return True
    words = sum(len(line.words) for line in block.lines)
    figures = sum(any(char.isdigit() for char in word.text) for line in block.lines for word in line.words)
    return words <= _CELL_WORDS * len(block.lines) and figures >= words / 2


def _table(parts: Sequence[Block]) -> Block:
    lines = sorted((line for part in parts for line in part.lines), key=lambda line: _row(line).middle)
    rows: list[list[Line]] = []
    for line in lines:
        if rows and any(_same_row(_row(line), _row(cell)) for cell in rows[-1]):
            rows[-1].append(line)
        else:
            rows.append([line])
    return block_of([_joined(row) for row in rows], "table")


def _joined(cells: Sequence[Line]) -> Line:
    """The cells of a row as one line, from left to right; its baseline is that of the widest."""
    words: list[Word] = sorted((word for cell in cells for word in cell.words), key=lambda word: word.box[0])
    widest = max(cells, key=lambda cell: cell.box[2] - cell.box[0])
    return Line(words=words, baseline=widest.baseline)


def _row(line: Line) -> _Row:
    return _Row(
        median((word.box[1] + word.box[3]) / 2 for word in line.words),
        median(word.box[3] - word.box[1] for word in line.words),
    )


def _same_row(one: _Row, other: _Row) -> bool:
    return abs(one.middle - other.middle) <= _SAME_ROW * max(one.height, other.height)


# Blocks among each other


def _with_notes(blocks: Sequence[Block]) -> list[Block]:
    """Body text in its order, each note in the margin behind the block that it stands beside."""
    notes = _notes(blocks)
    ordered = _topological([block for block in blocks if block not in notes])
    for note in sorted(notes, key=lambda block: block.box[1], reverse=True):
        beside = max(ordered, key=lambda block: _shared(block.box, note.box))
        ordered.insert(ordered.index(beside) + 1, note)
    return ordered


def _notes(blocks: Sequence[Block]) -> list[Block]:
    """Narrow, short blocks that lie wholly beside the text, each within the height of a block of it."""
    written = [block for block in blocks if block.lines]
    if len(written) < 2:
        return []
    whole = around(block.box for block in written)
    body = max(written, key=lambda block: sum(len(line.words) for line in block.lines))
    wide = body.box[2] - body.box[0]
    if wide < 0.5 * (whole[2] - whole[0]):
        return []  # columns: what stands beside one of them is another
    return [
        block
        for block in written
        if block is not body
        and len(block.lines) <= _NOTE_LINES
        and block.box[2] - block.box[0] <= _NOTE_WIDTH * (whole[2] - whole[0])
        and (block.box[2] <= body.box[0] or block.box[0] >= body.box[2])
        and body.box[1] <= (block.box[1] + block.box[3]) / 2 <= body.box[3]
    ]


def _shared(one: Box, other: Box) -> int:
    return min(one[3], other[3]) - max(one[1], other[1])


def _topological(blocks: Sequence[Block]) -> list[Block]:
    """Blocks so that each comes behind all that go before it; otherwise the upper and then the left one first."""
    left = sorted(range(len(blocks)), key=lambda at: (blocks[at].box[1], blocks[at].box[0]))
    boxes = [block.box for block in blocks]
    before = {at: {other for other in left if other != at and _goes_before(blocks, boxes, other, at)} for at in left}
    order: list[int] = []
    while left:
        # A ring of blocks that each go before the next is broken at the one that least goes before.
        at = min(left, key=lambda one: len(before[one] - set(order)))
        order.append(at)
        left.remove(at)
    return [blocks[at] for at in order]


def _goes_before(blocks: Sequence[Block], boxes: Sequence[Box], one: int, other: int) -> bool:
    """Breuel's two rules: above it in the same column, or wholly left of it with nothing across both in between."""
    a, b = boxes[one], boxes[other]
    if _overlap_across(a, b):
        return a[1] + a[3] < b[1] + b[3]
    if a[2] > b[0]:
        return False
    if a[1] >= b[3] and not _are_beside(blocks[one], b, boxes):
        return False
    top, bottom = min(a[3], b[3]), max(a[1], b[1])
    return not any(
        at not in (one, other)
        and _overlap_across(box, a)
        and _overlap_across(box, b)
        and top <= (box[1] + box[3]) / 2 <= bottom
        for at, box in enumerate(boxes)
    )


def _are_beside(lower: Block, higher: Box, boxes: Sequence[Box]) -> bool:
    """Whether a block stands in a column beside another one that lies higher up, as one does that goes on below its end.

    The greeting of a letter stands below its date and to the left of it, and is no column.
    """
    box = lower.box
    if any(_overlap_across(other, higher) and _shared(other, box) > 0 for other in boxes):
        return True
    near = _GOES_ON * _row(lower.lines[0]).height if lower.lines else 0
    top = box[1]
    while (above := min((o[1] for o in boxes if _overlap_across(o, box) and 0 <= top - o[3] <= near), default=top)) < top:
        top = above
    return top < higher[3]


_GOES_ON = 1.5
"""Heights of a line between two blocks of one column at most where nothing stands beside the lower one."""


def _overlap_across(one: Box, other: Box) -> bool:
    return min(one[2], other[2]) - max(one[0], other[0]) > 0.1 * min(one[2] - one[0], other[2] - other[0])
