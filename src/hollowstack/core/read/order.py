"""The order in which a page is read: columns one after the other, tables row by row, notes behind what they stand beside.

The engine gives each column of a table as a block of its own, puts a heading behind the first column that it spans, and a
note amid the lines that it stands beside.
"""

from collections.abc import Sequence

from hollowstack.core.ocr.model import Block, Box, Line, Reading, around, block_of
from hollowstack.core.read.lines import apart, rejoined, row_of
from hollowstack.core.read.tables import as_it_is, table_of, with_tables
from hollowstack.core.read.unsplit import unsplit

_NOTE_WIDTH = 0.3
"""Share of the text's width that a note in the margin has at most."""
_NOTE_LINES = 8


def in_reading_order(reading: Reading) -> Reading:
    """The same reading with its blocks in the order in which a person would read them.

    Source:
        T. M. Breuel, High performance document layout analysis, SDIUT 2003: the partial order of its section on reading
        order (from memory). What becomes of tables and notes is our own.
    """
    blocks = unsplit([part for block in reading.blocks for part in apart(as_it_is(block))])
    blocks = with_tables(rejoined(blocks))
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
            return [*blocks[:at], table_of([block, block_of([line])]), *blocks[at + 1 :]]
        lines = sorted([*block.lines, line], key=lambda one: row_of(one).middle)
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
    near = _GOES_ON * row_of(lower.lines[0]).height if lower.lines else 0
    top = box[1]
    while (above := min((o[1] for o in boxes if _overlap_across(o, box) and 0 <= top - o[3] <= near), default=top)) < top:
        top = above
    return top < higher[3]


_GOES_ON = 1.5
"""Heights of a line between two blocks of one column at most where nothing stands beside the lower one."""


def _overlap_across(one: Box, other: Box) -> bool:
    return min(one[2], other[2]) - max(one[0], other[0]) > 0.1 * min(one[2] - one[0], other[2] - other[0])
