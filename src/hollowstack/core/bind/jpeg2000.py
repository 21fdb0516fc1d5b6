"""JPEG 2000 without loss: for pages whose paper has grain, of which the predictors of PNG make little."""

import io

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
    return made if np.array_equal(decode_reversible(made), pixels) else None


def decode_reversible(image: EncodedImage) -> Pixels:
    """The values of an image packed so."""
    with Image.open(io.BytesIO(image.data), formats=["JPEG2000"]) as opened:
        return as_pixels(np.asarray(opened))
