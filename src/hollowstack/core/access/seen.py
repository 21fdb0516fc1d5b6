"""A page of an access copy as it is seen, for whoever is still choosing."""

from collections.abc import Sequence

from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.access.picture import finished
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.page.raster import Pixels

_SEEN_PPI = 150
"""Enough for a screen; a copy that is finer is shown by it."""


def seen_page(image: EncodedImage | Layered, ppi: tuple[float, float], marks: Sequence[Mark], order: AccessOrder) -> Pixels:
    """The pixels of a page, before compression, without what lies apart from it; gray or RGB.

    Args:
        image: As it is bound.
        ppi: Of the page.
        marks: On it.
        order: How the copy is to be made.
    """
    most = _SEEN_PPI if order.ppi is None else min(_SEEN_PPI, order.ppi)
    return finished(image, ppi, marks, order).reduced(most).pixels
