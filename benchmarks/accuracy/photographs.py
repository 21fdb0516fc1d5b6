"""Corners of photographed pages, the shape of the page behind them, and the verdict on blurred ones."""

import random
from typing import get_args

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure.layout.aspect import page_aspect
from hollowstack.core.measure.layout.photographed import find_photographed
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import Table, View, photograph
from hollowstack.standins.skerry.specimens import LAYOUTS

TABLES: tuple[Table, ...] = get_args(Table)


def measured(task: tuple[str, int]) -> tuple[str, float, float, bool]:
    """The table; mean corner error as a share of the picture's diagonal, and of the aspect; whether the page was found."""
    layout, seed = task
    chance = random.Random(seed * 13 + 7)
    sheet = LAYOUTS[layout](random.Random(seed))
    rng = np.random.default_rng(seed)
    surface = worn(sheet, PAPERS[chance.choice(list(PAPERS))], Wear(age=0.3, foxing=0.2, folds=1), rng)
    view = View(
        size_px=(1800, 2400), fills=chance.uniform(0.6, 0.85), lean=(chance.uniform(-22, 22), chance.uniform(-16, 16)),
        table=TABLES[seed % len(TABLES)], turned_deg=chance.uniform(-8, 8), shadow=chance.uniform(0, 0.4), blur_px=chance.uniform(0.6, 1.5),
    )  # fmt: skip
    pixels, quad = photograph(surface, view, rng)
    found = find_photographed(Raster(pixels))
    off = float(np.hypot(*(found.quad.array() - quad.array()).T).mean() / np.hypot(*view.size_px))
    return view.table, off, abs(page_aspect(found.quad, *view.size_px) / (sheet.width_mm / sheet.height_mm) - 1), found.lid


def rows(seed: int, each: int) -> list[Row]:
    """Corner error, and how far the shape found is from the sheet's."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    for table in TABLES:
        mine = [result for result in results if result[0] == table]
        print(
            f"         corners on {table:10} mean {100 * np.mean([r[1] for r in mine]):.2f} %, found {sum(r[3] for r in mine)} of {len(mine)}"
        )
    off, aspect = (np.array([result[column] for result in results]) for column in (1, 2))
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
