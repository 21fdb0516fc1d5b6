"""A clean page to the image that is bound: compact, without loss, or as it came."""

from pathlib import Path

from hollowstack.core.bind.as_it_came import as_it_came
from hollowstack.core.bind.codecs import EncodedImage, encode, encode_lossless
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan


def encode_page(page: Raster, plan: Plan, path: Path, frame: int, image: Raster) -> EncodedImage:
    """Compress a clean page as its plan says.

    Args:
        page: The clean page.
        plan: What it was made by.
        path: The master, and
        frame: the image in it: its own data are taken where nothing was done to the page.
        image: The page as captured.
    """
    if not plan.lossless:
        return encode(page, plan.colour, plan.jpeg_quality)
    if plan.leaves_alone(image.width, image.height, gray=image.is_gray):
        kept = as_it_came(path, frame)
        across, down = image.stretch
        if kept is not None and kept.size_px == (round(page.width / across), round(page.height / down)):
            return kept
    return encode_lossless(page, plan.colour)
