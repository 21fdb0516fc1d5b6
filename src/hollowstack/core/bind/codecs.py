"""Clean pages to the compressed images of a PDF."""

import io
import struct
import zlib

import numpy as np
from PIL import Image

from hollowstack.core.bind.encoded import TWO_TONES, EncodedImage
from hollowstack.core.bind.jpeg2000 import decode_jpeg2000, encode_reversible
from hollowstack.core.bind.lossy import encode_lossy
from hollowstack.core.bind.two_tones import decode_two_tones, encode_two_tones
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.core.settings.treatment import Packing

ENCODE_VERSION = 7


def encode(page: Raster, mode: ColourMode, jpeg_quality: int, packing: Packing = "JBIG2") -> EncodedImage:
    """Compress a clean page: bitonal by JBIG2 or Group 4, grey and colour by JPEG, or JPEG 2000 as near to it."""
    if mode == "bitonal":
        return encode_two_tones(page.pixels, packing)
    return encode_lossy(page.pixels, jpeg_quality)


def encode_lossless(page: Raster, mode: ColourMode, packing: Packing = "JBIG2") -> EncodedImage:
    """Compress a clean page so that every pixel comes back: bitonal by JBIG2 or Group 4, grey and colour as PNG does it.

    Or by JPEG 2000 where that is smaller, as it is where paper has grain.
    """
    if mode == "bitonal":
        return encode_two_tones(page.pixels, packing)
    flate = encode_flate(page.pixels)
    if flate.bytes < _GRAIN * page.pixels.size:
        return flate
    reversible = encode_reversible(page.pixels)
    return reversible if reversible is not None and reversible.bytes < flate.bytes else flate


_GRAIN = 0.2
"""Share of its values that an image is packed to as PNG does it, from which on JPEG 2000 may be smaller; measured on clean
pages: even paper comes to 0.05, grain to 0.4, where JPEG 2000 takes 0.7 of that."""


def encode_flate(pixels: Pixels) -> EncodedImage:
    """Compress grey or RGB values as PNG does it.

    Source:
        PNG, 3rd edition, 9 and 10; ISO 32000-1:2008, 7.4.4.4 (the PNG predictors of FlateDecode).
    """
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "PNG", compress_level=6)
    size = (pixels.shape[1], pixels.shape[0])
    return EncodedImage("FlateDecode", _chunks(buffer.getvalue(), b"IDAT"), size, gray=pixels.ndim == 2)


def encode_indexed(which: Pixels, colours: Pixels) -> EncodedImage:
    """Compress an image of few colours without loss.

    Args:
        which: (height, width), for each pixel the number of its colour.
        colours: (n, 1 or 3).
    """
    size, gray = (which.shape[1], which.shape[0]), colours.shape[1] == 1
    data = zlib.compress(np.ascontiguousarray(which).tobytes(), 9)
    return EncodedImage("FlateDecode", data, size, gray=gray, palette=np.ascontiguousarray(colours).tobytes())


def decode_encoded(image: EncodedImage) -> Pixels:
    """The pixels of an encoded image; gray or RGB."""
    if image.filter == "DCTDecode":
        return np.asarray(Image.open(io.BytesIO(image.data)))
    if image.filter == "JPXDecode":
        return decode_jpeg2000(image)
    if image.palette:
        which = np.frombuffer(zlib.decompress(image.data), np.uint8).reshape(image.size_px[1], image.size_px[0])
        colours = np.frombuffer(image.palette, np.uint8)
        return colours[which] if image.gray else colours.reshape(-1, 3)[which]
    if image.filter == "FlateDecode":
        with Image.open(io.BytesIO(_png_around(image))) as png:
            return np.asarray(png)
    assert image.filter in TWO_TONES
    return decode_two_tones(image)


def decode_reduced(image: EncodedImage, share: float) -> Pixels:
    """The pixels of an image packed with loss, of a JPEG at a reduction, quickly.

    Args:
        image: By JPEG or JPEG 2000; the latter, which is small, comes as large as it is.
        share: Of its sides; what comes is as large or larger, by a half, a quarter or an eighth.

    Source:
        Scaled inverse transforms of 4, 2 and 1 coefficients, as in libjpeg.
    """
    if image.filter == "JPXDecode":
        return decode_jpeg2000(image)
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
