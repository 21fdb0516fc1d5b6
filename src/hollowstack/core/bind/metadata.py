"""What a document says of itself: XMP, document information, output intent."""

import uuid
from dataclasses import dataclass
from datetime import datetime
from functools import cache
from xml.sax.saxutils import escape

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream
from PIL import ImageCms

CONFORMANCE = "PDF/A-2u"
PRODUCER = "Hollow Stack"


# ISO 639-2 codes with their two-letter ones of ISO 639-1, which BCP 47 wants where there is one.
_SHORT = {
    "eng": "en", "deu": "de", "fra": "fr", "spa": "es", "ita": "it", "nld": "nl", "por": "pt", "lat": "la", "dan": "da",
    "swe": "sv", "nor": "no", "fin": "fi", "pol": "pl", "ces": "cs", "ell": "el", "rus": "ru",
}  # fmt: skip


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
    pdf.docinfo = pdf.make_indirect(
        Dictionary(
            Title=pikepdf.String(about.title), Producer=pikepdf.String(PRODUCER),
            CreationDate=pikepdf.String(_pdf_date(about.created)), ModDate=pikepdf.String(_pdf_date(about.created)),
        )
    )  # fmt: skip
    packet = Stream(pdf, _xmp(about))
    packet.Type, packet.Subtype = Name.Metadata, Name.XML
    root = pdf.Root
    root.Metadata = pdf.make_indirect(packet)
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


def language_tag(ocr_language: str) -> str:
    """BCP 47 tag for the first of the OCR engine's languages; the engine's own code where no shorter one is known."""
    first = ocr_language.split("+")[0]
    return _SHORT.get(first, first)


def _pdf_date(when: datetime) -> str:
    offset = when.strftime("%z") or "+0000"
    return when.strftime("D:%Y%m%d%H%M%S") + f"{offset[:3]}'{offset[3:5]}'"


def _xmp(about: Description) -> bytes:
    when = about.created.replace(microsecond=0).isoformat()
    title, producer = escape(about.title), escape(PRODUCER)
    document = uuid.uuid5(uuid.NAMESPACE_OID, f"{about.title}\n{when}")
    return f"""<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/">
 <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
  <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"
    xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:xmpMM="http://ns.adobe.com/xap/1.0/mm/"
    xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/">
   <pdfaid:part>2</pdfaid:part>
   <pdfaid:conformance>U</pdfaid:conformance>
   <dc:format>application/pdf</dc:format>
   <dc:title><rdf:Alt><rdf:li xml:lang="x-default">{title}</rdf:li></rdf:Alt></dc:title>
   <dc:language><rdf:Bag><rdf:li>{escape(about.language)}</rdf:li></rdf:Bag></dc:language>
   <xmp:CreateDate>{when}</xmp:CreateDate>
   <xmp:ModifyDate>{when}</xmp:ModifyDate>
   <pdf:Producer>{producer}</pdf:Producer>
   <xmpMM:DocumentID>uuid:{document}</xmpMM:DocumentID>
  </rdf:Description>
 </rdf:RDF>
</x:xmpmeta>
<?xpacket end="w"?>""".encode()
