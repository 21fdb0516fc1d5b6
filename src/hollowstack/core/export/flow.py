"""A reading as what a text is made of: headings, paragraphs whose lines run on, tables, places of pictures."""

from collections.abc import Iterator
from dataclasses import dataclass

from hollowstack.core.ocr.model import Block, Box, Line, Reading
from hollowstack.core.read.headings import cells_of, heading_level, usual_height
from hollowstack.core.read.hyphens import ends_parted, parted

_NEW_LINE = 0.6
"""A line that ends before this share of its block's width ends a paragraph, or is a line of its own."""


@dataclass(frozen=True, slots=True)
class Heading:
    """Of the first or the second rank."""

    level: int
    text: str


@dataclass(frozen=True, slots=True)
class Paragraph:
    """Lines that run on, as one."""

    text: str


@dataclass(frozen=True, slots=True)
class Table:
    """Rows of cells; rows have as many as they have."""

    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class Picture:
    """Where one lies, in pixels of the reading."""

    box: Box


Element = Heading | Paragraph | Table | Picture


def flow_of(reading: Reading) -> Iterator[Element]:
    """What stands on a page, in reading order."""
    usual = usual_height(reading)
    for block in reading.blocks:
        if block.kind == "picture":
            yield Picture(block.box)
        elif block.kind == "table" and block.lines:
            yield Table(tuple(rows_of(block)))
        elif level := heading_level(block, usual):
            yield Heading(level, " ".join(line.text for line in block.lines))
        elif block.lines:
            yield from map(Paragraph, paragraphs_of(block))


def rows_of(block: Block) -> list[tuple[str, ...]]:
    """The rows of a table, each cell under those above it: a gap in a row is an empty cell.

    Columns are the bands in which words of all rows stand; a cell belongs to the band that it has most of its width in.
    """
    rows = [cells_of(line) for line in block.lines if line.words]
    bands = _bands(rows)
    return [_in_bands(row, bands) for row in rows]


def _bands(rows: list[list[Line]]) -> list[tuple[int, int]]:
    """Columns from left to right: spans of cells that overlap, of the rows that have most cells."""
    most = max((len(row) for row in rows), default=0)
    spans = sorted((cell.box[0], cell.box[2]) for row in rows if len(row) == most for cell in row)
    bands: list[tuple[int, int]] = []
    for left, right in spans:
        if bands and left < bands[-1][1]:
            bands[-1] = (bands[-1][0], max(bands[-1][1], right))
        else:
            bands.append((left, right))
    return bands


def _in_bands(row: list[Line], bands: list[tuple[int, int]]) -> tuple[str, ...]:
    texts = [""] * len(bands)
    for cell in row:
        left, _, right, _ = cell.box
        at = max(range(len(bands)), key=lambda one: (min(right, bands[one][1]) - max(left, bands[one][0]), -one))
        texts[at] = f"{texts[at]} {cell.text}".strip()
    return tuple(texts)


def paragraphs_of(block: Block) -> list[str]:
    """Its lines as paragraphs: a short line ends one, words parted at a line's end are joined."""
    left, right = block.box[0], block.box[2]
    found: list[str] = []
    open_ = False
    for line in block.lines:
        text = line.text
        if not text:
            continue
        if open_ and found:
            found[-1] = joined(found[-1], text)
        else:
            found.append(text)
        open_ = line.box[2] - left >= _NEW_LINE * (right - left)
    return found


def joined(before: str, after: str) -> str:
    """Two lines as one: a word that was parted between them is whole again.

    A hyphen before a small letter parts a word (common practice of German and English typesetting, no source); before a
    capital or a figure it belongs to the word.
    """
    if parted(before, after):
        return before[:-1] + after
    if ends_parted(before):
        return before + after
    return f"{before} {after}"
