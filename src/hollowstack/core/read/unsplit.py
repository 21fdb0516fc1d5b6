"""Paragraphs that an engine took apart: where the gaps between words happen to stand below each other, it sees columns."""

from collections.abc import Sequence
from statistics import median

from hollowstack.core.ocr.model import Block, Box, Line, around, block_of
from hollowstack.core.read.lines import is_cells, row_of, same_row

_PAIRED = 0.8
"""Share of the lines of both halves that go on from each other."""
_AS_WIDE, _OF_A_LINE = 1.6, 1.0
"""How many usual gaps between words the gap is wide at most, and how many heights of a line: columns stand farther apart."""
_SPANS, _NEXT = 0.9, 2.0
"""Share of their common width that a block above or below them fills, and heights of a line from it to them."""


def unsplit(blocks: Sequence[Block]) -> list[Block]:
    """Blocks with those put together that are halves of one paragraph.

    Their lines go on from each other over gaps that are no wider than those between words, and text right above or below
    them fills the width of both; columns have wider gaps, and cells are left as they are.

    Source:
        Our own; that gutters are wider than word spaces is common practice of setting.
    """
    found = list(blocks)
    for left in blocks:
        for right in blocks:
            if left in found and right in found and left is not right and _are_halves(left, right, found):
                found[found.index(left)] = block_of(_joined(left, right))
                found.remove(right)
                break
    return found


def _are_halves(left: Block, right: Block, blocks: Sequence[Block]) -> bool:
    if left.kind != "text" or right.kind != "text" or left.box[2] >= right.box[2] or is_cells(left) or is_cells(right):
        return False
    pairs = _pairs(left, right)
    if len(pairs) < max(2, _PAIRED * max(len(left.lines), len(right.lines))):
        return False
    lines = [*left.lines, *right.lines]
    words = [b.box[0] - a.box[2] for line in lines for a, b in zip(line.words, line.words[1:], strict=False)]
    tall = median(row_of(line).height for line in lines)
    gap = median(b.box[0] - a.box[2] for a, b in pairs)
    if not words or not 0 <= gap <= min(_AS_WIDE * median(words), _OF_A_LINE * tall):
        return False
    both = around((left.box, right.box))
    return any(_spans(block.box, both, tall) for block in blocks if block is not left and block is not right and block.lines)


def _spans(box: Box, both: Box, tall: float) -> bool:
    """Whether a block fills the width of both halves right above or below them."""
    shared = min(box[2], both[2]) - max(box[0], both[0])
    near = min(abs(both[1] - box[3]), abs(box[1] - both[3]))
    return shared >= _SPANS * (both[2] - both[0]) and near <= _NEXT * tall


def _pairs(left: Block, right: Block) -> list[tuple[Line, Line]]:
    """Lines that stand in one row, each at most once."""
    rest = list(right.lines)
    found = []
    for line in left.lines:
        if (other := next((one for one in rest if same_row(row_of(line), row_of(one))), None)) is not None:
            rest.remove(other)
            found.append((line, other))
    return found


def _joined(left: Block, right: Block) -> list[Line]:
    """The lines of both, those of one row as one."""
    pairs = {id(line): other for line, other in _pairs(left, right)}
    taken = {id(other) for other in pairs.values()}
    lines = []
    for line in left.lines:
        other = pairs.get(id(line))
        if other is None:
            lines.append(line)
            continue
        baseline = (*line.baseline[:2], *other.baseline[2:])
        lines.append(Line(words=[*line.words, *other.words], baseline=baseline))
    lines += [line for line in right.lines if id(line) not in taken]
    return sorted(lines, key=lambda line: row_of(line).middle)
