"""Rules of how a file is written: header, trailer, objects, streams, limits (ISO 19005-1, -2, -3: 6.1; -4: 6.1)."""

import re
from collections.abc import Iterator
from typing import Final, NamedTuple

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.opened import Opened
from hollowstack.core.bind.conformance.scan import Tokens, tokens_of

_HEADERS: Final = {1: rb"%PDF-\d\.\d", 2: rb"%PDF-1\.[0-7]", 3: rb"%PDF-1\.[0-7]", 4: rb"%PDF-2\.[0-9]"}
_FILTERS: Final = {
    "/ASCIIHexDecode", "/ASCII85Decode", "/FlateDecode", "/RunLengthDecode", "/CCITTFaxDecode", "/JBIG2Decode", "/DCTDecode",
    "/JPXDecode",
}  # fmt: skip
_INLINE_FILTERS: Final = (_FILTERS - {"/JBIG2Decode", "/JPXDecode"}) | {"/AHx", "/A85", "/Fl", "/RL", "/CCF", "/DCT"}
_LONGEST_NAME: Final = 127
_END_BYTES: Final = 4096
"""At the end of a file, where it is told where its table lies."""
_MOST_OBJECTS: Final = 8_388_607
_DEEPEST: Final = 28
_MOST_INTEGER: Final = 2**31 - 1
_LARGEST_REAL, _SMALLEST_REAL = 3.403e38, 1.175e-38
_LONGEST_STRING: Final = {1: 65_535, 2: 32_767, 3: 32_767, 4: 32_767}
_HEXADECIMAL = re.compile(rb"[0-9A-Fa-f]*")
_BOXES: Final = ("/MediaBox", "/CropBox", "/BleedBox", "/TrimBox", "/ArtBox")
_LEAST_SIDE, _MOST_SIDE = 3, 14_400


@rule({1: "6.1.2", 2: "6.1.2", 4: "6.1.2"}, "Header")
def header(file: Opened) -> Iterator[str]:
    found = re.match(_HEADERS[file.part] + rb"(\r\n|\r|\n)", file.bytes[:32])
    if found is None:
        yield "The file does not begin with its version of PDF on a line by itself."
        return
    line = file.bytes[found.end() : found.end() + 5]
    if len(line) < 5 or line[:1] != b"%" or any(byte <= 127 for byte in line[1:]):
        yield "The second line is no comment of four bytes above 127, by which programs know a binary file."


@rule({1: "6.1.3", 2: "6.1.3", 4: "6.1.3"}, "Trailer: identifier, no encryption, nothing behind the end")
def trailer(file: Opened) -> Iterator[str]:
    identifier = file.pdf.trailer.get("/ID")
    if not isinstance(identifier, pikepdf.Array) or len(identifier) != 2 or not bytes(identifier[0]):
        yield "The trailer has no file identifier (ID)."
    if "/Encrypt" in file.pdf.trailer:
        yield "The file is encrypted."
    end = file.bytes.rfind(b"%%EOF")
    if end < 0 or file.bytes[end + 5 :] not in (b"", b"\n", b"\r", b"\r\n"):
        yield "Something stands behind the end of the file."
    if file.part == 4 and "/Info" in file.pdf.trailer:
        if "/PieceInfo" not in file.pdf.Root:
            yield "The trailer has an information dictionary (Info), which PDF 2.0 has no use for."
        elif set(file.pdf.trailer.Info.keys()) != {"/ModDate"}:
            yield "The information dictionary says more than when the file was changed."


@rule({1: "6.1.4", 2: "6.1.4", 4: "6.1.4"}, "Table of references")
def references(file: Opened) -> Iterator[str]:
    if file.pdf.get_warnings():
        yield f"Objects are not where the table says: {_said(file.pdf.get_warnings()[0])}."
    for found in re.finditer(rb"\bstartxref\s+(\d+)", file.bytes[-_END_BYTES:]):
        at = int(found[1])
        if file.bytes[at : at + 4] != b"xref":
            if file.part == 1 and at:
                yield "The table is a stream, which PDF 1.4 does not know."
            continue
        if not re.match(rb"xref(\r\n|\r|\n)\d+ \d+ ?(\r\n|\r|\n)", file.bytes[at : at + 64]):
            yield "The heading of the table is not as it is to be: xref, a line end, two numbers with a space between."
    if file.scanned.lost is not None:
        yield f"At byte {file.scanned.lost} stands something that is no object."


@rule({1: "6.1.6", 2: "6.1.6", 4: "6.1.5"}, "Strings in hexadecimal figures")
def hexadecimal(file: Opened) -> Iterator[str]:
    yield from _written(file).strings


