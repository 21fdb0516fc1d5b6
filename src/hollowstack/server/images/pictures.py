"""Pictures of pages, decoded once and kept for the next tile."""

import io
import threading
from collections import OrderedDict
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.core.run.steps import VIEW
from hollowstack.server.images.iiif import ImageRequest

Image.MAX_IMAGE_PIXELS = None  # only pictures the engine itself has written are opened here
_CACHE_BYTES = 256 * 1024 * 1024


class Pictures:
    """Decoded pictures by path, the least lately used given up first; safe for many threads."""

    def __init__(self, most_bytes: int = _CACHE_BYTES) -> None:
        self._most = most_bytes
        self._kept: OrderedDict[Path, Pixels] = OrderedDict()
        self._lock = threading.Lock()
        self._decoding: dict[Path, threading.Lock] = {}

    def get(self, path: Path) -> Pixels:
        """Gray or RGB pixels of a picture."""
        with self._lock:
            if path in self._kept:
                self._kept.move_to_end(path)
                return self._kept[path]
            gate = self._decoding.setdefault(path, threading.Lock())
        with gate:  # several tiles of one page come at once: decode it once
            with self._lock:
                if path in self._kept:
                    return self._kept[path]
            with Image.open(path) as image:
                pixels = as_pixels(np.asarray(image.convert("L") if image.mode == "1" else image))
            with self._lock:
                self._kept[path] = pixels
                while len(self._kept) > 1 and sum(p.nbytes for p in self._kept.values()) > self._most:
                    self._kept.popitem(last=False)
                self._decoding.pop(path, None)
            return pixels


PICTURES = Pictures()
"""Shared by all that shows pages."""


def view_path(folder: Path) -> Path | None:
    """The picture that a step left in its folder."""
    return next((path for suffix in ("jpg", "png") if (path := folder / f"{VIEW}.{suffix}").exists()), None)


def answer(pixels: Pixels, request: ImageRequest) -> bytes:
    """The bytes of a requested image."""
    left, top, width, height = request.region
    part = pixels[top : top + height, left : left + width]
    if request.size != (width, height):
        shrinks = request.size[0] <= width and request.size[1] <= height
        method = cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC
        part = as_pixels(cv2.resize(part, request.size, interpolation=method))
    if request.mirror:
        part = part[:, ::-1]
    part = np.rot90(part, -request.turn // 90)
    image = Image.fromarray(np.ascontiguousarray(part))
    if request.quality == "gray":
        image = image.convert("L")
    elif request.quality == "bitonal":
        image = image.convert("L").point(lambda v: 255 if v >= 128 else 0)
    elif request.quality == "color":
        image = image.convert("RGB")
    buffer = io.BytesIO()
    if request.format == "jpg":
        image.save(buffer, "JPEG", quality=88)
    elif request.format == "png":
        image.save(buffer, "PNG", compress_level=3)
    else:
        image.save(buffer, "WEBP", quality=85, method=2)
    return buffer.getvalue()
