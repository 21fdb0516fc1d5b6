"""Pages of written text, drawn: headings, paragraphs and tables as black on white, with their words for the text layer.

What people sign for is kept as what they scan: an image that no viewer can show differently, and words to search it by.
"""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from PIL import Image, ImageDraw

from hollowstack.core.bind import BoundPage
from hollowstack.core.bind.codecs import encode
from hollowstack.core.bind.lettering import by_font, length
from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.page.paper_sizes import paper_size
from hollowstack.core.page.raster import MM_PER_INCH, Raster

_PPI = 300
_POINT = _PPI / 72
_MARGIN_MM = 20.0
_BODY, _HEAD, _TITLE, _FOOT = 9.5, 12.0, 18.0, 8.0
_LEADING = 1.35
"""Line height by the size of the letters."""
_GAP_PT = 8.0
"""Between the columns of a table."""


class Table(NamedTuple):
    """Rows under heads; ``shares`` are the widths of the columns, which come to 1."""

    heads: Sequence[str]
    shares: Sequence[float]
    rows: Sequence[Sequence[str]]


class Part(NamedTuple):
    """A heading, what stands below it, and a table below that."""

    heading: str
    paragraphs: Sequence[str] = ()
    table: Table | None = None


def drawn_pages(title: str, parts: Sequence[Part], foot: str, paper: str = "A4") -> Iterator[BoundPage]:
    """Pages of a written document, in two tones at 300 ppi, each with its words.

    Args:
        title: Stands on the first page.
        parts: In their order; a table goes on over as many pages as it takes, its heads on each.
        foot: Stands at the foot of each page, before its number.
        paper: Name of a paper size.

    Raises:
        PaperError: There is no such paper size.
    """
    sheet = _Sheet(paper, foot)
    yield from sheet.write(title, _TITLE, bold=True)
    for part in parts:
        sheet.skip(_HEAD)
        # A heading stands with at least two lines of what it heads.
        yield from sheet.keep_together(_HEAD * _LEADING + 2 * _BODY * _LEADING)
        yield from sheet.write(part.heading, _HEAD, bold=True)
        for paragraph in part.paragraphs:
            yield from sheet.write(paragraph, _BODY)
        if part.table is not None:
            yield from _table(sheet, part.table)
    yield sheet.done()


def _table(sheet: "_Sheet", table: Table) -> Iterator[BoundPage]:
    sheet.skip(_BODY / 2)
    yield from sheet.row(table.heads, table.shares, bold=True)
    for row in table.rows:
        if (full := sheet.full_for(row, table.shares)) is not None:
            yield full
            yield from sheet.row(table.heads, table.shares, bold=True)
        yield from sheet.row(row, table.shares)


