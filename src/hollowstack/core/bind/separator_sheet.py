"""The separator sheet as a PDF to print: a code that is recognised however the sheet lies, and what it is for."""

import io

import pikepdf
import segno

from hollowstack.core.measure.content.separator import CODE
from hollowstack.core.page.paper_sizes import paper_size

_POINT = 72 / 25.4
_CODE_MM, _CODE_SHARE = 84.0, 0.3
"""Side of the code, and the most of the sheet's height that it may take up."""
_WORDS = (
    (20.0, "Separator sheet"),
    (10.0, "Lay it between two documents, this side where their fronts are,"),
    (10.0, "upside down or on its side: all the same. It is recognised and held"),
    (10.0, "aside, and a new document begins after it. Use it again and again."),
)


def separator_sheet(paper: str = "A4") -> bytes:
    """One page of PDF 1.4 with the code twice, drawn as black squares, and its use in words.

    Args:
        paper: Name of a paper size that ``core.paper`` knows.

    Raises:
        PaperError: There is no such paper size.

    Source:
        QR Code, ISO/IEC 18004:2015, with a quiet zone of 4 modules and error correction level H: a fold or a stamp
        does not hurt it. Text in Helvetica, one of the standard fonts of ISO 32000-1, 9.6.2.2.
    """
    size = paper_size(paper)
    width, height = size.width_mm * _POINT, size.height_mm * _POINT
    parts = ["0 g"]
    side = min(_CODE_MM * _POINT, _CODE_SHARE * height)
    for top in (height - 0.06 * height, 0.06 * height + side):
        parts.append(_code((width - side) / 2, top, side))
    y = height / 2 + 30
    for points, line in _WORDS:
        parts.append(f"BT /F1 {points:g} Tf {0.12 * width:.1f} {y:.1f} Td ({line}) Tj ET")
        y -= points + 8
    pdf = pikepdf.Pdf.new()
    page = pdf.add_blank_page(page_size=(width, height))
    font = pikepdf.Dictionary(
        Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica,
        Encoding=pikepdf.Name.WinAnsiEncoding,
    )  # fmt: skip
    page.Resources = pikepdf.Dictionary(Font=pikepdf.Dictionary(F1=font))
    page.Contents = pdf.make_stream("\n".join(parts).encode("cp1252"))
    pdf.docinfo["/Title"] = "Separator sheet"
    buffer = io.BytesIO()
    pdf.save(buffer, deterministic_id=True)
    return buffer.getvalue()


def _code(left: float, top: float, side: float) -> str:
    """The code's dark modules as rectangles, each run of a row as one, so that no printer leaves lines between them."""
    rows = list(segno.make(CODE, error="h", micro=False).matrix)
    module = side / len(rows)
    drawn = []
    for number, row in enumerate(rows):
        start = None
        for column, dark in enumerate([*row, 0]):
            if dark and start is None:
                start = column
            elif not dark and start is not None:
                x, y = left + start * module, top - (number + 1) * module
                drawn.append(f"{x:.2f} {y:.2f} {(column - start) * module:.2f} {module:.2f} re")
                start = None
    return "\n".join([*drawn, "f"])
