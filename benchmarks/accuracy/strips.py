"""Long strips with text all along, across and down: how many of their words are read."""

import random
from typing import Any

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.sheet import Sheet, fitted

_PUNCTUATION = ".,;:!?()“”‘’'\"—–-"
_WORDS = tuple(word for paragraph in REPORT for word in paragraph.split())
_FONTS = ("OldStandardTT-Regular", "CourierPrime-Regular")
PPI = 300.0


def strip(rng: random.Random, *, across: bool) -> Sheet:
    """A strip of 1.2 to 1.8 m: blocks of text side by side, or one long column."""
    length = rng.uniform(1200, 1800)
    sheet = Sheet(length, rng.uniform(120, 180), PPI) if across else Sheet(rng.uniform(120, 180), length, PPI)
    width = rng.uniform(75, 105) if across else sheet.width_mm - 30
    points, left = rng.uniform(9.5, 12), 15.0
    while left + width <= sheet.width_mm - 12:
        top = 18.0
        while top < sheet.height_mm - 14:
            font = rng.choice(_FONTS)
            text = " ".join(rng.choice(_WORDS) for _ in range(60))
            for line in fitted(sheet, text, font, points, width):
                if top >= sheet.height_mm - 14:
                    break
                sheet.print(left, top, line, font, points)
                top += points * 0.48
            top += 4
        left += width + rng.uniform(9, 16)
    return sheet


def _read(task: tuple[int, bool, str]) -> tuple[int, int]:
    """Words read, of how many."""
    seed, across, treatment = task
    rng = random.Random(seed)
    sheet = strip(rng, across=across)
    chance = np.random.default_rng(seed)
    surface = worn(sheet, PAPERS["cream"], Wear(age=0.3, foxing=0.2, fade=0.1, show_through=0.0), chance)
    capture = scan(surface, sheet.words, Glass(skew=rng.uniform(-0.3, 0.3)), PPI, chance)
    image = Raster(capture.pixels, (PPI, PPI))
    _, plan, _, _ = render_guarded(image, plan_page(measure(image), SHIPPED[treatment]))
    read: dict[str, int] = {}
    for word in read_rendered(image, plan, "eng").text.split():
        read[word.strip(_PUNCTUATION)] = read.get(word.strip(_PUNCTUATION), 0) + 1
    hits = 0
    for true in sheet.words:
        bare = true.text.strip(_PUNCTUATION)
        if read.get(bare, 0) > 0:
            read[bare] -= 1
            hits += 1
    doubled = max(0, sum(read.values()) + hits - len(sheet.words))
    return hits - doubled, len(sheet.words)


def rows(seed: int, each: int) -> list[Row]:
    """The row of the table; words read twice count against those read."""
    tasks: list[Any] = [(seed + n, n % 2 == 0, ("everyday", "oversize strip")[n // 2 % 2]) for n in range(max(4, each // 2))]
    found = list(in_parallel(_read, tasks))
    least = min(hits / total for hits, total in found)
    share = sum(hits for hits, _ in found) / sum(total for _, total in found)
    return [
        Row("strips of 1.2 to 1.8 m: words read", f"{100 * share:.1f} %, worst {100 * least:.1f} %", "≥ 95 %", share >= 0.95)
    ]
