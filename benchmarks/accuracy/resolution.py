"""True resolution: what the file says, right, wrong or missing, put right by paper size and letters."""

import random

import numpy as np

from benchmarks.accuracy.truth import Row, drawn, gray, in_parallel
from hollowstack.core.measure.resolution import measure_resolution
from hollowstack.core.raster import Raster
from hollowstack.standins.skerry.scan import Glass

LAYOUTS = ("prose", "columns", "Greek", "Cyrillic")
SAID = ("right", "missing", "72")


def measured(task: tuple[str, int, str]) -> tuple[str, bool, float]:
    """What the file said, whether the resolution found is the true one, and how sure it is."""
    layout, seed, said = task
    chance = random.Random(seed * 29 + 3)
    _, made = drawn(layout, seed, Glass(tilt=0.0))
    true = chance.choice((150.0, 200.0, 300.0))
    page = Raster(gray(made).pixels, (300.0, 300.0)).reduced(true)
    stated = {"right": true, "missing": None, "72": 72.0}[said]
    found = measure_resolution(Raster(page.pixels, None), stated)
    return said, abs(found.ppi / true - 1) < 0.02, found.confidence


def rows(seed: int, each: int) -> list[Row]:
    """Share right, by what the file said."""
    tasks = [(layout, seed + number, said) for layout in LAYOUTS for number in range(each) for said in SAID]
    results = list(in_parallel(measured, tasks))
    shares = {said: float(np.mean([right for s, right, _ in results if s == said])) for said in SAID}
    sure = [right for _, right, confidence in results if confidence >= 0.7]
    said = (
        ", ".join(f"{name} {100 * share:.0f} %" for name, share in shares.items())
        + f"; of the sure {100 * np.mean(sure):.1f} %"
    )
    return [Row("true resolution", said, "wrong and missing ones put right, with confidence", min(shares.values()) >= 0.9)]
