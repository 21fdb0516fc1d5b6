"""Pictures packed with loss: by JPEG, or by JPEG 2000 where that is as near to them in every way and takes less."""

import io
import math

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.jpeg2000 import decode_jpeg2000, encode_at
from hollowstack.core.page.raster import Pixels, as_pixels

_MOST_PIXELS = 2_500_000
"""Larger ones stay JPEG: viewers unpack JPEG 2000 at some 10 megapixels a second, and turning a page shall not wait."""
_PAYS = 0.9
"""Share of a JPEG's bytes that JPEG 2000 may take at most to be worth its slower unpacking."""
_TRIES = 4
_SLACK_DB, _SPARE_DB = 0.2, 0.05
"""Nearness that is given away rather than searched for; what is aimed at beyond what is asked for."""
_EDGE = 40
"""Gray values between neighbours from which there is an edge of something."""
_LEAST_ERROR = 0.05
"""Mean squared gray values below which nearness does not count."""

_NEIGHBOURS = np.ones((3, 3), np.uint8)
_Parts = npt.NDArray[np.float32]


def encode_lossy(pixels: Pixels, quality: int) -> EncodedImage:
    """Pack grey or RGB values of 8 bits with loss.

    A JPEG of the quality says how much may be lost; JPEG 2000 takes its place where it loses no more, in lightness over all,
    in lightness at edges, and in colour, and takes less by a tenth at least.

    Args:
        pixels: (height, width), or with three channels.
        quality: Of JPEG, 1 to 95.

    Source:
        ITU-T T.81 (JPEG, progressive) and ISO/IEC 15444-1:2019 (JPEG 2000; the irreversible transforms of annexes F and G).
        That errors of lightness at edges are what is seen of letters is our own measure.
    """
    whole = encode_jpeg(pixels, quality)
    if pixels.shape[0] * pixels.shape[1] > _MOST_PIXELS or min(pixels.shape[:2]) < _LEAST_SIDE:
        return whole
    other = _as_near(pixels, as_pixels(np.asarray(Image.open(io.BytesIO(whole.data)))), whole.bytes * _PAYS)
    return whole if other is None else other


_LEAST_SIDE = 8
"""Pixels; of what is thinner there is nothing to transform."""


def encode_jpeg(pixels: Pixels, quality: int) -> EncodedImage:
    """Pack grey or RGB values of 8 bits as a progressive JPEG of a quality, 1 to 95 (ITU-T T.81)."""
    buffer = io.BytesIO()
    # Chroma at half resolution: the eye does not miss it on paper.
    Image.fromarray(pixels).save(buffer, "JPEG", quality=quality, progressive=True, subsampling=2)
    return EncodedImage("DCTDecode", buffer.getvalue(), (pixels.shape[1], pixels.shape[0]), gray=pixels.ndim == 2)


def _as_near(pixels: Pixels, allowed: Pixels, most_bytes: float) -> EncodedImage | None:
    """By JPEG 2000, no farther from the pixels than ``allowed`` is; None where that takes more bytes than are worth it."""
    measure = _Measure(pixels)
    limits = measure.errors(allowed)
    level = _decibels(limits[0])
    best = None
    for _ in range(_TRIES):
        made = encode_at(pixels, level)
        short = max(
            _decibels(limit) - _decibels(error)
            for limit, error in zip(limits, measure.errors(decode_jpeg2000(made)), strict=True)
        )
        if short <= 0 and made.bytes <= most_bytes and (best is None or made.bytes < best.bytes):
            best = made
        if -_SLACK_DB <= short <= 0 or (short > 0 and made.bytes > most_bytes):
            break
        # The coder aims at a ratio of signal to noise, which moves with what is asked of it nearly one to one.
        level += short + _SPARE_DB
    return best


def _decibels(error: float) -> float:
    """Of a mean squared error of gray values, as signal to noise; what nobody sees is not told apart."""
    return 10 * math.log10(255**2 / max(error, _LEAST_ERROR))


class _Measure:
    """How far an image is from given pixels, in three ways."""

    def __init__(self, pixels: Pixels) -> None:
        self._parts = _parted(pixels)
        light = np.asarray(self._parts[..., 0], np.uint8)
        self._edges = cv2.morphologyEx(light, cv2.MORPH_GRADIENT, _NEIGHBOURS) > _EDGE

    def errors(self, other: Pixels) -> tuple[float, ...]:
        """Mean squared: of lightness, of lightness at edges, of colour."""
        off = (self._parts - _parted(other)) ** 2
        found = [float(off[..., 0].mean()), float(off[..., 0][self._edges].mean()) if self._edges.any() else 0.0]
        return (*found, float(off[..., 1:].mean())) if off.shape[2] == 3 else tuple(found)


def _parted(pixels: Pixels) -> _Parts:
    """Lightness, and of colour images the two differences from it (ITU-R BT.601, as in JPEG)."""
    if pixels.ndim == 2:
        return pixels[:, :, None].astype(np.float32)
    return np.asarray(cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2YCrCb), np.float32)