@rule({1: "6.1.7", 2: "6.1.7.1", 4: "6.1.6.1"}, "Streams: framed as they are to be, and whole in this file")
def streams(file: Opened) -> Iterator[str]:
    for one in file.scanned.objects:
        if one.stream and not one.keyword:
            yield f"In object {one.number}, “stream” is not followed by a line end as it is to be."
        if one.stream and not one.length:
            yield f"Of object {one.number}, Length is not the length of its data."
    for stream in _streams(file):
        if any(key in stream for key in ("/F", "/FFilter", "/FDecodeParms")):
            yield f"The data of object {stream.objgen[0]} lie in another file."
        if (error := _unreadable(stream)) is not None:
            yield f"The data of object {stream.objgen[0]} cannot be unpacked: {error}."


@rule({1: "6.1.10", 2: "6.1.7.2", 4: "6.1.6.2"}, "Compression: no LZW, nothing that is not in the standard")
def filters(file: Opened) -> Iterator[str]:
    for stream in _streams(file):
        for name, parameters in _filters(stream):
            where = f"object {stream.objgen[0]}"
            if name == "/Crypt":
                if file.part == 1 or (parameters is not None and parameters.get("/Name", "/Identity") != "/Identity"):
                    yield f"The data of {where} are encrypted."
            elif name not in _FILTERS:
                yield f"The data of {where} are packed as {name[1:]}, which may not be."
            elif file.part == 1 and name == "/JPXDecode":
                yield f"The data of {where} are JPEG 2000, which PDF 1.4 does not know."


@rule({1: "6.1.10", 2: "6.1.10", 4: "6.1.9"}, "Compression of images within contents")
def inline_filters(file: Opened) -> Iterator[str]:
    for page, (_, contents) in enumerate(file.pages, 1):
        for image in contents.inline:
            given = image.get("/F", image.get("/Filter"))
            for name in [given] if isinstance(given, pikepdf.Name) else list(given or []):
                if str(name) not in _INLINE_FILTERS:
                    yield f"On page {page} an image within the contents is packed as {str(name)[1:]}, which may not be."


@rule({2: "6.1.8", 4: "6.1.7"}, "Names in UTF-8")
def names(file: Opened) -> Iterator[str]:
    for font in file.used["fonts"]:
        name = font.object.get("/BaseFont")
        if isinstance(name, pikepdf.Name):
            try:
                pikepdf.Name(str(name)).unparse().decode("utf-8")
                _plain(name).decode("utf-8")
            except UnicodeDecodeError:
                yield f"The name of a font on page {font.page} is not in UTF-8."


@rule({1: "6.1.8", 2: "6.1.9", 4: "6.1.8"}, "Objects: numbers and keywords apart as they are to be")
def objects(file: Opened) -> Iterator[str]:
    for one in file.scanned.objects:
        if not one.spaced:
            yield f"The numbers or keywords of object {one.number} do not stand apart as they are to."


@rule({1: "6.1.11"}, "No files attached")
def no_attachments(file: Opened) -> Iterator[str]:
    for one in file.everything():
        if isinstance(one, pikepdf.Dictionary) and one.get("/Type") in ("/Filespec", "/F") and "/EF" in one:
            yield "A file is attached, which part 1 has no room for."
    if "/EmbeddedFiles" in _dictionary(file.pdf.Root.get("/Names")):
        yield "The document names attached files, which part 1 has no room for."


@rule({2: "6.1.12", 4: "6.1.11"}, "Permissions")
def permissions(file: Opened) -> Iterator[str]:
    for key in _dictionary(file.pdf.Root.get("/Perms")):
        if key not in ("/UR3", "/DocMDP"):
            yield f"The document's permissions have an entry {key[1:]}, which may not be."


@rule({1: "6.1.12", 2: "6.1.13", 4: "6.1.12"}, "Limits of numbers, names, strings, objects and pages")
def limits(file: Opened) -> Iterator[str]:
    if file.part == 4:
        version = file.pdf.Root.get("/Version")
        if version is not None and not re.fullmatch(r"/2\.[0-9]", str(version)):
            yield "The catalog names a version of PDF that is not 2.0 or a later one of these."
        return
    if len(file.pdf.objects) > _MOST_OBJECTS:
        yield f"There are more than {_MOST_OBJECTS} objects."
    yield from _written(file).limits
    if file.part == 1:
        for one in file.everything():
            if isinstance(one, pikepdf.Array) and len(one) > 8191:
                yield "An array has more than 8191 members."
            if isinstance(one, pikepdf.Dictionary) and len(one.keys()) > 4095:
                yield "A dictionary has more than 4095 entries."
    for page, (entry, contents) in enumerate(file.pages, 1):
        if contents.deepest > _DEEPEST:
            yield f"On page {page} graphics states are nested {contents.deepest} deep; {_DEEPEST} may be."
        if file.part > 1:
            yield from _boxes(entry, page)


