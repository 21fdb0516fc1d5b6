"""Clean pages to the compressed images of a PDF."""

import io
import struct
from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image, TiffImagePlugin

from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.raster import Pixels, Raster

ENCODE_VERSION = 1


@dataclass(frozen=True, slots=True)
class EncodedImage:
    """A page image as it will stand in the PDF; ``filter`` is the PDF's name of the compression."""

    filter: Literal["CCITTFaxDecode", "DCTDecode"]
    data: bytes
    size_px: tuple[int, int]
    gray: bool


def encode(page: Raster, mode: ColourMode, jpeg_quality: int) -> EncodedImage:
    """Compress a clean page: bitonal by Group 4 (ITU-T T.6), grey and colour by progressive JPEG (ITU-T T.81)."""
    size = (page.width, page.height)
    if mode == "bitonal":
        return EncodedImage("CCITTFaxDecode", _group4(page.pixels), size, gray=True)
    buffer = io.BytesIO()
    # Chroma at half resolution: the eye does not miss it on paper.
    Image.fromarray(page.pixels).save(buffer, "JPEG", quality=jpeg_quality, progressive=True, subsampling=2)
    return EncodedImage("DCTDecode", buffer.getvalue(), size, gray=page.is_gray)


def decode_encoded(image: EncodedImage) -> Pixels:
    """The pixels of an encoded image; gray or RGB."""
    if image.filter == "DCTDecode":
        return np.asarray(Image.open(io.BytesIO(image.data)))
    width, height = image.size_px
    with Image.open(io.BytesIO(_tiff_around(image.data, width, height))) as tiff:
        return np.asarray(tiff.convert("L"))


def _group4(pixels: Pixels) -> bytes:
    """One strip of Group 4 data in which paper is coded by the short white runs, as the PDF filter expects."""
    buffer = io.BytesIO()
    # Stored inverted: the TIFF writer would code bit 0, its black, as white runs.
    ink = Image.fromarray(255 - pixels).convert("1", dither=Image.Dither.NONE)
    ink.save(buffer, "TIFF", compression="group4", strip_size=1 << 30)
    with Image.open(buffer) as tiff:
        assert isinstance(tiff, TiffImagePlugin.TiffImageFile)
        offsets, counts = tiff.tag_v2[273], tiff.tag_v2[279]
    data = buffer.getvalue()
    (start,), (length,) = offsets, counts
    return data[start : start + length]


def _tiff_around(data: bytes, width: int, height: int) -> bytes:
    """The smallest TIFF file that holds one strip of Group 4 data (TIFF 6.0, sections 2 and 11)."""
    entries = [
        (256, 4, width), (257, 4, height), (258, 3, 1), (259, 3, 4), (262, 3, 0), (273, 4, 8 + 2 + 9 * 12 + 4),
        (277, 3, 1), (278, 4, height), (279, 4, len(data)),
    ]  # fmt: skip
    directory = struct.pack("<H", len(entries))
    for tag, kind, value in entries:
        directory += struct.pack("<HHII", tag, kind, 1, value)
    return struct.pack("<2sHI", b"II", 42, 8) + directory + struct.pack("<I", 0) + data
