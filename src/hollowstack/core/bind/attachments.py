"""Files that a document carries with it, each with what it is to the document (PDF/A-3)."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from hashlib import md5
from typing import Literal

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream, String

from hollowstack.core.bind.metadata import pdf_date
from hollowstack.core.bind.plain import plain

Relationship = Literal["Source", "Data", "Alternative", "Supplement", "Unspecified"]


@dataclass(frozen=True, slots=True)
class Attachment:
    """A file by name, with its media type."""

    name: str
    data: bytes
    media_type: str
    relationship: Relationship
    description: str


def attach(pdf: Pdf, files: Sequence[Attachment], when: datetime) -> None:
    """Put files into a document, associated with all of it.

    Source:
        ISO 19005-3:2012, 6.8 and annex E (AFRelationship); ISO 32000-1:2008, 7.11.4.
    """
    if not files:
        return
    named = sorted(files, key=lambda one: one.name.encode("utf-16-be"))
    specifications = [pdf.make_indirect(_specification(pdf, one, when)) for one in named]
    names: list[object] = []
    for one, specification in zip(named, specifications, strict=True):
        names += [String(one.name), specification]
    pdf.Root.Names = Dictionary(EmbeddedFiles=pdf.make_indirect(Dictionary(Names=Array(names))))
    pdf.Root.AF = Array(specifications)


def _specification(pdf: Pdf, file: Attachment, when: datetime) -> pikepdf.Dictionary:
    data = pdf.make_indirect(Stream(pdf, file.data))
    data.Type, data.Subtype = Name.EmbeddedFile, Name("/" + file.media_type)
    stamp = String(pdf_date(when))
    # The sum is there to tell damage, as the standard has it, and keeps nothing secret (ISO 32000-1, table 46).
    data.Params = Dictionary(
        Size=len(file.data), ModDate=stamp, CheckSum=String(md5(file.data, usedforsecurity=False).digest()),
    )  # fmt: skip
    return Dictionary(
        Type=Name.Filespec, F=String(file.name), UF=String(file.name), Desc=String(plain(file.description)),
        AFRelationship=Name("/" + file.relationship), EF=Dictionary(F=data, UF=data),
    )  # fmt: skip
