"""What is decided of whole pages: blanks of twelve kinds, photographs that say nothing of a camera, facing pages, negatives."""

import random

import cv2
import numpy as np

from benchmarks.accuracy import content_kinds, gutter
from benchmarks.accuracy.degraded import shade
from benchmarks.accuracy.photographs import TABLES
from benchmarks.accuracy.truth import PAPERS, Row, drawn, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.core.plan.planning import plan_page, split_overrides
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.sheet import Sheet
from hollowstack.standins.skerry.specimens import LAYOUTS

EVERYDAY = SHIPPED["everyday"]
PPI = (300.0, 300.0)
BLANKS = (
    "white", "yellow", "kraft", "textured", "creased", "holed", "stapled", "dusty", "shadowed", "shown through", "foxed", "bound",
)  # fmt: skip
_DYES = {"yellow": (240, 222, 166), "kraft": (198, 166, 124)}
_PX_MM = 300 / 25.4


def blank(task: tuple[str, int]) -> bool:
    """Whether a blank sheet of a kind is held aside."""
    kind, seed = task
    chance, rng = random.Random(f"{kind} {seed}"), np.random.default_rng(seed)
    wear = Wear(
        age=chance.uniform(0.1, 0.5), foxing=0.8 if kind == "foxed" else 0.1, folds=4 if kind == "creased" else 0,
        show_through=chance.uniform(0.7, 1.1) if kind == "shown through" else 0.0,
    )  # fmt: skip
    sheet = Sheet(148, 210)
    back = None
    if kind == "shown through":
        back = Sheet(148, 210)
        for line in range(20):
            back.type(18, 24 + 8 * line, "whole turns about the lamp once in twenty-four", chance)
    surface = worn(sheet, _DYES.get(kind, PAPERS[chance.choice(("white", "cream", "buff"))]), wear, rng, back)
    lidded = kind == "bound" or chance.random() < 0.6
    glass = Glass(
        skew=chance.uniform(-1.5, 1.5) if lidded else 0.0,
        margins_mm=tuple(chance.uniform(4, 10) for _ in range(4)) if lidded else (0.0,) * 4,  # type: ignore[arg-type]
        lid=chance.choice((20, 60, 200)), gutter="left" if kind == "bound" else "", holes=kind == "holed",
    )  # fmt: skip
    pixels = _soiled(scan(surface, [], glass, 300, rng).pixels, kind, chance, rng)
    return plan_page(measure(Raster(pixels, PPI)), EVERYDAY).aside == "blank"


def _soiled(pixels: Pixels, kind: str, chance: random.Random, rng: np.random.Generator) -> Pixels:
    """What comes onto a sheet between its making and its capture."""
    rows, cols = pixels.shape[:2]
    if kind == "textured":
        fibres = cv2.GaussianBlur(rng.normal(0, 1, (rows, cols)).astype(np.float32), (0, 0), 4, sigmaY=1.5)
        laid = 1.5 * np.sin(np.arange(rows) * 2 * np.pi / (1.1 * _PX_MM))[:, None]
        return np.clip(pixels + (22 * fibres + laid)[..., None], 0, 255).astype(np.uint8)
    if kind == "shadowed":
        return shade(pixels, chance.uniform(0.2, 0.5), rng)
    if kind == "stapled":
        x, y = (int(chance.uniform(12, 22) * _PX_MM) for _ in range(2))
        lean = int(chance.uniform(-2, 2) * _PX_MM)
        made = pixels.copy()
        cv2.line(made, (x, y), (x + int(11 * _PX_MM), y + lean), (110, 108, 104), 6, cv2.LINE_AA)
        return made
    if kind == "dusty":
        made = pixels.copy()
        for _ in range(60):
            at = (int(rng.uniform(0.1, 0.9) * cols), int(rng.uniform(0.1, 0.9) * rows))
            cv2.circle(made, at, int(rng.uniform(1, 0.35 * _PX_MM)), (70, 68, 62), -1, cv2.LINE_AA)
        return made
    return pixels


