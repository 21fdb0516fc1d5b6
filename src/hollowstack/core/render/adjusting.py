"""Tone and colour by figures, in one table of values where that is enough."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.settings.adjustments import Adjustments

_SHARP_MM = 0.12
_MOST_SHARP = 1.6
_WARM, _TINT = 0.14, 0.10
_LUMA = np.array([0.299, 0.587, 0.114])
"""ITU-R BT.601."""


def adjusted(page: Raster, wish: Adjustments, balance: tuple[float, float, float] | None = None) -> Raster:
    """A page with tones and colours set by hand. A gray page stays gray; what is only for colours is passed over.

    Args:
        page: Gray or colour.
        wish: What to do.
        balance: Factors for red, green and blue, applied first.
    """
    pixels = page.pixels
    if not page.is_gray and wish.saturation:
        pixels = as_pixels(cv2.transform(pixels, _saturation(1 + wish.saturation / 100)))
    table: Pixels = tables(wish, balance)
    if page.is_gray:
        table = table[:, :1] if balance is None else table[:, 1:2]
    if not np.array_equal(table, _identity(table.shape[1])):
        pixels = as_pixels(cv2.LUT(pixels, table.reshape(256, 1, table.shape[1])))
    done = Raster(pixels, page.ppi)
    return sharpened(done, wish.sharpen / 100) if wish.sharpen else done


def tables(wish: Adjustments, balance: tuple[float, float, float] | None = None) -> Pixels:
    """Output values by input value and channel, (256, 3); for gray the first column holds unless colours are shifted."""
    value = np.arange(256) / 255
    curve = curve_of(wish, value)
    colours = np.array([1 + _WARM * wish.warmth / 100, 1 - _TINT * wish.tint / 100, 1 - _WARM * wish.warmth / 100])
    colours = colours / colours.max()
    if balance is None:
        return as_pixels(np.rint(255 * curve[:, None] * colours).astype(np.uint8))
    first = np.stack([curve_of(wish, np.minimum(1, value * factor)) for factor in balance], axis=1)
    return as_pixels(np.rint(255 * first * colours).astype(np.uint8))


def curve_of(wish: Adjustments, value: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """Tones 0 to 1 through points, middle tones, brightness and contrast; never falling, black and white stay in range."""
    black, white = wish.black / 100, wish.white / 100
    out = np.clip((value - black) / (white - black), 0, 1)
    # Brightness bends the curve between black and white, so neither is lost.
    out = out ** (2.0 ** (-wish.brightness / 60) / wish.gamma)
    share = wish.contrast / 100
    steep = out * out * (3 - 2 * out) if share > 0 else 0.5 + (out - 0.5) * 0.4
    return np.asarray(out + abs(share) * (steep - out), dtype=np.float64)


def sharpened(page: Raster, amount: float) -> Raster:
    """Edges steeper by an unsharp mask that never leaves the range of the pixels around it, so no seams appear.

    Args:
        page: Gray or colour.
        amount: 0 to 1.
    """
    sigma = max(0.6, _SHARP_MM / 25.4 * sum(page.scale_ppi) / 2)
    soft = cv2.GaussianBlur(page.pixels, (0, 0), sigma)
    share = _MOST_SHARP * amount
    steep = cv2.addWeighted(page.pixels, 1 + share, soft, -share, 0)
    around = np.ones((3, 3), np.uint8)
    low, high = cv2.erode(page.pixels, around), cv2.dilate(page.pixels, around)
    return Raster(as_pixels(cv2.max(low, cv2.min(high, steep))), page.ppi)


def _saturation(factor: float) -> npt.NDArray[np.float32]:
    """The matrix that spreads colours away from their own luma, or draws them towards it."""
    return np.asarray(factor * np.eye(3) + (1 - factor) * np.tile(_LUMA, (3, 1)), dtype=np.float32)


def _identity(channels: int) -> Pixels:
    return np.repeat(np.arange(256, dtype=np.uint8)[:, None], channels, axis=1)
