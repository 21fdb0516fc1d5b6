"""Pages in two tones coded by JBIG2, without any loss: every pixel comes back.

Shapes are shared where they are the same pixel by pixel; where they are merely alike, every pixel in which they differ is
coded. Nothing is put in another's place by likeness.
"""

import numpy as np

from hollowstack.core.bind.jbig2.arithmetic import Coder
from hollowstack.core.bind.jbig2.generic import CONTEXTS, Bitmap, adaptive_bytes, adaptive_for, code_generic
from hollowstack.core.bind.jbig2.segments import (
    GENERIC,
    PAGE,
    SYMBOLS,
    TEXT,
    Place,
    page_information,
    region_information,
    segment,
)
from hollowstack.core.bind.jbig2.shapes import Shapes, shapes_of
from hollowstack.core.bind.jbig2.symbols import dictionary, text_region

__all__ = ["Bitmap", "encode_page"]
_TYPICAL_ON = 0x08


def encode_page(bitmap: Bitmap) -> bytes:
    """A page, pixel by pixel or by the shapes on it, whichever takes less.

    Args:
        bitmap: (height, width), 1 where there is ink.

    Returns:
        What the PDF filter JBIG2Decode takes.

    Source:
        ITU-T T.88 (08/2018); ISO 32000-1:2008, 7.4.7.
    """
    height, width = bitmap.shape
    whole = Place(width, height)
    page = segment(0, PAGE, page_information(width, height))
    shapes = shapes_of(bitmap)
    shaped = None if shapes is None else _by_shapes(shapes, whole)
    if shaped is not None and shapes is not None and len(shapes.uses) >= _TEXT * len(shapes.symbols):
        return page + shaped
    plain = segment(1, GENERIC, _region(bitmap, whole))
    return page + min((one for one in (shaped, plain) if one is not None), key=len)


_TEXT = 5
"""Times that each symbol stands on a page, on average, from which the shapes take less in any case."""


def _by_shapes(shapes: Shapes, whole: Place) -> bytes:
    """A page as symbols, where they stand, and what is left."""
    made = segment(1, SYMBOLS, dictionary(shapes.symbols))
    made += segment(2, TEXT, text_region(whole, shapes.uses, shapes.symbols), refers_to=[1])
    return made + segment(3, GENERIC, _region(shapes.rest, whole)) if shapes.rest.any() else made


def _region(bitmap: Bitmap, place: Place) -> bytes:
    coder, at = Coder(), adaptive_for(bitmap)
    code_generic(coder, np.zeros(CONTEXTS, np.uint8), bitmap, at, typical=True)
    return region_information(place) + bytes([_TYPICAL_ON]) + adaptive_bytes(at) + coder.finish()
