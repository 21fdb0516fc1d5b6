"""Readings as hOCR: a page of HTML whose elements say where everything stands."""

import re
from collections.abc import Sequence
from xml.etree import ElementTree as ET

from defusedxml.ElementTree import fromstring

from hollowstack.core.ocr.model import Block, BlockKind, Box, Line, Mark, Reading, Word, block_of
from hollowstack.core.page.errors import ReadError
from hollowstack.core.read.languages import language_tag

_CLASSES: dict[BlockKind, str] = {
    "text": "ocr_carea",
    "table": "ocr_table",
    "picture": "ocr_photo",
    "not read": "ocrx_block",
}
_CAPABILITIES = "ocr_page ocr_carea ocr_table ocr_photo ocrx_block ocr_par ocr_line ocrx_word"
_PROGRAM = "Hollow Stack"
_HTML = "{http://www.w3.org/1999/xhtml}html"


def to_hocr(readings: Sequence[Reading], file_name: str) -> bytes:
    """The pages of one document, in their order.

    Args:
        readings: One a page.
        file_name: Of what was read.

    Returns:
        An XHTML document in UTF-8. A word put right by hand carries ``data-mark``; its other readings are its title's
        neighbours in ``data-others``, a tab between two.

    Source:
        hOCR 1.2, T. Breuel and others, 2020: elements and properties (from memory).
    """
    html = ET.Element("html", {"xmlns": "http://www.w3.org/1999/xhtml", "lang": _tag(readings)})
    head = ET.SubElement(html, "head")
    ET.SubElement(head, "title").text = file_name
    ET.SubElement(head, "meta", {"charset": "utf-8"})
    ET.SubElement(head, "meta", {"name": "ocr-system", "content": _PROGRAM})
    ET.SubElement(head, "meta", {"name": "ocr-capabilities", "content": _CAPABILITIES})
    body = ET.SubElement(html, "body")
    for number, reading in enumerate(readings):
        _page(body, reading, number)
    ET.indent(html)
    return f"<!DOCTYPE html>\n{ET.tostring(html, encoding='unicode')}\n".encode()


def from_hocr(data: bytes) -> list[Reading]:
    """Readings from what ``to_hocr`` wrote, one a page. Raises ReadError where it is no such document."""
    try:
        root = fromstring(data.decode("utf-8").partition("\n")[2])
        if root.tag != _HTML:
            raise ValueError(f"it begins with {root.tag}")
        return [_reading(page) for page in _of(root, "ocr_page")]
    except (ET.ParseError, ValueError, TypeError, KeyError, IndexError) as error:
        raise ReadError(f"This is no hOCR document as this program writes it ({error}): choose another file.") from None


def _page(body: ET.Element, reading: Reading, number: int) -> None:
    width, height = reading.size_px
    page = ET.SubElement(
        body, "div", {
            "class": "ocr_page", "id": f"page_{number + 1}", "title": f"bbox 0 0 {width} {height}; ppageno {number}",
            "lang": language_tag(reading.language), "data-models": reading.language,
        },
    )  # fmt: skip
    for at, block in enumerate(reading.blocks, 1):
        name = f"block_{number + 1}_{at}"
        area = ET.SubElement(page, "div", {"class": _CLASSES[block.kind], "id": name, "title": _bbox(block.box)})
        if not block.lines:
            continue
        paragraph = ET.SubElement(area, "p", {"class": "ocr_par", "title": _bbox(block.box)})
        for row, line in enumerate(block.lines, 1):
            _line(paragraph, line, f"{name}_{row}")


def _line(paragraph: ET.Element, line: Line, name: str) -> None:
    slope, offset = _baseline(line)
    title = f"{_bbox(line.box)}; baseline {slope:.5f} {offset:.2f}"
    made = ET.SubElement(paragraph, "span", {"class": "ocr_line", "id": name, "title": title})
    for at, word in enumerate(line.words, 1):
        given = {"class": "ocrx_word", "id": f"{name}_{at}", "title": f"{_bbox(word.box)}; x_wconf {word.confidence:g}"}
        if word.mark:
            given["data-mark"] = word.mark
        others = (word.text, *word.alternatives) if word.mark == "unreadable" else word.alternatives
        if others:
            given["data-others"] = "\t".join(others)
        ET.SubElement(made, "span", given).text = word.shown


def _baseline(line: Line) -> tuple[float, float]:
    """Slope, and height above the lower left corner of the line's box, as hOCR counts both."""
    x1, y1, x2, y2 = line.baseline
    slope = (y2 - y1) / (x2 - x1) if abs(x2 - x1) >= 1 else 0.0
    left, _, _, bottom = line.box
    return slope, y1 + slope * (left - x1) - bottom


def _reading(page: ET.Element) -> Reading:
    _, _, width, height = _box(page)
    kinds = {name: kind for kind, name in _CLASSES.items()}
    blocks = [_block(area, kinds[area.get("class", "")]) for area in page]
    return Reading(language=page.get("data-models", ""), size_px=(width, height), blocks=blocks)


def _block(area: ET.Element, kind: BlockKind) -> Block:
    lines = []
    for line in _of(area, "ocr_line"):
        words = [_word(word) for word in _of(line, "ocrx_word")]
        left, _, right, bottom = _box(line)
        slope, offset = (float(value) for value in _property(line, "baseline"))
        y1 = bottom + offset
        lines.append(Line(words=words, baseline=(left, y1, right, y1 + slope * (right - left))))
    return block_of(lines, kind) if lines else Block(kind=kind, box=_box(area))


def _word(element: ET.Element) -> Word:
    mark: Mark = {"corrected": "corrected", "unreadable": "unreadable"}.get(element.get("data-mark", ""), "")  # type: ignore[assignment]
    given = element.get("data-others")
    others = [] if given is None else given.split("\t")
    text = element.text or ""
    if mark == "unreadable":
        text, *others = others
    return Word(
        text=text,
        box=_box(element),
        confidence=float(_property(element, "x_wconf")[0]),
        alternatives=tuple(others),
        mark=mark,
    )


def _of(parent: ET.Element, name: str) -> list[ET.Element]:
    return [one for one in parent.iter() if one.get("class") == name]


def _property(element: ET.Element, name: str) -> list[str]:
    found = re.search(rf"(?:^|;)\s*{name}\s+([^;]+)", element.get("title", ""))
    if found is None:
        raise ValueError(f"an element has no {name}")
    return found[1].split()


def _box(element: ET.Element) -> Box:
    left, top, right, bottom = (int(value) for value in _property(element, "bbox"))
    return (left, top, right, bottom)


def _bbox(box: Box) -> str:
    return f"bbox {box[0]} {box[1]} {box[2]} {box[3]}"


def _tag(readings: Sequence[Reading]) -> str:
    return language_tag(readings[0].language) if readings else "und"
