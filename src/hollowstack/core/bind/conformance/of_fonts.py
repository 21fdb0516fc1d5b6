"""Rules of fonts: embedded, with widths and meanings (ISO 19005-1: 6.3; -2, -3: 6.2.11; -4: 6.2.10).

Looked at closely are fonts as this program writes them: composite ones with TrueType glyphs by number. Others are held to
what can be said of all fonts.
"""

import re
import struct
from collections.abc import Iterator
from typing import Final, NamedTuple

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.opened import Opened

_KINDS: Final = {"/Type1", "/MMType1", "/TrueType", "/Type3", "/Type0"}
_INVISIBLE: Final = 3
"""Rendering mode of text that draws nothing (ISO 32000-1, table 106)."""
_SUBSET = re.compile(r"/[A-Z]{6}\+")
_CHARS = re.compile(rb"beginbfchar(.*?)endbfchar", re.DOTALL)
_RANGES = re.compile(rb"beginbfrange(.*?)endbfrange", re.DOTALL)
_PAIR = re.compile(rb"<([0-9A-Fa-f\s]*)>\s*<([0-9A-Fa-f\s]*)>")
_TRIPLE = re.compile(rb"<([0-9A-Fa-f\s]*)>\s*<([0-9A-Fa-f\s]*)>\s*(?:<([0-9A-Fa-f\s]*)>|\[([^\]]*)\])")
_STANDARD: Final = {"/Identity-H", "/Identity-V"}
_FORBIDDEN: Final = ("\0", "\ufeff", "\ufffe")
_CLOSE = 1
"""Thousandths by which two widths differ at most."""


class Composite(NamedTuple):
    """A composite font as it is used."""

    font: pikepdf.Object
    inner: pikepdf.Object
    where: str
    seen: bool
    """Whether some of its text is drawn."""
    codes: set[int]


def _composites(file: Opened) -> Iterator[Composite]:
    for one in file.used["fonts"]:
        inner = one.object.get("/DescendantFonts")
        if one.object.get("/Subtype") == "/Type0" and isinstance(inner, pikepdf.Array) and len(inner):
            yield Composite(one.object, inner[0], f"Page {one.page}", one.modes != {_INVISIBLE}, one.codes)


@rule({1: "6.3.2", 2: "6.2.11.2", 4: "6.2.10.2"}, "Fonts: of a kind of the standard, with all that it takes")
def kinds(file: Opened) -> Iterator[str]:
    for one in file.used["fonts"]:
        font, where = one.object, f"Page {one.page}"
        kind = str(font.get("/Subtype", ""))
        if font.get("/Type") != "/Font":
            yield f"{where} has a font that does not say that it is one."
        if kind not in _KINDS:
            yield f"{where} has a font of a kind that is not in the standard ({kind[1:]})."
        if kind != "/Type3" and not isinstance(font.get("/BaseFont"), pikepdf.Name):
            yield f"{where} has a font without a name."
        if kind in ("/Type1", "/MMType1", "/TrueType", "/Type3") and not _is_standard(font):
            yield from _simple(font, where)
        if kind == "/Type0":
            yield from _inner(font, where)
        descriptor = _descriptor(font)
        if descriptor is not None and isinstance(descriptor.get("/FontFile3"), pikepdf.Stream):
            allowed = {"/Type1C", "/CIDFontType0C"} | ({"/OpenType"} if file.part > 1 else set())
            if str(descriptor["/FontFile3"].get("/Subtype", "")) not in allowed:
                yield f"{where} has a font file of a kind that is not in the standard."


def _simple(font: pikepdf.Object, where: str) -> Iterator[str]:
    first, last, widths = font.get("/FirstChar"), font.get("/LastChar"), font.get("/Widths")
    if first is None or last is None or widths is None or len(widths) != int(last) - int(first) + 1:
        yield f"{where} has a font without a width for each of its characters."


