"""Notes written into the bar of a gutter, torn corners, and pages with neither: what clearing would cost, is kept and said.

The stand-in draws its bar upright whatever the tilt of the page, so pages are tilted by a degree at the most here: a bound
leaf that lies askew takes its bar along.
"""

import random
from typing import NamedTuple

import cv2
import numpy as np

from benchmarks.accuracy.edges import torn
from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.check.border import check_border
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import PENCIL
from hollowstack.standins.skerry.specimens import LAYOUTS

KINDS = ("plain", "note", "torn")
NOTES = ("see 14", "copied", "no. 7", "lamp out")


class Found(NamedTuple):
    """Share of a note's visible ink that stays, and the checks that ask for a look."""

    kept: float
    said: set[str]


def measured(task: tuple[str, int, str]) -> Found:
    """One page of one kind."""
    layout, seed, kind = task
    chance = random.Random(seed * 13 + 7)
    gutter = chance.choice(("left", "right"))
    glass = Glass(
        skew=chance.uniform(-1, 1), margins_mm=tuple(chance.uniform(5, 14) for _ in range(4)), lid=chance.choice((18, 40, 70, 110, 160)),  # type: ignore[arg-type]
        gutter=gutter,  # type: ignore[arg-type]
    )  # fmt: skip
    without = _captured(layout, seed, glass, "")
    made, kept = without.pixels, 1.0
    if kind == "torn":
        made = torn(made, without.quad.array()[2], glass.lid)
    if kind == "note":
        made = _captured(layout, seed, glass, chance.choice(NOTES)).pixels
    found = measure(Raster(made, (300.0, 300.0)))
    plan = plan_page(found, Treatment(clear_surround="always"))
    if kind == "note":
        ink = without.pixels.min(axis=2).astype(int) - made.min(axis=2) > 25
        kept = float((ink & _kept(plan, ink.shape)).sum() / max(1, ink.sum()))
    return Found(kept, {finding.check for finding in check_border(found, plan)})


def rows(seed: int, each: int) -> list[Row]:
    """Ink that stays, checks that speak up, checks that should not have."""
    tasks = [(layout, seed + number, kind) for layout in LAYOUTS for number in range(each) for kind in KINDS]
    results = list(zip(tasks, in_parallel(measured, tasks), strict=True))
    notes = [result for (_, _, kind), result in results if kind == "note"]
    plain = [result for (_, _, kind), result in results if kind == "plain"]
    tears = [result for (_, _, kind), result in results if kind == "torn"]
    ink = np.array([result.kept for result in notes])
    corners, false = sum("corner" in r.said for r in tears), sum(bool(r.said) for r in plain)
    said = f"{100 * ink.mean():.1f} % of notes' ink kept, least {100 * ink.min():.0f} %; corners {corners} of {len(tears)};"
    said += f" {false} of {len(plain)} plain pages flagged"
    reached = ink.mean() >= 0.99 and corners >= 0.95 * len(tears) and false <= 0.03 * len(plain)
    return [Row("ink in borders, torn corners", said, "≥ 99 % kept, ≥ 95 % of corners said, ≤ 3 % false", bool(reached))]


def _captured(layout: str, seed: int, glass: Glass, note: str) -> Capture:
    sheet, chance = LAYOUTS[layout](random.Random(seed)), random.Random(seed + 3)
    width, height = (side / sheet.ppi * 25.4 for side in sheet.size)
    if note:
        x = chance.uniform(1.5, 3) if glass.gutter == "left" else width - chance.uniform(8, 10)
        sheet.write(x, chance.uniform(40, height - 40), note, chance, 15, PENCIL, 220)
    surface = worn(sheet, PAPERS["white"], Wear(age=0.3), np.random.default_rng(seed))
    return scan(surface, sheet.words, glass, sheet.ppi, np.random.default_rng(seed))


def _kept(plan: Plan, shape: tuple[int, int]) -> np.ndarray:
    inside = _mask(plan.quad, shape)
    if plan.clear_outside is None:
        return inside
    plain = _mask(plan.clear_outside, shape)
    for spot in plan.protected:
        plain |= _mask(spot, shape)
    return inside & plain


def _mask(quad: Quad, shape: tuple[int, int]) -> np.ndarray:
    mask: Pixels = np.zeros(shape, np.uint8)
    cv2.fillConvexPoly(mask, np.rint(quad.array()).astype(np.int32), 1)
    return mask > 0
