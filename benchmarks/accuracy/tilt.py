"""Tilt within 15 degrees either way, on every layout, in grey and in two tones."""

import random

import numpy as np

from benchmarks.accuracy.truth import Row, drawn, gray, in_parallel
from hollowstack.core.measure.tilt import measure_tilt
from hollowstack.core.plan import SURE_OF_TILT
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.specimens import LAYOUTS

Task = tuple[str, int]


def measured(task: Task) -> tuple[str, float, float]:
    """Layout, error in degrees, confidence."""
    layout, seed = task
    tilt = random.Random(seed * 7 + 1).uniform(-15, 15)
    _, made = drawn(layout, seed, Glass(tilt=tilt, noise=2.5))
    found = measure_tilt(gray(made, bitonal=seed % 3 == 0))
    return layout, abs(found.degrees - tilt), found.confidence


def rows(seed: int, each: int) -> list[Row]:
    """All pages together, and what each layout gives."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    off = np.array([error for _, error, sure in results if sure >= SURE_OF_TILT])
    print(
        "         tilt, mean error of those that are sure:",
        ", ".join(f"{layout} {_mean(results, layout)}" for layout in LAYOUTS),
    )
    said = f"mean {off.mean():.3f}°, {100 * (off <= 0.1).mean():.1f} % ≤ 0.1°, worst {off.max():.2f}°, {len(results) - len(off)} unsure of {len(results)}"
    reached = off.mean() <= 0.05 and (off <= 0.1).mean() >= 0.95 and off.max() <= 0.5
    return [Row("tilt, −15° to 15°, all layouts", said, "mean ≤ 0.05°, ≥ 95 % ≤ 0.1°, none > 0.5°", bool(reached))]


def _mean(results: list[tuple[str, float, float]], layout: str) -> str:
    off = [error for name, error, sure in results if name == layout and sure >= SURE_OF_TILT]
    return f"{np.mean(off):.3f}°" if off else "all unsure"
