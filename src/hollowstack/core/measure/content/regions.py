"""What lies on a page besides paper, and where: text, solids, fills, pictures, half-tones, white on black."""

from typing import Literal, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import BaseModel, ConfigDict

from hollowstack.core.imaging.paper_surface import LEAST_LEVEL, PaperSurface
from hollowstack.core.measure.content.writing import Writing
from hollowstack.core.page.geometry import Point
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

RegionKind = Literal["text", "line art", "solid", "fill", "picture", "half-tone", "inverse"]
FLAT = 0.085
"""Spread of tone, as a share of paper, up to which an area is of one tone; print on rough paper stays below it."""
SOLID_BELOW = 0.6
"""Share of the paper's light below which a flat area is a solid and no fill."""
COLOURED = 0.12
"""Difference between channels, as a share of paper, from which an area has a colour of its own."""
RIM_MM = 0.8
"""Left out around a piece where it is looked at closely: its border is neither it nor paper."""
STROKES_BELOW, PAPER_FROM = 0.8, 0.965
"""Light, as a share of the paper's, that strokes stay below and bare paper reaches."""
PAPER_SHARE = 88
"""Percentile of the tones that is paper among strokes; the lightest tones of a pale fill are its grain."""
FLAT_SLOPE = 0.1
"""Change a pixel, as a share of the range of tones, below which a tone between ink and paper is no rim of a stroke."""
MOST_TONES = 0.12
"""Share of such tones among strokes: measured, at most 0.10 in headlines and blackletter, at least 0.17 in pictures."""
DOTS = 0.22
"""Deviation of full-resolution tone from its own surroundings, as a share of paper, from which a picture is made of dots."""
HOLE_MM = (3.5, 10.5)
"""Diameters of punch holes, with the rim that a region has."""
HOLE_MARGIN_MM = 18.0
LEAST_MM2 = 9.0
DOTS_FROM_MM2 = 60.0
"""Smaller pictures are not looked at for dots."""
MOST = 80
"""Regions kept, the largest first."""
TEXT_GAP_MM = 4.5
"""Letters no farther apart than this stand in one block."""
LEAST_LETTERS = 3
LETTERS_ON_CONTENT = 25
"""Pieces like letters from which a block on a fill or in a picture is text."""

Mask = npt.NDArray[np.bool_]


class Region(BaseModel):
    """``outline`` in pixels of the image as captured; ``level`` is its light as a share of the paper's."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: RegionKind
    outline: tuple[Point, ...]
    certainty: float
    """How sure its kind is, 0 to 1."""
    level: float
    spread: float
    """Difference between its light and its dark parts, as a share of the paper."""
    coloured: bool
    area_mm2: float
    clipped: float = 0.0
    """Of a picture: the share of it that is pure white or pure black."""


class Found(NamedTuple):
    """``regions``, the largest first, and ``content``: the surface's map of content without what is strokes after all."""

    regions: tuple[Region, ...]
    content: Pixels


def find_regions(page: Raster, surface: PaperSurface, writing: Writing, corner: tuple[float, float], scale: float) -> Found:
    """The regions of a page; what is in none of them is bare paper.

    Args:
        page: Gray or colour, cut to its edges.
        surface: Its paper.
        writing: Its letters.
        corner: Left and top of ``page`` in pixels of its own in the image as captured.
        scale: Pixels of the image for one of the page.

    Source:
        Kinds as in document layout analysis (common practice, no source): a flat tone, a spread of tones, dots, strokes.
    """
    content = surface.content.copy()
    rows, cols = content.shape
    factor = np.array([page.width / cols, page.height / rows])
    px_mm = sum(page.scale_ppi) / 2 / MM_PER_INCH / float(factor.mean())
    regions: list[Region] = []
    count, pieces, stats, _ = cv2.connectedComponentsWithStats(content, connectivity=8)
    if count > 1:
        small = as_pixels(cv2.resize(page.pixels, (cols, rows), interpolation=cv2.INTER_AREA))
        level = np.maximum(surface.level, LEAST_LEVEL).astype(np.float32)
        seen, lifted = (_planes(values.astype(np.float32) / level) for values in (small, surface.lifted))
        gray, paper = page.gray(), surface.gray().level
    for index in range(1, count):
        left, top, wide, high, area = (int(v) for v in stats[index])
        box = np.s_[top : top + high, left : left + wide]
        piece = (pieces[box] == index).astype(np.uint8)
        near = _near(gray, paper, piece, (left, top), factor)
        if near.strokes:
            content[box][piece > 0] = 0
            continue
        if area / px_mm**2 < LEAST_MM2 or _is_hole(piece, (left, top), content.shape, px_mm):
            continue
        kind, certainty, tone, spread, coloured = _judged(piece, seen[box], lifted[box])
        if kind == "picture" and near.dots > DOTS and area / px_mm**2 >= DOTS_FROM_MM2:
            kind = "half-tone"
        outline = _placed(np.add(_outline(piece), (left, top)) * factor, corner, scale)
        regions.append(
            Region(
                kind=kind, outline=outline, certainty=certainty, level=tone, spread=spread, coloured=coloured,
                area_mm2=round(area / px_mm**2, 1),
            )
        )  # fmt: skip
    regions.sort(key=lambda region: -region.area_mm2)
    return Found((*regions[:MOST], *_text(page, writing, content, corner, scale)), content)


