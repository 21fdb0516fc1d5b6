"""The image of a page as an access copy has it."""

from dataclasses import replace

import numpy as np

from hollowstack.core.access.covering import without_pixels
from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.access.watermarks import with_watermark
from hollowstack.core.bind.codecs import decode_encoded, encode, encode_flate
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.page.raster import Raster, as_pixels

_QUALITY = 60
"""Of JPEG: letters at 150 ppi are read as well as at 90, in half of the bytes (measured on the demo's pages)."""


def access_image(
    image: EncodedImage | Layered, ppi: tuple[float, float], marks: list[Mark], order: AccessOrder
) -> EncodedImage | Layered:
    """The image of a page, covered, reduced and under its watermark; as it is bound where nothing of that is asked for.

    Args:
        image: As it is bound.
        ppi: Of the page.
        marks: On it.
        order: How the copy is made.
    """
    covered = any(mark.kind == "cover" for mark in marks)
    fine = order.ppi is None or max(ppi) <= order.ppi
    if fine and not covered and not order.watermark.text.strip():
        return image
    pixels = compose(image) if isinstance(image, Layered) else decode_encoded(image)
    if pixels.dtype == bool:
        pixels = as_pixels(np.where(pixels, 255, 0).astype(np.uint8))
    # Covered before it is reduced: nothing of what lies under a cover is mixed into the pixels beside it.
    page = Raster(without_pixels(pixels, marks) if covered else pixels, ppi)
    if not fine:
        page = page.reduced(float(order.ppi or 0))
    page = with_watermark(page, order.watermark)
    if covered:  # a cover is black, whatever lies across it
        page = Raster(without_pixels(page.pixels, marks), page.ppi)
    packed = encode(page, "grey" if page.is_gray else "colour", _QUALITY)
    if page.is_gray and _is_two_tones(page):
        exact = encode_flate(page.pixels)
        packed = exact if exact.bytes < packed.bytes else packed
    return replace(packed, icc=image.icc if isinstance(image, EncodedImage) else b"")


def _is_two_tones(page: Raster) -> bool:
    return bool(np.all((page.pixels == 0) | (page.pixels == 255)))