class _Sheet:
    """The page in hand: what is drawn on it, and how far down that goes."""

    def __init__(self, paper: str, foot: str) -> None:
        size = paper_size(paper)
        self._size = (round(size.width_mm / MM_PER_INCH * _PPI), round(size.height_mm / MM_PER_INCH * _PPI))
        self._margin = round(_MARGIN_MM / MM_PER_INCH * _PPI)
        self._wide = self._size[0] - 2 * self._margin
        self._foot = foot
        self._number = 0
        self._begin()

    def _begin(self) -> None:
        self._number += 1
        self._image = Image.new("L", self._size, 255)
        self._draw = ImageDraw.Draw(self._image)
        self._lines: list[Line] = []
        self._down = float(self._margin)
        self._empty = True

    def done(self) -> BoundPage:
        """The page as it is bound."""
        self._put(f"{self._foot} · {self._number}", self._margin, self._size[1] - self._margin * 0.6, _FOOT, bold=False)
        pixels = np.where(np.asarray(self._image) < 128, np.uint8(0), np.uint8(255))
        # Made while somebody waits for it: JBIG2's compiler would take longer to load than that is worth.
        image = encode(Raster(pixels, (_PPI, _PPI)), "bitonal", 0, "Group 4")
        reading = Reading(language="eng", size_px=self._size, blocks=[block_of([line]) for line in self._lines])
        return BoundPage(image, (_PPI, _PPI), reading, str(self._number))

    def skip(self, points: float) -> None:
        """Leave room, though not at the head of a page."""
        if not self._empty:
            self._down += points * _POINT

    def keep_together(self, points: float) -> Iterator[BoundPage]:
        """Begin another page where so much does not fit any more."""
        if not self._empty and self._down + points * _POINT > self._bottom:
            yield self.done()
            self._begin()

    def full_for(self, cells: Sequence[str], shares: Sequence[float]) -> BoundPage | None:
        """The page, and another one begun, where a row does not fit any more."""
        high = max(len(lines) for lines in self._cells(cells, shares, bold=False)) * _BODY * _LEADING
        full = list(self.keep_together(high))
        return full[0] if full else None

    def write(self, text: str, points: float, *, bold: bool = False) -> Iterator[BoundPage]:
        """A paragraph, broken into lines."""
        for line in _broken(text, self._wide, points, bold):
            yield from self.keep_together(points * _LEADING)
            self._put(line, self._margin, self._down, points, bold=bold)
            self._down += points * _LEADING * _POINT
            self._empty = False

    def row(self, cells: Sequence[str], shares: Sequence[float], *, bold: bool = False) -> Iterator[BoundPage]:
        """A row of a table with a hairline below it; one longer than a page is cut where that ends."""
        columns = self._cells(cells, shares, bold=bold)
        for at in range(max(map(len, columns))):
            yield from self.keep_together(_BODY * _LEADING)
            left = float(self._margin)
            for lines, share in zip(columns, shares, strict=True):
                if at < len(lines):
                    self._put(lines[at], left, self._down, _BODY, bold=bold)
                left += share * self._wide
            self._down += _BODY * _LEADING * _POINT
            self._empty = False
        rule = round(self._down - 0.1 * _BODY * _POINT)
        self._draw.line([(self._margin, rule), (self._margin + self._wide, rule)], fill=0, width=3 if bold else 1)
        self._down += 0.25 * _BODY * _POINT

    @property
    def _bottom(self) -> int:
        return self._size[1] - self._margin

    def _cells(self, cells: Sequence[str], shares: Sequence[float], *, bold: bool) -> list[list[str]]:
        gap = _GAP_PT * _POINT
        return [_broken(cell, share * self._wide - gap, _BODY, bold) for cell, share in zip(cells, shares, strict=True)]

    def _put(self, text: str, left: float, top: float, points: float, *, bold: bool) -> None:
        """A line of text at a place, and its words."""
        base = round(top + points * _POINT)
        space = length(" ", points * _POINT, bold=bold)
        words: list[Word] = []
        for word in text.split(" "):
            right = left
            for piece, font in by_font(word, points * _POINT, bold=bold):
                self._draw.text((right, base), piece, fill=0, font=font, anchor="ls")
                right += font.getlength(piece)
            if word:
                high = round(0.8 * points * _POINT)
                words.append(Word(text=word, box=(round(left), base - high, round(right), base), confidence=100.0))
            left = right + space
        if words:
            self._lines.append(Line(words=words, baseline=(words[0].box[0], base, words[-1].box[2], base)))


def _broken(text: str, wide: float, points: float, bold: bool) -> list[str]:
    """A text in lines that are not wider than ``wide`` pixels; a word that is wider alone is cut."""
    lines, line, long = [], "", 0.0
    space = length(" ", points * _POINT, bold=bold)
    for word in text.split():
        of_word = length(word, points * _POINT, bold=bold)
        if line and long + space + of_word <= wide:
            line, long = f"{line} {word}", long + space + of_word
            continue
        if line:
            lines.append(line)
        *full, line = _cut(word, wide, points, bold) if of_word > wide else [word]
        lines, long = lines + full, length(line, points * _POINT, bold=bold)
    return [*lines, line]


def _cut(word: str, wide: float, points: float, bold: bool) -> list[str]:
    pieces = [""]
    for char in word:
        if pieces[-1] and length(pieces[-1] + char, points * _POINT, bold=bold) > wide:
            pieces.append("")
        pieces[-1] += char
    return pieces
