"""Ways to break a conforming file, each by one thing; by name, with the flavour that is broken."""

import re
import zlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream, String

from hollowstack.core.bind import Flavour

Breaker = Callable[[Path, Path], None]


AS_IT_IS: Any = {
    "fix_metadata_version": False, "recompress_flate": False, "compress_streams": False,
    "stream_decode_level": pikepdf.StreamDecodeLevel.none, "object_stream_mode": pikepdf.ObjectStreamMode.preserve,
}  # fmt: skip
"""What leaves a file as it is where nothing is changed."""


def _of_objects(change: Callable[[Pdf], None]) -> Breaker:
    """Breaks what a file holds, and leaves how it is written."""

    def write(good: Path, broken: Path) -> None:
        with pikepdf.open(good) as pdf:
            change(pdf)
            pdf.save(broken, force_version=pdf.pdf_version, **AS_IT_IS)

    return write


def _of_bytes(change: Callable[[bytes], bytes]) -> Breaker:
    """Breaks how a file is written; its objects lie open."""

    def write(good: Path, broken: Path) -> None:
        with pikepdf.open(good) as pdf:
            pdf.save(
                broken, object_stream_mode=pikepdf.ObjectStreamMode.disable, compress_streams=False, fix_metadata_version=False,
                force_version=pdf.pdf_version,
            )  # fmt: skip
        data = broken.read_bytes()
        changed = change(data)
        assert changed != data
        broken.write_bytes(changed)

    return write


def _replaced(old: bytes, new: bytes, count: int = 1) -> Breaker:
    """Other bytes of the same length: nothing moves."""
    assert len(old) == len(new)
    return _of_bytes(lambda data: data.replace(old, new, count))


def _packet(old: str, new: str) -> Breaker:
    """Other metadata."""

    def change(pdf: Pdf) -> None:
        text = pdf.Root.Metadata.read_bytes().decode()
        assert old in text
        made = Stream(pdf, text.replace(old, new).encode())
        made.Type, made.Subtype = Name.Metadata, Name.XML
        pdf.Root.Metadata = pdf.make_indirect(made)

    return _of_objects(change)


def _font(pdf: Pdf) -> Any:
    return pdf.pages[0].Resources.Font.F


def _first_image(pdf: Pdf) -> Any:
    return next(iter(pdf.pages[0].Resources.XObject.values()))


def _before(pdf: Pdf, instructions: bytes) -> None:
    """Further instructions in front of those of the first page."""
    page = pdf.pages[0]
    page.Contents = pdf.make_stream(instructions + page.Contents.read_bytes())


def _seen(pdf: Pdf) -> None:
    """The words of the first page are drawn."""
    page = pdf.pages[0]
    page.Contents = pdf.make_stream(page.Contents.read_bytes().replace(b"BT 3 Tr", b"BT 0 Tr"))


