"""A page in layers as viewers show it."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.page.raster import Pixels, as_pixels


def pixels_of(page: EncodedImage | Layered) -> Pixels:
    """The pixels of a bound page, grey or RGB, whatever it is made of; those of a fax stay oblong."""
    return compose(page) if isinstance(page, Layered) else decode_encoded(page)


def compose(page: Layered) -> Pixels:
    """The pixels of a page in layers: (height, width), or with three channels.

    What has a lower resolution than the page is shown in blocks: PDF/A allows no smoothing (ISO 19005-2, 6.2.8).
    """
    width, height = page.size_px
    channels = 1 if page.gray else 3
    made = np.empty((height, width, channels), np.uint8)
    made[:] = page.paper
    for patch in page.patches:
        left, top, right, bottom = patch.box
        made[top:bottom, left:right] = _enlarged(patch.image, patch.box.size, channels)[: height - top, : width - left]
    if page.ink is not None:
        # It may hang over the page's right and lower side.
        ink = decode_encoded(page.ink.stencil)[:height, :width] == 0
        tint = page.ink.tint
        if isinstance(tint, EncodedImage):
            made[ink] = _enlarged(tint, page.ink.stencil.size_px, channels)[:height, :width][ink]
        else:
            made[ink] = tint
    return as_pixels(made[:, :, 0] if page.gray else made)


def _enlarged(image: EncodedImage, size: tuple[int, int], channels: int) -> npt.NDArray[np.uint8]:
    pixels = decode_encoded(image)
    if (pixels.shape[1], pixels.shape[0]) != size:
        pixels = as_pixels(cv2.resize(pixels, size, interpolation=cv2.INTER_NEAREST))
    shape = (size[1], size[0], channels)
    return pixels.reshape(size[1], size[0], -1) if pixels.ndim == 3 else np.broadcast_to(pixels[:, :, None], shape)
