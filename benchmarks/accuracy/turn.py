"""Upright turn on every layout, each way up."""

import random

from benchmarks.accuracy.truth import Row, drawn, gray, in_parallel
from hollowstack.core.measure import SURE_OF_TURN
from hollowstack.core.measure.content.rotation import measure_orientation
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.specimens import LAYOUTS


def measured(task: tuple[str, int]) -> tuple[str, bool, float]:
    """Layout, whether the turn is right, confidence."""
    layout, seed = task
    chance = random.Random(seed * 5 + 3)
    turn = (0, 90, 180, 270)[seed % 4]
    _, made = drawn(layout, seed, Glass(skew=chance.uniform(-3, 3), turn=turn))  # type: ignore[arg-type]
    found = measure_orientation(gray(made))
    return layout, found.turn == (360 - turn) % 360, found.confidence


def rows(seed: int, each: int) -> list[Row]:
    """Of those that are sure; the unsure are left as they lie."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    sure = [(layout, right) for layout, right, confidence in results if confidence >= SURE_OF_TURN]
    unsure = [layout for layout, _, confidence in results if confidence < SURE_OF_TURN]
    share = sum(right for _, right in sure) / max(1, len(sure))
    wrong = sorted(layout for layout, right in sure if not right)
    said = f"{100 * share:.1f} % of {len(sure)} right, {len(unsure)} unsure of {len(results)}"
    print("         turn, wrong:", wrong or "none", "· unsure:", {name: unsure.count(name) for name in sorted(set(unsure))})
    return [Row("upright turn, all layouts", said, "≥ 99 % of those turned", share >= 0.99)]
