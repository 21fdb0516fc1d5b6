"""The shapes on a page: which are the same pixel by pixel, which are near enough to be coded by what they have in common."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.jbig2.arithmetic import compiled
from hollowstack.core.bind.jbig2.generic import Bitmap

_LEAST_AREA, _MOST_SIDE = 25, 160
"""Pixels of a shape that is worth a place of its own; a side of more is no letter."""
_MOST_SHAPES = 20_000
"""More on a page are a screen, or grain."""
_SIZE = 2
"""Pixels by which the sides of two near shapes differ at most."""
_UNLIKE = 0.12
"""Share of the ink of two near shapes in which they differ at most."""


class Shape(NamedTuple):
    """A connected shape and where it stands: its left and bottom pixel."""

    bitmap: Bitmap
    left: int
    bottom: int


class Use(NamedTuple):
    """A symbol at a place: as it is, or made into another ``bitmap`` that lies ``dx`` and ``dy`` off it."""

    symbol: int
    left: int
    bottom: int
    bitmap: Bitmap | None = None
    dx: int = 0
    dy: int = 0


class Shapes(NamedTuple):
    """A page in parts: symbols, where they are used, and what is left."""

    symbols: list[Bitmap]
    uses: list[Use]
    rest: Bitmap


def shapes_of(page: Bitmap) -> Shapes | None:
    """Take a page apart into shapes that stand on it several times; None where hardly any do.

    Nothing is lost: symbols at their places and the rest, put together by OR, are the page.

    Source:
        Soft pattern matching: P. G. Howard, Text image compression using soft pattern matching, The Computer Journal 40
        (2/3), 1997 (from memory). What is near is told here by the share of ink that differs.
    """
    count, labels, stats, _ = cv2.connectedComponentsWithStats(page, connectivity=8)
    if count > _MOST_SHAPES:
        return None
    found: list[Shape] = []
    for at in range(1, count):
        left, top, width, height, area = (int(value) for value in stats[at])
        if area < _LEAST_AREA or max(width, height) > _MOST_SIDE:
            continue
        box = labels[top : top + height, left : left + width]
        found.append(Shape((box == at).astype(np.uint8), left, top + height - 1))
    if not found:
        return None
    first = _same(found)
    likeness = _alike([found[at] for at in sorted(set(first))])
    return _parted(page, found, first, dict(zip(sorted(set(first)), likeness, strict=True)))


def _same(shapes: list[Shape]) -> list[int]:
    """For each shape the first that is the same."""
    known: dict[tuple[int, int, bytes], int] = {}
    return [known.setdefault((*one.bitmap.shape, one.bitmap.tobytes()), at) for at, one in enumerate(shapes)]


class _Near(NamedTuple):
    """Which of the shapes given it is near, and how it lies on it; itself where it is near none."""

    of: int
    dx: int
    dy: int


def _alike(shapes: list[Shape]) -> list[_Near]:
    """For each shape one that came before it, is near none itself, and is the nearest of those."""
    sizes = np.array([one.bitmap.shape for one in shapes], np.int64)
    starts = np.concatenate([[0], np.cumsum(sizes[:, 0] * sizes[:, 1])]).astype(np.int64)
    pixels = np.concatenate([one.bitmap.reshape(-1) for one in shapes])
    ink = np.array([int(one.bitmap.sum()) for one in shapes], np.int64)
    middles = np.array([_middle(one.bitmap) for one in shapes], np.float64)
    near = _nearest(sizes, starts, pixels, ink, middles, _SIZE, _UNLIKE)
    return [_Near(int(of), int(dx), int(dy)) for of, dx, dy in near]


def _middle(bitmap: Bitmap) -> tuple[float, float]:
    """The middle of a shape's ink: across, down."""
    rows, cols = np.nonzero(bitmap)
    return float(cols.mean()), float(rows.mean())


@compiled
def _nearest(
    sizes: npt.NDArray[np.int64],
    starts: npt.NDArray[np.int64],
    pixels: npt.NDArray[np.uint8],
    ink: npt.NDArray[np.int64],
    middles: npt.NDArray[np.float64],
    most_size: int,
    most_unlike: float,
) -> npt.NDArray[np.int64]:
    count = len(sizes)
    found = np.zeros((count, 3), np.int64)
    leaders = np.zeros(count, np.int64)
    known = 0
    for at in range(count):
        rows, cols = sizes[at]
        best = -1
        best_off = int(most_unlike * 2 * ink[at])
        best_dx = best_dy = 0
        for place in range(known):
            of = leaders[place]
            other_rows, other_cols = sizes[of]
            if abs(rows - other_rows) > most_size or abs(cols - other_cols) > most_size:
                continue
            if abs(ink[at] - ink[of]) >= best_off:
                continue
            dx = round(middles[at, 0] - middles[of, 0])
            dy = round(middles[at, 1] - middles[of, 1])
            # One decoder that is widely used takes a shape for unmoved that lies wholly beside the other.
            if abs(dx) >= other_cols or abs(dy) >= other_rows:
                continue
            off = 0
            # Pixels of either that the other has not.
            for y in range(min(0, dy), max(rows, other_rows + dy)):
                for x in range(min(0, dx), max(cols, other_cols + dx)):
                    one = other = 0
                    if 0 <= y < rows and 0 <= x < cols:
                        one = pixels[starts[at] + y * cols + x]
                    if 0 <= y - dy < other_rows and 0 <= x - dx < other_cols:
                        other = pixels[starts[of] + (y - dy) * other_cols + x - dx]
                    off += one != other
                if off >= best_off:
                    break
            if off < best_off:
                best, best_off, best_dx, best_dy = of, off, dx, dy
        if best < 0:
            best = at
            leaders[known] = at
            known += 1
        found[at, 0], found[at, 1], found[at, 2] = best, best_dx, best_dy
    return found


def _parted(page: Bitmap, shapes: list[Shape], first: list[int], near: dict[int, _Near]) -> Shapes | None:
    """Shapes that are used more than once, as they are or made into others, and the page without them."""
    distinct = sorted(near)
    leader = [distinct[near[at].of] for at in first]
    times: dict[int, int] = {}
    for at in leader:
        times[at] = times.get(at, 0) + 1
    # By height, then by width: so a dictionary has them.
    used = sorted((at for at in times if times[at] > 1), key=lambda at: shapes[at].bitmap.shape)
    if not used:
        return None
    number = {at: place for place, at in enumerate(used)}
    rest = page.copy()
    uses = []
    for shape, same, of in zip(shapes, first, leader, strict=True):
        if of not in number:
            continue
        height, width = shape.bitmap.shape
        top = shape.bottom - height + 1
        rest[top : top + height, shape.left : shape.left + width] &= 1 - shape.bitmap
        how = near[same]
        made = (None, 0, 0) if same == of else (shape.bitmap, how.dx, how.dy)
        uses.append(Use(number[of], shape.left, shape.bottom, *made))
    return Shapes([shapes[at].bitmap for at in used], uses, rest)
