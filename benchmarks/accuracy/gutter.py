"""The fold between facing pages, and that single pages, wide ones too, are never split."""

import random

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, drawn, gray, in_parallel
from hollowstack.core.measure.layout.gutter import find_gutter
from hollowstack.core.page.geometry import Point, Transform
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Image3, Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.specimens import LAYOUTS
from hollowstack.standins.skerry.spread import spread


def facing(
    layout: str, seed: int, shallowest: float = 0.15
) -> tuple[Image3, tuple[Point, Point], random.Random, np.random.Generator]:
    """Facing pages, the first of a layout, their fold at least so dark; and the chances that go on from there."""
    chance, rng = random.Random(seed * 17 + 1), np.random.default_rng(seed)
    paper = PAPERS[chance.choice(list(PAPERS))]
    pages = [
        worn(LAYOUTS[name](random.Random(seed + side)), paper, Wear(age=0.4, foxing=0.3), rng)
        for side, name in enumerate((layout, chance.choice(list(LAYOUTS))))
    ]
    surface, fold = spread(*pages, 300, chance.uniform(shallowest, 0.9), chance.uniform(2, 7), rng)
    return surface, fold, chance, rng


def measured(task: tuple[str, int]) -> float:
    """How far the line found is from the fold, in mm, at its worse end; infinite where none is found."""
    surface, fold, chance, rng = facing(*task)
    skew = chance.uniform(-1.5, 1.5)
    made = scan(surface, [], Glass(skew=skew), 300, rng)
    rows, cols = surface.shape[:2]
    lean = Transform.rotation(skew, Point(cols / 2, rows / 2)).apply(np.array(fold))
    found = find_gutter(gray(made))
    if found is None:
        return float("inf")
    slope, offset = np.polyfit([found.top.y, found.bottom.y], [found.top.x, found.bottom.x], 1)
    return float(np.abs(lean[:, 0] - offset - slope * lean[:, 1]).max() / 300 * 25.4)


def split_by_mistake(task: tuple[str, int]) -> bool:
    """Whether a fold is seen in a single page: upright, or a wide one made of a page laid on its side."""
    layout, seed = task
    _, made = drawn(layout, seed, Glass(skew=random.Random(seed).uniform(-2, 2)))
    page = gray(made)
    wide = Raster(np.ascontiguousarray(np.rot90(page.pixels)), page.ppi)
    return find_gutter(page) is not None or find_gutter(wide) is not None


def rows(seed: int, each: int) -> list[Row]:
    """Where the fold is, and single pages that were split."""
    off = np.array(list(in_parallel(measured, [(layout, seed + n) for layout in LAYOUTS for n in range(each)])))
    singles = list(in_parallel(split_by_mistake, [(layout, seed + 500 + n) for layout in LAYOUTS for n in range(each)]))
    found = off[np.isfinite(off)]
    said = f"{len(found)} of {len(off)} found, worst {found.max():.2f} mm, {100 * (found <= 1.5).mean():.0f} % within 1.5 mm; {sum(singles)} of {2 * len(singles)} single pages split"
    reached = len(found) >= 0.95 * len(off) and (found <= 1.5).all() and not any(singles)
    return [Row("gutter of facing pages", said, "within 1.5 mm; single pages never split", bool(reached))]
