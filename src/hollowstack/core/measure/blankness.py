"""How much of a page is marked: ink after show-through, punch holes, dust and edge shadow are discounted."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.ground import evened
from hollowstack.core.raster import Raster, as_pixels

_PPI = 100.0
_SEED, _GROW, _LIGHTER = 0.76, 0.86, 0.02
"""Evened gray of a mark's core and of its rim, and how much lighter than a pale core its rim is at least; the back of the
sheet shows through at 0.88 and lighter."""
_EDGE_MM, _RIM_MM = 4.0, 1.8
_LEAST_SPAN_MM, _LEAST_AREA_MM2 = 1.1, 0.22
_HOLE_MM = (3.5, 9.0)


@dataclass(frozen=True, slots=True)
class Blankness:
    """``ink_percent`` of the page's area, and how many separate ``marks`` it is in."""

    ink_percent: float
    marks: int


def measure_blankness(page: Raster, pale: float = _SEED) -> Blankness:
    """Ink on a gray page that was already cut to its edges.

    A mark needs a dark core (its lighter rim then counts too), and must be larger than dust and no punch hole, no shadow
    along an edge and no straight fold. A lone page number of 1.1 mm and more stays a mark.

    Returns:
        Percent of the page's area, 0 to 100; 0 on a truly blank page.

    Source:
        Threshold with hysteresis after Canny 1986; sizes are common practice, no source.
    """
    small = page.reduced(_PPI)
    light = evened(small)
    mm2 = (small.px(25.4) / 25.4) ** 2
    core = max(_SEED, pale)
    grown = as_pixels((light < max(_GROW, core + _LIGHTER)).astype(np.uint8))
    rim = small.px(_RIM_MM)  # shadow of the paper's own edge; it would tie the strips of all four sides together
    grown[:rim] = grown[grown.shape[0] - rim :] = 0
    grown[:, :rim] = grown[:, grown.shape[1] - rim :] = 0
    count, labels, stats, _ = cv2.connectedComponentsWithStats(grown, connectivity=8)
    if count < 2:
        return Blankness(0.0, 0)
    cores = np.bincount(labels[light < core], minlength=count)
    marks = _marks(stats, cores, labels, small)
    # Ink is weighed by how dark it is: a pencil line is less ink than print.
    weight = np.bincount(labels.ravel(), weights=np.clip((1 - light) / 0.7, 0, 1).ravel(), minlength=count)
    area = float(weight[marks].sum())
    if area / mm2 < _LEAST_AREA_MM2:
        return Blankness(0.0, 0)
    return Blankness(round(100 * area / light.size, 4), int(marks.sum()))


def _marks(
    stats: npt.NDArray[np.int32], cores: npt.NDArray[np.int64], labels: npt.NDArray[np.int32], small: Raster
) -> npt.NDArray[np.bool_]:
    """Which connected pieces are marks; index 0 (the paper) never is."""
    x, y, wide, high, area = (stats[:, i] for i in range(5))
    span = np.maximum(wide, high)
    thin = area / np.maximum(span, 1)
    px_mm = small.px(25.4) / 25.4
    marks = (cores >= 2) & (span >= _LEAST_SPAN_MM * px_mm) & (area >= _LEAST_AREA_MM2 * px_mm**2)
    # Shadow along an edge: a piece within the outer strip, or one that clings to the border and runs along it.
    edge = _EDGE_MM * px_mm
    right, bottom = small.width - x - wide, small.height - y - high
    within = (x + wide < edge) | (y + high < edge) | (right + wide < edge) | (bottom + high < edge)
    rim = small.px(_RIM_MM) + 1
    touches = (x <= rim) | (y <= rim) | (right <= rim) | (bottom <= rim)
    clings = touches & (np.minimum(wide, high) < 3 * edge) & (span > 4 * np.minimum(wide, high))
    corner = touches & (np.minimum(wide, high) < 4 * edge) & (span < 4 * edge)
    marks &= ~(within | clings | corner)
    # A fold is long, straight and no wider than a pencil line; a written line is broken up into pieces.
    marks &= ~((span > 60 * px_mm) & (thin < 0.8 * px_mm) & (np.minimum(wide, high) < 4 * px_mm))
    for i in np.nonzero(marks & (span <= _HOLE_MM[1] * px_mm) & (span >= _HOLE_MM[0] * px_mm))[0]:
        left, top = int(x[i]), int(y[i])
        marks[i] = not _is_hole(labels[top : top + high[i], left : left + wide[i]] == i, (left, top), small, px_mm)
    marks[0] = False
    return np.asarray(marks, dtype=np.bool_)


def _is_hole(piece: npt.NDArray[np.bool_], corner: tuple[int, int], small: Raster, px_mm: float) -> bool:
    """Round, filled, and within the margin where binders punch."""
    rows, cols = piece.shape
    filled = piece.sum() / (np.pi / 4 * rows * cols)
    near = min(corner[0], corner[1], small.width - corner[0] - cols, small.height - corner[1] - rows)
    return bool(0.8 < rows / cols < 1.25 and filled > 0.9 and near < 18 * px_mm)
