"""Parts of an XMP packet: lists, alternatives, structures, and the schema of what only this program says."""

from collections.abc import Iterable, Sequence
from xml.sax.saxutils import escape

from hollowstack.core.bind.description import Provenance
from hollowstack.core.bind.plain import plain

_DC = "http://purl.org/dc/elements/1.1/"
_XMP = "http://ns.adobe.com/xap/1.0/"
_XMP_MM = "http://ns.adobe.com/xap/1.0/mm/"
_EVENT = "http://ns.adobe.com/xap/1.0/sType/ResourceEvent#"
_EXTENSION = "http://www.aiim.org/pdfa/ns/extension/"
_SCHEMA = "http://www.aiim.org/pdfa/ns/schema#"
_PROPERTY = "http://www.aiim.org/pdfa/ns/property#"
OWN = "urn:hollow-stack:provenance:1#"
"""The namespace of what only this program says: a name, not an address."""


def creators(names: Sequence[str]) -> str:
    """Who made the original, in order."""
    return _dublin("creator", _list("Seq", names)) if names else ""


def subjects(terms: Sequence[str]) -> str:
    """What it is about, in no order."""
    return _dublin("subject", _list("Bag", terms)) if terms else ""


def kinds(words: Sequence[str]) -> str:
    """What kind of thing it is."""
    return _dublin("type", _list("Bag", words)) if words else ""


def relations(names: Sequence[str]) -> str:
    """What belongs to it."""
    return _dublin("relation", _list("Bag", names)) if names else ""


def rights(text: str) -> str:
    """Who may use it."""
    return _dublin("rights", _alternative(text)) if text else ""


def coverage(text: str) -> str:
    """Of what time it is, where that is no date of the calendar."""
    return _dublin("coverage", escape(plain(text))) if text else ""


def steps(provenance: Provenance) -> str:
    """The program, and what was done to make the document, step by step.

    Source:
        ISO 16684-1:2012, 8.4 (XMP basic), XMP specification part 2:2008, 1.2.4 (xmpMM:History of resource events).
    """
    tool = _element("xmp:CreatorTool", provenance.software)
    tool = f'<rdf:Description rdf:about="" xmlns:xmp="{_XMP}">{tool}</rdf:Description>'
    if not provenance.events:
        return tool
    made = "".join(
        '<rdf:li rdf:parseType="Resource">'
        + _element("stEvt:action", event.action)
        + _element("stEvt:when", event.when.replace(microsecond=0).isoformat())
        + _element("stEvt:softwareAgent", provenance.software)
        + (_element("stEvt:parameters", event.parameters) if event.parameters else "")
        + "</rdf:li>"
        for event in provenance.events
    )
    return (
        f'{tool}<rdf:Description rdf:about="" xmlns:xmpMM="{_XMP_MM}" xmlns:stEvt="{_EVENT}">'
        f"<xmpMM:History><rdf:Seq>{made}</rdf:Seq></xmpMM:History></rdf:Description>"
    )


def masters_of_pages(provenance: Provenance) -> str:
    """Digests of the masters, page by page, with the description of their schema that the standard demands.

    Source:
        ISO 19005-2:2011, 6.6.2.3.3 (extension schemas).
    """
    if not provenance.masters:
        return ""
    pages = (f"{number}: {sha256}" for number, sha256 in enumerate(provenance.masters, 1))
    described = _resource(
        _element("pdfaProperty:name", "Masters")
        + _element("pdfaProperty:valueType", "Seq Text")
        + _element("pdfaProperty:category", "external")
        + _element(
            "pdfaProperty:description", "Number of each page, and the SHA-256 digest of the file that it was made from"
        )
    )
    schema = _resource(
        _element("pdfaSchema:schema", "Origin of pages")
        + _element("pdfaSchema:namespaceURI", OWN)
        + _element("pdfaSchema:prefix", "hstack")
        + f"<pdfaSchema:property><rdf:Seq>{described}</rdf:Seq></pdfaSchema:property>"
    )
    return (
        f'<rdf:Description rdf:about="" xmlns:pdfaExtension="{_EXTENSION}" xmlns:pdfaSchema="{_SCHEMA}" '
        f'xmlns:pdfaProperty="{_PROPERTY}"><pdfaExtension:schemas><rdf:Bag>{schema}</rdf:Bag></pdfaExtension:schemas>'
        f'</rdf:Description><rdf:Description rdf:about="" xmlns:hstack="{OWN}">'
        f"<hstack:Masters>{_list('Seq', pages)}</hstack:Masters></rdf:Description>"
    )


def _dublin(name: str, value: str) -> str:
    return f'<rdf:Description rdf:about="" xmlns:dc="{_DC}"><dc:{name}>{value}</dc:{name}></rdf:Description>'


def _list(kind: str, texts: Iterable[str]) -> str:
    return f"<rdf:{kind}>{''.join(_element('rdf:li', text) for text in texts)}</rdf:{kind}>"


def _alternative(text: str) -> str:
    return f'<rdf:Alt><rdf:li xml:lang="x-default">{escape(plain(text))}</rdf:li></rdf:Alt>'


def _resource(fields: str) -> str:
    return f'<rdf:li rdf:parseType="Resource">{fields}</rdf:li>'


def _element(name: str, text: str) -> str:
    return f"<{name}>{escape(plain(text))}</{name}>"
