"""Tilt within 15 degrees either way, on every layout, in grey and in two tones; and what Leptonica's finder makes of them."""

import random
from typing import NamedTuple

import numpy as np

from benchmarks.accuracy import leptonica
from benchmarks.accuracy.truth import Row, drawn, gray, in_parallel
from hollowstack.core.measure.content.skew import measure_skew
from hollowstack.core.plan.tilt import SURE_OF_SKEW
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.specimens import LAYOUTS

_LEPTONICA_SURE = 3.0
"""Leptonica's own advice on its confidence."""

Task = tuple[str, int]


class Found(NamedTuple):
    """Errors in degrees."""

    layout: str
    error: float
    sure: bool
    theirs: float
    they_are_sure: bool


def measured(task: Task) -> Found:
    """One page, by both."""
    layout, seed = task
    skew = random.Random(seed * 7 + 1).uniform(-15, 15)
    _, made = drawn(layout, seed, Glass(skew=skew, noise=2.5))
    page = gray(made, bitonal=seed % 3 == 0)
    found = measure_skew(page)
    theirs, confidence = leptonica.skew(page.pixels)
    return Found(
        layout,
        abs(found.degrees - skew),
        found.confidence >= SURE_OF_SKEW,
        abs(theirs - skew),
        confidence >= _LEPTONICA_SURE,
    )


def rows(seed: int, each: int) -> list[Row]:
    """All pages together, and what each layout gives."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    print(
        "         tilt, mean error of those that are sure:",
        ", ".join(f"{layout} {_mean(results, layout)}" for layout in LAYOUTS),
    )
    off = np.array([found.error for found in results if found.sure])
    theirs = np.array([found.theirs for found in results if found.they_are_sure])
    print(f"         Leptonica's finder on the same pages: {_said(theirs, len(results))}")
    reached = off.mean() <= 0.05 and (off <= 0.1).mean() >= 0.95 and off.max() <= 0.5
    limit = "mean ≤ 0.05°, ≥ 95 % ≤ 0.1°, none > 0.5°"
    return [Row("tilt, −15° to 15°, all layouts", _said(off, len(results)), limit, bool(reached))]


def _said(off: np.ndarray, of: int) -> str:
    within = 100 * (off <= 0.1).mean()
    return f"mean {off.mean():.3f}°, {within:.1f} % ≤ 0.1°, worst {off.max():.2f}°, {of - len(off)} unsure of {of}"


def _mean(results: list[Found], layout: str) -> str:
    off = [found.error for found in results if found.layout == layout and found.sure]
    return f"{np.mean(off):.3f}°" if off else "all unsure"
