"""Blank pages with all that is no ink, and pages that bear next to nothing and are not blank."""

import random
from collections.abc import Callable

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.sheet import BLUE_BLACK, PENCIL, RED, VIOLET, Sheet
from hollowstack.standins.skerry.specimens import LAYOUTS

Mark = Callable[[Sheet, random.Random], object]
MARKS: dict[str, Mark] = {
    "": lambda sheet, rng: None,
    "page number": lambda sheet, rng: sheet.print(
        rng.uniform(40, 100), 200, str(rng.randint(1, 300)), "OldStandardTT-Regular", rng.uniform(8, 11)
    ),
    "pencil note": lambda sheet, rng: sheet.write(
        rng.uniform(12, 70), rng.uniform(14, 190), rng.choice(("see 14", "copied", "no. 7")), rng, 15, PENCIL, 150
    ),
    "stamp": lambda sheet, rng: _stamp(sheet, rng),
    "signature": lambda sheet, rng: sheet.write(
        rng.uniform(20, 80), rng.uniform(120, 190), "A. Merriwether", rng, 18, BLUE_BLACK, 200
    ),
    "carbon-copy line": lambda sheet, rng: sheet.type(18, rng.uniform(30, 180), "as per your letter of", rng, VIOLET, 95),
}


def _stamp(sheet: Sheet, rng: random.Random) -> None:
    x, y = rng.uniform(20, 90), rng.uniform(30, 180)
    sheet.print(x, y, "RECEIVED", "LeagueGothic-Regular", 18, RED, "ls", 130)


def measured(task: tuple[str, int]) -> bool:
    """Whether the page is taken for blank."""
    kind, seed = task
    chance, rng = random.Random(seed * 19 + 3), np.random.default_rng(seed)
    sheet = Sheet(148, 210)
    MARKS[kind](sheet, chance)
    back = LAYOUTS["prose"](random.Random(seed)) if chance.random() < 0.7 else None
    if back is not None and back.size != sheet.size:
        back = None
    wear = Wear(
        age=chance.uniform(0.1, 0.7), foxing=chance.uniform(0, 0.6), folds=chance.randint(0, 3),
        show_through=chance.uniform(0.3, 1.0),
    )  # fmt: skip
    surface = worn(sheet, PAPERS[chance.choice(list(PAPERS))], wear, rng, back)
    margins = tuple(chance.uniform(4, 10) for _ in range(4)) if chance.random() < 0.6 else (0.0,) * 4
    glass = Glass(
        skew=chance.uniform(-2, 2), margins_mm=margins, lid=chance.choice((20, 60, 200)), holes=chance.random() < 0.4
    )  # type: ignore[arg-type]
    made = scan(surface, [], glass, 300, rng)
    return measure(Raster(made.pixels, (300.0, 300.0))).ink_percent < Treatment().blank_below


def rows(seed: int, each: int) -> list[Row]:
    """True blanks found; others taken for blank, by what they bear."""
    tasks = [(kind, seed + number) for kind in MARKS for number in range(each if kind else 4 * each)]
    results = list(zip(tasks, in_parallel(measured, tasks), strict=True))
    blanks = [blank for (kind, _), blank in results if not kind]
    lost = sorted({kind for (kind, _), blank in results if kind and blank})
    count = sum(blank for (kind, _), blank in results if kind)
    said = f"{sum(blanks)} of {len(blanks)} found; {count} of {len(results) - len(blanks)} others lost {lost or ''}"
    reached = sum(blanks) >= 0.98 * len(blanks) and not count
    return [Row("blankness", said, "≥ 98 % found; nothing marked is lost", reached)]
