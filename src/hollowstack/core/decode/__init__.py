"""Files to rasters. What a file is, is told from its bytes; every refusal is a ``DecodeError`` with one sentence."""

from pathlib import Path

from hollowstack.core.decode import images, pdf
from hollowstack.core.decode.sniff import FORMATS, MAX_BYTES, sniff
from hollowstack.core.decode.square import squared
from hollowstack.core.page.raster import Raster

__all__ = ["DECODE_VERSION", "FORMATS", "MAX_BYTES", "count_frames", "decode"]

DECODE_VERSION = 6
"""Raised whenever a change here may change a pixel or a resolution; part of the keys of all that follows."""


def count_frames(path: Path) -> int:
    """How many pages a file holds, 1 or more; an image has one, a multi-page TIFF or a PDF any number.

    Raises:
        DecodeError: It is not a file that is taken in.
    """
    kind = sniff(path)
    return pdf.count_pages(path) if kind == "PDF" else images.count_frames(path, kind)


def decode(path: Path, frame: int = 0) -> Raster:
    """One page of a file as pixels, as a viewer shows it: after its EXIF turn, before any other, with square pixels.

    Args:
        path: The file; its name does not matter.
        frame: 0-based page within it.

    Raises:
        DecodeError: It cannot be decoded whole: an archive must not keep half a page unawares.
    """
    kind = sniff(path)
    return squared(pdf.decode_page(path, frame) if kind == "PDF" else images.decode_frame(path, kind, frame))