def photographed(task: tuple[str, int]) -> float:
    """Corner error of the plan for a photograph whose file says nothing of a camera, as a share of the diagonal."""
    layout, seed = task
    chance, rng = random.Random(seed * 13 + 5), np.random.default_rng(seed)
    sheet = LAYOUTS[layout](random.Random(seed))
    surface = worn(sheet, PAPERS[chance.choice(list(PAPERS))], Wear(age=0.3, foxing=0.2, folds=1), rng)
    view = View(
        size_px=(1800, 2400), fills=chance.uniform(0.6, 0.85), table=TABLES[seed % len(TABLES)],
        lean=(chance.choice((-1, 1)) * chance.uniform(6, 20), chance.uniform(-14, 14)), turned_deg=chance.uniform(-6, 6),
        shadow=chance.uniform(0, 0.3), blur_px=chance.uniform(0.6, 1.2),
    )  # fmt: skip
    pixels, quad = photograph(surface, view, rng)
    plan = plan_page(measure(Raster(pixels)), EVERYDAY)
    found = np.roll(plan.quad.array(), -plan.turn // 90, axis=0)
    off = min(np.hypot(*(np.roll(found, turn, axis=0) - quad.array()).T).mean() for turn in range(4))
    return float(off / np.hypot(*view.size_px))


def split(task: tuple[str, int]) -> bool:
    """Whether facing pages become two along their fold."""
    surface, fold, _, rng = gutter.facing(*task, shallowest=0.3)
    image = Raster(scan(surface, [], Glass(skew=0.0), 300, rng).pixels, PPI)
    halves = split_overrides(measure(image), EVERYDAY)
    if len(halves) != 2 or halves[0].split is None:
        return False
    return all(abs(end.x - fold[0].x) <= 1.5 * _PX_MM for end in (halves[0].split.start, halves[0].split.end))


def single_split(task: tuple[str, int]) -> bool:
    """Whether a single page is split."""
    layout, seed = task
    made = drawn(layout, seed, Glass(skew=random.Random(seed).uniform(-2, 2)))[1]
    return len(split_overrides(measure(Raster(made.pixels, PPI)), EVERYDAY)) > 1


def negative_words(seed: int) -> float:
    """Share of the words read on a page white on black."""
    made = content_kinds.negatives(random.Random(f"negative {seed}"), np.random.default_rng(seed))
    image = Raster(made.capture.pixels, PPI)
    read = set(read_rendered(image, plan_page(measure(image), EVERYDAY), "eng").text.split())
    return float(np.mean([word.text in read for word in made.sheet.words]))


def rows(seed: int, each: int) -> list[Row]:
    """A row for each of the four."""
    each = max(2, each // 2)
    blanks = [(kind, seed + number) for kind in BLANKS for number in range(each)]
    held = list(zip(blanks, in_parallel(blank, blanks), strict=True))
    missed = sorted({kind for (kind, _), aside in held if not aside})
    count = sum(aside for _, aside in held)
    layouts = [layout for layout in LAYOUTS if layout in {"prose", "columns", "table", "form", "figure"}]
    off = np.array(
        list(in_parallel(photographed, [(layout, seed + number) for layout in layouts for number in range(each)]))
    )
    facing = list(in_parallel(split, [(layout, seed + number) for layout in layouts for number in range(2 * each)]))
    singles = list(
        in_parallel(single_split, [(layout, seed + 400 + number) for layout in layouts for number in range(2 * each)])
    )
    words = list(in_parallel(negative_words, [seed + number for number in range(2 * each)]))
    return [
        Row("blanks of twelve kinds aside", f"{count} of {len(held)} {missed or ''}", "≥ 98 %", count >= 0.98 * len(held)),
        Row("photographs without EXIF: corners", f"mean {100 * off.mean():.2f} %, worst {100 * off.max():.2f} % of the diagonal, of {len(off)}",
            "mean ≤ 0.5 %", bool(off.mean() <= 0.005)),
        Row("facing pages split, single ones", f"{sum(facing)} of {len(facing)} at their fold; {sum(singles)} of {len(singles)} single ones",
            "≥ 99 %; none", sum(facing) >= 0.99 * len(facing) and not any(singles)),
        Row("negatives and blueprints: words read", f"{100 * np.mean(words):.1f} %, least {100 * min(words):.1f} %, of {len(words)} pages", "≥ 95 %", bool(np.mean(words) >= 0.95)),
    ]  # fmt: skip