def _state(**entries: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        pdf.pages[0].Resources.ExtGState = Dictionary(G=Dictionary(Type=Name.ExtGState, **entries))
        _before(pdf, b"/G gs ")

    return change


def _annotation(**entries: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        drawn = Stream(pdf, b"")
        drawn.Type, drawn.Subtype, drawn.BBox = Name.XObject, Name.Form, Array([0, 0, 20, 20])
        drawn.Resources = Dictionary()
        whole = {"Type": Name.Annot, "Rect": Array([10, 10, 30, 30]), "F": 4, "AP": Dictionary(N=pdf.make_indirect(drawn))}
        given = {key: value for key, value in {**whole, **entries}.items() if value is not None}
        pdf.pages[0].Annots = Array([pdf.make_indirect(Dictionary(**given))])

    return change


def _root(**entries: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        for key, value in entries.items():
            pdf.Root["/" + key] = value

    return change


def _deleted(*path: str) -> Callable[[Pdf], None]:
    """Without an entry of the catalog, or of what hangs there."""

    def change(pdf: Pdf) -> None:
        holder = pdf.Root
        for key in path[:-1]:
            holder = holder["/" + key]
        del holder["/" + path[-1]]

    return change


def _opened_by(kind: str, **entries: Any) -> Callable[[Pdf], None]:
    return _root(OpenAction=Dictionary(S=Name("/" + kind), **entries))


def _filter(pdf: Pdf) -> None:
    """An image packed by LZW: a clear code, a byte, the end (TIFF 6.0, section 13)."""
    image = _first_image(pdf)
    image.write(bytes([0x80, 0x0F, 0xE0, 0x20]), filter=Name.LZWDecode)


def _icc(**patch: bytes) -> Callable[[Pdf], None]:
    """The profile of the output intent with another class, colour space or version."""
    places = {"kind": 12, "space": 16, "version": 8}

    def change(pdf: Pdf) -> None:
        stream = pdf.Root.OutputIntents[0].DestOutputProfile
        data = bytearray(stream.read_bytes())
        for name, value in patch.items():
            data[places[name] : places[name] + len(value)] = value
        stream.write(bytes(data))

    return change


def _box(width: float, height: float) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        pdf.pages[2].MediaBox = Array([0, 0, width, height])

    return change


def _attribute(name: str, value: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        _first_image(pdf)["/" + name] = value

    return change


def _without_meaning(pdf: Pdf) -> None:
    del _font(pdf)["/ToUnicode"]


def _meaning_nothing(pdf: Pdf) -> None:
    table = _font(pdf).ToUnicode
    table.write(re.sub(rb"<0001> <[0-9A-F]+>", b"<0001> <0000>", table.read_bytes()))


def _without_a_code(pdf: Pdf) -> None:
    table = _font(pdf).ToUnicode
    table.write(re.sub(rb"<0001> <[0-9A-F]+>\n", b"", table.read_bytes()))


def _notdef(pdf: Pdf) -> None:
    mapping = _font(pdf).DescendantFonts[0].CIDToGIDMap
    mapping.write(b"\0\0\0\0" + mapping.read_bytes()[4:])


def _seen_without_file(pdf: Pdf) -> None:
    _seen(pdf)
    del _font(pdf).DescendantFonts[0].FontDescriptor["/FontFile2"]


def _seen_with_other_widths(pdf: Pdf) -> None:
    _seen(pdf)
    _font(pdf).DescendantFonts[0].DW = 700


def _seen_in_a_font_of_the_reader(pdf: Pdf) -> None:
    pdf.pages[0].Resources.Font.H = Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica)
    _before(pdf, b"BT /H 12 Tf 20 20 Td (words) Tj ET ")


def _without_mapping(pdf: Pdf) -> None:
    del _font(pdf).DescendantFonts[0]["/CIDToGIDMap"]


def _another_encoding(pdf: Pdf) -> None:
    _font(pdf).Encoding = Name("/Odd-H")


def _font_without_name(pdf: Pdf) -> None:
    del _font(pdf)["/BaseFont"]


def _a_subset_without_its_list(pdf: Pdf) -> None:
    name = Name("/ABCDEF+Glyphless")
    _font(pdf).BaseFont = _font(pdf).DescendantFonts[0].BaseFont = name
    _font(pdf).DescendantFonts[0].FontDescriptor.FontName = name


def _embedded(kind: str, **entries: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        data = pdf.make_stream(b"words")
        data.Type = Name.EmbeddedFile
        if kind:
            data.Subtype = Name("/" + kind)
        whole = {"F": String("a.txt"), "UF": String("a.txt"), "AFRelationship": Name.Data}
        given = {key: value for key, value in {**whole, **entries}.items() if value is not None}
        specification = pdf.make_indirect(Dictionary(Type=Name.Filespec, EF=Dictionary(F=data), **given))
        pdf.Root.Names = Dictionary(EmbeddedFiles=Dictionary(Names=Array([String("a.txt"), specification])))
        pdf.Root.AF = Array([specification])

    return change


def _not_associated(pdf: Pdf) -> None:
    del pdf.Root["/AF"]


def _without_relationship(pdf: Pdf) -> None:
    del pdf.Root.AF[0]["/AFRelationship"]


def _of_no_media_type(pdf: Pdf) -> None:
    del pdf.Root.AF[0].EF.F["/Subtype"]


def _odd_type(pdf: Pdf) -> None:
    pdf.Root.StructTreeRoot.K.S = Name.Letter


def _in_a_circle(pdf: Pdf) -> None:
    pdf.Root.StructTreeRoot.K.S = Name.Letter
    pdf.Root.StructTreeRoot.RoleMap = Dictionary(Letter=Name.Epistle, Epistle=Name.Letter)


def _standard_type_given_away(pdf: Pdf) -> None:
    pdf.Root.StructTreeRoot.RoleMap = Dictionary(P=Name.Letter)


def _odd_language(pdf: Pdf) -> None:
    pdf.Root.Lang = String("in English")


def _jpx(pdf: Pdf) -> None:
    image = _first_image(pdf)
    image.write(b"\0\0\0\x0cjP  \r\n\x87\n", filter=Name.JPXDecode)


def _info(key: str, value: str) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        pdf.trailer.Info["/" + key] = String(value)

    return change


def _with_info(pdf: Pdf) -> None:
    pdf.trailer.Info = pdf.make_indirect(Dictionary(Title=String("Letters")))


def _off(**entries: Any) -> Callable[[Pdf], None]:
    def change(pdf: Pdf) -> None:
        group = pdf.make_indirect(Dictionary(Type=Name.OCG, Name=String("Notes")))
        pdf.Root.OCProperties = Dictionary(OCGs=Array([group]), D=Dictionary(Order=Array([group]), **entries))

    return change


def _other_order(pdf: Pdf) -> None:
    _off(Name=String("All"))(pdf)
    pdf.Root.OCProperties.D.Order = Array()


def _packed_metadata(data: bytes) -> bytes:
    """Deflated where they stand, with line ends behind them so that nothing else moves."""
    found = re.search(rb"<< ([^>]*/Subtype /XML[^>]*?) /Length \d+ >>\nstream\n(.*?)\nendstream\nendobj\n", data, re.DOTALL)
    assert found
    packed = zlib.compress(found[2])
    made = b"<< %s /Filter /FlateDecode /Length %d >>\nstream\n%s\nendstream\nendobj\n" % (
        found[1].replace(b"/Length", b"/Was"), len(packed), packed,
    )  # fmt: skip
    return data[: found.start()] + made.ljust(len(found[0]), b"\n") + data[found.end() :]


def _encrypted(good: Path, broken: Path) -> None:
    with pikepdf.open(good) as pdf:
        pdf.save(broken, encryption=pikepdf.Encryption(owner="keeper", user="", R=6))


def _with_table_as_stream(good: Path, broken: Path) -> None:
    with pikepdf.open(good) as pdf:
        pdf.save(broken, **{**AS_IT_IS, "object_stream_mode": pikepdf.ObjectStreamMode.generate})


def _without_identifier(data: bytes) -> bytes:
    return re.sub(rb"/ID \[", b"/IX [", data, count=1)


def _odd_hexadecimal(data: bytes) -> bytes:
    """A figure of the first long hexadecimal string is a space."""
    return re.sub(rb"<([0-9a-f]{20,})>", lambda found: b"<" + found[1][:-1] + b" >", data, count=1)


def _length(data: bytes) -> bytes:
    return re.sub(
        rb"/Length (\d+)([1-8])(?= |\n|/|>)", lambda found: b"/Length %s%d" % (found[1], int(found[2]) + 1), data, count=1
    )


FLAVOUR_2U: Flavour = "PDF/A-2u"
_PARAMETERS = "<pdfaProperty:name>Masters</pdfaProperty:name>"


def _in_2u(change: Callable[[Pdf], None]) -> tuple[Flavour, Breaker]:
    return "PDF/A-2u", _of_objects(change)


def _in_1b(change: Callable[[Pdf], None]) -> tuple[Flavour, Breaker]:
    return "PDF/A-1b", _of_objects(change)


def _in_2a(change: Callable[[Pdf], None]) -> tuple[Flavour, Breaker]:
    return "PDF/A-2a", _of_objects(change)


def _in_3u(change: Callable[[Pdf], None]) -> tuple[Flavour, Breaker]:
    return "PDF/A-3u", _of_objects(change)


def _in_4(change: Callable[[Pdf], None]) -> tuple[Flavour, Breaker]:
    return "PDF/A-4", _of_objects(change)


BROKEN: dict[str, tuple[Flavour, Breaker]] = {
    # How the file is written
    "header of no version": (FLAVOUR_2U, _of_bytes(lambda data: data.replace(b"%PDF-1.7", b"%PDF-1.9", 1))),
    "header behind something": (FLAVOUR_2U, _of_bytes(lambda data: b"\n" + data)),
    "no bytes above 127": (FLAVOUR_2U, _of_bytes(lambda data: re.sub(rb"\n%[\x80-\xff]{4}", b"\n%abcd", data, count=1))),
    "something behind the end": (FLAVOUR_2U, _of_bytes(lambda data: data + b"more")),
    "no identifier": (FLAVOUR_2U, _of_bytes(_without_identifier)),
    "encrypted": (FLAVOUR_2U, _encrypted),
    "heading of the table": (FLAVOUR_2U, _of_bytes(lambda data: data.replace(b"xref\n0 ", b"xref 0 ", 1))),
    "odd hexadecimal string": (FLAVOUR_2U, _of_bytes(_odd_hexadecimal)),
    "strange hexadecimal string": (
        FLAVOUR_2U,
        _of_bytes(lambda data: re.sub(rb"<[0-9a-f]{2}(?=[0-9a-f]{20,}>)", b"<zz", data, count=1)),
    ),
    "length of a stream": (FLAVOUR_2U, _of_bytes(_length)),
    "stream behind a carriage return": (FLAVOUR_2U, _replaced(b">>\nstream\n", b">>\nstream\r")),
    "object without a line end": (FLAVOUR_2U, _of_bytes(lambda data: data.replace(b"\nendobj\n", b" endobj\n", 1))),
    "two spaces before obj": (
        FLAVOUR_2U,
        _of_bytes(lambda data: re.sub(rb"\n(\d+) 0 obj\n", rb"\n\1 0  obj", data, count=1)),
    ),
    "data in another file": _in_2u(_attribute("F", String("a.jpg"))),
    "LZW": _in_2u(_filter),
    "long name": _in_2u(_root(**{"x" * 128: 1})),
    "long string": _in_2u(_root(PieceInfo=Dictionary(HS=Dictionary(Private=String("x" * 32_768))))),
    "large integer": _in_2u(_root(PieceInfo=Dictionary(HS=Dictionary(Private=2**31)))),
    "small page": _in_2u(_box(2, 200)),
    "large page": _in_2u(_box(200, 14_401)),
    "deep states": _in_2u(lambda pdf: _before(pdf, b"q " * 29 + b"Q " * 29)),
    "permissions": _in_2u(_root(Perms=Dictionary(Odd=1))),
    # What is drawn
    "unknown operator": _in_2u(lambda pdf: _before(pdf, b"1 zz ")),
    "unknown operator between BX and EX": _in_2u(lambda pdf: _before(pdf, b"BX 1 zz EX ")),
    "no output intent": _in_2u(_deleted("OutputIntents")),
    "output intent of an input device": _in_2u(_icc(kind=b"scnr")),
    "output intent that is none": _in_2u(lambda pdf: pdf.Root.OutputIntents[0].DestOutputProfile.write(b"none")),
    "output intent of another kind": _in_2u(lambda pdf: pdf.Root.OutputIntents[0].__setitem__("/S", Name.GTS_PDFX)),
    "colours of a press": _in_2u(lambda pdf: _before(pdf, b"0 0 0 1 k ")),
    "image in colours of a press": _in_2u(_attribute("ColorSpace", Name.DeviceCMYK)),
    "transfer function": _in_2u(_state(TR=Name.Identity)),
    "second transfer function": _in_2u(_state(TR2=Name.Identity)),
    "phase of half-tones": _in_2u(_state(HTP=Array([0, 0]))),
    "half-tones of a strange kind": _in_2u(_state(HT=Dictionary(Type=Name.Halftone, HalftoneType=6))),
    "half-tones by name": _in_2u(
        _state(HT=Dictionary(HalftoneType=1, Frequency=60, Angle=45, SpotFunction=Name.Round, HalftoneName=String("a")))
    ),
    "rendering intent": _in_2u(lambda pdf: _before(pdf, b"/Odd ri ")),
    "rendering intent of an image": _in_2u(_attribute("Intent", Name.Odd)),
    "alternatives of an image": _in_2u(_attribute("Alternates", Array())),
    "image that stands for another": _in_2u(_attribute("OPI", Dictionary())),
    "smoothed image": _in_2u(_attribute("Interpolate", True)),
    "bits of an image": _in_2u(_attribute("BitsPerComponent", 3)),
    "blend mode": _in_2u(_state(BM=Name.Odd)),
    # Fonts
    "no meaning of characters": _in_2u(_without_meaning),
    "a character without a meaning": _in_2u(_without_a_code),
    "a character that means nothing": _in_2u(_meaning_nothing),
    "text in a font without a file": _in_2u(_seen_without_file),
    "text in a font of the reader": _in_2u(_seen_in_a_font_of_the_reader),
    "other widths": _in_2u(_seen_with_other_widths),
    "no glyphs by code": _in_2u(_without_mapping),
    "codes that are told nowhere": _in_2u(_another_encoding),
    # Reading
    "sound": _in_2u(_annotation(Subtype=Name.Sound)),
    "hidden note": _in_2u(_annotation(Subtype=Name.Text, F=6)),
    "note not printed": _in_2u(_annotation(Subtype=Name.Text, F=0)),
    "note without flags": _in_2u(_annotation(Subtype=Name.Text, F=None)),
    "note that is not drawn": _in_2u(_annotation(Subtype=Name.Text, AP=None)),
    "script": _in_2u(_opened_by("JavaScript", JS=String("app.alert(1)"))),
    "launch": _in_2u(_opened_by("Launch", F=String("a"))),
    "named action": _in_2u(_opened_by("Named", N=Name.Print)),
    "actions of a page": _in_2u(lambda pdf: pdf.pages[0].obj.__setitem__("/AA", Dictionary())),
    "actions of the document": _in_2u(_root(AA=Dictionary())),
    "form left to programs": _in_2u(_root(AcroForm=Dictionary(Fields=Array(), NeedAppearances=True))),
    "form told twice": _in_2u(_root(AcroForm=Dictionary(Fields=Array(), XFA=String("x")))),
    "to be drawn anew": _in_2u(_root(NeedsRendering=True)),
    "content without the name of its set": _in_2u(_off()),
    "content switched off by itself": _in_2u(_off(Name=String("All"), AS=Array())),
    "content not in its list": _in_2u(_other_order),
    "shown in steps": _in_2u(lambda pdf: pdf.pages[0].obj.__setitem__("/PresSteps", Dictionary())),
    "demands": _in_2u(_root(Requirements=Array())),
    # Metadata
    "no metadata": _in_2u(_deleted("Metadata")),
    "metadata that are no XML": (FLAVOUR_2U, _packet("</rdf:RDF>", "")),
    "metadata with a length": (FLAVOUR_2U, _packet("<?xpacket begin=", '<?xpacket bytes="9" begin=')),
    "metadata with an encoding": (FLAVOUR_2U, _packet("<?xpacket begin=", '<?xpacket encoding="UTF-8" begin=')),
    "unknown property": (FLAVOUR_2U, _packet("pdf:Producer", "pdf:Odd")),
    "property of an unknown schema": (FLAVOUR_2U, _packet(">urn:hollow-stack:provenance:1#<", ">urn:other#<")),
    "date that is none": (
        FLAVOUR_2U,
        _packet(">2026-03-01T09:30:00+00:00</xmp:CreateDate", ">1st of March</xmp:CreateDate"),
    ),
    "property without a category": (FLAVOUR_2U, _packet("<pdfaProperty:category>external</pdfaProperty:category>", "")),
    "property of a strange category": (FLAVOUR_2U, _packet(">external<", ">odd<")),
    "property without a name": (FLAVOUR_2U, _packet(_PARAMETERS, "")),
    "property of a strange type": (FLAVOUR_2U, _packet(">Seq Text<", ">Odd<")),
    "schema without a prefix": (FLAVOUR_2U, _packet("<pdfaSchema:prefix>hstack</pdfaSchema:prefix>", "")),
    "no claim": (FLAVOUR_2U, _packet(">2</pdfaid:part>", ">7</pdfaid:part>")),
    "another part": (FLAVOUR_2U, _packet(">2</pdfaid:part>", ">3</pdfaid:part>")),
    "another level": (FLAVOUR_2U, _packet(">U</pdfaid:conformance>", ">X</pdfaid:conformance>")),
    # Part 1
    "1b: table as a stream": ("PDF/A-1b", _with_table_as_stream),
    "1b: packed metadata": ("PDF/A-1b", _of_bytes(_packed_metadata)),
    "1b: other title": _in_1b(_info("Title", "Other")),
    "1b: other author": _in_1b(_info("Author", "E. Harrow")),
    "1b: other date": _in_1b(_info("CreationDate", "D:20250101000000Z")),
    "1b: transparent": _in_1b(_state(ca=0.5)),
    "1b: mixed colours": _in_1b(_state(BM=Name.Multiply)),
    "1b: soft mask": _in_1b(lambda pdf: _first_image(pdf).__setitem__("/SMask", pdf.pages[2].Resources.XObject["/Im"])),
    "1b: group of a page": _in_1b(lambda pdf: pdf.pages[0].obj.__setitem__("/Group", Dictionary(S=Name.Transparency))),
    "1b: attached file": _in_1b(_embedded("text/plain")),
    "1b: content that can be switched off": _in_1b(_off(Name=String("All"))),
    "1b: newer profile": _in_1b(_icc(version=b"\4")),
    "1b: large number": _in_1b(_root(PieceInfo=Dictionary(HS=Dictionary(Private=pikepdf.Object.parse(b"32768.5"))))),
    "1b: long array": _in_1b(_root(PieceInfo=Dictionary(HS=Dictionary(Private=Array([0] * 8192))))),
    "1b: part of a font without its list": _in_1b(_a_subset_without_its_list),
    "1b: 16 bits": _in_1b(_attribute("BitsPerComponent", 16)),
    # Level a
    "2a: not marked": _in_2a(_deleted("MarkInfo")),
    "2a: no structure": _in_2a(_deleted("StructTreeRoot")),
    "2a: strange type": _in_2a(_odd_type),
    "2a: types in a circle": _in_2a(_in_a_circle),
    "2a: type of the standard given away": _in_2a(_standard_type_given_away),
    "2a: language that is none": _in_2a(_odd_language),
    # Part 2 with files, part 3, part 4
    "2u: attached text": _in_2u(_embedded("text/plain")),
    "3u: attached file of no kind": _in_3u(_of_no_media_type),
    "3u: attached file without a relationship": _in_3u(_without_relationship),
    "3u: attached file of no part": _in_3u(_not_associated),
    "4: document information": _in_4(_with_info),
    "4: version in the catalog": _in_4(_root(Version=Name("/1.7"))),
    "4: no year": ("PDF/A-4", _packet(">2020</pdfaid:rev>", "></pdfaid:rev>")),
    "4: a level": ("PDF/A-4", _packet("pdfaid:rev", "pdfaid:conformance")),
    "4: header": ("PDF/A-4", _of_bytes(lambda data: data.replace(b"%PDF-2.0", b"%PDF-1.7", 1))),
}

NOT_SEEN_ELSEWHERE: dict[str, tuple[Flavour, Breaker]] = {
    "a character without a glyph": _in_2u(_notdef),
    "font without a name": _in_2u(_font_without_name),
}
"""What breaks the standard, and the outside validator lets pass."""