def _is_hole(piece: Pixels, corner: tuple[int, int], shape: tuple[int, ...], px_mm: float) -> bool:
    """Round, filled, of a punch's size, and within the margin where binders punch."""
    rows, cols = piece.shape
    long, short = max(rows, cols) / px_mm, min(rows, cols) / px_mm
    filled = float(piece.sum()) / (np.pi / 4 * rows * cols)
    nearest = min(corner[0], corner[1], shape[1] - corner[0] - cols, shape[0] - corner[1] - rows) / px_mm
    in_size = HOLE_MM[0] <= short and long <= HOLE_MM[1]
    return bool(in_size and short > 0.78 * long and filled > 0.85 and nearest < HOLE_MARGIN_MM)


class _Near(NamedTuple):
    """A piece of content looked at closely: whether it is made of strokes on paper, and how much it is of dots."""

    strokes: bool
    dots: float


def _near(gray: Raster, paper: Pixels, piece: Pixels, corner: tuple[int, int], factor: npt.NDArray[np.float64]) -> _Near:
    """Strokes have paper between them and no tones but at their rims; a picture has tones, a solid no paper."""
    (left, top), (rows, cols) = corner, piece.shape
    x0, y0 = int(left * factor[0]), int(top * factor[1])
    part = gray.pixels[y0 : int((top + rows) * factor[1]), x0 : int((left + cols) * factor[0])]
    if min(part.shape) < 4:
        return _Near(strokes=True, dots=0.0)
    mask = cv2.resize(piece, part.shape[::-1], interpolation=cv2.INTER_NEAREST)
    reach = 2 * max(1, gray.px(RIM_MM)) + 1
    inner = cv2.erode(mask, np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0)
    inside = (inner if np.count_nonzero(inner) >= 40 else mask) > 0
    level = float(np.median(paper[top : top + rows, left : left + cols]))
    tones = part[inside].astype(np.float32) / max(level, LEAST_LEVEL)
    low, high = (float(v) for v in np.percentile(tones, (4, PAPER_SHARE)))
    if low > STROKES_BELOW or high < PAPER_FROM:
        strokes = False
    else:
        slope = cv2.magnitude(cv2.Sobel(part, cv2.CV_32F, 1, 0, scale=0.125), cv2.Sobel(part, cv2.CV_32F, 0, 1, scale=0.125))
        place = (tones - low) / max(min(high, 1.0) - low, 1e-3)
        soft = (place > 0.2) & (place < 0.8) & (slope[inside] / level < FLAT_SLOPE * (high - low))
        strokes = float(soft.mean()) < MOST_TONES
    fine = part.astype(np.float32) - cv2.blur(part.astype(np.float32), (5, 5))
    return _Near(strokes, float(fine[inside].std()) / max(level * max(float(np.median(tones)), 0.3), 1.0))


