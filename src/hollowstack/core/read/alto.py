"""Readings as ALTO 4: each word with its place, how sure it is, what else it may be, and whether a hand put it right."""

from collections.abc import Sequence
from xml.etree import ElementTree as ET

from defusedxml.ElementTree import fromstring

from hollowstack.core.ocr.model import Block, BlockKind, Line, Mark, Reading, Word, block_of
from hollowstack.core.page.errors import ReadError
from hollowstack.core.read.languages import language_tag

_SPACE = "http://www.loc.gov/standards/alto/ns-v4#"
_PROGRAM = "Hollow Stack"
_GUESS = "guess"
"""Purpose of the reading of a word that nobody can read; every such word has one."""


def to_alto(readings: Sequence[Reading], file_name: str) -> bytes:
    """The pages of one document, in their order.

    Args:
        readings: One a page.
        file_name: Of what was read.

    Returns:
        An XML document in UTF-8.

    Source:
        ALTO XML schema 4.4, Library of Congress and the ALTO board, 2023 (from memory).
    """
    ET.register_namespace("", _SPACE)
    root = _element(None, "alto", SCHEMAVERSION="4.4")
    description = _element(root, "Description")
    _element(description, "MeasurementUnit").text = "pixel"
    _element(_element(description, "sourceImageInformation"), "fileName").text = file_name
    languages = sorted({reading.language for reading in readings})
    for number, language in enumerate(languages, 1):
        processing = _element(description, "Processing", ID=f"READ{number}")
        _element(processing, "processingCategory").text = "contentGeneration"
        _element(processing, "processingStepSettings").text = f"language={language}"
        _element(_element(processing, "processingSoftware"), "softwareName").text = _PROGRAM
    layout = _element(root, "Layout")
    for number, reading in enumerate(readings, 1):
        _page(layout, reading, number, f"READ{languages.index(reading.language) + 1}")
    ET.indent(root)
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{ET.tostring(root, encoding="unicode")}\n'.encode()


def from_alto(data: bytes) -> list[Reading]:
    """Readings from what ``to_alto`` wrote, one a page.

    The engine's own words on how a reading came about (``doubt``, ``margin``, ``known``) have no place in ALTO.

    Raises:
        ReadError: It is no such document.
    """
    try:
        root = fromstring(data)
        if root.tag != _q("alto"):
            raise ValueError(f"it begins with {root.tag}")
        settings = {
            one.get("ID"): (one.findtext(_q("processingStepSettings")) or "").removeprefix("language=")
            for one in root.iter(_q("Processing"))
        }
        return [_reading(page, settings.get(page.get("PROCESSING"), "")) for page in root.iter(_q("Page"))]
    except (ET.ParseError, ValueError, TypeError, KeyError) as error:
        raise ReadError(f"This is no ALTO document as this program writes it ({error}): choose another file.") from None


def _page(layout: ET.Element, reading: Reading, number: int, processing: str) -> None:
    width, height = reading.size_px
    page = _element(
        layout, "Page", ID=f"P{number}", PHYSICAL_IMG_NR=str(number), WIDTH=str(width), HEIGHT=str(height),
        PC=_share(reading.mean_confidence), PROCESSING=processing,
    )  # fmt: skip
    space = _element(page, "PrintSpace", HPOS="0", VPOS="0", WIDTH=str(width), HEIGHT=str(height))
    tag = language_tag(reading.language)
    for place, block in enumerate(reading.blocks, 1):
        name = f"P{number}B{place}"
        if not block.lines:
            _element(space, "Illustration", ID=name, TYPE=block.kind, **_box(block.box))
            continue
        parent = space
        if block.kind == "table":
            parent = _element(space, "ComposedBlock", ID=f"{name}T", TYPE="table", **_box(block.box))
        text = _element(parent, "TextBlock", ID=name, LANG=tag, **_box(block.box))
        for row, line in enumerate(block.lines, 1):
            _line(text, line, f"{name}L{row}")


