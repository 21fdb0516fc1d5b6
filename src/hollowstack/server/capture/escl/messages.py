"""eSCL messages, read and written.

Elements as in the Mopria Alliance's eSCL Technical Specification (version 2.97, from memory) and the PWG Semantic Model
that it draws on. Regions are in 1/300 inch.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Literal
from xml.etree.ElementTree import Element, SubElement, tostring

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

SCAN = "http://schemas.hp.com/imaging/escl/2011/05/03"
PWG = "http://www.pwg.org/schemas/2010/12/sm"
STATION = "urn:x-hollowstack:station"
"""What eSCL has no element for."""
UNITS_PER_MM = 300 / 25.4
Source = Literal["Platen", "Feeder"]
Colour = Literal["BlackAndWhite1", "Grayscale8", "RGB24"]
Guides = Literal["", "left", "middle", "right"]
_MOST_DIGITS = 10
_GUIDES: dict[str, Guides] = {"Left": "left", "Center": "middle", "Right": "right"}


class NotEscl(Exception):
    """What came is no message of this kind."""


@dataclass(frozen=True, slots=True)
class SourceCapabilities:
    """What a platen or feeder can do."""

    width_mm: float
    height_mm: float
    resolutions: tuple[int, ...]
    colours: tuple[str, ...]
    formats: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Capabilities:
    """What a station can do; a source that it does not have is None."""

    name: str
    platen: SourceCapabilities | None
    feeder: SourceCapabilities | None
    two_sided: bool
    uuid: str = ""
    """By which it is the same at another address; empty where it tells none."""
    guides: Guides = ""
    """Where the feeder holds the paper, as it is seen in the image; empty where it does not tell."""
    slow_feed: bool = False
    """Whether the feeder can draw sheets in slowly; no element of eSCL, so in a namespace of its own."""


@dataclass(frozen=True, slots=True)
class Status:
    """How a station stands: ``state`` and ``feeder`` as it says them, jobs by number with state."""

    state: str
    feeder: str
    jobs: dict[str, str]
    keys: int = 0
    """How often its own start key was pressed, where it tells; no element of eSCL, so in a namespace of its own."""
    made: dict[str, int] = field(default_factory=dict)
    """By job, how many images it has made, where it tells."""


@dataclass(frozen=True, slots=True)
class ScanSettings:
    """One job: x, y, width and height of the region in mm."""

    source: Source
    two_sided: bool
    colour: Colour
    ppi: int
    media_type: str
    region_mm: tuple[float, float, float, float]
    slow: bool = False
    """Feed slowly: only for a station that says that it can."""


def read_capabilities(body: bytes) -> Capabilities:
    """From a ScannerCapabilities document. Raises NotEscl."""
    root = _root(body, "ScannerCapabilities")
    one = _source(root, "PlatenInputCaps")
    feeder = _source(root, "AdfSimplexInputCaps")
    duplex = _source(root, "AdfDuplexInputCaps")
    name = root.findtext(f"{{{PWG}}}MakeAndModel") or "Station"
    if one is None and feeder is None and duplex is None:
        raise NotEscl
    uuid = (root.findtext(f"{{{SCAN}}}UUID") or "").strip().lower().removeprefix("urn:uuid:")[:80]
    guides = _GUIDES.get((root.findtext(f"{{{SCAN}}}Adf/{{{SCAN}}}Justification/{{{PWG}}}XImagePosition") or "").strip(), "")
    slow = (root.findtext(f"{{{SCAN}}}Adf/{{{STATION}}}SlowFeed") or "").strip() == "true"
    return Capabilities(" ".join(name.split())[:80], one, feeder or duplex, duplex is not None, uuid, guides, slow)


def job_number(address: str) -> str:
    """By which a job is told from others: the last part of its address, whole or as a path."""
    return address.rstrip("/").rsplit("/", 1)[-1]


def read_status(body: bytes) -> Status:
    """From a ScannerStatus document. Raises NotEscl."""
    root = _root(body, "ScannerStatus")
    told = {job_number(job.findtext(f"{{{PWG}}}JobUri") or ""): job for job in root.iter(f"{{{SCAN}}}JobInfo")}
    jobs = {number: job.findtext(f"{{{PWG}}}JobState") or "" for number, job in told.items()}
    made = {number: job.findtext(f"{{{PWG}}}ImagesCompleted") or "" for number, job in told.items()}
    state = root.findtext(f"{{{PWG}}}State")
    if state is None:
        raise NotEscl
    keys = root.findtext(f"{{{STATION}}}StartKey") or ""
    return Status(
        state,
        root.findtext(f"{{{SCAN}}}AdfState") or "",
        jobs,
        _number(keys),
        {number: _number(images) for number, images in made.items()},
    )


def _number(text: str) -> int:
    """A number as it stands in a message; 0 where it is none, or longer than any count."""
    text = text.strip()
    return int(text) if text.isdecimal() and len(text) < _MOST_DIGITS else 0


def write_settings(settings: ScanSettings) -> bytes:
    """As a ScanSettings document."""
    root = Element(f"{{{SCAN}}}ScanSettings")
    SubElement(root, f"{{{PWG}}}Version").text = "2.63"
    region = SubElement(SubElement(root, f"{{{PWG}}}ScanRegions"), f"{{{PWG}}}ScanRegion")
    x, y, width, height = (round(mm * UNITS_PER_MM) for mm in settings.region_mm)
    for name, value in (("Height", height), ("Width", width), ("XOffset", x), ("YOffset", y)):
        SubElement(region, f"{{{PWG}}}{name}").text = str(value)
    SubElement(region, f"{{{PWG}}}ContentRegionUnits").text = "escl:ThreeHundredthsOfInches"
    SubElement(root, f"{{{PWG}}}InputSource").text = settings.source
    SubElement(root, f"{{{PWG}}}DocumentFormat").text = settings.media_type
    SubElement(root, f"{{{SCAN}}}DocumentFormatExt").text = settings.media_type
    SubElement(root, f"{{{SCAN}}}XResolution").text = str(settings.ppi)
    SubElement(root, f"{{{SCAN}}}YResolution").text = str(settings.ppi)
    SubElement(root, f"{{{SCAN}}}ColorMode").text = settings.colour
    if settings.source == "Feeder":
        SubElement(root, f"{{{SCAN}}}Duplex").text = "true" if settings.two_sided else "false"
    if settings.slow:
        SubElement(root, f"{{{STATION}}}SlowFeed").text = "true"
    written: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
    return written


def _root(body: bytes, name: str) -> Element:
    try:
        root: Element = ElementTree.fromstring(body)
    except (ElementTree.ParseError, DefusedXmlException):
        raise NotEscl from None
    if root.tag != f"{{{SCAN}}}{name}":
        raise NotEscl
    return root


def _source(root: Element, name: str) -> SourceCapabilities | None:
    found = next(root.iter(f"{{{SCAN}}}{name}"), None)
    if found is None:
        return None
    try:
        width, height = (int(found.findtext(f"{{{SCAN}}}{side}") or 0) / UNITS_PER_MM for side in ("MaxWidth", "MaxHeight"))
        resolutions = sorted({int(text) for text in _texts(found, SCAN, "XResolution")})
    except ValueError:
        raise NotEscl from None
    formats = {*_texts(found, SCAN, "DocumentFormatExt"), *_texts(found, PWG, "DocumentFormat")}
    return SourceCapabilities(
        round(width, 1), round(height, 1), tuple(resolutions), tuple(dict.fromkeys(_texts(found, SCAN, "ColorMode"))),
        tuple(sorted(formats)),
    )  # fmt: skip


def _texts(within: Element, space: str, name: str) -> Iterator[str]:
    return (element.text.strip() for element in within.iter(f"{{{space}}}{name}") if element.text)
