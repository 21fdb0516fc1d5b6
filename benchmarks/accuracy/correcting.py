"""What correcting is worth: character errors before and after, and the three ways to two tones."""

import numpy as np

from benchmarks.accuracy.degraded import CLEAN, HARMS, degraded
from benchmarks.accuracy.truth import Row, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.ocr.reading import read_page
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render.bitonal import to_bitonal
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.shipped import SHIPPED

LAYOUTS = ("prose", "few lines")
"""Layouts that are read in one order only."""
AMOUNTS = (0.4, 0.7, 1.0)
"""Little, some and much harm, in turn."""
METHODS = ("evened", "local", "global")


def errors(truth: str, read: str) -> int:
    """Least number of characters to put in, take out or exchange (Levenshtein 1966)."""
    a, b = np.array([ord(c) for c in truth]), np.array([ord(c) for c in read])
    row = np.arange(len(b) + 1)
    for i, here in enumerate(a, 1):
        best = np.minimum(row[1:] + 1, row[:-1] + (b != here))
        # What is put in runs along the row: the least of all to the left, one more for each step.
        steps = np.concatenate([[i], best]) - np.arange(len(b) + 1)
        row = np.minimum.accumulate(steps) + np.arange(len(b) + 1)
    return int(row[-1])


def compared(task: tuple[str, str, int]) -> tuple[int, int, int]:
    """Characters; errors on the page as captured, and on the corrected page."""
    kind, layout, seed = task
    harm = HARMS.get(kind, CLEAN)
    page = degraded(layout, seed, harm, AMOUNTS[seed % 3])
    found = measure(page.image)
    plan = plan_page(found, SHIPPED[harm.treatment])
    before = read_page(Raster(page.image.gray().pixels, page.image.ppi), "eng").text
    after = read_rendered(page.image, plan, "eng").text
    wanted = " ".join(page.text.split())
    return len(wanted), errors(wanted, " ".join(before.split())), errors(wanted, " ".join(after.split()))


def in_two_tones(task: tuple[str, str, int]) -> dict[str, tuple[float, float]]:
    """By method: F-measure against the true ink, and share of words read."""
    kind, layout, seed = task
    page = degraded(layout, seed, HARMS.get(kind, CLEAN), AMOUNTS[seed % 3])
    gray = page.image.gray()
    wanted = page.text.split()
    scores = {}
    for method in METHODS:
        made = to_bitonal(gray, method)  # type: ignore[arg-type]
        black, ink = made.pixels == 0, page.ink > 0
        both = float((black & ink).sum())
        read = set(read_page(made, "eng").text.split())
        scores[method] = (2 * both / max(1.0, black.sum() + ink.sum()), float(np.mean([word in read for word in wanted])))
    return scores


def rows(seed: int, each: int) -> list[Row]:
    """Character errors by kind of harm, and the methods against each other."""
    tasks = [(kind, layout, seed + n) for kind in (*HARMS, "clean") for layout in LAYOUTS for n in range(each)]
    by_kind: dict[str, list[tuple[int, int, int]]] = {}
    for (kind, _, _), result in zip(tasks, in_parallel(compared, tasks), strict=True):
        by_kind.setdefault(kind, []).append(result)
    sums = {kind: np.sum(results, axis=0) for kind, results in by_kind.items()}
    for kind, (count, before, after) in sums.items():
        print(
            f"         {kind:14} character errors {100 * before / count:6.2f} % as captured, {100 * after / count:6.2f} % corrected"
        )
    count, before, after = np.sum([sums[kind] for kind in HARMS], axis=0)
    said = f"{100 * before / count:.2f} % as captured, {100 * after / count:.2f} % corrected, {sum(map(len, by_kind.values()))} pages"
    harmed = Row("character errors on degraded pages", said, "at most half", bool(2 * after <= before))
    worse = sum(late > early for _, early, late in by_kind["clean"])
    _, early, late = sums["clean"]
    clean = Row(
        "character errors on clean pages",
        f"{early} as captured, {late} corrected; {worse} pages worse",
        "never worse",
        worse == 0,
    )
    return [harmed, clean, *_two_tones(tasks)]


def _two_tones(tasks: list[tuple[str, str, int]]) -> list[Row]:
    flat = [task for task in tasks if task[0] not in ("bound", "askew")]  # border and tilt are no matter of tone
    results = list(in_parallel(in_two_tones, flat))
    means = {method: np.mean([result[method] for result in results], axis=0) for method in METHODS}
    said = ", ".join(f"{method} F {f:.3f} words {100 * words:.1f} %" for method, (f, words) in means.items())
    best = all(means["evened"][axis] >= max(score[axis] for score in means.values()) for axis in (0, 1))
    return [Row("two tones, default is “evened”", said, "the default is best in both", bool(best))]