def _line(block: ET.Element, line: Line, name: str) -> None:
    x1, y1, x2, y2 = line.baseline
    baseline = f"{_n(x1)},{_n(y1)} {_n(x2)},{_n(y2)}"
    made = _element(block, "TextLine", ID=name, BASELINE=baseline, **_box(line.box))
    for place, word in enumerate(line.words, 1):
        if place > 1:
            before = line.words[place - 2].box[2]
            _element(made, "SP", HPOS=str(before), VPOS=str(word.box[1]), WIDTH=str(max(0, word.box[0] - before)))
        string = _element(
            made, "String", ID=f"{name}W{place}", CONTENT=word.shown, WC=_share(word.confidence),
            **_box(word.box), **({"CS": "true"} if word.mark else {}),
        )  # fmt: skip
        if word.mark == "unreadable":
            _element(string, "ALTERNATIVE", PURPOSE=_GUESS).text = word.text
        for other in word.alternatives:
            _element(string, "ALTERNATIVE").text = other


def _reading(page: ET.Element, language: str) -> Reading:
    blocks = []
    for parent in page.iter(_q("PrintSpace")):
        for element in parent:
            if element.tag == _q("Illustration"):
                kind: BlockKind = "not read" if element.get("TYPE") == "not read" else "picture"
                blocks.append(Block(kind=kind, box=_box_of(element)))
            elif element.tag == _q("ComposedBlock"):
                blocks += [_block(text, "table") for text in element.iter(_q("TextBlock"))]
            else:
                blocks.append(_block(element, "text"))
    size = (int(page.get("WIDTH", "")), int(page.get("HEIGHT", "")))
    return Reading(language=language, size_px=size, blocks=blocks)


def _block(element: ET.Element, kind: BlockKind) -> Block:
    lines = []
    for line in element.iter(_q("TextLine")):
        (x1, y1), (x2, y2) = (point.split(",") for point in line.get("BASELINE", "").split())
        words = [_word(string) for string in line.iter(_q("String"))]
        lines.append(Line(words=words, baseline=(float(x1), float(y1), float(x2), float(y2))))
    return block_of(lines, kind)


def _word(string: ET.Element) -> Word:
    others = [(other.get("PURPOSE"), other.text or "") for other in string.iter(_q("ALTERNATIVE"))]
    guess = next((text for purpose, text in others if purpose == _GUESS), None)
    return Word(
        text=string.get("CONTENT", "") if guess is None else guess,
        box=_box_of(string),
        confidence=round(100 * float(string.get("WC", "0")), 1),
        alternatives=tuple(text for purpose, text in others if purpose != _GUESS),
        mark=_mark(string, guess),
    )


def _mark(string: ET.Element, guess: str | None) -> Mark:
    """By the guess, not by what stands there, which somebody may have put a word right to."""
    if string.get("CS") != "true":
        return ""
    return "corrected" if guess is None else "unreadable"


def _box(box: tuple[int, int, int, int]) -> dict[str, str]:
    left, top, right, bottom = box
    return {"HPOS": str(left), "VPOS": str(top), "WIDTH": str(right - left), "HEIGHT": str(bottom - top)}


def _box_of(element: ET.Element) -> tuple[int, int, int, int]:
    left, top, width, height = (int(element.get(name, "")) for name in ("HPOS", "VPOS", "WIDTH", "HEIGHT"))
    return (left, top, left + width, top + height)


def _share(percent: float) -> str:
    return f"{percent / 100:.3f}"


def _n(value: float) -> str:
    return f"{value:.1f}".removesuffix(".0")


def _q(name: str) -> str:
    return f"{{{_SPACE}}}{name}"


def _element(parent: ET.Element | None, tag: str, /, **attributes: str) -> ET.Element:
    if parent is None:
        return ET.Element(_q(tag), attributes)
    return ET.SubElement(parent, _q(tag), attributes)
