"""Where two facing pages meet: the line to split an image along, if it shows two."""

import math
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.raster import Raster, as_pixels

_PPI = 60.0
_LEAST_ASPECT = 1.12
"""Two pages side by side are wider than high; a single one that is wide is told apart by having no fold."""
_MOST_ASPECT = 3.0
_PAGE_MM = 297.0
_MIDDLE = (0.32, 0.68)
_BANDS = 32
_LINE_MM = 2.2
"""A ruled line is thinner than this; the shade of a fold is wider."""
_REACH_MM = 28.0
"""Width over which the paper beside a fold is taken for its level."""
_LEAST_DEPTH = 0.045
"""Share of the paper's light that is missing at the fold."""
_AGREE_MM = 2.0
_SURE = 0.72


@dataclass(frozen=True, slots=True)
class Gutter:
    """``top`` and ``bottom`` in pixels of the page; ``confidence`` 0 to 1 is the share of its height that shows the fold."""

    top: Point
    bottom: Point
    confidence: float


def find_gutter(page: Raster) -> Gutter | None:
    """The fold between two facing pages; None for a single page.

    In each of some bands across the page the paper's light is followed from left to right; where a wide dip lies on one
    straight line in nearly all of them, there is the fold.

    Args:
        page: Gray, upright, cut to its edges.

    Source:
        Light of the paper as the upper quartile of each column of a band; ruled lines are taken out by a closing (Serra
        1982); the line by RANSAC (Fischler and Bolles 1981). The limits are ours, set on drawn pages.
    """
    if page.width < _LEAST_ASPECT * page.height:
        return None
    small = page.reduced(_PPI)
    if small.height < 2 * _BANDS:
        return None  # a strip, too low to follow a fold down it
    px = small.scale_ppi[0] / 25.4
    depth = _dips(small, px)
    low, high = (round(share * small.width) for share in _MIDDLE)
    if high - low < 8:
        return None
    inner = depth[:, low:high]
    at = inner.argmax(axis=1) + low
    deep = inner.max(axis=1)
    rows = (np.arange(len(depth)) + 0.5) * small.height / len(depth)
    seen = deep >= _LEAST_DEPTH
    if seen.mean() < _SURE:
        return None
    slope, offset, agreeing = _line(rows[seen], at[seen].astype(np.float64), _AGREE_MM * px)
    share = agreeing * float(seen.mean())
    if share < _SURE:
        return None
    scale_x, scale_y = page.width / small.width, page.height / small.height
    top = Point(round((offset + 0.5) * scale_x, 2), 0.0)
    bottom = Point(round((offset + 0.5 + slope * small.height) * scale_x, 2), round(small.height * scale_y, 2))
    return Gutter(top, bottom, round(share, 3))


def find_photographed_gutter(image: Raster, corners: Quad) -> Gutter | None:
    """The fold between two facing pages that a camera saw from anywhere, in pixels of the image.

    Args:
        image: Gray, the whole photograph.
        corners: The spread's, from its own upper left on.

    Source:
        A photograph has no scale: its pages are taken to be as high as A4, and made flat first.
    """
    a, b, c, d = corners
    wide, high = math.dist(a, b) + math.dist(d, c), math.dist(a, d) + math.dist(b, c)
    rows = round(_PAGE_MM / 25.4 * _PPI)
    cols = round(rows * wide / max(high, 1e-6))
    if cols < _LEAST_ASPECT * rows or cols > _MOST_ASPECT * rows:
        return None
    onto = Transform.onto(corners, cols, rows)
    flat = cv2.warpPerspective(
        image.pixels, onto.matrix, (cols, rows), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE
    )
    found = find_gutter(Raster(as_pixels(flat), (_PPI, _PPI)))
    if found is None:
        return None
    top, bottom = onto.inverse().apply(np.array([found.top, found.bottom]))
    return Gutter(Point(*top.tolist()), Point(*bottom.tolist()), found.confidence)


def _dips(small: Raster, px: float) -> npt.NDArray[np.float32]:
    """How much light is missing in each column of each band, as a share of the paper beside it."""
    edges = np.linspace(0, small.height, _BANDS + 1).astype(int)
    light = np.array(
        [np.percentile(small.pixels[top:bottom], 75, axis=0) for top, bottom in pairwise(edges)],
        np.float32,
    )
    thin, wide = max(3, round(_LINE_MM * px) | 1), max(5, round(_REACH_MM * px) | 1)
    without_lines = cv2.morphologyEx(light, cv2.MORPH_CLOSE, np.ones((1, thin), np.uint8))
    beside = cv2.morphologyEx(without_lines, cv2.MORPH_CLOSE, np.ones((1, wide), np.uint8))
    dips: npt.NDArray[np.float32] = 1 - without_lines / np.maximum(beside, 1)
    return np.asarray(cv2.GaussianBlur(dips, (0, 0), sigmaX=0.6 * px, sigmaY=0.01), np.float32)


def _line(rows: npt.NDArray[np.float64], at: npt.NDArray[np.float64], near: float) -> tuple[float, float, float]:
    """Slope and offset of the line through most of the points, and the share of them near it."""
    rng = np.random.default_rng(11)
    best = np.zeros(len(rows), bool)
    for _ in range(120):
        one, other = rng.choice(len(rows), 2, replace=False)
        if rows[one] == rows[other]:
            continue
        slope = (at[one] - at[other]) / (rows[one] - rows[other])
        if abs(slope) > 0.2:
            continue
        inside = np.abs(at - at[one] - slope * (rows - rows[one])) <= near
        if inside.sum() > best.sum():
            best = inside
    if best.sum() < 3:
        return 0.0, float(np.median(at)), 0.0
    slope, offset = np.polyfit(rows[best], at[best], 1)
    return float(slope), float(offset), float(best.mean())
