"""Pictures of pages cut to order, in a page worker: decoded once and kept for the next tile."""

import io
from collections import OrderedDict
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
from PIL import Image

from hollowstack.core.page.raster import Pixels, as_pixels

Quality = Literal["default", "color", "gray", "bitonal"]
PictureFormat = Literal["jpg", "png", "webp"]
_CACHE_BYTES = 192 * 1024 * 1024


@dataclass(frozen=True, slots=True)
class Part:
    """Cut ``region`` (left, top, width, height in pixels), scale to ``size``, mirror and turn clockwise, save."""

    region: tuple[int, int, int, int]
    size: tuple[int, int]
    mirror: bool
    turn: Literal[0, 90, 180, 270]
    quality: Quality
    format: PictureFormat


class Pictures:
    """Decoded pictures by path, the least lately used given up first; for one thread."""

    def __init__(self, most_bytes: int = _CACHE_BYTES) -> None:
        self._most = most_bytes
        self._kept: OrderedDict[Path, Pixels] = OrderedDict()

    def get(self, path: Path) -> Pixels:
        """Gray or RGB pixels of a picture. Raises OSError where it is gone."""
        if path in self._kept:
            self._kept.move_to_end(path)
            return self._kept[path]
        with _opened(path) as image:
            pixels = as_pixels(np.asarray(image.convert("L") if image.mode == "1" else image))
        self._kept[path] = pixels
        while len(self._kept) > 1 and sum(one.nbytes for one in self._kept.values()) > self._most:
            self._kept.popitem(last=False)
        return pixels


PICTURES = Pictures()
"""Shared by all that shows pages in this process."""


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of a picture in pixels. Raises OSError where it is gone."""
    with _opened(path) as image:
        return image.size


def part_of(path: Path, wanted: Part) -> bytes:
    """A part of a picture as a file of the format that is wanted. Raises OSError where the picture is gone."""
    left, top, width, height = wanted.region
    part = PICTURES.get(path)[top : top + height, left : left + width]
    if wanted.size != (width, height):
        shrinks = wanted.size[0] <= width and wanted.size[1] <= height
        part = as_pixels(cv2.resize(part, wanted.size, interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC))
    if wanted.mirror:
        part = part[:, ::-1]
    image = Image.fromarray(np.ascontiguousarray(np.rot90(part, -wanted.turn // 90)))
    if wanted.quality == "gray":
        image = image.convert("L")
    elif wanted.quality == "bitonal":
        image = image.convert("L").point(lambda v: 255 if v >= 128 else 0)
    elif wanted.quality == "color":
        image = image.convert("RGB")
    buffer = io.BytesIO()
    if wanted.format == "jpg":
        image.save(buffer, "JPEG", quality=88)
    elif wanted.format == "png":
        image.save(buffer, "PNG", compress_level=3)
    else:
        image.save(buffer, "WEBP", quality=85, method=2)
    return buffer.getvalue()


def _opened(path: Path) -> Image.Image:
    """A picture that the steps have written: of any size, for a long strip is one too."""
    Image.MAX_IMAGE_PIXELS = None
    return Image.open(path)
