"""The text of several pages as a file: plain, or with the place of every word."""

from collections.abc import Sequence
from typing import Literal

from hollowstack.core.ocr.model import Reading
from hollowstack.core.read.alto import to_alto
from hollowstack.core.read.hocr import to_hocr

TextForm = Literal["txt", "alto", "hocr"]
SUFFIXES: dict[TextForm, str] = {"txt": ".txt", "alto": ".alto.xml", "hocr": ".hocr"}
PAGE_END = "\f"
"""Between two pages: a form feed, as in plain text that is to be printed."""


def written(form: TextForm, readings: Sequence[Reading], file_name: str) -> bytes:
    """The pages of one document in a form, in UTF-8; ``file_name`` is that of the document."""
    match form:
        case "txt":
            return PAGE_END.join(reading.text for reading in readings).encode()
        case "alto":
            return to_alto(readings, file_name)
        case "hocr":
            return to_hocr(readings, file_name)
