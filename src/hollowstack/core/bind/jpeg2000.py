"""JPEG 2000: without loss for pages whose paper has grain, of which the predictors of PNG make little; unpacking of all."""

import io
from typing import Any

import imagecodecs
import numpy as np
from PIL import Image

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.page.raster import Pixels, as_pixels


def encode_reversible(pixels: Pixels) -> EncodedImage | None:
    """Pack grey or RGB values of 8 bits so that each comes back.

    They are unpacked again by the side and compared, value by value; None where one differs.

    Source:
        ISO/IEC 15444-1:2019, annexes F and G (the reversible wavelet and colour transforms); ISO 32000-1:2008, 7.4.9.
    """
    data = bytes(imagecodecs.jpeg2k_encode(pixels, level=0, codecformat="jp2", reversible=True, mct=pixels.ndim == 3))
    made = EncodedImage("JPXDecode", data, (pixels.shape[1], pixels.shape[0]), gray=pixels.ndim == 2)
    return made if np.array_equal(decode_jpeg2000(made), pixels) else None


def encode_at(pixels: Pixels, decibels: float) -> EncodedImage:
    """Pack grey or RGB values of 8 bits with loss, to about a ratio of signal to noise.

    Source:
        ISO/IEC 15444-1:2019, annexes F and G (the irreversible wavelet and colour transforms).
    """
    level: Any = decibels  # the package's own types say int, its code takes fractions
    data = imagecodecs.jpeg2k_encode(pixels, level=level, codecformat="jp2", reversible=False, mct=pixels.ndim == 3)
    return EncodedImage("JPXDecode", bytes(data), (pixels.shape[1], pixels.shape[0]), gray=pixels.ndim == 2)


def decode_jpeg2000(image: EncodedImage) -> Pixels:
    """The values of an image that JPEG 2000 has packed, with loss or without."""
    with Image.open(io.BytesIO(image.data), formats=["JPEG2000"]) as opened:
        return as_pixels(np.asarray(opened))


def is_reversible(image: EncodedImage) -> bool:
    """Whether nothing of an image by JPEG 2000 was lost.

    Source:
        ISO/IEC 15444-1:2019, A.6.1: the coding style (COD) names the transform, 1 for the reversible one.
    """
    start = image.data.index(_CODING_STYLE, image.data.index(_CODESTREAM))
    return image.data[start + _TO_TRANSFORM] == 1


_CODESTREAM, _CODING_STYLE, _TO_TRANSFORM = b"\xff\x4f\xff\x51", b"\xff\x52", 13
"""Its start with the marker of sizes; the marker of the coding style; from there to the byte that names the transform."""
