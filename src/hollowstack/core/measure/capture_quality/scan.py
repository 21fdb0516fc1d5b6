"""Whether what is written on a scan can be read: sharpness, contrast, grain, light and what shines through, in figures."""

import math
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import BaseModel, ConfigDict

from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.measure.capture_quality.photograph import Box
from hollowstack.core.measure.content.writing import Writing
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels, paint

_TILE_MM = 22.0
_MOST_TILES = 14
_LEAST_RANGE = 12.0
"""Gray levels between ink and paper of a tile, below which nothing is to be seen in it."""
_LEAST_CLEAR = 2.5
"""Contrast over noise of a tile, below which it is grain alone."""
_PPI = 70.0
_FAINT, _CORE = 0.957, 0.74
_DARKEST, _PAPER, _STEEPEST, _LEAST_INK = 0.003, 0.8, 0.92, 0.002
"""Shares of a tile's values, and of the slopes at its strokes, below which lie ink, paper and edges; least share of ink."""
_DIRECTIONS = [(float(np.cos(a)), float(np.sin(a))) for a in np.radians((0, 45, 90, 135))]
_SHARP_PX = 2.0
"""Width of an edge that could not be sharper."""
_RULED = 9.0
"""Slopes across a rule are at least eleven times as steep as along it; in smeared text that is left, at most seven times."""
_RIM_MM = 0.8
_LIGHTS = 4
"""Squares along a tile's side of which the paper's light is taken."""
_SLOPE = 0.06
"""Change of the light over a tile, as a share of it, from which on it is evened before ink is looked for."""
_WORST = 0.8
"""Of all tiles with writing, the one that so many are better than stands for the page: one bad corner is found too."""


class Quality(BaseModel):
    """What was measured of a page's writing; None where there is too little of it to tell."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    edge_mm: float | None
    """Width of the edges of strokes where they are wide, without what the pixels themselves make of a sharp one."""
    edge_px: float | None
    """The same in pixels of the image as captured."""
    edge_box: Box | None
    motion_blur: float | None
    """How many times as wide edges are in the direction in which they are widest as in that in which they are sharpest."""
    contrast: float | None
    """How much darker than its paper ink is where it is faint: 0 as light, 1 black."""
    contrast_box: Box | None
    noise: float | None
    """Deviation of bare paper from its own mean, as a share of it: the grain of paper and of the sensor."""
    contrast_to_noise: float | None
    """Contrast over noise: from how far away from the grain ink is seen."""
    darkest: float
    """Light of the darkest part of the paper, as a share of the lightest."""
    shows_through_percent: float
    """Share of the page in marks too faint to be this side's."""
    clipped_percent: float
    """Share of the page at the very end of the scale, black or white."""
    letter_px: float | None
    """Height of small letters in pixels of the image as captured."""


class _Tile(NamedTuple):
    box: Box
    edge: float
    motion_blur: float
    contrast: float
    noise: float
    paper: float


