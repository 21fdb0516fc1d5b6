"""Streaks: thin lines down the whole image, such as dirt on a feeder's glass draws.

Hardly anything that is on paper does that: a rule ends on its page and follows the page's tilt; a streak runs with the
sensor's own axis, from one end of the image to the other, over whatever lies there. Lines across are not looked for: cards
are ruled so, and paper is folded so.
"""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Raster

_BANDS = 24
_IN_MOST = 0.88
"""Share of the bands along the image in which a streak shows at the same place."""
_WIDEST_MM = 0.9
_BESIDE_MM = 0.7
"""How far beside it its surroundings are taken from."""
_ALIKE = 0.7
"""How alike the light on both of its sides is: the lesser step to it over the greater."""
_DEEP, _ABOVE_NOISE = 0.08, 5.0
"""How much darker or lighter than its surroundings it is, as a share of their light, and in deviations of a band's grain:
a fold of paper, which may run as far and as straight, is shallower."""
_RIM_MM = 4.0
"""At the image's own rim lie lids and edges of paper, which run along it too."""
_LEAST_LIGHT = 12.0


class Streak(NamedTuple):
    """A line down the image: its ``place`` across in pixels, and its ``width``."""

    place: float
    width: float


def find_streaks(image: Raster) -> list[Streak]:
    """Streaks of a gray image as captured, 100 to 200 ppi.

    Source:
        Profiles by bands (common practice, no source); the figures were set on drawn pages.
    """
    return [Streak(place, width) for place, width in _columns(image.pixels, image.px(1000.0) / 1000.0)]


def _columns(pixels: npt.NDArray[np.uint8], px_mm: float) -> list[tuple[float, float]]:
    rows, cols = pixels.shape
    if rows < 4 * _BANDS or cols < 8 * _BESIDE_MM * px_mm:
        return []
    bands = cv2.resize(pixels, (cols, _BANDS), interpolation=cv2.INTER_AREA).astype(np.float32)
    beside = max(2, round(_BESIDE_MM * px_mm))
    padded = np.pad(bands, ((0, 0), (beside, beside)), mode="edge")
    left, right = padded[:, :cols], padded[:, 2 * beside :]
    noise = np.median(np.abs(left - right), axis=1, keepdims=True) * 1.05 + 0.3
    for sign in (1, -1):
        one, other = sign * (left - bands), sign * (right - bands)
        # A shadow beside an edge of paper is as deep on one side only: a streak has the same light on both.
        least, most = np.minimum(one, other), np.maximum(one, other)
        line = (least > np.maximum(_DEEP * np.maximum(left, _LEAST_LIGHT), _ABOVE_NOISE * noise)) & (least >= _ALIKE * most)
        shows = (line.mean(axis=0) >= _IN_MOST) & line[0] & line[-1]
        if spans := _spans(shows, round(_WIDEST_MM * px_mm), round(_RIM_MM * px_mm)):
            return spans
    return []


def _spans(shows: npt.NDArray[np.bool_], widest: int, rim: int) -> list[tuple[float, float]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], shows.astype(np.int8), [0]])))
    spans = [(int(start), int(end)) for start, end in zip(edges[::2], edges[1::2], strict=True)]
    inner = [(start, end) for start, end in spans if start >= rim and end <= len(shows) - rim]
    return [((start + end) / 2, float(end - start)) for start, end in inner if end - start <= max(2, widest)]
