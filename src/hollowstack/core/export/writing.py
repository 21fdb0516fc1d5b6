"""A document into a file of any form."""

import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

from hollowstack.core.bind import BoundPage
from hollowstack.core.export.bag import EPOCH, bound_alone, write_bag
from hollowstack.core.export.editable import docx_of, odt_of
from hollowstack.core.export.forms import ExportOrder, ExportPage
from hollowstack.core.export.images import picture_of, write_tiff
from hollowstack.core.export.sheets import csv_of, tables_of, xlsx_of
from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.durable import settle
from hollowstack.core.page.errors import BindError, ExportError
from hollowstack.core.page.file_names import safe_name
from hollowstack.core.read.texts import written

_NO_PAGE = "There is no page to export: every page is aside or failed."
_NO_TABLE = "There is no table on these pages: choose another form."


@dataclass(frozen=True, slots=True)
class Exported:
    """What came of it: how many pages, and what is not in the file though it stands on them."""

    pages: int
    remarks: tuple[str, ...] = ()


def export(pages: Iterable[ExportPage], path: Path, order: ExportOrder, software: str = "Hollow Stack") -> Exported:
    """Write a document in a form; the file appears under its name once it is whole.

    Args:
        pages: In order; taken one at a time.
        path: Where to write; a file that is there is replaced.
        order: Which form, and what is said of the document.
        software: Name and version, for packages.

    Raises:
        ExportError: There are no pages, or nothing on them that the form has room for, or the file cannot be written.
        BindError: For a bag: the pages cannot be bound.
        ValueError: The description will not do.
    """
    part = path.with_name(path.name + ".part")
    counted = _Counted(pages)
    try:
        for _ in _write(counted, part, order, software):
            pass
        if not counted.count:
            raise ExportError(_NO_PAGE)
        settle(part, path)
    except BindError:
        if not counted.count:
            raise ExportError(_NO_PAGE) from None
        raise
    except OSError as error:
        raise ExportError(f"The file cannot be written to {path}: {error.strerror or error}.") from error
    finally:
        part.unlink(missing_ok=True)
    return Exported(counted.count, _remarks(order, counted))


def _write(pages: "_Counted", part: Path, order: ExportOrder, software: str) -> Iterator[int]:
    match order.form:
        case "txt" | "alto" | "hocr":
            part.write_bytes(written(order.form, [page.reading or _unread(page) for page in pages], order.title))
        case "docx":
            part.write_bytes(docx_of(pages, order))
        case "odt":
            part.write_bytes(odt_of(pages, order))
        case "xlsx":
            tables = list(tables_of(pages))
            if not tables:
                raise ExportError(_NO_TABLE)
            part.write_bytes(xlsx_of(tables, order.title))
        case "csv":
            tables = list(tables_of(pages))
            if not tables:
                raise ExportError(_NO_TABLE)
            _zipped(part, ((f"{table.name}.csv", csv_of(table)) for table in tables), zipfile.ZIP_DEFLATED)
        case "tiff":
            yield from write_tiff(pages, part, order)
        case "jpeg" | "png" | "jp2":
            suffix = {"jpeg": "jpg"}.get(order.form, order.form)
            files = ((f"{_named(number, page)}.{suffix}", picture_of(page, order)) for number, page in enumerate(pages, 1))
            _zipped(part, files, zipfile.ZIP_STORED)
        case "pdf":
            bound = (BoundPage(page.image, page.ppi, page.reading, page.label) for page in pages)
            yield bound_alone(bound, part, order, software)
        case "bag":
            yield from write_bag(pages, part, order, software)


def _zipped(path: Path, files: Iterable[tuple[str, bytes]], packing: int) -> None:
    with zipfile.ZipFile(path, "w", allowZip64=True) as made:
        for name, data in files:
            made.writestr(zipfile.ZipInfo(name, EPOCH), data, packing)


def _named(number: int, page: ExportPage) -> str:
    """A page's file: its place, and its label where that says something else."""
    return f"{number:04d}" + (f" {safe_name(page.label, 'page')}" if page.label and page.label != str(number) else "")


def _unread(page: ExportPage) -> Reading:
    return Reading(language="und", size_px=page.image.size_px, blocks=[])


class _Counted:
    """Pages that are counted as they are taken, with those of which nothing was read."""

    def __init__(self, pages: Iterable[ExportPage]) -> None:
        self._pages, self.count, self.unread = pages, 0, 0

    def __iter__(self) -> Iterator[ExportPage]:
        for page in self._pages:
            self.count += 1
            self.unread += page.reading is None
            yield page


_OF_TEXT = {"txt", "alto", "hocr", "docx", "odt", "csv", "xlsx"}


def _remarks(order: ExportOrder, pages: _Counted) -> tuple[str, ...]:
    """What is not in the file."""
    if order.form not in _OF_TEXT or not pages.unread:
        return ()
    which = "1 page was" if pages.unread == 1 else f"{pages.unread} pages were"
    stands = "a picture stands for it" if pages.unread == 1 else "pictures stand for them"
    return (f"{which} not read: " + (f"{stands}." if order.form in {"docx", "odt"} else "nothing of it is in this file."),)
