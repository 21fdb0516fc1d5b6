"""Images whose pixels are not square, as a fax's are, made square before anything is looked at."""

import cv2

from hollowstack.core.decode.limits import check_size
from hollowstack.core.page.raster import Raster, as_pixels, is_two_valued

_SQUARE = 0.01
"""Share by which the resolutions of both axes may differ: devices round them."""
_BELIEVED = 4.0
"""A pixel this many times as long as wide is no device's: such a resolution is not believed (common practice, no source)."""


def squared(image: Raster) -> Raster:
    """The same image with the coarser axis brought to the resolution of the finer one; as it is where they are alike.

    An image of two tones keeps its two: its pixels are repeated.

    Raises:
        DecodeError: It would be larger than what is taken in.

    Source:
        ITU-T T.4 (fax: 204 × 98 and 204 × 196 pixels an inch).
    """
    if image.ppi is None or abs(image.ppi[0] / image.ppi[1] - 1) <= _SQUARE:
        return image
    finer = max(image.ppi)
    if finer / min(image.ppi) > _BELIEVED:
        return Raster(image.pixels, None)
    width, height = round(image.width * finer / image.ppi[0]), round(image.height * finer / image.ppi[1])
    check_size(width, height)
    how = cv2.INTER_NEAREST_EXACT if is_two_valued(image.pixels) else cv2.INTER_CUBIC
    pixels = as_pixels(cv2.resize(image.pixels, (width, height), interpolation=how))
    return Raster(pixels, (finer, finer), (width / image.width, height / image.height))
