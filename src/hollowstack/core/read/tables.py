"""Tables: cells that stand side by side, row by row, whatever blocks the engine made of them."""

from collections.abc import Iterator, Sequence

from hollowstack.core.ocr.model import Block, Box, Line, Word, block_of
from hollowstack.core.read.lines import is_cells, row_of, same_row

_ROWS = 3
"""Rows from which on blocks side by side may be a table."""
_ALIGNED = 0.7
"""Share of a column's lines that stand beside a line of the other."""


def as_it_is(block: Block) -> Block:
    """The engine calls columns of prose tables, too: a table has figures."""
    if block.kind != "table":
        return block
    words = [word for line in block.lines for word in line.words]
    figures = sum(any(char.isdigit() for char in word.text) for word in words)
    return block if figures >= _FIGURES * len(words) else block_of(block.lines)


_FIGURES = 0.25
"""Share of a table's words that hold a figure."""


def with_tables(blocks: Sequence[Block]) -> list[Block]:
    """Columns of cells that stand side by side made one table, and what else stands in its rows with it."""
    found = _stacked(blocks)
    while (pair := next(_pairs(found), None)) is not None:
        one, other = pair
        table = table_of([found[one], found[other]])
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
    if len(cell.lines) != 1 or not column.lines or not (is_cells(column) and is_cells(cell)):
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
    row = row_of(part.lines[0])
    return any(
        len(block.lines) == 1 and block is not part and block is not table and same_row(row_of(block.lines[0]), row)
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
    if not shorter.lines or not (is_cells(one) or is_cells(other)):
        return False
    rows = [row_of(line) for line in longer.lines]
    beside = sum(any(same_row(row_of(line), row) for row in rows) for line in shorter.lines)
    enough = _ROWS if "table" not in (one.kind, other.kind) else 1
    return beside >= max(enough, _ALIGNED * len(shorter.lines))


def table_of(parts: Sequence[Block]) -> Block:
    """One table of blocks whose lines stand beside each other: a line a row."""
    lines = sorted((line for part in parts for line in part.lines), key=lambda line: row_of(line).middle)
    rows: list[list[Line]] = []
    for line in lines:
        if rows and any(same_row(row_of(line), row_of(cell)) for cell in rows[-1]):
            rows[-1].append(line)
        else:
            rows.append([line])
    return block_of([_joined(row) for row in rows], "table")


def _joined(cells: Sequence[Line]) -> Line:
    """The cells of a row as one line, from left to right; its baseline is that of the widest."""
    words: list[Word] = sorted((word for cell in cells for word in cell.words), key=lambda word: word.box[0])
    widest = max(cells, key=lambda cell: cell.box[2] - cell.box[0])
    return Line(words=words, baseline=widest.baseline)
