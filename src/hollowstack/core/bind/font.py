"""A font without visible shapes: it carries the words of a page for search and selection, and draws nothing.

Every character of a document gets its own code; all codes show the same empty glyph. What they mean is told by ToUnicode.
"""

import struct
import unicodedata

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream

WIDTH = 500
"""Advance of every glyph, in thousandths of the font size."""
ASCENT, DESCENT = 600, -100
"""Extent of the font's line, in thousandths. Readers take a word's box from it, and judge gaps between words by the font's
size: with a line of 0.7 em a tight box still comes with a size at which typewritten word gaps do not look like columns."""

# Not allowed as the meaning of a code in PDF/A-2u (ISO 19005-2, 6.2.11.7.2).
_FORBIDDEN = {"\x00", "\ufeff", "\ufffe"}
_LIGATURES = frozenset(map(chr, range(0xFB00, 0xFB07)))
"""Latin ligatures (Unicode, Alphabetic Presentation Forms)."""


class TextFont:
    """Codes for the characters of one document, in order of appearance."""

    def __init__(self) -> None:
        self._codes: dict[str, int] = {}
        self._words: dict[str, bytes] = {}

    def encode(self, text: str) -> bytes:
        """Two bytes a character, for a text-showing operator."""
        if (known := self._words.get(text)) is None:
            codes = [self._codes.setdefault(c, len(self._codes) + 1) for c in text if not _is_forbidden(c)]
            known = self._words[text] = struct.pack(f">{len(codes)}H", *codes)
        return known

    def build(self, pdf: Pdf, into: pikepdf.Object) -> None:
        """Fill the font dictionary ``into``, which pages already refer to, after the last ``encode``."""
        name = Name("/Glyphless")
        file = Stream(pdf, truetype())
        file.Length1 = len(truetype())
        descriptor = pdf.make_indirect(
            Dictionary(
                Type=Name.FontDescriptor, FontName=name, Flags=4, FontBBox=Array([0, DESCENT, WIDTH, ASCENT]),
                ItalicAngle=0, Ascent=ASCENT, Descent=DESCENT, CapHeight=ASCENT, StemV=80,
                FontFile2=pdf.make_indirect(file),
            )
        )  # fmt: skip
        to_gid = Stream(pdf, b"\0\0" + b"\0\1" * max(self._codes.values(), default=1))
        cid = Dictionary(
            Type=Name.Font, Subtype=Name.CIDFontType2, BaseFont=name,
            CIDSystemInfo=Dictionary(Registry=pikepdf.String("Adobe"), Ordering=pikepdf.String("Identity"), Supplement=0),
            FontDescriptor=descriptor, DW=WIDTH, CIDToGIDMap=pdf.make_indirect(to_gid),
        )  # fmt: skip
        into.Type, into.Subtype, into.BaseFont, into.Encoding = Name.Font, Name.Type0, name, Name("/Identity-H")
        into.DescendantFonts = Array([pdf.make_indirect(cid)])
        into.ToUnicode = pdf.make_indirect(Stream(pdf, self._to_unicode()))

    def _to_unicode(self) -> bytes:
        """The CMap from codes to UTF-16 (ISO 32000-1, 9.10.3)."""
        rows = [f"<{code:04X}> <{_meant(char).encode('utf-16-be').hex().upper()}>" for char, code in self._codes.items()]
        blocks = [rows[i : i + 100] for i in range(0, len(rows), 100)]
        body = "\n".join(f"{len(b)} beginbfchar\n" + "\n".join(b) + "\nendbfchar" for b in blocks)
        return (
            "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n"
            "/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n"
            "/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n"
            "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n"
            f"{body}\nendcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n"
        ).encode("ascii")


def _is_forbidden(char: str) -> bool:
    """Whether no code may mean it: half of a character has no meaning either."""
    return char in _FORBIDDEN or "\ud800" <= char <= "\udfff"


def _meant(char: str) -> str:
    """The letters of a ligature, for who looks for a word types them; every other character as it is."""
    return unicodedata.normalize("NFKC", char) if char in _LIGATURES else char


def truetype() -> bytes:
    """A TrueType file of two glyphs that draw nothing, 1000 units an em, ``WIDTH`` wide (ISO/IEC 14496-22 tables).

    The second is a line there and back: no area to fill, but an extent, without which some readers drop words of one
    letter.
    """
    glyph = struct.pack(">hhhhhHH", 1, 0, DESCENT, WIDTH, ASCENT, 2, 0) + b"\1\1\1"
    glyph += struct.pack(">hhhhhh", 0, WIDTH, -WIDTH, DESCENT, ASCENT - DESCENT, DESCENT - ASCENT)
    glyph += b"\0" * (-len(glyph) % 4)
    head = struct.pack(
        ">IIIIHHqqhhhhHHhhh", 0x00010000, 0x00010000, 0, 0x5F0F3CF5, 0x000B, 1000, 0, 0,
        0, DESCENT, WIDTH, ASCENT, 0, 8, 2, 0, 0,
    )  # fmt: skip
    hhea = struct.pack(">IhhhHhhhhhhhhhhhH", 0x00010000, ASCENT, DESCENT, 0, WIDTH, 0, 0, WIDTH, 1, 0, 0, 0, 0, 0, 0, 0, 1)
    maxp = struct.pack(">IHHHHHHHHHHHHHH", 0x00010000, 2, 3, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0)
    hmtx = struct.pack(">HhH", WIDTH, 0, 0)  # one full entry, then left bearings only
    loca = struct.pack(">HHH", 0, 0, len(glyph) // 2)
    # Format 4: one segment that takes code F000 to glyph 1, and the closing one.
    ends, starts, deltas, offsets = (0xF000, 0xFFFF), (0xF000, 0xFFFF), ((1 - 0xF000) & 0xFFFF, 1), (0, 0)
    cmap = struct.pack(">HHHHI", 0, 1, 3, 0, 12) + struct.pack(
        ">HHHHHHHHHHHHHHHH", 4, 32, 0, 4, 4, 1, 0, *ends, 0, *starts, *deltas, *offsets
    )
    tables = {
        b"cmap": cmap, b"glyf": glyph, b"head": head, b"hhea": hhea, b"hmtx": hmtx, b"loca": loca, b"maxp": maxp,
    }  # fmt: skip
    offset = 12 + 16 * len(tables)
    directory, body = struct.pack(">IHHHH", 0x00010000, len(tables), 64, 2, 16 * len(tables) - 64), b""
    for tag, data in tables.items():
        padded = data + b"\0" * (-len(data) % 4)
        checksum = sum(struct.unpack(f">{len(padded) // 4}I", padded)) & 0xFFFFFFFF
        directory += tag + struct.pack(">III", checksum, offset + len(body), len(data))
        body += padded
    return directory + body
