"""True resolution: what the file says, right, wrong or missing, put right by paper size and letters."""

import random

import numpy as np

from benchmarks.accuracy.truth import Row, drawn, gray, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.paper_sizes import nearest_size
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.scan import Glass

LAYOUTS = ("prose", "columns", "few lines", "Greek", "Cyrillic")
SAID = ("right", "missing", "72")


def measured(task: tuple[str, int, str]) -> tuple[str, bool, float]:
    """What the file said, whether the resolution found is the true one, and how sure it is."""
    layout, seed, said = task
    chance = random.Random(seed * 29 + 3)
    sheet, made = drawn(layout, seed, Glass(skew=0.0))
    true = chance.choice((150.0, 200.0, 300.0))
    usual = nearest_size(sheet.width_mm, sheet.height_mm) is not None
    page = Raster(gray(made).pixels, (300.0, 300.0)).reduced(true)
    stated = {"right": true, "missing": None, "72": 72.0}[said]
    found = measure(Raster(page.pixels, None if stated is None else (stated, stated)))
    right = found.ppi is not None and abs(found.ppi[0] / true - 1) < 0.02
    return said if usual else "no usual size", right, found.ppi_confidence


def rows(seed: int, each: int) -> list[Row]:
    """Share right, by what the file said."""
    tasks = [(layout, seed + number, said) for layout in LAYOUTS for number in range(each) for said in SAID]
    results = list(in_parallel(measured, tasks))
    kinds = dict.fromkeys(kind for kind, _, _ in results)
    shares = {kind: float(np.mean([right for k, right, _ in results if k == kind])) for kind in kinds}
    sure = [right for _, right, confidence in results if confidence >= 0.7]
    said = (
        ", ".join(f"{name} {100 * share:.0f} %" for name, share in shares.items())
        + f"; of the sure {100 * np.mean(sure):.1f} %"
    )
    return [
        Row(
            "true resolution",
            said,
            "wrong and missing ones put right, with confidence",
            min(shares[kind] for kind in SAID) >= 0.9 and np.mean(sure) >= 0.95,
        )
    ]
