"""One page of PDF with black drawing and plain text, as it is sent to a printer."""

import io
from collections.abc import Sequence

import pikepdf

POINT = 72 / 25.4
"""Points to a millimetre."""


def line_of_text(words: str, left: float, base: float, points: float) -> str:
    """PDF operators that write a line: its left end and base line in points from the lower left of the page."""
    escaped = words.replace("\\", r"\\").replace("(", r"\(").replace(")", r"\)")
    return f"BT /F1 {points:g} Tf {left:.1f} {base:.1f} Td ({escaped}) Tj ET"


def printed_page(title: str, size: tuple[float, float], operators: Sequence[str]) -> bytes:
    """A document of one page; the same operators always make the same bytes.

    Args:
        title: Title of the document.
        size: Width and height in points.
        operators: What is drawn, in black.

    Source:
        Text in Helvetica, one of the standard fonts of ISO 32000-1, 9.6.2.2.
    """
    pdf = pikepdf.Pdf.new()
    page = pdf.add_blank_page(page_size=size)
    font = pikepdf.Dictionary(
        Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica,
        Encoding=pikepdf.Name.WinAnsiEncoding,
    )  # fmt: skip
    page.Resources = pikepdf.Dictionary(Font=pikepdf.Dictionary(F1=font))
    page.Contents = pdf.make_stream("\n".join(["0 g", *operators]).encode("cp1252"))
    pdf.docinfo["/Title"] = title
    buffer = io.BytesIO()
    pdf.save(buffer, deterministic_id=True)
    return buffer.getvalue()
