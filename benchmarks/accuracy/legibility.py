"""Scans that get worse step by step in one way each: are those flagged that can no longer be read, and no others?"""

from collections.abc import Callable
from typing import NamedTuple

import cv2
import numpy as np

from benchmarks.accuracy.degraded import Harm, degraded, shade
from benchmarks.accuracy.truth import Row, in_parallel
from hollowstack.core.check.quality import check_quality
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.treatment import Treatment

Spoil = Callable[[Pixels, float, np.random.Generator], Pixels]
STEPS = 6
_READABLE, _GOOD = 0.90, 0.97
"""Shares of words read: below the first a page can no longer be read well; from the second on it is good."""


def _pixels(values: np.ndarray) -> Pixels:
    return np.clip(values + 0.5, 0, 255).astype(np.uint8)


def _noisy(pixels: Pixels, amount: float, rng: np.random.Generator, most: float = 90) -> Pixels:
    return _pixels(pixels + rng.normal(0, most * amount, pixels.shape[:2])[..., None])


def _moved(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    length = 1 + int(26 * amount)
    return cv2.filter2D(pixels, -1, np.ones((1, length) if rng.random() < 0.5 else (length, 1)) / length)


def _coarse(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    factor = 1 / (1 + 5 * amount)
    return cv2.resize(pixels, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)


SPOILS: dict[str, Spoil] = {
    "blurred": lambda pixels, amount, rng: cv2.GaussianBlur(pixels, (0, 0), 0.3 + 6 * amount),
    "moved": _moved,
    "grainy": _noisy,
    "pale": lambda pixels, amount, rng: _noisy(_pixels(170 + (pixels - 170.0) * (1 - 0.97 * amount)), 1, rng, 3),
    "dark": lambda pixels, amount, rng: _noisy(_pixels(pixels * (1 - 0.95 * amount)), 1, rng, 3),
    "overexposed": lambda pixels, amount, rng: _pixels(pixels * (1 + 2.8 * amount)),
    "unevenly lit": lambda pixels, amount, rng: shade(pixels, 1.4 * amount, rng),
    "coarse": _coarse,
    "as it should be": lambda pixels, amount, rng: pixels,
}


class Judged(NamedTuple):
    """Share of the words read, what was flagged, whether anything is seen on the page at all."""

    recall: float
    flags: tuple[str, ...]
    seen: bool


def judged(task: tuple[str, str, int, int]) -> Judged:
    """A page spoilt by one step, treated as any page is."""
    kind, layout, seed, step = task
    amount = step / STEPS
    page = degraded(layout, seed, Harm("everyday", {}, {}, SPOILS[kind]), amount)
    ppi = 300 / (1 + 5 * amount) if kind == "coarse" else 300.0
    image = Raster(page.image.pixels, (ppi, ppi))
    found = measure(image)
    plan = plan_page(found, Treatment())
    read = set(read_rendered(image, plan, "eng").text.split())
    recall = float(np.mean([word in read for word in page.text.split()]))
    flags = tuple(finding.check for finding in check_quality(found) if finding.verdict != "pass")
    return Judged(recall, flags, found.marks > 0)


def rows(seed: int, each: int) -> list[Row]:
    """Unreadable pages flagged, good ones flagged."""
    each = max(1, each // 4)
    tasks = [
        (kind, layout, seed + 10 * number + step, step)
        for kind in SPOILS for layout in ("prose", "few lines") for number in range(each) for step in range(1, STEPS + 1)
    ]  # fmt: skip
    results = list(zip(tasks, in_parallel(judged, tasks), strict=True))
    for kind in SPOILS:
        mine = [result for task, result in results if task[0] == kind]
        lost = [result for result in mine if result.recall < _READABLE and result.seen]
        good = [result for result in mine if result.recall >= _GOOD]
        print(
            f"         {kind:16} unreadable {len(lost):3}, flagged {sum(bool(r.flags) for r in lost):3};"
            f" good {len(good):3}, flagged {sum(bool(r.flags) for r in good):3}"
        )
    lost = [result for _, result in results if result.recall < _READABLE and result.seen]
    good = [result for _, result in results if result.recall >= _GOOD]
    found, false = sum(bool(r.flags) for r in lost), sum(bool(r.flags) for r in good)
    said = f"{found} of {len(lost)} unreadable pages flagged, {false} of {len(good)} good ones"
    reached = found >= 0.95 * len(lost) and false <= 0.03 * len(good)
    return [Row("legibility of scans", said, "≥ 95 % of unreadable, ≤ 3 % of good ones", bool(reached))]
