"""Clean pages to the compressed images of a PDF."""

import io
import struct
import zlib
from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image, TiffImagePlugin

from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.raster import Pixels, Raster

ENCODE_VERSION = 2


@dataclass(frozen=True, slots=True)
class EncodedImage:
    """A page image as it will stand in the PDF; ``filter`` is the PDF's name of the compression."""

    filter: Literal["CCITTFaxDecode", "DCTDecode", "FlateDecode"]
    """FlateDecode with the predictors of PNG."""
    data: bytes
    size_px: tuple[int, int]
    gray: bool
    icc: bytes = b""
    """The profile its values are meant by; empty for the house's own grey and sRGB."""

    black_is_one: bool = False
    """Of Group 4: whether its white runs are ink, as in a TIFF file whose zero is black."""

    def ppi_of(self, size_px: tuple[int, int], ppi: tuple[float, float]) -> tuple[float, float]:
        """Its resolution, from a page's size and resolution: data of a fax lie in it as they came, with oblong pixels."""
        return ppi[0] * self.size_px[0] / size_px[0], ppi[1] * self.size_px[1] / size_px[1]


def encode(page: Raster, mode: ColourMode, jpeg_quality: int) -> EncodedImage:
    """Compress a clean page: bitonal by Group 4 (ITU-T T.6), grey and colour by progressive JPEG (ITU-T T.81)."""
    size = (page.width, page.height)
    if mode == "bitonal":
        return EncodedImage("CCITTFaxDecode", _group4(page.pixels), size, gray=True)
    buffer = io.BytesIO()
    # Chroma at half resolution: the eye does not miss it on paper.
    Image.fromarray(page.pixels).save(buffer, "JPEG", quality=jpeg_quality, progressive=True, subsampling=2)
    return EncodedImage("DCTDecode", buffer.getvalue(), size, gray=page.is_gray)


def encode_lossless(page: Raster, mode: ColourMode) -> EncodedImage:
    """Compress a clean page so that every pixel comes back: bitonal by Group 4, grey and colour as PNG does it.

    Source:
        PNG, 3rd edition, 9 and 10; ISO 32000-1:2008, 7.4.4.4 (the PNG predictors of FlateDecode).
    """
    if mode == "bitonal":
        return encode(page, mode, 0)
    buffer = io.BytesIO()
    Image.fromarray(page.pixels).save(buffer, "PNG", compress_level=6)
    return EncodedImage("FlateDecode", _chunks(buffer.getvalue(), b"IDAT"), (page.width, page.height), gray=page.is_gray)


def decode_encoded(image: EncodedImage) -> Pixels:
    """The pixels of an encoded image; gray or RGB."""
    if image.filter == "DCTDecode":
        return np.asarray(Image.open(io.BytesIO(image.data)))
    if image.filter == "FlateDecode":
        with Image.open(io.BytesIO(_png_around(image))) as png:
            return np.asarray(png)
    with Image.open(io.BytesIO(_tiff_around(image))) as tiff:
        return np.asarray(tiff.convert("L"))


def decode_reduced(image: EncodedImage, share: float) -> Pixels:
    """The pixels of a JPEG image at a reduction, quickly.

    Args:
        image: Encoded by the discrete cosine transform.
        share: Of its sides; what comes is as large or larger, by a half, a quarter or an eighth.

    Source:
        Scaled inverse transforms of 4, 2 and 1 coefficients, as in libjpeg.
    """
    with Image.open(io.BytesIO(image.data)) as jpeg:
        width, height = image.size_px
        jpeg.draft(None, (max(1, int(width * share)), max(1, int(height * share))))
        return np.asarray(jpeg)


def _chunks(png: bytes, name: bytes) -> bytes:
    """What a PNG file's chunks of one name hold, together."""
    at, found = 8, b""
    while at < len(png):
        (length,) = struct.unpack_from(">I", png, at)
        if png[at + 4 : at + 8] == name:
            found += png[at + 8 : at + 8 + length]
        at += 12 + length
    return found


def _png_around(image: EncodedImage) -> bytes:
    """The smallest PNG file that holds the data."""
    head = struct.pack(">IIBBBBB", *image.size_px, 8, 0 if image.gray else 2, 0, 0, 0)
    parts = [(b"IHDR", head), (b"IDAT", image.data), (b"IEND", b"")]
    return b"\x89PNG\r\n\x1a\n" + b"".join(
        struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data)) for name, data in parts
    )


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


def _tiff_around(image: EncodedImage) -> bytes:
    """The smallest TIFF file that holds one strip of Group 4 data (TIFF 6.0, sections 2 and 11)."""
    data, (width, height) = image.data, image.size_px
    entries = [
        (256, 4, width), (257, 4, height), (258, 3, 1), (259, 3, 4), (262, 3, int(image.black_is_one)),
        (273, 4, 8 + 2 + 9 * 12 + 4), (277, 3, 1), (278, 4, height), (279, 4, len(data)),
    ]  # fmt: skip
    directory = struct.pack("<H", len(entries))
    for tag, kind, value in entries:
        directory += struct.pack("<HHII", tag, kind, 1, value)
    return struct.pack("<2sHI", b"II", 42, 8) + directory + struct.pack("<I", 0) + data
