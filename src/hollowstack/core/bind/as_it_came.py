"""Image data that go into a document as they came: JPEG and Group 4, byte for byte."""

import struct
from pathlib import Path

from PIL import Image, TiffImagePlugin

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.decode.damage import DAMAGED
from hollowstack.core.decode.images import PILLOW_NAMES
from hollowstack.core.decode.sniff import sniff
from hollowstack.core.decode.turns import TURN
from hollowstack.core.page.errors import DecodeError

_HUFFMAN_FRAMES = {0xC0, 0xC1, 0xC2}
"""Baseline, extended and progressive: what DCTDecode knows (ISO 32000-1, 7.4.8)."""
_STANDALONE = {0x01, *range(0xD0, 0xD9)}
_COMPRESSION, _PHOTOMETRIC, _OFFSETS, _FILL_ORDER, _LENGTHS = 259, 262, 273, 266, 279
_GROUP_4 = 4
_WHITE_IS_ZERO, _BLACK_IS_ZERO = 0, 1


def as_it_came(path: Path, frame: int) -> EncodedImage | None:
    """The data of an image file as a PDF holds them; None where it cannot hold them so.

    JPEG of one or three components of 8 bits, and Group 4 in one strip. Not where a tag turns the image: the page would
    lie on its side.

    Args:
        path: The file.
        frame: 0-based image within it.

    Source:
        ISO 32000-1:2008, 7.4.6 and 7.4.8; ITU-T T.81, annex B; TIFF 6.0, section 11.
    """
    try:
        kind = sniff(path)
        if kind == "JPEG" and frame == 0:
            return _jpeg(path)
        if kind == "TIFF":
            return _group4(path, frame)
    except (DecodeError, *DAMAGED):
        return None
    return None


def _jpeg(path: Path) -> EncodedImage | None:
    data = path.read_bytes()
    frame = _frame_of(data)
    if frame is None:
        return None
    width, height, components = frame
    with Image.open(path, formats=[PILLOW_NAMES["JPEG"]]) as image:
        if image.getexif().get(TURN, 1) != 1 or image.mode not in {"L", "RGB"}:
            return None
        profile = image.info.get("icc_profile") or b""
    return EncodedImage("DCTDecode", data, (width, height), gray=components == 1, icc=profile)


def _frame_of(data: bytes) -> tuple[int, int, int] | None:
    """Width, height and components as the frame header has them; None for a kind of JPEG that a PDF does not hold."""
    at = 2
    while at + 4 <= len(data) and data[at] == 0xFF:
        marker = data[at + 1]
        if marker == 0xFF:
            at += 1
            continue
        if marker in _STANDALONE:
            at += 2
            continue
        (length,) = struct.unpack_from(">H", data, at + 2)
        if 0xC0 <= marker <= 0xCF and marker not in {0xC4, 0xC8, 0xCC}:
            bits, height, width, components = struct.unpack_from(">BHHB", data, at + 4)
            good = marker in _HUFFMAN_FRAMES and bits == 8 and components in {1, 3} and width and height
            return (width, height, components) if good else None
        at += 2 + length
    return None


def _group4(path: Path, frame: int) -> EncodedImage | None:
    with Image.open(path, formats=[PILLOW_NAMES["TIFF"]]) as image:
        assert isinstance(image, TiffImagePlugin.TiffImageFile)
        image.seek(frame)
        tags = image.tag_v2
        offsets, lengths = tags.get(_OFFSETS, ()), tags.get(_LENGTHS, ())
        photometric = tags.get(_PHOTOMETRIC)
        if tags.get(_COMPRESSION) != _GROUP_4 or image.mode != "1" or photometric not in {_WHITE_IS_ZERO, _BLACK_IS_ZERO}:
            return None
        if tags.get(_FILL_ORDER, 1) != 1 or tags.get(TURN, 1) != 1 or len(offsets) != 1:
            return None
        size = image.size
    with path.open("rb") as file:
        file.seek(offsets[0])
        data = file.read(lengths[0])
    if len(data) != lengths[0]:
        return None
    return EncodedImage("CCITTFaxDecode", data, size, gray=True, black_is_one=photometric == _BLACK_IS_ZERO)