def _inner(font: pikepdf.Object, where: str) -> Iterator[str]:
    inner = font.get("/DescendantFonts")
    if not isinstance(inner, pikepdf.Array) or len(inner) != 1 or not isinstance(inner[0], pikepdf.Dictionary):
        yield f"{where} has a composite font without the font that it is made of."
        return
    if inner[0].get("/Type") != "/Font" or str(inner[0].get("/Subtype")) not in ("/CIDFontType0", "/CIDFontType2"):
        yield f"{where} has a composite font of one that is none."
    if not isinstance(inner[0].get("/BaseFont"), pikepdf.Name):
        yield f"{where} has a font without a name."


@rule({1: "6.3.3", 2: "6.2.11.3", 4: "6.2.10.3"}, "Composite fonts: codes that lead to glyphs")
def composite(file: Opened) -> Iterator[str]:
    for one in _composites(file):
        encoding = one.font.get("/Encoding")
        if isinstance(encoding, pikepdf.Name):
            if str(encoding) not in _STANDARD:
                yield f"{one.where} has a font whose codes are told in a table that is not there ({str(encoding)[1:]})."
        elif isinstance(encoding, pikepdf.Stream):
            yield from _told_codes(encoding, one)
        else:
            yield f"{one.where} has a composite font that does not tell its codes."
        if one.inner.get("/Subtype") == "/CIDFontType2":
            mapping = one.inner.get("/CIDToGIDMap")
            embedded = _font_file(one.inner) is not None
            wanted = one.seen if file.part == 1 else embedded
            if wanted and not (isinstance(mapping, pikepdf.Stream) or mapping == "/Identity"):
                yield f"{one.where} has a font that does not tell which glyph a code has (CIDToGIDMap)."


def _told_codes(encoding: pikepdf.Object, one: Composite) -> Iterator[str]:
    system, own = encoding.get("/CIDSystemInfo"), one.inner.get("/CIDSystemInfo")
    if not isinstance(system, pikepdf.Dictionary) or not isinstance(own, pikepdf.Dictionary):
        yield f"{one.where} has a font that does not say to which collection its characters belong."
    elif any(str(system.get(key)) != str(own.get(key)) for key in ("/Registry", "/Ordering")):
        yield f"{one.where} has a font whose codes belong to another collection than its characters."
    found = re.search(rb"/WMode\s+(\d)", encoding.read_bytes())
    if found and int(found[1]) != int(encoding.get("/WMode", 0)):
        yield f"{one.where} has a font whose direction of writing is told in two ways."


@rule({1: "6.3.4", 2: "6.2.11.4", 4: "6.2.10.4"}, "Fonts: embedded, with all glyphs that are shown")
def embedded(file: Opened) -> Iterator[str]:
    for one in file.used["fonts"]:
        kind = one.object.get("/Subtype")
        if kind == "/Type3" or one.modes == {_INVISIBLE}:
            continue
        holder = one.object["/DescendantFonts"][0] if kind == "/Type0" and "/DescendantFonts" in one.object else one.object
        if _font_file(holder) is None:
            yield f"Page {one.page} shows text in a font that is not in the file."
    for font in _composites(file):
        program = _truetype(font.inner)
        if program is not None and font.seen and any(glyph >= program.glyphs for glyph in _glyphs(font)):
            yield f"{font.where} shows characters that its font does not have."


