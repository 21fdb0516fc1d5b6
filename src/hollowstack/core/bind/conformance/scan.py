"""The bytes of a PDF file as they stand: objects one behind the other, their strings, names, numbers and streams.

A reader of PDF is lenient with much that an archival file may not have; so these are looked at by themselves.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from mmap import mmap

_SPACE = b"\0\t\n\f\r "
_OBJECT = re.compile(rb"(\d+)([\0\t\n\f\r ]+)(\d+)([\0\t\n\f\r ]+)obj")
_LENGTH = re.compile(rb"/Length[\0\t\n\f\r ]+(\d+)(?:[\0\t\n\f\r ]+(\d+)[\0\t\n\f\r ]+R)?")
_REGULAR = rb"[^\0\t\n\f\r ()<>\[\]{}/%]"
TOKEN = re.compile(
    rb"(?P<comment>%[^\r\n]*)|(?P<open><<)|(?P<close>>>)|(?P<hex><[^>]*>)|(?P<string>\()|(?P<name>/" + _REGULAR + rb"*)|"
    rb"(?P<number>[+-]?(?:\d+\.?\d*|\.\d+)(?!" + _REGULAR + rb"))|(?P<word>" + _REGULAR + rb"+)|(?P<other>[\[\]{}])"
)
_ESCAPED = re.compile(rb"#([0-9A-Fa-f]{2})")
_END = re.compile(rb"endstream")
_EOL = (b"\r\n", b"\n", b"\r")


Bytes = bytes | mmap
"""A file's, in memory or as they are read from the disk."""


@dataclass(slots=True)
class Tokens:
    """What stands in a part of a file and is not plainly within all limits: so much stands there that is."""

    hexes: list[bytes] = field(default_factory=list)
    """Strings in hexadecimal figures that are odd or long."""
    names: list[bytes] = field(default_factory=list)
    """Names longer than any is."""
    numbers: list[bytes] = field(default_factory=list)
    longest: int = 0
    """Of the strings between parentheses, in bytes."""

    def note_hex(self, figures: bytes) -> None:
        """Keep a string in hexadecimal figures that is to be looked at."""
        if len(figures) % 2 or len(figures) > _SURE_FIGURES or not _HEXADECIMAL.fullmatch(figures):
            self.hexes.append(figures)

    def note_name(self, name: bytes) -> None:
        """Keep a name that is to be looked at."""
        if len(name) > _LONGEST_NAME:
            self.names.append(name)

    def note_number(self, number: bytes) -> None:
        """Keep a number that is to be looked at."""
        if len(number) > _SURE_NUMBER:
            self.numbers.append(number)

    def note_string(self, inside: bytes) -> None:
        """Take note of how long a string is, escapes resolved (ISO 32000-1, 7.3.4.2)."""
        length = len(_ESCAPE.sub(b"x", inside)) if b"\\" in inside else len(inside)
        self.longest = max(self.longest, length)


_SURE_FIGURES, _SURE_NUMBER, _LONGEST_NAME = 65_534, 6, 127
_HEXADECIMAL = re.compile(rb"[0-9A-Fa-f]*")
_ESCAPE = re.compile(rb"\\(?:[0-7]{1,3}|\r\n|.)", re.DOTALL)


@dataclass(slots=True)
class RawObject:
    """An indirect object; of a stream it is told whether its frame is sound."""

    number: int
    offset: int
    spaced: bool
    """Whether its numbers and the keywords stand apart as they are to."""
    tokens: Tokens
    stream: bool = False
    keyword: bool = True
    """Whether ``stream`` is followed by a line end as it is to be."""
    length: bool = True
    """Whether Length is what stands there before ``endstream`` and its line end."""


@dataclass(slots=True)
class Scanned:
    """A file's bytes, gone through from the first object on."""

    objects: list[RawObject] = field(default_factory=list)
    lost: int | None = None
    """Offset of what is no object and no end of a file."""


def scan(data: Bytes, length_of: Callable[[int], int | None]) -> Scanned:
    """Go through the objects of a file.

    Args:
        data: The whole file.
        length_of: The value of an object that holds a length, by its number; None where it has none.

    Source:
        ISO 32000-1:2008, 7.2 to 7.5.
    """
    found = Scanned()
    at = _next(data, 0)
    while at < len(data):
        match = _OBJECT.match(data, at)
        if match is None:
            after = _behind_table(data, at)
            if after is None:
                found.lost = at
                break
            if _stands(data, b"trailer", at):
                found.objects.append(RawObject(0, at, spaced=True, tokens=tokens_of(data, at, after)[0]))
            at = _next(data, after)
            continue
        made, at = _object(data, match, length_of)
        found.objects.append(made)
        at = _next(data, at)
    return found