def measure_quality(
    image: Raster,
    outline: Quad,
    page: Raster,
    writing: Writing,
    corner: tuple[float, float],
    letter_px: float | None,
    paper: Pixels | None = None,
    content: Pixels | None = None,
) -> Quality:
    """How well the writing of a page was captured.

    Args:
        image: As captured, in full resolution: sharpness is lost in a reduction.
        outline: Of plain paper in it; what lies outside is no writing.
        page: The page cut out of a reduction, gray.
        writing: What was found on ``page``.
        corner: Left and top of ``page`` in pixels of its own reduction.
        letter_px: Height of small letters in pixels of ``page``; None where there are none.
        paper: The page's paper, of any size; None fits it here.
        content: 1 where something other than writing on paper lies, of any size: pictures have edges of their own.

    Source:
        Edge width: range over steepest slope, after Marziliano et al. 2002, "A no-reference perceptual blur metric". The
        figures are common practice, no source; what they are worth is printed by ``make accuracy``.
    """
    factor = max(1, round(image.scale_ppi[0] / page.scale_ppi[0]))
    tiles = [
        tile
        for box in _written(page, writing, corner, factor, image, content)
        if (tile := _tile(image, outline, box)) is not None
    ]
    edges = sorted(tiles, key=lambda tile: tile.edge)
    inks = sorted(tiles, key=lambda tile: -tile.contrast)
    at = min(len(tiles) - 1, int(_WORST * len(tiles)))
    edge = _beyond_pixels(edges[at].edge) if tiles else None
    px_mm = sum(image.scale_ppi) / 2 / MM_PER_INCH
    noise = float(np.median([tile.noise for tile in tiles])) if tiles else None
    contrast = inks[at].contrast if tiles else None
    light = background_normalised(page.downsampled(_PPI), paper)
    return Quality(
        edge_mm=None if edge is None else round(edge / px_mm, 3),
        edge_px=None if edge is None else round(edge, 2),
        edge_box=edges[at].box if tiles else None,
        motion_blur=round(float(np.median([tile.motion_blur for tile in tiles])), 2) if tiles else None,
        contrast=None if contrast is None else round(contrast, 3),
        contrast_box=inks[at].box if tiles else None,
        noise=None if noise is None else round(noise, 4),
        contrast_to_noise=None if contrast is None or noise is None else round(contrast / max(noise, 0.002), 1),
        darkest=_darkest(page),
        shows_through_percent=_shows_through(light),
        clipped_percent=_clipped(page.pixels),
        letter_px=None if letter_px is None else round(letter_px * factor, 1),
    )


def _written(
    page: Raster, writing: Writing, corner: tuple[float, float], factor: int, image: Raster, content: Pixels | None
) -> list[Box]:
    """Squares with the most letters in them, spread over the page, in pixels of the image."""
    size = max(8, page.px(_TILE_MM))
    middle = writing.letters[:, :2] + writing.letters[:, 2:] / 2
    at = middle * writing.scale + [page.width / 2, page.height / 2]
    if content is not None and len(at):
        rows, cols = content.shape
        x = np.clip((at[:, 0] / page.width * cols).astype(int), 0, cols - 1)
        y = np.clip((at[:, 1] / page.height * rows).astype(int), 0, rows - 1)
        at = at[content[y, x] == 0]
    cell = np.floor(at / size).astype(int)
    cells, counts = np.unique(cell, axis=0, return_counts=True) if len(cell) else (np.empty((0, 2), int), np.empty(0, int))
    order = np.argsort(-counts, kind="stable")[: 2 * _MOST_TILES : 2 if len(counts) > _MOST_TILES else 1]
    boxes = []
    for x, y in cells[order]:
        left, top = (round((place * size + origin) * factor) for place, origin in zip((x, y), corner, strict=True))
        left, top = max(0, left), max(0, top)
        wide, high = min(size * factor, image.width - left), min(size * factor, image.height - top)
        if wide > 20 and high > 20:
            boxes.append((left, top, wide, high))
    return boxes


def _tile(image: Raster, outline: Quad, box: Box) -> _Tile | None:
    """Figures of one square; None where next to nothing is written in it."""
    left, top, wide, high = box
    part = Raster(np.ascontiguousarray(image.pixels[top : top + high, left : left + wide])).gray().pixels
    part = _without_slope(_without_surround(part, outline.array() - [left, top], image.px(_RIM_MM)))
    calm = cv2.medianBlur(part, 3)
    low, paper = quantile(calm, _DARKEST)[0], quantile(calm, _PAPER)[0]
    if paper - low < _LEAST_RANGE:
        return None
    ink = as_pixels((calm < paper - 0.4 * (paper - low)).astype(np.uint8))
    if ink.mean() < _LEAST_INK:
        return None
    dark = quantile(calm, 0.25, ink)[0]
    rim = cv2.dilate(ink, np.ones((3, 3), np.uint8)) > 0
    soft = cv2.GaussianBlur(part, (0, 0), 0.8)
    across, down = cv2.Sobel(soft, cv2.CV_32F, 1, 0)[rim], cv2.Sobel(soft, cv2.CV_32F, 0, 1)[rim]
    # In the direction in which edges are widest: a hand that moved blurs along one direction only.
    steepest = int(_STEEPEST * len(across))
    slopes = [float(np.partition(np.abs(c * across + s * down), steepest)[steepest]) for c, s in _DIRECTIONS]
    sharpest, dullest = max(slopes), min(slopes)
    if sharpest > _RULED * dullest:
        dullest = sharpest  # nothing but rules, which have edges on two sides only: no smear makes them so
    edge = (paper - dark) / max(dullest / 8, 1e-3)
    bare = calm > paper - 0.25 * (paper - low)
    left = np.abs(part.astype(np.int16) - calm)[bare]
    # The mean deviation of what a median of 3 × 3 takes away, as a standard deviation.
    noise = 1.2533 * float(np.mean(left)) / 0.92 / max(paper, 1) if left.size else 0.0
    contrast = 1 - dark / max(paper, 1)
    if contrast < _LEAST_CLEAR * noise:
        return None  # grain alone
    return _Tile(box, edge, sharpest / max(dullest, 1e-3), contrast, noise, paper)


