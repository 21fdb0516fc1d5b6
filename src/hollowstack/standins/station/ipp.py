"""The one IPP operation that a station knows: Identify-Printer (PWG 5100.13, from memory), encoded as in RFC 8010."""

import struct
from collections.abc import Iterator

IDENTIFY = 0x003C
OK, BAD, UNSUPPORTED = 0x0000, 0x0400, 0x0501
_DELIMITERS = range(0x10)
_END = 0x03


class Malformed(Exception):
    """What came is no IPP request."""


def identified(body: bytes) -> tuple[int, str | None]:
    """The status to answer with, and the message to show where the request was to be identified."""
    try:
        _, _, operation, _ = struct.unpack(">BBHI", body[:8])
        said = dict(_attributes(body[8:]))
    except (struct.error, UnicodeDecodeError, Malformed):
        return BAD, None
    if operation != IDENTIFY:
        return UNSUPPORTED, None
    return OK, said.get("message", "Here")


def answer(body: bytes, status: int) -> bytes:
    """An answer to a request, with nothing in it but how it went."""
    request_id = body[4:8].ljust(4, b"\0")
    charset = b"\x47\x00\x12attributes-charset\x00\x05utf-8"
    language = b"\x48\x00\x1battributes-natural-language\x00\x02en"
    return b"\x02\x00" + struct.pack(">H", status) + request_id + b"\x01" + charset + language + b"\x03"


def _attributes(rest: bytes) -> Iterator[tuple[str, str]]:
    """Names and first values; a value without a name is a further one of the name before."""
    while rest:
        tag, rest = rest[0], rest[1:]
        if tag == _END:
            return
        if tag in _DELIMITERS:
            continue
        name, rest = _counted(rest)
        value, rest = _counted(rest)
        if name:
            yield name.decode(), value.decode()
    raise Malformed


def _counted(rest: bytes) -> tuple[bytes, bytes]:
    (length,) = struct.unpack(">H", rest[:2])
    if len(rest) < 2 + length:
        raise Malformed
    return rest[2 : 2 + length], rest[2 + length :]
