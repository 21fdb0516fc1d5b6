"""An XMP packet: its frame, its claim of conformance, its properties with their types."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Final
from xml.etree.ElementTree import Element, ParseError

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

RDF: Final = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}"
PDFAID: Final = "http://www.aiim.org/pdfa/ns/id/"
_XML_LANG = "{http://www.w3.org/XML/1998/namespace}lang"
_BEGIN = re.compile(rb"<\?xpacket([^?]*)\?>")
_ATTRIBUTE = re.compile(rb"(\w+)\s*=\s*[\"']")


@dataclass(frozen=True, slots=True)
class Claim:
    """What a file says it conforms to, as it says it; None where it says nothing of it."""

    part: str | None
    conformance: str | None
    year: str | None


@dataclass(frozen=True, slots=True)
class Property:
    """A property: its namespace, its name, and its value as an element or, of an attribute, as text."""

    namespace: str
    name: str
    value: "Element | str"

    @property
    def shape(self) -> str:
        """``text``, ``Alt``, ``Bag``, ``Seq`` or ``struct``."""
        if isinstance(self.value, str):
            return "text"
        for kind in ("Alt", "Bag", "Seq"):
            if self.value.find(RDF + kind) is not None:
                return kind
        resource = self.value.get(RDF + "parseType") == "Resource" or self.value.find(RDF + "Description") is not None
        return "struct" if resource or len(self.value) else "text"

    @property
    def text(self) -> str:
        """Of a plain value, what it says."""
        return self.value if isinstance(self.value, str) else (self.value.text or "")

    @property
    def items(self) -> "list[Element]":
        """Of a list, its members."""
        return [] if isinstance(self.value, str) else self.value.findall(f"{RDF}{self.shape}/{RDF}li")

    @property
    def default(self) -> str | None:
        """Of alternatives by language, the default one."""
        return next((item.text or "" for item in self.items if item.get(_XML_LANG) == "x-default"), None)


class Packet:
    """The bytes of a packet, and what they mean."""

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.error = ""
        self.root: Element | None = None
        try:
            self.text = data.decode("utf-8-sig")
        except UnicodeDecodeError:
            self.text, self.error = "", "it is not encoded as UTF-8"
            return
        try:
            # Padding behind the packet is white space, and a parser would take a second root amiss.
            self.root = ElementTree.fromstring(self.text.strip("\0"))
        except (ParseError, DefusedXmlException) as error:
            self.error = f"it is no well-formed XML ({error})"

    @property
    def header(self) -> set[str]:
        """The attributes of its header."""
        found = _BEGIN.search(self.data)
        return {name.decode() for name in _ATTRIBUTE.findall(found[1])} if found else set()

    @cached_property
    def properties(self) -> list[Property]:
        """All of them, in order."""
        return list(self._properties())

    def _properties(self) -> Iterator[Property]:
        if self.root is None:
            return
        rdf = self.root if self.root.tag == RDF + "RDF" else self.root.find(f".//{RDF}RDF")
        for description in rdf.findall(RDF + "Description") if rdf is not None else []:
            for name, value in description.attrib.items():
                if name.startswith("{") and not name.startswith((RDF, "{http://www.w3.org/XML")):
                    yield Property(*_split(name), value)
            for element in description:
                yield Property(*_split(element.tag), element)

    def get(self, namespace: str, name: str) -> Property | None:
        """A property by its name."""
        return next((one for one in self.properties if (one.namespace, one.name) == (namespace, name)), None)

    @property
    def claim(self) -> Claim:
        """What it says the file conforms to."""
        found = {name: self.get(PDFAID, name) for name in ("part", "conformance", "rev")}
        said = {name: None if one is None else one.text for name, one in found.items()}
        return Claim(said["part"], said["conformance"], said["rev"])

    def prefix_of(self, namespace: str) -> set[str]:
        """The prefixes that stand for a namespace in it."""
        return set(re.findall(rf"xmlns:([\w.-]+)\s*=\s*[\"']{re.escape(namespace)}[\"']", self.text))


def _split(tag: str) -> tuple[str, str]:
    namespace, _, name = tag.removeprefix("{").rpartition("}")
    return namespace, name