@rule({1: "6.3.5", 2: "6.2.11.4.2", 4: "6.2.10.4.2"}, "Parts of fonts: lists of what is in them")
def subsets(file: Opened) -> Iterator[str]:
    for one in _composites(file):
        descriptor = one.inner.get("/FontDescriptor")
        if not isinstance(descriptor, pikepdf.Dictionary) or not _SUBSET.match(str(one.inner.get("/BaseFont", ""))):
            continue
        listed = descriptor.get("/CIDSet")
        if file.part == 1 and not isinstance(listed, pikepdf.Stream):
            yield f"{one.where} has a part of a font without a list of its characters (CIDSet)."
        program = _truetype(one.inner)
        if file.part < 4 and isinstance(listed, pikepdf.Stream) and program is not None:
            bits = listed.read_bytes()
            if any(not bits[code // 8 : code // 8 + 1] or not bits[code // 8] >> (7 - code % 8) & 1 for code in one.codes):
                yield f"{one.where} has a part of a font whose list of characters (CIDSet) is not whole."


@rule({1: "6.3.6", 2: "6.2.11.5", 4: "6.2.10.5"}, "Widths: the same in the font and in the document")
def widths(file: Opened) -> Iterator[str]:
    for one in _composites(file):
        program = _truetype(one.inner)
        if program is None or not one.seen:
            continue
        told, default = _told_widths(one.inner), float(one.inner.get("/DW", 1000))
        for code, glyph in zip(sorted(one.codes), _glyphs(one), strict=True):
            width = program.widths[min(glyph, len(program.widths) - 1)] * 1000 / program.units
            if glyph < program.glyphs and abs(width - told.get(code, default)) > _CLOSE:
                yield f"{one.where} has a font whose widths are not those of its font file."
                break


@rule({1: "6.3.8", 2: "6.2.11.7", 4: "6.2.10.7"}, "Text: each character with its meaning in Unicode", levels="AU")
def unicode(file: Opened) -> Iterator[str]:
    for used in file.used["fonts"]:
        if used.object.get("/Subtype") != "/Type0":
            if (
                "/ToUnicode" not in used.object
                and used.object.get("/Encoding") is None
                and used.object.get("/Subtype") == "/Type3"
            ):
                yield f"Page {used.page} has text of which nothing says what it means."
            continue
        table = used.object.get("/ToUnicode")
        if not isinstance(table, pikepdf.Stream):
            yield f"Page {used.page} has text of which nothing says what it means (ToUnicode)."
            continue
        try:
            meaning = to_unicode(table.read_bytes())
        except pikepdf.PdfError:
            meaning = {}
        if missing := used.codes - set(meaning):
            yield f"Page {used.page} has {len(missing)} characters of which nothing says what they mean."
        shown = [meaning[code] for code in used.codes if code in meaning]
        if any(char in text for text in shown for char in _FORBIDDEN) or "" in shown:
            yield f"Page {used.page} has characters that are said to mean what no text can hold."
        if file.level == "A" and any(0xE000 <= ord(char) <= 0xF8FF for text in shown for char in text):
            yield f"Page {used.page} has characters of a private area of Unicode without words for them."


@rule({2: "6.2.11.8", 4: "6.2.10.9"}, "Text: no characters that the font does not have (.notdef)")
def notdef(file: Opened) -> Iterator[str]:
    for one in _composites(file):
        if _font_file(one.inner) is not None and 0 in _glyphs(one):
            yield f"{one.where} has text of characters that the font does not have (.notdef)."


def to_unicode(table: bytes) -> dict[int, str]:
    """What codes mean, by a ToUnicode table (ISO 32000-1, 9.10.3)."""
    found: dict[int, str] = {}
    for block in _CHARS.findall(table):
        for code, meaning in _PAIR.findall(block):
            found[_number(code)] = _text(meaning)
    for block in _RANGES.findall(table):
        for first, last, start, listed in _TRIPLE.findall(block):
            begin, end = _number(first), _number(last)
            each = [_text(one) for one in re.findall(rb"<([^>]*)>", listed)] if listed else []
            for at, code in enumerate(range(begin, min(end, begin + 0xFFFF) + 1)):
                base = _text(start) if start else ""
                text = each[at] if at < len(each) else base[:-1] + chr(ord(base[-1]) + at) if base else None
                if text is not None:
                    found[code] = text
    return found


def _number(figures: bytes) -> int:
    return int(b"".join(figures.split()) or b"0", 16)


def _text(figures: bytes) -> str:
    return bytes.fromhex("".join(figures.decode("ascii").split())).decode("utf-16-be", "replace")


class Program(NamedTuple):
    """What is wanted of a TrueType file."""

    glyphs: int
    units: int
    widths: list[int]


def _truetype(inner: pikepdf.Object) -> Program | None:
    """Of a font's file (ISO/IEC 14496-22: head, hhea, hmtx, maxp); None without one that can be read."""
    descriptor = inner.get("/FontDescriptor")
    stream = descriptor.get("/FontFile2") if isinstance(descriptor, pikepdf.Dictionary) else None
    if not isinstance(stream, pikepdf.Stream):
        return None
    try:
        data = stream.read_bytes()
        tables = {}
        for at in range(struct.unpack_from(">H", data, 4)[0]):
            tag, _, offset, length = struct.unpack_from(">4sIII", data, 12 + 16 * at)
            tables[tag] = data[offset : offset + length]
        units, count = struct.unpack_from(">H", tables[b"head"], 18)[0], struct.unpack_from(">H", tables[b"maxp"], 4)[0]
        entries = struct.unpack_from(">H", tables[b"hhea"], 34)[0]
        found = [struct.unpack_from(">H", tables[b"hmtx"], 4 * at)[0] for at in range(entries)]
    except (struct.error, KeyError, pikepdf.PdfError):
        return None
    return Program(count, units, found) if found and units else None


def _glyphs(one: Composite) -> list[int]:
    """The glyph of each code that is shown, in the order of the codes."""
    mapping = one.inner.get("/CIDToGIDMap")
    if not isinstance(mapping, pikepdf.Stream):
        return sorted(one.codes)
    table = mapping.read_bytes()
    return [int.from_bytes(table[2 * code : 2 * code + 2]) for code in sorted(one.codes)]


def _told_widths(inner: pikepdf.Object) -> dict[int, float]:
    """The widths of an array W (ISO 32000-1, 9.7.4.3)."""
    found: dict[int, float] = {}
    entries = list(inner.get("/W", []))
    while len(entries) >= 2:
        first = int(entries.pop(0))
        if isinstance(entries[0], pikepdf.Array):
            found.update({first + at: float(width) for at, width in enumerate(entries.pop(0))})
        elif len(entries) >= 2:
            last, width = int(entries.pop(0)), float(entries.pop(0))
            found.update(dict.fromkeys(range(first, last + 1), width))
    return found


def _descriptor(font: pikepdf.Object) -> pikepdf.Object | None:
    inner = font.get("/DescendantFonts")
    holder = inner[0] if isinstance(inner, pikepdf.Array) and len(inner) else font
    found = holder.get("/FontDescriptor") if isinstance(holder, pikepdf.Dictionary) else None
    return found if isinstance(found, pikepdf.Dictionary) else None


def _font_file(font: pikepdf.Object) -> pikepdf.Object | None:
    descriptor = font.get("/FontDescriptor")
    if not isinstance(descriptor, pikepdf.Dictionary):
        return None
    return next((descriptor[key] for key in ("/FontFile", "/FontFile2", "/FontFile3") if key in descriptor), None)


_FOURTEEN: Final = {
    "/Courier", "/Courier-Bold", "/Courier-BoldOblique", "/Courier-Oblique", "/Helvetica", "/Helvetica-Bold",
    "/Helvetica-BoldOblique", "/Helvetica-Oblique", "/Times-Roman", "/Times-Bold", "/Times-Italic", "/Times-BoldItalic",
    "/Symbol", "/ZapfDingbats",
}  # fmt: skip


def _is_standard(font: pikepdf.Object) -> bool:
    """Whether it is one of the fourteen that every reader of PDF had; their widths are known."""
    return str(font.get("/BaseFont", "")) in _FOURTEEN and "/FontDescriptor" not in font
