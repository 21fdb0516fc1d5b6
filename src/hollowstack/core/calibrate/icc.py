"""ICC profiles: of a device with curves and a matrix, and of grey with sRGB's curve."""

import struct
from functools import cache

import numpy as np

from hollowstack.core.calibrate.colorimetry import D50, LINEAR_SRGB_TO_XYZ, Colours, linear_from_srgb

_VERSION = 0x02400000
_GRAY_POINTS = 1024
_MADE = (2026, 1, 1, 0, 0, 0)
"""Date of creation: fixed, so that the same target gives the same bytes."""


def matrix_profile(name: str, matrix: Colours, curves: Colours, kind: bytes = b"scnr") -> bytes:
    """An input profile, or one of a display, version 2.4.

    Args:
        name: What it is of.
        matrix: From linear light to XYZ under D50, (3, 3).
        curves: Linear light by device value, (n, 3), 0 to 1.
        kind: ``scnr`` of an input device, ``mntr`` of a display.

    Source:
        ICC.1:2001-04 (version 2.4), 6.1 (header), 6.3.1.2 and 6.3.2.2 (profiles of three components with a matrix), 6.5.
    """
    text = name.encode("ascii", "replace")[:200] or b"device"
    tags: list[tuple[bytes, bytes]] = [
        (b"desc", b"desc\0\0\0\0" + struct.pack(">I", len(text) + 1) + text + b"\0" + bytes(78)),
        (b"cprt", b"text\0\0\0\0No copyright\0"),
        (b"wtpt", _xyz(D50)),
    ]
    tags += [(tag, _xyz(matrix[:, index])) for index, tag in enumerate((b"rXYZ", b"gXYZ", b"bXYZ"))]
    tags += [(tag, _curve(curves[:, index])) for index, tag in enumerate((b"rTRC", b"gTRC", b"bTRC"))]
    return _profile(kind, b"RGB ", tags)


@cache
def srgb_profile() -> bytes:
    """A profile of sRGB that PDF 1.4 knows the version of, as every later one does.

    Source:
        IEC 61966-2-1:1999; its primaries adapted to D50 by Bradford's method, as the ICC's own sRGB profiles have them.
    """
    curve = linear_from_srgb(np.linspace(0, 1, _GRAY_POINTS))
    return matrix_profile("sRGB IEC61966-2.1", LINEAR_SRGB_TO_XYZ, np.stack([curve] * 3, axis=1), b"mntr")


@cache
def gray_profile() -> bytes:
    """A profile of grey whose curve is that of sRGB, so that a grey page looks as its pixels do in colour.

    Source:
        ICC.1:2001-04, 6.3.2.1 (monochrome display profiles); the curve by IEC 61966-2-1.
    """
    curve = linear_from_srgb(np.linspace(0, 1, _GRAY_POINTS))
    text = b"Gray with the curve of sRGB"
    tags = [
        (b"desc", b"desc\0\0\0\0" + struct.pack(">I", len(text) + 1) + text + b"\0" + bytes(78)),
        (b"cprt", b"text\0\0\0\0No copyright\0"),
        (b"wtpt", _xyz(D50)),
        (b"kTRC", _curve(curve)),
    ]
    return _profile(b"mntr", b"GRAY", tags)


def _profile(kind: bytes, space: bytes, tags: list[tuple[bytes, bytes]]) -> bytes:
    """A profile of a class and a colour space with its tags."""
    table, body = struct.pack(">I", len(tags)), b""
    start = 128 + 4 + 12 * len(tags)
    places: dict[bytes, int] = {}  # tags of the same content share it
    for tag, data in tags:
        if data not in places:
            places[data] = start + len(body)
            body += data + bytes(-len(data) % 4)
        table += tag + struct.pack(">II", places[data], len(data))
    size = start + len(body)
    header = struct.pack(">I4sI4s4s4s", size, b"\0\0\0\0", _VERSION, kind, space, b"XYZ ")
    header += struct.pack(">6H", *_MADE) + b"acsp" + bytes(28) + struct.pack(">I", 0)
    header += struct.pack(">3i", *(round(v * 65536) for v in D50))
    return header.ljust(128, b"\0") + table + body


def _xyz(values: Colours) -> bytes:
    return b"XYZ \0\0\0\0" + struct.pack(">3i", *(round(float(v) * 65536) for v in values))


def _curve(values: Colours) -> bytes:
    steps = np.rint(np.clip(values, 0, 1) * 65535).astype(">u2")
    return b"curv\0\0\0\0" + struct.pack(">I", len(steps)) + steps.tobytes()
