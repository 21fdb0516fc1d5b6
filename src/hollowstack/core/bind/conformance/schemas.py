"""The properties of XMP that a file may have without describing them itself, with their types."""

import re
from typing import Final

from hollowstack.core.bind.conformance.packet import PDFAID, RDF, Property

DC: Final = "http://purl.org/dc/elements/1.1/"
XMP: Final = "http://ns.adobe.com/xap/1.0/"
XMP_MM: Final = "http://ns.adobe.com/xap/1.0/mm/"
XMP_RIGHTS: Final = "http://ns.adobe.com/xap/1.0/rights/"
PDF: Final = "http://ns.adobe.com/pdf/1.3/"
EXTENSION: Final = "http://www.aiim.org/pdfa/ns/extension/"

_ENTRIES: Final = {
    DC: "contributor:bag creator:seq coverage:text date:seq date description:alt format:text identifier:text language:bag "
    "publisher:bag relation:bag rights:alt source:text subject:bag title:alt type:bag",
    XMP: "Advisory:bag BaseURL:text CreateDate:date CreatorTool:text Identifier:bag Label:text MetadataDate:date "
    "ModifyDate:date Nickname:text Rating:integer Thumbnails:alt",
    XMP_MM: "DerivedFrom:struct DocumentID:text History:seq InstanceID:text ManagedFrom:struct Manager:text ManageTo:text "
    "ManageUI:text ManagerVariant:text RenditionClass:text RenditionParams:text VersionID:text Versions:seq",
    XMP_RIGHTS: "Certificate:text Marked:boolean Owner:bag UsageTerms:alt WebStatement:text",
    PDF: "Keywords:text PDFVersion:text Producer:text",
    PDFAID: "part:integer amd:text conformance:text corr:text rev:text",
    EXTENSION: "schemas:bag",
}
_LATER: Final = {PDF: "Trapped:text", XMP_MM: "OriginalDocumentID:text Ingredients:bag Pantry:bag"}
"""Since the XMP specification of 2005, by which parts 2 and 3 go."""
_DATE = re.compile(r"\d{4}(-\d\d(-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)?)?)?)?")


def _read(entries: dict[str, str]) -> dict[tuple[str, str], str]:
    found = {}
    for namespace, text in entries.items():
        for entry in re.findall(r"(\w+):((?:seq |bag )?\w+)(?= |$)", text):
            found[(namespace, entry[0])] = entry[1]
    return found


_OF_2004: Final = _read(_ENTRIES)
_OF_2005: Final = _OF_2004 | _read(_LATER)


def predefined(part: int) -> dict[tuple[str, str], str]:
    """Types of properties by namespace and name: ``text``, ``date``, ``integer``, ``boolean``, ``alt``, ``bag``, ``seq``,
    ``seq date``, ``struct``.

    Those of namespaces that this program writes or is likely to meet in its own files; a file with others is told of them.

    Source:
        XMP specification, January 2004 (part 1 of ISO 19005) and September 2005 (parts 2 and 3), from memory.
    """
    return _OF_2004 if part == 1 else _OF_2005


def has_type(one: Property, kind: str) -> bool:
    """Whether a property's value is of a type."""
    match kind:
        case "alt":
            return one.shape == "Alt"
        case "bag":
            return one.shape == "Bag" and _plain(one)
        case "seq":
            return one.shape == "Seq"
        case "seq date":
            return one.shape == "Seq" and all(is_date(item.text or "") for item in one.items)
        case "date":
            return one.shape == "text" and is_date(one.text)
        case "integer":
            return one.shape == "text" and re.fullmatch(r"[+-]?\d+", one.text) is not None
        case "boolean":
            return one.shape == "text" and one.text in ("True", "False")
        case "struct":
            return one.shape in ("struct", "text") and (one.shape == "struct" or bool(one.text.strip()) is False)
        case _:
            return one.shape == "text"


def _plain(one: Property) -> bool:
    if (one.namespace, one.name) == (EXTENSION, "schemas"):
        return True
    return all(len(item) == 0 and item.get(RDF + "parseType") is None for item in one.items)


def is_date(text: str) -> bool:
    """Whether a text is a date as XMP has it (a profile of ISO 8601)."""
    return _DATE.fullmatch(text) is not None
