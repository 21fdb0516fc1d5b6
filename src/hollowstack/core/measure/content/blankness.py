"""How much of a page is marked: show-through, punch holes, staples, creases, dust and edge shadow are no ink."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import Normalised, background_normalised
from hollowstack.core.imaging.paper_surface import PaperSurface
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.raster import MM_PER_INCH, Raster, as_pixels

_PPI = 100.0
_SEED = 0.76
"""Evened gray of a mark's core, where its edges are soft; the back of the sheet shows through at 0.88 and lighter."""
_GROW = 0.86
"""Evened gray of its rim."""
_LIGHTER = 0.02
"""How much lighter than a pale core its rim is at least."""
_FAINT_CORE, _FAINT_RIM = 0.88, 0.93
"""The same for marks with crisp edges: what is written on this side is crisp, what shines through is not."""
_CRISP = 0.34
"""Steepest slope of a mark, as a share of its depth a pixel of ``_PPI``, from which its edges are crisp."""
_FAINT_SPAN_MM = 2.8
"""Least extent of a faint mark."""
_EDGE_MM = 4.0
_RIM_MM = 1.8
_SHADE_SHARE = 0.3
_LEAST_SPAN_MM, _LEAST_AREA_MM2 = 1.1, 0.22
_HOLE_MM = (3.5, 9.0)
_ROUND = (0.86, 1.12)
"""Area of a hole as a share of the ellipse in its box; a square has 1.27 of that."""
_STAPLE_MM = (5.0, 16.0)
"""Lengths of a staple's back."""
_STAPLE_FROM_EDGE_MM = 30.0
_MOST_LOOKED_AT = 400
"""Pieces on a page from which it is written on, whatever single ones are."""
_WIRE_MM = 1.3
"""No staple and no crease is wider."""
_CREASE_MM = 15.0
_CREASE_CORE = 0.6
"""A crease is never as dark as this, unlike a ruled line."""
_STAIN_LEVEL = 0.8
"""Light of a stain, as a share of the paper's: what is paler and of the hue of ageing may be one, whatever its shape."""

_SQUARE, _LABEL_LEVEL = 0.85, 0.93
"""Share of its own rectangle that a label or a box fills, and how pale it is at most."""


@dataclass(frozen=True, slots=True)
class Blankness:
    """``ink_percent`` of the page's area, and how many separate ``marks`` it is in."""

    ink_percent: float
    marks: int


def measure_blankness(
    page: Raster, pale: float | None = None, surface: PaperSurface | None = None, regions: Sequence[Region] = ()
) -> Blankness:
    """Ink on a gray page that was already cut to its edges.

    A mark needs a dark core (its lighter rim then counts too) or crisp edges, and must be larger than dust and no punch
    hole, no staple, no shadow along an edge and no straight fold. A lone page number of 1.1 mm and more stays a mark, at the
    page's very edge too. Solids, fills and pictures are marks as large as they are.

    Args:
        page: Gray.
        pale: Evened gray of a mark's core where lines of pale writing were found; None where none were.
        surface: The page's paper; None fits it here.
        regions: What was found on the page.

    Returns:
        Percent of the page's area, 0 to 100; 0 on a truly blank page.

    Source:
        Threshold with hysteresis after Canny 1986; sizes are common practice, no source.
    """
    small = page.reduced(_PPI)
    light = background_normalised(small, None if surface is None else surface.gray().level)
    mm2 = (small.px(MM_PER_INCH) / MM_PER_INCH) ** 2
    printed = sum(region.area_mm2 for region in regions if _is_print(region))
    core = max(_SEED, pale or 0.0)
    dark_area, dark = _weighed(light, core, max(_GROW, core + _LIGHTER), small, faint=False)
    faint_area, faint = _weighed(light, _FAINT_CORE, _FAINT_RIM, small, faint=True) if not dark else (0.0, 0)
    area = max(dark_area, faint_area) / mm2 + printed
    if area < _LEAST_AREA_MM2:
        return Blankness(0.0, 0)
    count = dark + faint + sum(_is_print(region) for region in regions)
    return Blankness(round(100 * area * mm2 / light.size, 4), count)


def _is_print(region: Region) -> bool:
    """Whether a region is something printed, and no stain."""
    if region.kind in {"text", "line art"}:
        return False  # its strokes are weighed themselves
    if region.kind != "fill" or region.coloured or region.level < _STAIN_LEVEL:
        return True
    outline = np.array(region.outline, np.float32)
    (_, sides, _) = cv2.minAreaRect(outline)
    return cv2.contourArea(outline) >= _SQUARE * max(sides[0] * sides[1], 1.0) and region.level < _LABEL_LEVEL


def _weighed(light: Normalised, core: float, rim_limit: float, small: Raster, *, faint: bool) -> tuple[float, int]:
    """Ink in pixels, by how dark it is (a pencil line is less ink than print), and the number of marks."""
    grown = as_pixels((light < rim_limit).astype(np.uint8))
    _clear_shade(grown, small.px(_RIM_MM))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(grown, connectivity=8)
    if count < 2:
        return 0.0, 0
    cores = np.bincount(labels[light < core], minlength=count)
    marks = _marks(stats, cores, labels, light, small, faint=faint)
    weight = np.bincount(labels.ravel(), weights=np.clip((1 - light) / 0.7, 0, 1).ravel(), minlength=count)
    return float(weight[marks].sum()), int(marks.sum())