def _without_slope(part: Pixels) -> Pixels:
    """A part without the slope of its light, which would pass for ink with wide edges where nothing is written."""
    span = max(3, min(part.shape) // 10)
    light = cv2.dilate(cv2.medianBlur(part, 5), np.ones((span, span), np.uint8))
    parts = cv2.resize(light, (_LIGHTS, _LIGHTS), interpolation=cv2.INTER_AREA).astype(np.float64)
    at = np.arange(_LIGHTS) - (_LIGHTS - 1) / 2
    across, down = (float((parts * part_of).sum()) / (_LIGHTS * float((at**2).sum())) for part_of in (at, at[:, None]))
    mean = float(parts.mean())
    if max(abs(across), abs(down)) * (_LIGHTS - 1) < _SLOPE * mean:
        return part
    rows, cols = part.shape
    x, y = ((np.arange(count) + 0.5) / count * _LIGHTS - _LIGHTS / 2 for count in (cols, rows))
    plane = np.maximum(mean + across * x + down * y[:, None], 0.2 * mean)
    return as_pixels(np.clip(part * (mean / plane) + 0.5, 0, 255).astype(np.uint8))


def _beyond_pixels(edge: float) -> float:
    """Widths of blurs add up by their squares."""
    return math.sqrt(max(0.0, edge**2 - _SHARP_PX**2))


def _without_surround(part: Pixels, outline: npt.NDArray[np.float64], rim: int) -> Pixels:
    """A part of the image with what lies outside the page, or on its rim, as light as its paper."""
    rows, cols = part.shape
    corners = ((0, 0), (cols, 0), (cols, rows), (0, rows))
    if all(cv2.pointPolygonTest(outline.astype(np.float32), corner, True) > rim for corner in corners):
        return part
    inside = np.zeros(part.shape, np.uint8)
    cv2.fillConvexPoly(inside, np.rint(outline).astype(np.int32), 1)
    inside = as_pixels(cv2.erode(inside, np.ones((2 * rim + 1, 2 * rim + 1), np.uint8)))
    if not inside.any():
        return np.full_like(part, 255)
    clean = part.copy()
    paint(clean, 1 - inside, quantile(part, 0.6, inside))
    return clean


def _darkest(page: Raster) -> float:
    """The paper's light by large squares, the darkest over the lightest."""
    small = page.reduced(20.0)
    calm = cv2.dilate(small.pixels, np.ones((5, 5), np.uint8))
    parts = cv2.resize(calm, (5, 7), interpolation=cv2.INTER_AREA).astype(float)
    return round(float(parts.min() / max(1.0, parts.max())), 3)


def _shows_through(light: npt.NDArray[np.float32]) -> float:
    faint = as_pixels((light < _FAINT).astype(np.uint8))
    count, labels = cv2.connectedComponents(faint, connectivity=8)
    dark = np.zeros(count, bool)
    dark[np.unique(labels[light < _CORE])] = True
    area = np.bincount(labels.ravel(), minlength=count)
    alone = ~dark & (area >= 6)
    alone[0] = False
    return round(100 * float(area[alone].sum()) / light.size, 3)


def _clipped(pixels: Pixels) -> float:
    count = cv2.calcHist([pixels], [0], None, [256], [0, 256]).ravel()
    return round(100 * float(count[0] + count[255]) / float(count.sum()), 2)
