"""Descriptions of many documents as a table in a file: written, and read back line by line."""

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime
from typing import Final, NamedTuple

from hollowstack.core.bind.description import LISTS, STATEMENTS, Described, description_of
from hollowstack.core.page.cells import plain_cell, text_of_cell

Told = Mapping[str, str | Sequence[str]]
"""What is said of a document, by the names of ``STATEMENTS``."""

NUMBER: Final = "document"
"""The column that says which document a line is of, from 1."""
WHOLE: Final = "all"
"""What stands there in the line of what is said of all of them together."""
PAGE: Final = "first page"
PAGES: Final = "pages"
_FOR_EYES: Final = (PAGE, PAGES)
"""Columns that are written for whoever reads the file, and not read back."""
COLUMNS: Final = (NUMBER, *_FOR_EYES, *STATEMENTS, "language")
_OTHERWISE: Final = {
    "number": NUMBER, "no": NUMBER, "no.": NUMBER, "creator": "creators", "subject": "subjects", "relation": "relations",
    "keywords": "subjects", "author": "creators", "authors": "creators",
}  # fmt: skip
"""What columns are called elsewhere: names of Dublin Core's elements are in the singular."""
_BETWEEN = ";"
"""Between several creators, subjects or relations in a cell."""
_MOST_BYTES = 5_000_000
_MOST_TITLE = 200


class TableError(ValueError):
    """A file that is no table of descriptions, in one sentence that says what is wrong and what to do."""


class Row(NamedTuple):
    """A document as it is written into the table; number 0 is that of all of them together."""

    number: int
    first_page: int
    pages: int
    told: Told


class Line(NamedTuple):
    """A line of a table that was read."""

    number: int
    """In the file, from 1; the head is 1."""
    document: int
    """Which document it is of, from 1; 0 where it names none that there is, or all."""
    told: Described
    """What it says of it: only of columns that the file has, empty where a cell is."""
    refused: str
    """Why it is not taken, in one sentence; empty where it is."""
    whole: bool = False
    """Whether it is of all documents together."""


class Table(NamedTuple):
    """A table of descriptions as it was read."""

    lines: tuple[Line, ...]
    left: tuple[str, ...]
    """Columns that mean nothing here."""


def written_table(rows: Iterable[Row]) -> bytes:
    """A table of descriptions as comma-separated values, in UTF-8 with a mark at its head, by which programs know that.

    A cell that a program of tables would take for a formula gets an apostrophe before it, which is taken away when the table
    is read (common practice, no source).

    Source:
        RFC 4180.
    """
    buffer = io.StringIO(newline="")
    writer = csv.writer(buffer)
    writer.writerow(COLUMNS)
    for row in rows:
        texts = [_cell(row.told.get(name, "")) for name in (*STATEMENTS, "language")]
        of = [row.number, row.first_page] if row.number else [WHOLE, ""]
        writer.writerow([*of, row.pages, *texts])
    return buffer.getvalue().encode("utf-8-sig")


def _cell(value: str | Sequence[str]) -> str:
    return plain_cell(value if isinstance(value, str) else f"{_BETWEEN} ".join(value))


def read_table(data: bytes, documents: int) -> Table:
    """Read a table of descriptions.

    Which document a line is of says its column ``document``; without that column, the first line is of the first. ``all``
    there is of all of them together. Cells that are empty empty what was said; of what has no column nothing changes.

    Args:
        data: Comma-, semicolon- or tab-separated, in UTF-8, UTF-16 with a mark, or the Western code page of older programs.
        documents: How many documents there are.

    Raises:
        TableError: It is too large, has no column that means anything, or one of them twice.

    Source:
        RFC 4180; which character parts the cells is told by the head (common practice, no source).
    """
    if len(data) > _MOST_BYTES:
        raise TableError(f"The file has {len(data):,} bytes; a table of descriptions has up to {_MOST_BYTES:,}.")
    text = _decoded(data)
    head = text.split("\n", 1)[0]
    parted = max(",;\t", key=head.count)
    try:
        rows = [
            (reader.line_num, row)
            for reader in [csv.reader(io.StringIO(text, newline=""), delimiter=parted)]
            for row in reader
        ]
    except csv.Error as error:
        raise TableError(f"This is no table of comma-separated values ({error}): save it as CSV.") from None
    if not rows:
        raise TableError("The file is empty: its first line names the columns, such as document, title, date.")
    columns, left = _columns(rows[0][1])
    lines = [(number, row) for number, row in rows[1:] if any(cell.strip() for cell in row)]
    seen: dict[int, int] = {}
    found = []
    for place, (number, row) in enumerate(lines, 1):
        line = _line(number, place, row, columns, documents)
        if (line.document or line.whole) and not line.refused:
            if before := seen.get(line.document):
                which = "What is said of all" if line.whole else f"Document {line.document}"
                line = line._replace(refused=f"{which} is told of in line {before} already.")
            seen.setdefault(line.document, number)
        found.append(line)
    return Table(tuple(found), left)


def _decoded(data: bytes) -> str:
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", "replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


def _columns(head: Sequence[str]) -> tuple[list[str], tuple[str, ...]]:
    """What each column is, empty for those that mean nothing; and the names of these."""
    columns, left = [], []
    for cell in head:
        name = " ".join(cell.split()).casefold().replace("_", " ")
        name = _OTHERWISE.get(name.removeprefix("dc:"), name.removeprefix("dc:"))
        columns.append(name if name in COLUMNS and name not in _FOR_EYES else "")
        if name not in COLUMNS and cell.strip():
            left.append(" ".join(cell.split())[:80])
    named = [name for name in columns if name]
    if twice := next((name for name in named if named.count(name) > 1), None):
        raise TableError(f"Two columns are called “{twice}”: leave one of them.")
    if not {*named} - {NUMBER}:
        raise TableError(f"The first line names no column that is known: it may be {', '.join((NUMBER, *STATEMENTS))}.")
    return columns, tuple(left)


def _line(number: int, place: int, row: Sequence[str], columns: Sequence[str], documents: int) -> Line:
    cells = {name: text_of_cell(" ".join(cell.split())) for name, cell in zip(columns, row, strict=False) if name}
    which = cells.pop(NUMBER, str(place))
    whole = which.casefold() == WHOLE
    document = int(which) if re.fullmatch(r"\d{1,6}", which) else 0
    if not whole and not 1 <= document <= documents:
        there = "there is 1 document" if documents == 1 else f"there are {documents} documents"
        return Line(number, 0, {}, f"“{which[:40]}” is none of the documents: {there}.")
    told: Described = {
        name: [one for part in cell.split(_BETWEEN) if (one := part.strip())] if name in LISTS else cell
        for name, cell in cells.items()
    }
    if len(row) > len(columns) and any(cell.strip() for cell in row[len(columns) :]):
        wrong = "The line has more cells than there are columns: put texts with commas in quotes."
        return Line(number, document, told, wrong, whole)
    return Line(number, document, told, _wrong(told), whole)


def _wrong(told: Told) -> str:
    title = told.get("title", "")
    if len(title) > _MOST_TITLE:
        return f"The title has {len(title)} characters; the most is {_MOST_TITLE}: shorten it."
    try:
        description_of(told, datetime.now(UTC), "en", "any")
    except ValueError as error:
        return str(error)
    return ""
