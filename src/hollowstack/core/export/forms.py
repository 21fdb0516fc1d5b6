"""The forms that documents are given out in, and what they are made of."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Final, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict

from hollowstack.core.bind.description import Described
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.ocr.model import Reading

ExportForm = Literal["txt", "alto", "hocr", "docx", "odt", "csv", "xlsx", "tiff", "jpeg", "png", "jp2", "pdf", "bag"]


class Form(NamedTuple):
    """``suffix`` and ``type`` are those of its one file; ``purpose`` says for whom it is."""

    suffix: str
    type: str
    purpose: str


FORMS: Final[dict[ExportForm, Form]] = {
    "docx": Form(".docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", "Text to be edited"),
    "odt": Form(".odt", "application/vnd.oasis.opendocument.text", "Text to be edited, as OpenDocument"),
    "xlsx": Form(".xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "Tables, a sheet each"),
    "csv": Form(".csv.zip", "application/zip", "Tables, a file each"),
    "txt": Form(".txt", "text/plain; charset=utf-8", "Plain text"),
    "alto": Form(".alto.xml", "application/xml", "Text with the place of each word, ALTO 4"),
    "hocr": Form(".hocr", "application/xhtml+xml", "Text with the place of each word, hOCR"),
    "tiff": Form(".tiff", "image/tiff", "All pages in one file, without loss"),
    "png": Form(".png.zip", "application/zip", "Pages as pictures, without loss"),
    "jp2": Form(".jp2.zip", "application/zip", "Pages as JPEG 2000, without loss"),
    "jpeg": Form(".jpeg.zip", "application/zip", "Pages as pictures, small"),
    "pdf": Form(".pdf", "application/pdf", "Pages as PDF/A, to be sent or printed"),
    "bag": Form(".bag.zip", "application/zip", "Masters, PDF/A, text and METS"),
}


@dataclass(frozen=True, slots=True)
class ExportPage:
    """A page as it is given out."""

    image: EncodedImage | Layered
    ppi: tuple[float, float]
    reading: Reading | None
    label: str
    master: Path | None = None
    """The file as it came, for a bag."""
    master_name: str = ""
    """What it was called."""
    master_sha256: str = ""
    frame: int = 0


class ExportOrder(BaseModel):
    """How a document is given out; plain data."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    form: ExportForm
    title: str
    created: datetime
    language: str = "en"
    described: Described = {}
    tiff_packing: Literal["Deflate", "LZW", "Group 4"] = "Deflate"
    """Group 4 makes two tones of every page."""
    jpeg_quality: int = 85


Told = Callable[[int], None]
"""Is told how many pages are done."""
