"""Pages for PDF/A-1, which has no JPEG 2000: packed anew by what it has."""

from dataclasses import replace

from hollowstack.core.bind.codecs import decode_encoded, encode_flate
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.jpeg2000 import is_reversible
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.lossy import encode_jpeg

_QUALITY = 92
"""Of a JPEG of what has lost something already: it shall lose no more that can be seen."""


def without_jpeg2000(page: EncodedImage | Layered) -> EncodedImage | Layered:
    """The page with each image that JPEG 2000 has packed as PNG does it, or by JPEG where something of it was lost before.

    Source:
        ISO 19005-1:2005, 6.1.10 with the filters of PDF 1.4.
    """
    if isinstance(page, EncodedImage):
        return _older(page)
    return replace(page, patches=tuple(replace(patch, image=_older(patch.image)) for patch in page.patches))


def _older(image: EncodedImage) -> EncodedImage:
    if image.filter != "JPXDecode":
        return image
    pixels = decode_encoded(image)
    # Its profile goes along: the values mean the same.
    return replace(encode_flate(pixels) if is_reversible(image) else encode_jpeg(pixels, _QUALITY), icc=image.icc)
