"""Corners of photographed pages, the shape of the page behind them, and the verdict on blurred ones."""

import random

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure.aspect import page_aspect
from hollowstack.core.measure.edges import find_edges
from hollowstack.core.raster import Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph
from hollowstack.standins.skerry.specimens import LAYOUTS


def measured(task: tuple[str, int]) -> tuple[float, float]:
    """Mean corner error as a share of the picture's diagonal, and of the aspect."""
    layout, seed = task
    chance = random.Random(seed * 13 + 7)
    sheet = LAYOUTS[layout](random.Random(seed))
    rng = np.random.default_rng(seed)
    surface = worn(sheet, PAPERS[chance.choice(list(PAPERS))], Wear(age=0.3, foxing=0.2, folds=1), rng)
    view = View(
        size_px=(1800, 2400), fills=chance.uniform(0.6, 0.85), lean=(chance.uniform(-22, 22), chance.uniform(-16, 16)),
        turned_deg=chance.uniform(-8, 8), shadow=chance.uniform(0, 0.4), blur_px=chance.uniform(0.6, 1.5),
    )  # fmt: skip
    pixels, quad = photograph(surface, view, rng)
    found = find_edges(Raster(pixels))
    off = float(np.hypot(*(found.quad.array() - quad.array()).T).mean() / np.hypot(*view.size_px))
    return off, abs(page_aspect(found.quad, *view.size_px) / (sheet.width_mm / sheet.height_mm) - 1)


def rows(seed: int, each: int) -> list[Row]:
    """Corner error, and how far the shape found is from the sheet's."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    off, aspect = (np.array(column) for column in zip(*results, strict=True))
    said = f"mean {100 * off.mean():.2f} %, worst {100 * off.max():.2f} % of the diagonal, of {len(off)}"
    shape = f"{100 * (aspect <= 0.02).mean():.1f} % within 2 %"
    return [
        Row("corners of a photographed page", said, "mean ≤ 0.5 % of the diagonal", bool(off.mean() <= 0.005)),
        Row(
            "its shape, from its corners",
            shape,
            "within 2 % of the sheet's",
            bool((aspect <= 0.02).mean() >= 0.95),
        ),
    ]
