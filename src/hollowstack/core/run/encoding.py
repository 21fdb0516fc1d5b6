"""A clean page to the image that is bound: compact, without loss, or as it came."""

from pathlib import Path

from hollowstack.core.bind.as_it_came import as_it_came
from hollowstack.core.bind.codecs import encode, encode_lossless
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.layers.separating import separate
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan

_PAYS = 0.75
"""Layers are taken where they take less than this share of one image's bytes: that shows the page as it is, and faster."""

_LITTLE = 0.008
"""Bytes a pixel below which layers take less than any JPEG of a page with writing on it: none is made to compare them."""


def encode_page(page: Raster, plan: Plan, path: Path, frame: int, image: Raster) -> EncodedImage | Layered:
    """Compress a clean page as its plan says.

    Args:
        page: The clean page.
        plan: What it was made by.
        path: The master, and
        frame: the image in it: its own data are taken where nothing was done to the page.
        image: The page as captured.
    """
    if not plan.lossless:
        layered = separate(page, plan.jpeg_quality) if plan.layers and plan.colour != "bitonal" else None
        if layered is not None and layered.bytes < _LITTLE * page.width * page.height:
            return layered
        whole = encode(page, plan.colour, plan.jpeg_quality, plan.packing)
        return layered if layered is not None and layered.bytes < _PAYS * whole.bytes else whole
    if plan.leaves_alone(image.width, image.height, gray=image.is_gray):
        kept = as_it_came(path, frame)
        across, down = image.stretch
        if kept is not None and kept.size_px == (round(page.width / across), round(page.height / down)):
            return kept
    return encode_lossless(page, plan.colour, plan.packing)
