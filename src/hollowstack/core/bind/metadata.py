"""What a document says of itself: XMP, document information, output intent."""

import re
import uuid
from dataclasses import dataclass
from datetime import datetime
from functools import cache

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream
from PIL import ImageCms

CONFORMANCE = "PDF/A-2u"
PRODUCER = "Hollow Stack"

_NO_XML = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
"""Characters that no XML can hold (XML 1.0, 2.2)."""


@dataclass(frozen=True, slots=True)
class Description:
    """``language`` is a BCP 47 tag; ``created`` carries its time zone."""

    title: str
    created: datetime
    language: str = "en"


def describe(pdf: Pdf, about: Description) -> None:
    """Write title, dates, language and the claim of conformance into a document, twice alike as PDF/A wants it.

    Source:
        ISO 19005-2:2011, 6.6 (metadata) and 6.2.3 (output intent); XMP by ISO 16684-1.
    """
    title = plain(about.title)
    pdf.docinfo = pdf.make_indirect(
        Dictionary(
            Title=pikepdf.String(title), Producer=pikepdf.String(PRODUCER),
            CreationDate=pikepdf.String(_pdf_date(about.created)), ModDate=pikepdf.String(_pdf_date(about.created)),
        )
    )  # fmt: skip
    _write_xmp(pdf, about, title)
    root = pdf.Root
    root.Lang = pikepdf.String(about.language)
    root.ViewerPreferences = Dictionary(DisplayDocTitle=True)
    profile = Stream(pdf, srgb_profile())
    profile.N = 3
    root.OutputIntents = Array(
        [
            Dictionary(
                Type=Name.OutputIntent, S=Name.GTS_PDFA1, OutputConditionIdentifier=pikepdf.String("sRGB"),
                Info=pikepdf.String("sRGB IEC61966-2.1"), DestOutputProfile=pdf.make_indirect(profile),
            )
        ]
    )  # fmt: skip


@cache
def srgb_profile() -> bytes:
    """The sRGB ICC profile, made by LittleCMS; its date is fixed so that the same input gives the same bytes."""
    data = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    data[24:36] = b"\x07\xea\0\1\0\1\0\0\0\0\0\0"  # ICC.1, 7.2.8: date and time of creation
    return bytes(data)


def plain(text: str) -> str:
    """A text without what neither XML nor a viewer's title bar can hold."""
    return " ".join(_NO_XML.sub(" ", text).split())


def _pdf_date(when: datetime) -> str:
    offset = when.strftime("%z") or "+0000"
    return when.strftime("D:%Y%m%d%H%M%S") + f"{offset[:3]}'{offset[3:5]}'"


def _write_xmp(pdf: Pdf, about: Description, title: str) -> None:
    when = about.created.replace(microsecond=0).isoformat()
    document = uuid.uuid5(uuid.NAMESPACE_OID, f"{title}\n{when}")
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as xmp:
        xmp["pdfaid:part"], xmp["pdfaid:conformance"] = "2", "U"
        xmp["dc:format"], xmp["dc:title"], xmp["dc:language"] = "application/pdf", title, {about.language}
        xmp["xmp:CreateDate"] = xmp["xmp:ModifyDate"] = when
        xmp["pdf:Producer"] = PRODUCER
        xmp["xmpMM:DocumentID"] = f"uuid:{document}"
