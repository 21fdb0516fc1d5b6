"""Rules of what a file says of itself (ISO 19005-1: 6.7; -2, -3: 6.6; -4: 6.7)."""

import re
from collections.abc import Iterator
from datetime import datetime
from typing import Final
from xml.etree.ElementTree import Element

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.opened import Opened
from hollowstack.core.bind.conformance.packet import PDFAID, RDF, Packet
from hollowstack.core.bind.conformance.schemas import DC, EXTENSION, PDF, XMP, has_type, predefined

_SCHEMA: Final = "http://www.aiim.org/pdfa/ns/schema#"
_PROPERTY: Final = "http://www.aiim.org/pdfa/ns/property#"
_PREFIXES: Final = {EXTENSION: "pdfaExtension", _SCHEMA: "pdfaSchema", _PROPERTY: "pdfaProperty", PDFAID: "pdfaid"}
_TYPES = re.compile(
    r"(?:(?:open |closed )?choice(?: of)? |(?:bag|seq|alt)? ?(?:of )?)?"
    r"(?:text|integer|boolean|real|date|uri|url|mimetype|agentname|propername|guid|rational|lang alt|resourceref|"
    r"resourceevent|xpath|renditionclass|locale|version|job|thumbnail|dimensions|colorant|font)?",
    re.IGNORECASE,
)
_PDF_DATE = re.compile(r"D:(\d{4})(\d\d)?(\d\d)?(\d\d)?(\d\d)?(\d\d)?(?:Z|([+-])(\d\d)'?(\d\d)?'?)?.*")


@rule({1: "6.7.2", 2: "6.6.2.1", 4: "6.7.2.1"}, "Metadata: there, well formed, in UTF-8")
def packets(file: Opened) -> Iterator[str]:
    stream = file.pdf.Root.get("/Metadata")
    if file.packet is None or not isinstance(stream, pikepdf.Stream):
        yield "The document has no metadata."
        return
    if stream.get("/Type") != "/Metadata" or stream.get("/Subtype") != "/XML":
        yield "The document's metadata do not say that they are XML."
    if file.part == 1 and "/Filter" in stream:
        yield "The document's metadata are packed, so that they cannot be found without reading PDF."
    for name in sorted(file.packet.header & {"bytes", "encoding"}):
        yield f"The head of the metadata has an attribute “{name}”."
    if file.packet.error:
        yield f"The metadata cannot be read: {file.packet.error}."
    for one in file.objects:
        if isinstance(one, pikepdf.Stream) and one.get("/Type") == "/Metadata" and one.objgen != stream.objgen:
            other = Packet(one.read_bytes())
            if other.error:
                yield f"Metadata of a part of the document cannot be read: {other.error}."


@rule({1: "6.7.9", 2: "6.6.2.3.1"}, "Metadata: properties that are known or described, of their types")
def properties(file: Opened) -> Iterator[str]:
    if file.packet is None:
        return
    known, described = predefined(file.part), _described(file.packet)
    for one in file.packet.properties:
        kind = known.get((one.namespace, one.name), described.get((one.namespace, one.name)))
        if kind is None:
            yield f"The metadata have a property “{one.name}” that is neither known nor described ({one.namespace})."
        elif not has_type(one, kind):
            yield f"The property “{one.name}” of the metadata is not of its type ({kind})."
    for one in file.packet.properties:
        if one.shape == "Alt" and one.namespace == DC and one.default is None:
            yield f"The property “{one.name}” of the metadata has no default language."


def _described(packet: Packet) -> dict[tuple[str, str], str]:
    """The types of properties that the file describes itself."""
    found = {}
    for schema in _schemas(packet):
        namespace = _text(schema, _SCHEMA, "namespaceURI") or ""
        for one in _members(schema, _SCHEMA, "property"):
            name, kind = _text(one, _PROPERTY, "name"), (_text(one, _PROPERTY, "valueType") or "").lower()
            if name:
                found[(namespace, name)] = _as_told(kind)
    return found


def _as_told(kind: str) -> str:
    first = kind.split()[0] if kind else ""
    if first in ("bag", "seq", "alt"):
        return "seq date" if kind == "seq date" else first
    if kind == "lang alt":
        return "alt"
    return kind if kind in ("date", "integer", "boolean") else "text"


def _schemas(packet: Packet) -> "list[Element]":
    container = packet.get(EXTENSION, "schemas")
    return container.items if container is not None and container.shape == "Bag" else []


def _fields(holder: "Element") -> "list[Element]":
    inner = holder.find(RDF + "Description")
    return list(holder if inner is None else inner)


def _field(holder: "Element", namespace: str, name: str) -> "Element | None":
    return next((one for one in _fields(holder) if one.tag == f"{{{namespace}}}{name}"), None)


def _text(holder: "Element", namespace: str, name: str) -> str | None:
    found = _field(holder, namespace, name)
    return None if found is None or len(found) else (found.text or "")


def _members(holder: "Element", namespace: str, name: str) -> "list[Element]":
    found = _field(holder, namespace, name)
    return [] if found is None else found.findall(f"{RDF}Seq/{RDF}li")


