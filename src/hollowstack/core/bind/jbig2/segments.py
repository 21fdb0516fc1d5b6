"""Segments of JBIG2 streams as a PDF holds them: without file header, pages numbered 1, what is shared on page 0."""

import struct
from collections.abc import Sequence
from typing import Final, NamedTuple

PAGE: Final = 48
SYMBOLS: Final = 0
TEXT: Final = 7
GENERIC: Final = 39
"""Types of segments: page information, symbol dictionary, immediate lossless text and generic region (T.88, 7.3)."""
_LOSSLESS = 0x01
_OR = 0


class Place(NamedTuple):
    """Where a region lies on its page, in pixels."""

    width: int
    height: int
    left: int = 0
    top: int = 0


def segment(number: int, kind: int, data: bytes, *, refers_to: Sequence[int] = (), page: int = 1) -> bytes:
    """A segment with its header.

    Args:
        number: Of the segment, below 256.
        kind: Its type.
        data: What it holds.
        refers_to: Numbers of at most four segments that it needs.
        page: That it is on; 0 for what is shared.

    Source:
        ITU-T T.88 (08/2018), 7.2: fields of a segment header.
    """
    if not 0 <= number < 256 or len(refers_to) > 4:
        raise ValueError("Segments are numbered below 256, and refer to four others at most.")
    head = struct.pack(">IBB", number, kind, len(refers_to) << 5)
    return head + bytes(refers_to) + struct.pack(">BI", page, len(data)) + data


def page_information(width: int, height: int) -> bytes:
    """The first segment of a page: its size, white to begin with, lossless in the end (T.88, 7.4.8)."""
    return struct.pack(">IIIIBH", width, height, 0, 0, _LOSSLESS, 0)


def region_information(place: Place) -> bytes:
    """The field by which every region begins (T.88, 7.4.1): put to what there is by OR."""
    return struct.pack(">IIIIB", place.width, place.height, place.left, place.top, _OR)