def _clear_shade(grown: npt.NDArray[np.uint8], rim: int) -> None:
    """Take out the shadow of the paper's own edge: rows and columns next to it that are dark over much of their length.

    It would tie the strips of all four sides together.
    """
    for side in (grown, grown[::-1], grown.T, grown.T[::-1]):
        strip = side[:rim]
        strip[strip.mean(axis=1) > _SHADE_SHARE] = 0


def _marks(
    stats: npt.NDArray[np.int32],
    cores: npt.NDArray[np.int64],
    labels: npt.NDArray[np.int32],
    light: Normalised,
    small: Raster,
    *,
    faint: bool,
) -> npt.NDArray[np.bool_]:
    """Which connected pieces are marks; index 0 (the paper) never is."""
    x, y, wide, high, area = (stats[:, i] for i in range(5))
    span, narrow = np.maximum(wide, high), np.minimum(wide, high)
    thin = area / np.maximum(span, 1)
    px_mm = small.px(MM_PER_INCH) / MM_PER_INCH
    least = _FAINT_SPAN_MM if faint else _LEAST_SPAN_MM
    marks = (cores >= 2) & (span >= least * px_mm) & (area >= _LEAST_AREA_MM2 * px_mm**2)
    edge, rim = _EDGE_MM * px_mm, small.px(_RIM_MM)
    right, bottom = small.width - x - wide, small.height - y - high
    nearest = np.minimum.reduce([x, y, right, bottom])
    touches = nearest <= max(1, rim // 2)
    # Shadow along an edge: a piece that clings to the border and runs along it, or is all border.
    inner = np.minimum.reduce([x + wide, y + high, right + wide, bottom + high])
    within = inner < edge
    shade = (touches & (span > 4 * narrow) & (narrow < 3 * edge)) | (
        touches & (narrow < 4 * edge) & (span < 4 * edge) & ~within
    )
    shade |= within & ((inner <= rim) | (span > 3 * narrow) | touches)
    marks &= ~shade
    # A fold is long, straight and no wider than a pencil line; a written line is broken up into pieces.
    marks &= ~((span > 60 * px_mm) & (thin < 0.8 * px_mm) & (narrow < 4 * px_mm))
    marks[0] = False
    for i in np.nonzero(marks)[0] if marks.sum() <= _MOST_LOOKED_AT else ():
        left, top = int(x[i]), int(y[i])
        box = np.s_[top : top + high[i], left : left + wide[i]]
        piece = labels[box] == i
        round_one = _HOLE_MM[0] * px_mm <= span[i] <= _HOLE_MM[1] * px_mm and _is_hole(piece, (left, top), small, px_mm)
        wire = _is_wire(piece, float(light[box][piece].min()), int(nearest[i]), px_mm)
        # With what is just beside it: the edges of what fills its box lie there.
        around = np.s_[max(0, top - 1) : top + high[i] + 1, max(0, left - 1) : left + wide[i] + 1]
        marks[i] = not (round_one or wire or (faint and not _is_crisp(light[around], labels[around] == i)))
    return np.asarray(marks, dtype=np.bool_)


def _is_crisp(light: Normalised, piece: npt.NDArray[np.bool_]) -> bool:
    """Whether a mark's edges are as steep as those of ink on this side of the sheet."""
    across, down = cv2.Sobel(light, cv2.CV_32F, 1, 0, scale=0.125), cv2.Sobel(light, cv2.CV_32F, 0, 1, scale=0.125)
    depth = 1 - float(np.percentile(light[piece], 10))
    return float(np.percentile(cv2.magnitude(across, down)[piece], 90)) >= _CRISP * depth


def _is_wire(piece: npt.NDArray[np.bool_], darkest: float, from_edge: int, px_mm: float) -> bool:
    """A staple, or a crease: straight, thin, of a staple's length near an edge, or pale."""
    points = np.argwhere(piece).astype(np.float32)
    (_, sides, _) = cv2.minAreaRect(points)
    long, wide = max(sides) + 1, min(sides) + 1
    if wide > _WIRE_MM * px_mm or piece.sum() < 0.5 * long * max(1.0, wide - 1):
        return False
    staple = _STAPLE_MM[0] * px_mm <= long <= _STAPLE_MM[1] * px_mm and from_edge <= _STAPLE_FROM_EDGE_MM * px_mm
    return staple or (long >= _CREASE_MM * px_mm and darkest > _CREASE_CORE)


def _is_hole(piece: npt.NDArray[np.bool_], corner: tuple[int, int], small: Raster, px_mm: float) -> bool:
    """Round, filled, and within the margin where binders punch."""
    rows, cols = piece.shape
    filled = piece.sum() / (np.pi / 4 * rows * cols)
    near = min(corner[0], corner[1], small.width - corner[0] - cols, small.height - corner[1] - rows)
    return bool(0.8 < rows / cols < 1.25 and _ROUND[0] < filled < _ROUND[1] and near < 18 * px_mm)