@rule({1: "6.7.8", 2: "6.6.2.3.3"}, "Metadata: descriptions of properties of our own")
def extensions(file: Opened) -> Iterator[str]:
    packet = file.packet
    if packet is None or (container := packet.get(EXTENSION, "schemas")) is None:
        return
    if container.shape != "Bag":
        yield "The descriptions of properties are not a list without an order (Bag)."
    for namespace, prefix in _PREFIXES.items():
        if namespace != PDFAID and (other := packet.prefix_of(namespace) - {prefix}):
            yield f"The prefix {min(other)} stands where it is to be {prefix}."
    for schema in _schemas(packet):
        for name in ("schema", "namespaceURI", "prefix"):
            if not _text(schema, _SCHEMA, name):
                yield f"A description of properties does not tell its “{name}”."
        told = {"schema", "namespaceURI", "prefix", "property", "valueType"}
        if any(one.tag not in {f"{{{_SCHEMA}}}{name}" for name in told} for one in _fields(schema)):
            yield "A description of properties tells something that it has no room for."
        listed = _field(schema, _SCHEMA, "property")
        if listed is not None and listed.find(RDF + "Seq") is None:
            yield "A description of properties does not list them in order (Seq)."
        for one in _members(schema, _SCHEMA, "property"):
            yield from _property(one)


def _property(one: "Element") -> Iterator[str]:
    name = _text(one, _PROPERTY, "name") or "?"
    for field in ("name", "valueType", "category", "description"):
        if not _text(one, _PROPERTY, field):
            yield f"The description of the property “{name}” does not tell its “{field}”."
    kind = _text(one, _PROPERTY, "valueType")
    if kind and not _TYPES.fullmatch(kind):
        yield f"The property “{name}” is of a type that nobody knows ({kind})."
    if (category := _text(one, _PROPERTY, "category")) and category not in ("internal", "external"):
        yield f"The property “{name}” is neither internal nor external, but “{category}”."
    if any(
        field.tag not in {f"{{{_PROPERTY}}}{n}" for n in ("name", "valueType", "category", "description")}
        for field in _fields(one)
    ):
        yield f"The description of the property “{name}” tells something that it has no room for."


@rule({1: "6.7.11", 2: "6.6.4", 4: "6.7.3"}, "Claim: part and level")
def claim(file: Opened) -> Iterator[str]:
    packet = file.packet
    found = packet.claim if packet is not None else None
    if packet is None or found is None or found.part is None:
        yield "The file does not say to which part of ISO 19005 it conforms."
        return
    if found.part not in ("1", "2", "3", "4"):
        yield f"The file claims part “{found.part}” of ISO 19005, which there is not."
    levels = {"1": ("A", "B"), "2": ("A", "B", "U"), "3": ("A", "B", "U"), "4": (None, "E", "F")}.get(found.part, ())
    if found.conformance not in levels:
        yield f"The file claims a level “{found.conformance or ''}” that its part does not have."
    if found.part == "4" and not re.fullmatch(r"\d{4}", found.year or ""):
        yield "The file does not say by which year's edition of the standard it is."
    if other := packet.prefix_of(PDFAID) - {"pdfaid"}:
        yield f"The claim stands under the prefix {min(other)}, where it is to be pdfaid."


@rule({1: "6.7.3"}, "Document information: the same as the metadata")
def information(file: Opened) -> Iterator[str]:
    info, packet = file.pdf.trailer.get("/Info"), file.packet
    if not isinstance(info, pikepdf.Dictionary) or packet is None:
        return
    pairs = (
        ("/Title", DC, "title"), ("/Subject", DC, "description"), ("/Keywords", PDF, "Keywords"),
        ("/Creator", XMP, "CreatorTool"), ("/Producer", PDF, "Producer"),
    )  # fmt: skip
    for key, namespace, name in pairs:
        if key in info:
            found = packet.get(namespace, name)
            said = None if found is None else found.default if found.shape == "Alt" else found.text
            if str(info[key]) != said:
                yield f"{key[1:]} in the document information is not what the metadata say ({name})."
    if "/Author" in info:
        found = packet.get(DC, "creator")
        if found is None or [item.text for item in found.items] != [str(info.Author)]:
            yield "Author in the document information is not what the metadata say (creator)."
    for key, name in (("/CreationDate", "CreateDate"), ("/ModDate", "ModifyDate")):
        if key in info:
            found = packet.get(XMP, name)
            if found is None or _moment_of_pdf(str(info[key])) != _moment(found.text):
                yield f"{key[1:]} in the document information is not what the metadata say ({name})."


def _moment_of_pdf(text: str) -> datetime | None:
    found = _PDF_DATE.fullmatch(text)
    if found is None:
        return None
    year, month, day, hour, minute, second, sign, zone_hours, zone_minutes = found.groups()
    zone = f"{sign}{zone_hours}:{zone_minutes or '00'}" if sign else "+00:00"
    return _moment(f"{year}-{month or '01'}-{day or '01'}T{hour or '00'}:{minute or '00'}:{second or '00'}{zone}")


def _moment(text: str) -> datetime | None:
    try:
        return datetime.fromisoformat(text)
    except ValueError:
        return None