def _boxes(page: pikepdf.Object, number: int) -> Iterator[str]:
    for name in _BOXES:
        box = page.get(name)
        if isinstance(box, pikepdf.Array) and len(box) == 4:
            sides = abs(float(box[2]) - float(box[0])), abs(float(box[3]) - float(box[1]))
            if min(sides) < _LEAST_SIDE or max(sides) > _MOST_SIDE:
                yield f"Page {number} is smaller than {_LEAST_SIDE} units or larger than {_MOST_SIDE} ({name[1:]})."


def _number(written: bytes, where: str, part: int) -> Iterator[str]:
    if b"." not in written:
        if abs(int(written)) > _MOST_INTEGER and int(written) != -_MOST_INTEGER - 1:
            yield f"{where} holds an integer beyond {_MOST_INTEGER}."
        return
    value = abs(float(written))
    if part == 1 and value > 32_767:
        yield f"{where} holds a number beyond 32767."
    if value > _LARGEST_REAL or (part > 1 and 0 < value < _SMALLEST_REAL):
        yield f"{where} holds a number that is too large or too near to zero."


class _Faults(NamedTuple):
    """Of what is written in a file: strings that are wrong, and what is beyond the limits."""

    strings: list[str]
    limits: list[str]


def _written(file: Opened) -> _Faults:
    """Looks through all tokens of a file once, for two rules."""
    if (known := file.noted.get("written")) is not None:
        assert isinstance(known, _Faults)
        return known
    found = _Faults([], [])
    for where, tokens in _tokens(file):
        found.strings.extend(_hexadecimal(tokens.hexes, where))
        found.limits.extend(_limits(tokens, where, file.part))
    file.noted["written"] = found
    return found


def _tokens(file: Opened) -> Iterator[tuple[str, Tokens]]:
    """The tokens of all objects, those within packed objects too, and of contents, with where they stand."""
    for one in file.scanned.objects:
        yield f"Object {one.number}" if one.number else "The trailer", one.tokens
    for stream in _streams(file):
        if stream.get("/Type") == "/ObjStm" and _unreadable(stream) is None:
            yield f"Packed object {stream.objgen[0]}", tokens_of(stream.read_bytes(), int(stream.First))[0]
    yield from ((f"Page {page}", contents.tokens) for page, (_, contents) in enumerate(file.pages, 1))


def _hexadecimal(hexes: list[bytes], where: str) -> Iterator[str]:
    for one in hexes:
        figures = re.sub(rb"[\0\t\n\f\r ]", b"", one)
        if len(figures) % 2:
            yield f"{where} holds a string of {len(figures)} hexadecimal figures, which is an odd number."
        if not _HEXADECIMAL.fullmatch(figures):
            yield f"{where} holds a string in hexadecimal figures with something else in it."


def _limits(tokens: Tokens, where: str, part: int) -> Iterator[str]:
    longest = _LONGEST_STRING[part]
    if tokens.names:
        yield f"{where} holds a name longer than {_LONGEST_NAME} bytes."
    if tokens.longest > longest or any(len(one) > 2 * longest for one in tokens.hexes):
        yield f"{where} holds a string longer than {longest} bytes."
    for number in tokens.numbers:
        yield from _number(number, where, part)


def _streams(file: Opened) -> Iterator[pikepdf.Object]:
    return (one for one in file.objects if isinstance(one, pikepdf.Stream))


def _filters(stream: pikepdf.Object) -> list[tuple[str, pikepdf.Object | None]]:
    given, parameters = stream.get("/Filter"), stream.get("/DecodeParms")
    names_of = [given] if isinstance(given, pikepdf.Name) else list(given or [])
    told = list(parameters) if isinstance(parameters, pikepdf.Array) else [parameters] * len(names_of)
    told += [None] * (len(names_of) - len(told))
    return [
        (str(name), one if isinstance(one, pikepdf.Dictionary) else None) for name, one in zip(names_of, told, strict=False)
    ]


_UNPACKED: Final = {"/FlateDecode", "/LZWDecode", "/ASCIIHexDecode", "/ASCII85Decode", "/RunLengthDecode"}


def _unreadable(stream: pikepdf.Object) -> str | None:
    """Why data packed by general means cannot be unpacked; images are looked at where they are shown."""
    try:
        packed = [name for name, _ in _filters(stream)]
        stream.read_bytes() if packed and set(packed) <= _UNPACKED else stream.read_raw_bytes()
    except (pikepdf.PdfError, NotImplementedError) as error:
        return _said(error)
    return None


def _dictionary(value: object) -> dict[str, object]:
    return dict(value.items()) if isinstance(value, pikepdf.Dictionary) else {}


def _plain(name: pikepdf.Object) -> bytes:
    return re.sub(rb"#([0-9A-Fa-f]{2})", lambda found: bytes([int(found[1], 16)]), name.unparse())


def _said(error: object) -> str:
    return str(error).splitlines()[0].rsplit(": ", 1)[-1].rstrip(".")
