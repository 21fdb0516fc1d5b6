"""Tables of a document: a sheet each, or a file each."""

import csv
import io
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
from openpyxl.worksheet._write_only import WriteOnlyWorksheet

from hollowstack.core.export.flow import Table, flow_of
from hollowstack.core.export.forms import ExportPage
from hollowstack.core.page.cells import plain_cell

_MOST_CHARACTERS = 32_767
"""Of a cell of a sheet (ECMA-376, part 1; the limit that programs keep, common practice)."""


class NamedTable(NamedTuple):
    """A table with the name that its sheet or its file has."""

    name: str
    rows: tuple[tuple[str, ...], ...]


def tables_of(pages: Iterable[ExportPage]) -> Iterator[NamedTable]:
    """All tables of a document, named by page and place."""
    for number, page in enumerate(pages, 1):
        if page.reading is None:
            continue
        tables = [one for one in flow_of(page.reading) if isinstance(one, Table)]
        for place, table in enumerate(tables, 1):
            yield NamedTable(f"page {number:04d}" + (f", {place}" if len(tables) > 1 else ""), table.rows)


def xlsx_of(tables: Iterable[NamedTable], title: str) -> bytes:
    """A workbook; every cell is the text that was read, and no formula.

    Source:
        ECMA-376, by openpyxl.
    """
    book = Workbook(write_only=True)
    book.properties.title = title
    for table in tables:
        sheet = book.create_sheet(table.name)
        for row in table.rows:
            sheet.append([_cell(sheet, text) for text in row])
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def _cell(sheet: WriteOnlyWorksheet, text: str) -> WriteOnlyCell:
    """A text as it may stand in a cell. One that begins as a formula does stays text: the type of its cell says so."""
    made = WriteOnlyCell(sheet, str(ILLEGAL_CHARACTERS_RE.sub("", text))[:_MOST_CHARACTERS])
    made.data_type = "s"
    return made


def csv_of(table: NamedTable) -> bytes:
    """A table as comma-separated values, in UTF-8 with a mark at its head, by which programs of offices know that.

    A cell that a program of tables would take for a formula gets an apostrophe before it (common practice, no source).

    Source:
        RFC 4180.
    """
    buffer = io.StringIO(newline="")
    writer = csv.writer(buffer)
    for row in table.rows:
        writer.writerow([plain_cell(text) for text in row])
    return buffer.getvalue().encode("utf-8-sig")
