"""A page of a written document as a picture, for people who look at it in a browser."""

import io
from pathlib import Path

import pypdfium2 as pdfium

from hollowstack.core.page.errors import HollowStackError

LONGEST_PX = 1800
"""Longest side of a picture."""


class NotShownError(HollowStackError):
    """The document cannot be shown, or has no such page."""


def page_count(path: Path) -> int:
    """How many pages a document has. Raises NotShownError where it cannot be opened, as with a password."""
    try:
        with pdfium.PdfDocument(path) as document:
            return len(document)
    except pdfium.PdfiumError:
        raise NotShownError("The document cannot be shown in a browser: it may have a password of its own.") from None


def page_picture(path: Path, number: int) -> bytes:
    """A page as it is shown, as WebP.

    Args:
        path: Of a PDF file.
        number: Of the page, from 1.

    Raises:
        NotShownError: It cannot be opened, as with a password, or has no such page.
    """
    try:
        with pdfium.PdfDocument(path) as document:
            if not 1 <= number <= len(document):
                raise NotShownError("The document has no such page.")
            page = document[number - 1]
            picture = page.render(scale=LONGEST_PX / max(page.get_size())).to_pil()
    except pdfium.PdfiumError:
        raise NotShownError("The document cannot be shown in a browser: it may have a password of its own.") from None
    buffer = io.BytesIO()
    picture.convert("RGB").save(buffer, "WEBP", quality=80)
    return buffer.getvalue()
