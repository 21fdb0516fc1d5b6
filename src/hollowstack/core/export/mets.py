"""What a package holds and how it came about, for archives: METS with PREMIS in it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from urllib.parse import quote
from xml.etree import ElementTree as ET

from hollowstack.core.bind.description import Description
from hollowstack.core.bind.plain import plain

_METS, _XLINK = "http://www.loc.gov/METS/", "http://www.w3.org/1999/xlink"
_DC, _PREMIS = "http://purl.org/dc/elements/1.1/", "http://www.loc.gov/premis/v3"
_XSI = "http://www.w3.org/2001/XMLSchema-instance"
_NAMES = {"mets": _METS, "xlink": _XLINK, "dc": _DC, "premis": _PREMIS, "xsi": _XSI}


@dataclass(frozen=True, slots=True)
class PackedFile:
    """A file of the package: its place in it, what it is used as, its digest, and to which pages it belongs (from 0)."""

    path: str
    use: str
    type: str
    bytes: int
    sha256: str
    pages: tuple[int, ...] = ()
    original_name: str = ""


@dataclass(frozen=True, slots=True)
class Happened:
    """An event in the life of the files: PREMIS names its kind."""

    kind: str
    when: datetime
    detail: str


def mets_of(
    about: Description, files: Sequence[PackedFile], labels: Sequence[str], events: Sequence[Happened], software: str
) -> bytes:
    """A METS document: description, digests and events, files by their use, and the order of the pages.

    Args:
        about: Of the document.
        files: All of the package but this one.
        labels: Of the pages, in order.
        events: What was done, the first one first.
        software: Name and version of the program that did it.

    Source:
        METS 1.12 and PREMIS 3.0 (Library of Congress); Dublin Core by ISO 15836-1.
    """
    for prefix, space in _NAMES.items():
        ET.register_namespace(prefix, space)
    when = about.created.isoformat()
    root = ET.Element(_q(_METS, "mets"), {"OBJID": about.identifier or about.title, "LABEL": plain(about.title)})
    head = ET.SubElement(root, _q(_METS, "metsHdr"), {"CREATEDATE": when})
    agent = ET.SubElement(head, _q(_METS, "agent"), {"ROLE": "CREATOR", "TYPE": "OTHER", "OTHERTYPE": "SOFTWARE"})
    ET.SubElement(agent, _q(_METS, "name")).text = software
    _described(root, about)
    _administered(root, files, events, software)
    _listed(root, files)
    _ordered(root, about, files, labels)
    ET.indent(root)
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{ET.tostring(root, encoding="unicode")}\n'.encode()


def _described(root: ET.Element, about: Description) -> None:
    section = ET.SubElement(root, _q(_METS, "dmdSec"), {"ID": "described"})
    data = _wrapped(section, "DC")
    told = [
        ("title", (about.title,)), ("creator", about.creators), ("subject", about.subjects),
        ("description", (about.description,)), ("date", (about.date,)), ("identifier", (about.identifier,)),
        ("rights", (about.rights,)), ("type", (about.type,)), ("relation", about.relations), ("language", (about.language,)),
    ]  # fmt: skip
    for name, values in told:
        for value in values:
            if text := plain(value):
                ET.SubElement(data, _q(_DC, name)).text = text


def _administered(root: ET.Element, files: Sequence[PackedFile], events: Sequence[Happened], software: str) -> None:
    """What every file is, each in a section of its own, and then what was done to all of them."""
    for number, file in enumerate(files):
        section = ET.SubElement(root, _q(_METS, "amdSec"), {"ID": f"object{number}"})
        data = _wrapped(ET.SubElement(section, _q(_METS, "techMD"), {"ID": f"object{number}-told"}), "PREMIS:OBJECT")
        made = ET.SubElement(data, _q(_PREMIS, "object"), {_q(_XSI, "type"): "premis:file"})
        _named(made, "objectIdentifier", "local", file.path)
        told = ET.SubElement(made, _q(_PREMIS, "objectCharacteristics"))
        fixity = ET.SubElement(told, _q(_PREMIS, "fixity"))
        _text(fixity, "messageDigestAlgorithm", "SHA-256")
        _text(fixity, "messageDigest", file.sha256)
        _text(told, "size", str(file.bytes))
        form = ET.SubElement(ET.SubElement(told, _q(_PREMIS, "format")), _q(_PREMIS, "formatDesignation"))
        _text(form, "formatName", file.type)
        if name := plain(file.original_name):
            _text(made, "originalName", name)
    section = ET.SubElement(root, _q(_METS, "amdSec"), {"ID": "history"})
    for number, event in enumerate(events):
        data = _wrapped(ET.SubElement(section, _q(_METS, "digiprovMD"), {"ID": f"event{number}"}), "PREMIS:EVENT")
        made = ET.SubElement(data, _q(_PREMIS, "event"))
        _named(made, "eventIdentifier", "local", f"event {number + 1}")
        _text(made, "eventType", event.kind)
        _text(made, "eventDateTime", event.when.isoformat())
        _text(ET.SubElement(made, _q(_PREMIS, "eventDetailInformation")), "eventDetail", event.detail)
        linked = ET.SubElement(made, _q(_PREMIS, "linkingAgentIdentifier"))
        _text(linked, "linkingAgentIdentifierType", "local")
        _text(linked, "linkingAgentIdentifierValue", software)
    data = _wrapped(ET.SubElement(section, _q(_METS, "digiprovMD"), {"ID": "agent"}), "PREMIS:AGENT")
    made = ET.SubElement(data, _q(_PREMIS, "agent"))
    _named(made, "agentIdentifier", "local", software)
    _text(made, "agentName", software)
    _text(made, "agentType", "software")


def _listed(root: ET.Element, files: Sequence[PackedFile]) -> None:
    section = ET.SubElement(root, _q(_METS, "fileSec"))
    groups: dict[str, ET.Element] = {}
    for number, file in enumerate(files):
        if file.use not in groups:
            groups[file.use] = ET.SubElement(section, _q(_METS, "fileGrp"), {"USE": file.use})
        one = ET.SubElement(
            groups[file.use], _q(_METS, "file"),
            {
                "ID": f"file{number}", "MIMETYPE": file.type, "SIZE": str(file.bytes), "CHECKSUM": file.sha256,
                "CHECKSUMTYPE": "SHA-256", "ADMID": f"object{number}",
            },
        )  # fmt: skip
        where = {"LOCTYPE": "URL", _q(_XLINK, "type"): "simple", _q(_XLINK, "href"): quote(file.path)}
        ET.SubElement(one, _q(_METS, "FLocat"), where)


def _ordered(root: ET.Element, about: Description, files: Sequence[PackedFile], labels: Sequence[str]) -> None:
    structure = ET.SubElement(root, _q(_METS, "structMap"), {"TYPE": "physical"})
    top = {"TYPE": "document", "LABEL": plain(about.title), "DMDID": "described", "ADMID": "history"}
    whole = ET.SubElement(structure, _q(_METS, "div"), top)
    for number, file in enumerate(files):
        if not file.pages:
            ET.SubElement(whole, _q(_METS, "fptr"), {"FILEID": f"file{number}"})
    for at, label in enumerate(labels):
        page = ET.SubElement(
            whole, _q(_METS, "div"), {"TYPE": "page", "ORDER": str(at + 1), "ORDERLABEL": plain(label) or str(at + 1)}
        )
        for number, file in enumerate(files):
            if at in file.pages:
                ET.SubElement(page, _q(_METS, "fptr"), {"FILEID": f"file{number}"})


def _wrapped(section: ET.Element, kind: str) -> ET.Element:
    wrap = ET.SubElement(section, _q(_METS, "mdWrap"), {"MDTYPE": kind})
    return ET.SubElement(wrap, _q(_METS, "xmlData"))


def _named(made: ET.Element, name: str, kind: str, value: str) -> None:
    one = ET.SubElement(made, _q(_PREMIS, name))
    _text(one, f"{name}Type", kind)
    _text(one, f"{name}Value", value)


def _text(parent: ET.Element, name: str, text: str) -> None:
    ET.SubElement(parent, _q(_PREMIS, name)).text = text


def _q(space: str, name: str) -> str:
    return f"{{{space}}}{name}"