def _object(data: Bytes, head: "re.Match[bytes]", length_of: Callable[[int], int | None]) -> tuple[RawObject, int]:
    tokens, at, word = tokens_of(data, head.end())
    before = data[head.start() - 1 : head.start()]
    spaced = len(head[2]) == len(head[4]) == 1 and data[head.end() : head.end() + 1] in (b"\r", b"\n")
    made = RawObject(int(head[1]), head.start(), spaced and before in (b"\r", b"\n"), tokens)
    if word == b"stream":
        made.stream = True
        at = _stream(data, head.end(), at, made, length_of)
        _, at, word = tokens_of(data, at)
    end = data[at - 6 - 1 : at - 6]
    after = data[at : at + 1]
    made.spaced &= word == b"endobj" and end in (b"\r", b"\n") and after in (b"\r", b"\n")
    return made, at


def _stream(data: Bytes, start: int, at: int, made: RawObject, length_of: Callable[[int], int | None]) -> int:
    """Behind ``endstream``; notes how the stream is framed."""
    told = None
    for match in _LENGTH.finditer(data, start, at):
        told = length_of(int(match[1])) if match[2] else int(match[1])
    eol = next((one for one in _EOL if _stands(data, one, at)), b"")
    made.keyword = eol in (b"\r\n", b"\n")
    at += len(eol)
    if told is not None:
        for one in _EOL:
            end = at + told
            if _stands(data, one + b"endstream", end):
                return end + len(one) + len(b"endstream")
    made.length = False
    found = _END.search(data, at)
    return found.end() if found else len(data)


def tokens_of(data: Bytes, at: int, end: int | None = None) -> tuple[Tokens, int, bytes]:
    """What stands from there to the next keyword that ends an object or begins its stream; behind that, and the keyword."""
    made = Tokens()
    end = len(data) if end is None else end
    while at < end:
        match = TOKEN.search(data, at, end)
        if match is None:
            break
        at, kind = match.end(), match.lastgroup
        if kind == "hex":
            made.note_hex(match[0][1:-1])
        elif kind == "string":
            close = closing(data, at)
            made.note_string(data[at : close - 1])
            at = close
        elif kind == "name":
            made.note_name(unescaped(match[0]))
        elif kind == "number":
            made.note_number(match[0])
        elif kind == "word" and match[0] in (b"endobj", b"stream", b"endstream"):
            return made, at, match[0]
    return made, end, b""


def unescaped(name: bytes) -> bytes:
    """A name as it is meant, without its solidus (ISO 32000-1, 7.3.5)."""
    return _ESCAPED.sub(lambda found: bytes([int(found[1], 16)]), name[1:]) if b"#" in name else name[1:]


def closing(data: Bytes, at: int) -> int:
    """Behind the parenthesis that closes a string."""
    depth = 1
    while depth and at < len(data):
        char = data[at]
        if char == 0x5C:
            at += 1
        elif char == 0x28:
            depth += 1
        elif char == 0x29:
            depth -= 1
        at += 1
    return at


def _next(data: Bytes, at: int) -> int:
    """Behind white space and comments; the end of a file is one."""
    while at < len(data):
        if data[at] in _SPACE:
            at += 1
        elif data[at] == 0x25:
            end = min((i for i in (data.find(b"\n", at), data.find(b"\r", at)) if i >= 0), default=len(data))
            at = end
        else:
            break
    return at


def _behind_table(data: Bytes, at: int) -> int | None:
    """Behind a table of references, a trailer or the line that says where those are; None where there is none of them."""
    for pattern in _TABLES:
        if (match := pattern.match(data, at)) is not None:
            return match.end()
    if _stands(data, b"trailer", at):
        end = data.find(b"startxref", at)
        return end if end > 0 else None
    return None


def _stands(data: Bytes, what: bytes, at: int) -> bool:
    return data[at : at + len(what)] == what


_TABLES = (
    re.compile(rb"xref[\0\t\n\f\r ]+(?:\d+[\0\t\n\f\r ]+\d+[\0\t\n\f\r ]+(?:\d{10} \d{5} [nf][\r\n ]{1,2})*)+"),
    re.compile(rb"startxref[\0\t\n\f\r ]+\d+"),
)
