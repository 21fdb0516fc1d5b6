"""Whether a photograph of a page will do: sharp, evenly lit, nothing cut off; with the spot where it is worst.

First measurements, honest and quick, so that the page can be taken again while it is at hand.
"""

from typing import Literal, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import BaseModel, ConfigDict

from hollowstack.core.measure.layout.aspect import page_aspect
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

Side = Literal["left", "top", "right", "bottom"]
Box = tuple[int, int, int, int]
"""Left, top, width, height in pixels of the image as captured."""

_TILES = 12
"""Along the page's long side."""
_CONTRAST = 35
"""Gray levels between the ink and the paper of a tile; below it there is nothing to judge sharpness by."""
_CLIPPED = 252
"""Gray from which the sensor has seen nothing but light."""
_AT_EDGE = 0.004
"""Share of the picture's side within which a page's side counts as cut off."""
_LONG_SIDE_MM = 297.0
"""A photograph has no scale: sharpness is given as if its page were as long as A4."""


class Photograph(BaseModel):
    """What was measured on a photographed page."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    edge_mm: float | None
    """Width of the edges of strokes where they are widest, as if the page were as long as A4; None where there are none."""
    edge_box: Box | None
    clipped_percent: float
    """Share of the page in which light has wiped everything out."""
    clipped_box: Box | None
    darkest: float
    """Light of the darkest part of the paper, as a share of the lightest."""
    darkest_box: Box | None
    paper: int
    """Gray of the paper on the whole."""
    cut_off: tuple[Side, ...]
    """Sides at which the page runs out of the picture."""
    table_seen: bool
    """Whether anything is seen around the page."""
    aspect: float
    """Width over height of the flat page as captured, seen through its perspective."""


class _Tile(NamedTuple):
    box: Box
    edge: float
    """In pixels; NaN where there is nothing to judge by."""
    paper: float


def measure_photograph(image: Raster, page: Quad, *, table_seen: bool) -> Photograph:
    """How good a photograph of a page is.

    Args:
        image: As captured, in full resolution: sharpness is lost in a reduction.
        page: The page's corners in it.
        table_seen: Whether anything is seen around the page.

    Source:
        Sharpness as the width of edges, gray range over steepest slope (after Marziliano et al. 2002, "A no-reference
        perceptual blur metric"); on drawn pages, words are lost from about 0.7 mm on (``make accuracy`` prints it).
    """
    gray = image.gray().pixels
    tiles = _tiles(gray, page)
    judged = [tile for tile in tiles if not np.isnan(tile.edge)]
    dullest = max(judged, key=lambda tile: tile.edge, default=None)
    darkest = min(tiles, key=lambda tile: tile.paper, default=None)
    lightest = float(np.percentile([tile.paper for tile in tiles], 90)) if tiles else 255.0
    clipped, where = _clipped(gray, page)
    return Photograph(
        edge_mm=None if dullest is None else round(dullest.edge * _LONG_SIDE_MM / _long_side(page), 3),
        edge_box=_around_writing(gray, dullest.box) if dullest else None,
        clipped_percent=round(100 * clipped, 2),
        clipped_box=where,
        darkest=round(darkest.paper / max(lightest, 1.0), 3) if darkest else 1.0,
        darkest_box=darkest.box if darkest else None,
        paper=round(float(np.median([tile.paper for tile in tiles]))) if tiles else int(np.median(gray)),
        cut_off=_cut_off(page, image.width, image.height) if table_seen else (),
        table_seen=table_seen,
        aspect=round(page_aspect(page, image.width, image.height), 4),
    )


def _tiles(gray: Pixels, page: Quad) -> list[_Tile]:
    """Square parts that lie on the page as a whole."""
    (left, top), (right, bottom) = _bounds(page, gray)
    size = max(24, round(_long_side(page) / _TILES))
    outline = page.array().astype(np.float32)
    tiles = []
    for y in range(top, bottom - size // 2, size):
        for x in range(left, right - size // 2, size):
            part = gray[y : y + size, x : x + size]
            # A tile whose corner lies outside would take the page's own edge for writing.
            if cv2.pointPolygonTest(outline, (x + size / 2, y + size / 2), True) < 0.72 * size:
                continue
            tiles.append(_Tile((x, y, size, size), _edge_width(part), float(np.percentile(part, 80))))
    return tiles


def _edge_width(part: Pixels) -> float:
    """The gray range of a tile over its steepest slope: how many pixels the sharpest edges take."""
    low, high = np.percentile(part, [0.5, 90])
    if high - low < _CONTRAST or np.mean(part >= _CLIPPED) > 0.02:
        return float("nan")
    across, down = cv2.Sobel(part, cv2.CV_32F, 1, 0), cv2.Sobel(part, cv2.CV_32F, 0, 1)
    return float((high - low) / max(float(np.percentile(cv2.magnitude(across, down), 99.7)) / 8, 1e-3))


def _around_writing(gray: Pixels, box: Box) -> Box:
    """The box moved to where most is written in it, so that who looks there sees what was judged."""
    left, top, width, height = box
    part = gray[top : top + height, left : left + width]
    ink = cv2.GaussianBlur(np.abs(part.astype(np.float32) - np.median(part)), (0, 0), max(1.0, height / 12))
    y, x = np.unravel_index(int(ink.argmax()), ink.shape)
    x0 = min(max(0, left + int(x) - width // 2), gray.shape[1] - width)
    y0 = min(max(0, top + int(y) - height // 2), gray.shape[0] - height)
    return x0, y0, width, height


def _clipped(gray: Pixels, page: Quad) -> tuple[float, Box | None]:
    """Share of the page that is nothing but light in one piece of some size, and where the largest of them lies."""
    scale = min(1.0, 800 / max(gray.shape))
    small = as_pixels(cv2.resize(gray, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA))
    inside = np.zeros(small.shape, np.uint8)
    cv2.fillConvexPoly(inside, np.rint(page.array() * scale).astype(np.int32), 1)
    light = cv2.morphologyEx(inside * (small >= _CLIPPED), cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
    count, _, stats, _ = cv2.connectedComponentsWithStats(light)
    if count < 2:
        return 0.0, None
    largest = 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())
    x, y, width, height = (round(float(v) / scale) for v in stats[largest][:4])
    return float(light.sum() / max(1, int(inside.sum()))), (x, y, width, height)


def _cut_off(page: Quad, width: int, height: int) -> tuple[Side, ...]:
    """Sides of the picture at which a corner of the page lies."""
    corners = page.array()
    near: dict[Side, npt.NDArray[np.bool_]] = {
        "left": corners[:, 0] < _AT_EDGE * width,
        "top": corners[:, 1] < _AT_EDGE * height,
        "right": corners[:, 0] > (1 - _AT_EDGE) * width,
        "bottom": corners[:, 1] > (1 - _AT_EDGE) * height,
    }
    return tuple(side for side, there in near.items() if there.any())


def _long_side(page: Quad) -> float:
    corners = page.array()
    return float(np.hypot(*(np.roll(corners, -1, axis=0) - corners).T).max())


def _bounds(page: Quad, gray: Pixels) -> tuple[tuple[int, int], tuple[int, int]]:
    corners = page.array()
    left, top = np.maximum(np.floor(corners.min(axis=0)).astype(int), 0)
    right, bottom = np.minimum(np.ceil(corners.max(axis=0)).astype(int), gray.shape[::-1])
    return (int(left), int(top)), (int(right), int(bottom))
