"""What a document says of itself: XMP, document information, output intent."""

import uuid
from datetime import datetime

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream

from hollowstack.core.bind.description import Description, Provenance, is_calendar_date
from hollowstack.core.bind.flavours import Rules
from hollowstack.core.bind.plain import plain
from hollowstack.core.bind.xmp_parts import coverage, creators, kinds, masters_of_pages, relations, rights, steps, subjects
from hollowstack.core.calibrate.icc import srgb_profile

PRODUCER = "Hollow Stack"

_END = b"</rdf:RDF>"


def describe(pdf: Pdf, about: Description, rules: Rules | None, provenance: Provenance | None = None) -> None:
    """Write what is said of a document into it, the claim of conformance and the output intent. Without rules, no claim.

    Source:
        ISO 19005-2:2011, 6.6 (metadata) and 6.2.3 (output intent), with what parts 1, 3 and 4 have in their place; XMP by
        ISO 16684-1; Dublin Core by ISO 15836-1.
    """
    if rules is None or rules.described_twice:
        _write_information(pdf, about, rules)
    _write_xmp(pdf, about, rules, provenance)
    root = pdf.Root
    root.Lang = pikepdf.String(about.language)
    root.ViewerPreferences = Dictionary(DisplayDocTitle=True)
    if rules is None:
        return
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


def _write_information(pdf: Pdf, about: Description, rules: Rules | None) -> None:
    """The same in the document information dictionary. Part 1 wants a creator there to be the only one (6.7.3)."""
    told = {"Title": about.title, "Subject": about.description, "Keywords": about.keywords, "Author": about.author}
    if rules is not None and rules.part == 1 and len(about.creators) != 1:
        del told["Author"]
    entries = {name: pikepdf.String(text) for name, value in told.items() if (text := plain(value))}
    pdf.docinfo = pdf.make_indirect(
        Dictionary(
            **entries, Producer=pikepdf.String(PRODUCER),
            CreationDate=pikepdf.String(pdf_date(about.created)), ModDate=pikepdf.String(pdf_date(about.created)),
        )
    )  # fmt: skip


def pdf_date(when: datetime) -> str:
    """A date as PDF writes it (ISO 32000-1, 7.9.4)."""
    offset = when.strftime("%z") or "+0000"
    return when.strftime("D:%Y%m%d%H%M%S") + f"{offset[:3]}'{offset[3:5]}'"


def _write_xmp(pdf: Pdf, about: Description, rules: Rules | None, provenance: Provenance | None) -> None:
    title, when = plain(about.title), about.created.replace(microsecond=0).isoformat()
    document = uuid.uuid5(uuid.NAMESPACE_OID, f"{title}\n{when}")
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as xmp:
        if rules is not None:
            xmp["pdfaid:part"] = str(rules.part)
            if rules.level:
                xmp["pdfaid:conformance"] = rules.level
            if rules.year:
                xmp["pdfaid:rev"] = rules.year
        xmp["dc:format"], xmp["dc:title"], xmp["dc:language"] = "application/pdf", title, {about.language}
        if identifier := plain(about.identifier):
            xmp["dc:identifier"] = identifier
        if text := plain(about.description):
            xmp["dc:description"] = text
        if is_calendar_date(about.date):
            xmp["dc:date"] = [about.date]
        if keywords := plain(about.keywords):
            xmp["pdf:Keywords"] = keywords
        xmp["xmp:CreateDate"] = xmp["xmp:ModifyDate"] = when
        xmp["pdf:Producer"] = PRODUCER
        xmp["xmpMM:DocumentID"] = f"uuid:{document}"
    parts = [creators([plain(one) for one in about.creators]), subjects([plain(one) for one in about.subjects])]
    parts.append(rights(plain(about.rights)))
    parts.append(kinds(list(filter(None, [plain(about.type)]))) + relations([plain(one) for one in about.relations]))
    if about.date and not is_calendar_date(about.date):
        parts.append(coverage(plain(about.date)))
    if provenance is not None:
        parts += [steps(provenance), masters_of_pages(provenance)]
    _add_parts(pdf, "".join(parts))


def _add_parts(pdf: Pdf, parts: str) -> None:
    """What the library's writer has no words for: lists in order, alternatives, structures, and a schema of our own."""
    packet = pdf.Root.Metadata.read_bytes()
    before, end, after = packet.rpartition(_END)
    made = Stream(pdf, before + parts.encode() + end + after)
    made.Type, made.Subtype = Name.Metadata, Name.XML
    pdf.Root.Metadata = pdf.make_indirect(made)
