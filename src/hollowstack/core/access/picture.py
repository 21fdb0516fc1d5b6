"""The image of a page as an access copy has it."""

from collections.abc import Sequence
from dataclasses import replace

from hollowstack.core.access.covering import without_pixels
from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.access.watermarks import with_watermark
from hollowstack.core.bind.codecs import decode_encoded, encode
from hollowstack.core.bind.encoded import TWO_TONES, EncodedImage
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.layers.parts import Layered, Patch
from hollowstack.core.bind.layers.separating import separate
from hollowstack.core.bind.two_tones import is_two_tones
from hollowstack.core.page.raster import Raster

_QUALITY = 60
"""Of JPEG: letters at 150 ppi are read as well as at 90, in half of the bytes (measured on the demo's pages)."""


def access_image(
    image: EncodedImage | Layered, ppi: tuple[float, float], marks: Sequence[Mark], order: AccessOrder
) -> EncodedImage | Layered:
    """The image of a page, covered, reduced and under its watermark; in layers where that is smaller.

    Args:
        image: As it is bound.
        ppi: Of the page.
        marks: On it.
        order: How the copy is made.
    """
    if not order.watermark.text.strip() and not any(mark.kind == "cover" for mark in marks):
        return _reduced(image, ppi, order.ppi)
    page = finished(image, ppi, marks, order)
    if is_two_tones(page.pixels):
        return encode(page, "bitonal", _QUALITY)
    small = page.reduced(float(order.ppi)) if order.ppi is not None else page
    whole = encode(small, "grey" if page.is_gray else "colour", _QUALITY)
    whole = replace(whole, icc=image.icc if isinstance(image, EncodedImage) else b"")
    if whole.icc:  # layers have the house's own colours
        return whole
    layered = separate(page, _QUALITY)
    if layered is None:
        return whole
    layered = _reduced_layers(layered, ppi, order.ppi)
    return layered if layered.bytes < whole.bytes else whole


def finished(image: EncodedImage | Layered, ppi: tuple[float, float], marks: Sequence[Mark], order: AccessOrder) -> Raster:
    """All of a page's pixels, covered and under the watermark."""
    pixels = pixels_of(image)
    # Covered before anything is reduced or packed: nothing of what lies under a cover is mixed into the pixels beside it.
    page = with_watermark(Raster(without_pixels(pixels, marks), ppi), order.watermark)
    # A cover is black, whatever lies across it.
    return Raster(without_pixels(page.pixels, marks), ppi)


def _reduced(image: EncodedImage | Layered, ppi: tuple[float, float], most: int | None) -> EncodedImage | Layered:
    if isinstance(image, Layered):
        return _reduced_layers(image, ppi, most)
    if most is None or max(ppi) <= most or image.filter in TWO_TONES:
        return image  # two tones are smaller than any reduction of them in greys
    page = Raster(decode_encoded(image), ppi).reduced(float(most))
    small = replace(encode(page, "grey" if page.is_gray else "colour", _QUALITY), icc=image.icc)
    return small if small.bytes < image.bytes else image


def _reduced_layers(page: Layered, ppi: tuple[float, float], most: int | None) -> Layered:
    """The same layers, pictures in them no finer than that."""
    return page if most is None else replace(page, patches=tuple(_reduced_patch(one, ppi, most) for one in page.patches))


def _reduced_patch(patch: Patch, ppi: tuple[float, float], most: int) -> Patch:
    width, height = patch.box.size
    own = (ppi[0] * patch.image.size_px[0] / width, ppi[1] * patch.image.size_px[1] / height)
    small = _reduced(patch.image, own, most)
    assert isinstance(small, EncodedImage)
    return Patch(small, patch.box)
