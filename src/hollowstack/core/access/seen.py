"""A page of an access copy as it is seen, for whoever is still choosing."""

from collections.abc import Sequence

from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.access.picture import access_image
from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.page.raster import Pixels, Raster

_SEEN_PPI = 150
"""Enough for a screen; a copy that is finer is shown by it."""


def seen_page(image: EncodedImage | Layered, ppi: tuple[float, float], marks: Sequence[Mark], order: AccessOrder) -> Pixels:
    """The pixels of a page, after compression, without what lies apart from it; gray or RGB.

    Args:
        image: As it is bound.
        ppi: Of the page.
        marks: On it.
        order: How the copy is to be made.
    """
    made = access_image(image, ppi, list(marks), order)
    pixels = compose(made) if isinstance(made, Layered) else decode_encoded(made)
    scale = made.size_px[0] / image.size_px[0]
    return Raster(pixels, (ppi[0] * scale, ppi[1] * scale)).reduced(_SEEN_PPI).pixels