def _planes(values: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    return values if values.ndim == 3 else values[..., None]


def _judged(
    piece: Pixels, seen: npt.NDArray[np.float32], lifted: npt.NDArray[np.float32]
) -> tuple[RegionKind, float, float, float, bool]:
    """Kind, certainty, tone, spread and whether it is coloured, of one piece of content."""
    core = cv2.erode(piece, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0) > 0
    core = core if core.sum() >= 12 else piece > 0
    weight = np.full(seen.shape[2], 1 / seen.shape[2], np.float32)
    inside = seen[core]
    tones = inside @ weight
    low, tone, high = (float(v) for v in np.percentile(tones, (10, 50, 90)))
    colour = float(np.median(np.ptp(inside, axis=1))) if inside.shape[1] == 3 else 0.0
    coloured = colour >= COLOURED
    # Without writing, dark or light, that stands on it: what is left of a flat area is flat.
    plain = lifted[core] @ weight
    spread = float(np.subtract(*np.percentile(plain, (90, 10))))
    size = min(7, max(3, (min(piece.shape) // 4) | 1))
    opened = cv2.morphologyEx((seen @ weight).astype(np.float32), cv2.MORPH_OPEN, np.ones((size, size), np.uint8))
    under = float(np.subtract(*np.percentile(opened[core], (90, 10))))
    flat = min(spread, under)
    if flat <= FLAT and tone < SOLID_BELOW and under < spread and high - low > 2 * FLAT:
        return "inverse", _sure(flat), round(low, 3), round(high - low, 3), coloured
    if flat <= FLAT:
        at = float(np.median(plain)) if spread <= under else tone
        return ("solid" if at < SOLID_BELOW else "fill"), _sure(flat), round(at, 3), round(spread, 3), coloured
    return "picture", round(min(1.0, flat / (3 * FLAT)), 2), round(tone, 3), round(high - low, 3), coloured


def _sure(flat: float) -> float:
    return round(1 - 0.5 * flat / FLAT, 2)


def _outline(piece: Pixels) -> npt.NDArray[np.float64]:
    contours, _ = cv2.findContours(np.pad(piece, 1), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE, offset=(-1, -1))
    longest = max(contours, key=cv2.contourArea)
    points = cv2.approxPolyDP(longest, 1.0, True).reshape(-1, 2).astype(np.float64)
    if len(points) > 60:
        points = cv2.approxPolyDP(longest, 2.5, True).reshape(-1, 2).astype(np.float64)
    return np.asarray(points + 0.5, np.float64)


def _placed(outline: npt.NDArray[np.float64], corner: tuple[float, float], scale: float) -> tuple[Point, ...]:
    there = ((outline + corner) * scale).round(1)
    return tuple(Point(float(x), float(y)) for x, y in there)


def _text(page: Raster, writing: Writing, content: Pixels, corner: tuple[float, float], scale: float) -> tuple[Region, ...]:
    """Blocks of letters."""
    cell_mm = 1.5
    px = page.px(MM_PER_INCH) / MM_PER_INCH * cell_mm
    size = (max(1, round(page.width / px)), max(1, round(page.height / px)))
    grid = np.zeros(size[::-1], np.uint8)
    count = np.zeros(size[::-1], np.int32)
    boxes = writing.letters.copy()
    boxes[:, :2] = boxes[:, :2] * writing.scale + [page.width / 2, page.height / 2]
    boxes[:, 2:] *= writing.scale
    for left, top, wide, high in (boxes / px).tolist():
        x, y = int(left), int(top)
        if 0 <= x < size[0] and 0 <= y < size[1]:
            grid[y : int(top + high) + 1, x : int(left + wide) + 1] = 1
            count[y, x] += 1
    reach = max(1, round(TEXT_GAP_MM / cell_mm))
    joined = cv2.morphologyEx(grid, cv2.MORPH_CLOSE, np.ones((reach, 2 * reach + 1), np.uint8))
    total, pieces, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    letters = np.bincount(pieces.ravel(), weights=count.ravel(), minlength=total)
    inside = cv2.resize(content, size, interpolation=cv2.INTER_NEAREST) > 0
    within = np.bincount(pieces[inside], minlength=total)
    found = []
    for index in np.argsort(-stats[1:, cv2.CC_STAT_AREA])[:MOST] + 1:
        left, top, wide, high, area = (int(v) for v in stats[index])
        if letters[index] < LEAST_LETTERS or (within[index] > 0.6 * area and letters[index] < LETTERS_ON_CONTENT):
            continue  # specks, or what looks like letters in a picture
        piece = (pieces[top : top + high, left : left + wide] == index).astype(np.uint8)
        outline = _placed(np.add(_outline(piece), (left, top)) * px, corner, scale)
        found.append(
            Region(
                kind="text", outline=outline, certainty=round(min(1.0, letters[index] / 30), 2), level=0.0, spread=0.0,
                coloured=False, area_mm2=round(area * cell_mm**2, 1),
            )
        )  # fmt: skip
    return tuple(found)
