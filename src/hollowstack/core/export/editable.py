"""Texts to be edited: word processing documents, with headings, paragraphs, tables, and pictures in their places."""

import io
from collections.abc import Iterable

import numpy as np
from docx import Document
from docx.shared import Mm
from odfdo import Document as OpenDocument
from odfdo import Frame, Header, Row, Style
from odfdo import Paragraph as OpenParagraph
from odfdo import Table as OpenTable
from PIL import Image

from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.plain import plain
from hollowstack.core.export.flow import Element, Heading, Paragraph, Picture, Table, flow_of
from hollowstack.core.export.forms import ExportOrder, ExportPage
from hollowstack.core.export.images import page_ppi
from hollowstack.core.page.raster import MM_PER_INCH, Raster

_PICTURE_PPI, _PICTURE_QUALITY = 200, 80
_WIDEST_MM = 160.0
"""Between the margins of a page of A4."""


def docx_of(pages: Iterable[ExportPage], order: ExportOrder) -> bytes:
    """A word processing document; each page of paper begins a page.

    Source:
        ECMA-376, by python-docx.
    """
    made = Document()
    made.core_properties.title, made.core_properties.language = plain(order.title), order.language
    made.core_properties.created = made.core_properties.modified = order.created.replace(tzinfo=None)
    for number, page in enumerate(pages):
        if number:
            made.add_page_break()
        for one in _flow(page):
            match one:
                case Heading(level, text):
                    made.add_heading(plain(text), level)
                case Paragraph(text):
                    made.add_paragraph(plain(text))
                case Table(rows):
                    _docx_table(made, rows)
                case Picture():
                    data, width_mm, _ = _cut(page, one)
                    made.add_picture(io.BytesIO(data), Mm(width_mm))
    buffer = io.BytesIO()
    made.save(buffer)
    return buffer.getvalue()


def _docx_table(made: "Document", rows: tuple[tuple[str, ...], ...]) -> None:
    table = made.add_table(0, max(map(len, rows)), style="Table Grid")
    for row in rows:
        for cell, text in zip(table.add_row().cells, row, strict=False):
            cell.text = plain(text)


def odt_of(pages: Iterable[ExportPage], order: ExportOrder) -> bytes:
    """An OpenDocument text; each page of paper begins a page.

    Source:
        ISO/IEC 26300, by odfdo.
    """
    made = OpenDocument("text")
    made.body.clear()
    made.meta.title, made.meta.language = plain(order.title), order.language
    made.meta.creation_date = order.created.replace(tzinfo=None)
    breaks = Style("paragraph", name="begins_a_page")
    breaks.set_properties({"fo:break-before": "page"}, area="paragraph")
    made.insert_style(breaks, automatic=True)
    for number, page in enumerate(pages):
        if number:
            made.body.append(OpenParagraph("", style="begins_a_page"))
        for place, one in enumerate(_flow(page)):
            match one:
                case Heading(level, text):
                    made.body.append(Header(level, plain(text)))
                case Paragraph(text):
                    made.body.append(OpenParagraph(plain(text)))
                case Table(rows):
                    made.body.append(_odt_table(f"Table {number + 1}.{place + 1}", rows))
                case Picture():
                    data, width_mm, height_mm = _cut(page, one)
                    where = made.add_file(io.BytesIO(data))
                    frame = Frame.image_frame(where, size=(f"{width_mm:.1f}mm", f"{height_mm:.1f}mm"), anchor_type="as-char")
                    holder = OpenParagraph("")
                    holder.append(frame)
                    made.body.append(holder)
    buffer = io.BytesIO()
    made.save(buffer)
    return buffer.getvalue()


def _odt_table(name: str, rows: tuple[tuple[str, ...], ...]) -> OpenTable:
    table = OpenTable(name)
    for cells in rows:
        row = Row()
        row.set_values([plain(text) for text in cells])
        table.append_row(row)
    return table


def _flow(page: ExportPage) -> Iterable[Element]:
    """What stands on a page; a page that was not read is one picture."""
    if page.reading is None:
        width, height = page.image.size_px
        return [Picture((0, 0, width, height))]
    return flow_of(page.reading)


def _cut(page: ExportPage, picture: Picture) -> tuple[bytes, float, float]:
    """A picture as a JPEG file, with its width and height in millimetres; narrower where it would not fit a page."""
    pixels = pixels_of(page.image)
    size = page.reading.size_px if page.reading is not None else page.image.size_px
    across, down = pixels.shape[1] / size[0], pixels.shape[0] / size[1]
    left, top, right, bottom = picture.box
    x0, y0 = int(left * across), int(top * down)
    part = pixels[y0 : max(y0 + 1, int(bottom * down)), x0 : max(x0 + 1, int(right * across))]
    raster = Raster(np.ascontiguousarray(part), page_ppi(page))
    x_ppi, y_ppi = page_ppi(page)
    width_mm, height_mm = raster.width / x_ppi * MM_PER_INCH, raster.height / y_ppi * MM_PER_INCH
    fit = min(1.0, _WIDEST_MM / width_mm)
    buffer = io.BytesIO()
    small = raster.reduced(_PICTURE_PPI)
    Image.fromarray(small.pixels).save(buffer, "JPEG", quality=_PICTURE_QUALITY)
    return buffer.getvalue(), width_mm * fit, height_mm * fit
