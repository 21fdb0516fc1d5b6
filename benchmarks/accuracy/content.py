"""Pages with more than text on them: whether solids, pictures, fills, covers, dividers, negatives and small marks stay."""

import random
import warnings
from collections.abc import Callable
from typing import NamedTuple

import cv2
import numpy as np

from benchmarks.accuracy import content_kinds as kinds
from benchmarks.accuracy.content_pages import Made, Place
from benchmarks.accuracy.truth import Row, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.settings.treatment import Treatment

PAPER_FROM = 250
"""Gray from which a pixel of the clean page has turned to paper."""
KINDS: dict[str, Callable[[random.Random, np.random.Generator], Made]] = {
    "solids": kinds.solids, "pictures": kinds.pictures, "fills": kinds.fills, "bleeds": kinds.bleeds,
    "dividers": kinds.dividers, "negatives": kinds.negatives,
}  # fmt: skip


class Kept(NamedTuple):
    """What became of one place: difference of lightness, correlation, share turned to paper, contrast kept, share cropped."""

    what: str
    difference: float
    correlation: float
    to_paper: float
    contrast: float
    cropped: float
    aside: bool
    polarity: bool
    told: bool = False
    """Whether a finding says that something is lost, or was spared."""

    @property
    def lost(self) -> bool:
        """Whether it is beyond the limits of the table."""
        tones = self.what in TONED and (self.correlation < 0.98 or self.difference > 4)
        flat = self.what == "solid" and self.difference > 4
        faded = self.what == "fill" and self.contrast < 0.7
        return self.aside or self.to_paper > 0.005 or self.cropped > 0.001 or not self.polarity or tones or flat or faded


TONED = {"picture", "half-tone"}


def measured(task: tuple[str, int]) -> list[Kept]:
    """The places of one page, as they are on the clean page."""
    kind, seed = task
    chance = random.Random(f"{kind} {seed}")
    made = KINDS[kind](chance, np.random.default_rng(seed))
    image = Raster(made.capture.pixels, (300.0, 300.0))
    found = measure(image)
    plan = plan_page(found, Treatment())
    if plan.aside:
        return [Kept(f"{place.kind}", 100, 0, 1, 0, 0, aside=True, polarity=False) for place in made.places]
    page, plan, (finding, *_), _ = render_guarded(image, plan)
    told = finding.verdict != "pass"
    return [_kept(made, place, image, page, plan)._replace(told=told) for place in made.places]


def _kept(made: Made, place: Place, image: Raster, page: Raster, plan: Plan) -> Kept:
    there = made.quad(_inner(place))
    before, paper = _flat(image.pixels, there), _paper_tone(made, image)
    after = _flat(page.pixels, Transform.onto(plan.quad, *plan.size_px).quad(there))
    light, dark = _lightness(np.clip(before / paper * 255, 0, 255)), _lightness(after)
    plain = _lightness(before)
    difference = min(abs(float(np.mean(light) - np.mean(dark))), abs(float(np.mean(plain) - np.mean(dark))))
    correlation = 1.0
    if place.kind in {"picture", "half-tone", "endpaper", "soft picture", "sky", "bleed"}:
        # Against the page as captured, or as its own paper has it: where a picture fills the page there is no paper to see.
        found = [_toned(values, dark) for values in (light, plain)]
        if all(found):
            correlation, difference = max(one for one in found if one)
    bare = _gray(before) >= 0.97 * float(np.mean(paper))
    white = (_gray(after) >= PAPER_FROM) & ~bare
    contrast = 1.0
    if place.kind == "fill":
        contrast = (100 - float(np.median(dark))) / max(100 - float(np.median(light)), 0.1)
    return Kept(
        place.kind, difference, correlation, float(white.mean()), contrast, _cropped(made, place, image, plan), aside=False,
        polarity=bool(np.median(dark) < 50) if place.kind == "negative" else True,
    )  # fmt: skip


def _toned(before: np.ndarray, after: np.ndarray) -> tuple[float, float] | None:
    """Correlation of tones, and their mean difference after one curve: each may change, if like ones change alike.

    None for a flat cover, which has no tones to go by.
    """
    # Doubles: in single precision a cubic through so many values is cut short.
    one, other = (cv2.GaussianBlur(values, (0, 0), 2.5).ravel().astype(np.float64) for values in (before, after))
    if one.std() <= 4:
        return None
    if other.std() < 1e-6:
        return 0.0, 100.0
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # a picture of few tones does not settle a cubic
        curve = np.polyfit(one, other, 3)
    return float(np.corrcoef(one, other)[0, 1]), float(np.mean(np.abs(np.polyval(curve, one) - other)))


def _inner(place: Place) -> tuple[float, float, float, float]:
    """Without its border, where it and the paper are mixed."""
    left, top, right, bottom = place.box
    inset = 0.6 if place.kind in {"solid", "fill"} else 1.0
    if place.kind == "fill" and right - left > 100:
        return left + 1, bottom - 1.6, right - 1, bottom - 0.6  # between the writing and the edge
    return left + inset, top + inset, right - inset, bottom - inset


def _flat(pixels: Pixels, quad: Quad) -> np.ndarray:
    a, b, _, d = quad.array()
    size = (max(2, round(np.hypot(*(b - a)) / 2)), max(2, round(np.hypot(*(d - a)) / 2)))
    onto = Transform.onto(quad, *size)
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(half) @ onto.matrix @ half
    return cv2.warpPerspective(
        cv2.blur(pixels, (2, 2)), matrix, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    )


def _paper_tone(made: Made, image: Raster) -> np.ndarray:
    """The captured paper's usual value in each channel, from the sheet's own margin."""
    part = _flat(image.pixels, made.quad((4.0, 4.0, made.sheet.width_mm - 4, 9.0)))
    return np.maximum(np.median(part.reshape(-1, part.shape[-1] if part.ndim == 3 else 1), axis=0), 1)


def _gray(values: np.ndarray) -> np.ndarray:
    return (
        values.astype(np.float32)
        if values.ndim == 2
        else values.astype(np.float32) @ np.array([0.299, 0.587, 0.114], np.float32)
    )


def _lightness(values: np.ndarray) -> np.ndarray:
    """CIE L* of sRGB values (IEC 61966-2-1; ISO/CIE 11664-4)."""
    code = values.astype(np.float32) / 255
    linear = np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)
    light = linear if linear.ndim == 2 else linear @ np.array([0.2126, 0.7152, 0.0722], np.float32)
    return np.where(light <= 216 / 24389, light * 24389 / 27, 116 * np.cbrt(light) - 16).astype(np.float32)


def _cropped(made: Made, place: Place, image: Raster, plan: Plan) -> float:
    """Share of what the image shows of a place that is not on the page."""
    frame = Quad.rectangle(0, 0, image.width, image.height).array().astype(np.float32)
    there, captured = cv2.intersectConvexConvex(made.quad(place.box).array().astype(np.float32), frame)
    shared, _ = cv2.intersectConvexConvex(captured, plan.quad.array().astype(np.float32))
    return max(0.0, 1 - float(shared) / float(there))


def marked(task: tuple[str, int]) -> bool:
    """Whether a page with one small mark is held aside."""
    kind, seed = task
    made = kinds.marks_of(kind, random.Random(f"{kind} {seed}"), np.random.default_rng(seed))
    return plan_page(measure(Raster(made.capture.pixels, (300.0, 300.0))), Treatment()).aside is not None


def rows(seed: int, each: int) -> list[Row]:
    """A row a kind."""
    tasks = [(kind, seed + number) for kind in KINDS for number in range(2 * each)]
    results = [kept for page in in_parallel(measured, tasks) for kept in page]
    marks = [(kind, seed + number) for kind in kinds.MARKS for number in range(3 * each)]
    lost = [task for task, aside in zip(marks, in_parallel(marked, marks), strict=True) if aside]
    by = {kind: [kept for kept in results if kept.what == kind] for kind in {kept.what for kept in results}}
    solids, fills, bleeds = by.get("solid", []), by.get("fill", []), by.get("bleed", [])
    pictures = [*by.get("picture", []), *by.get("half-tone", [])]
    whole = [
        kept for kind in ("blue", "green", "pink", "grey", "endpaper", "soft picture", "sky") for kept in by.get(kind, [])
    ]
    negatives = by.get("negative", [])
    return [
        _row("solid areas", solids, f"mean ΔL* {_mean(solids, 'difference'):.1f}, worst {_most(solids, 'difference'):.1f}, to paper {100 * _mean(solids, 'to_paper'):.2f} %",
             "≤ 4 / ≤ 0.5 %", _mean(solids, "difference") <= 4 and _mean(solids, "to_paper") <= 0.005),
        _row("pictures and half-tones", pictures, f"correlation least {_least(pictures, 'correlation'):.3f}, mean ΔL* {_mean(pictures, 'difference'):.1f}, to paper {100 * _mean(pictures, 'to_paper'):.2f} %",
             "≥ 0.98 / ≤ 4 / ≤ 0.5 %", _least(pictures, "correlation") >= 0.98 and _mean(pictures, "difference") <= 4 and _mean(pictures, "to_paper") <= 0.005),
        _row("pale fills and zebra rows", fills, f"contrast kept least {100 * _least(fills, 'contrast'):.0f} %, mean {100 * _mean(fills, 'contrast'):.0f} %", "≥ 70 %", _least(fills, "contrast") >= 0.7),
        _row("print to the rim", bleeds, f"cropped away mean {100 * _mean(bleeds, 'cropped'):.2f} %, most {100 * _most(bleeds, 'cropped'):.2f} %", "≤ 0.1 %", _mean(bleeds, "cropped") <= 0.001),
        _row("dividers, endpapers, soft pictures bound", whole, f"{sum(not kept.aside for kept in whole)} of {len(whole)}", "100 %", not any(kept.aside for kept in whole)),
        _row("negatives and blueprints: polarity", negatives, f"{sum(kept.polarity for kept in negatives)} of {len(negatives)} kept", "all", all(kept.polarity for kept in negatives)),
        _row("losses beyond these limits, unsaid", results, f"{sum(one.lost and not one.told for one in results)} of {sum(one.lost for one in results)}", "0", not any(one.lost and not one.told for one in results)),
        Row("marked pages lost, ten kinds of marks", f"{len(lost)} of {len(marks)} {sorted({kind for kind, _ in lost}) or ''}", "0", not lost),
    ]  # fmt: skip


def _row(what: str, kept: list[Kept], figure: str, limit: str, reached: bool) -> Row:
    return Row(what, f"{figure}, {len(kept)} places", limit, bool(kept) and bool(reached))


def _values(kept: list[Kept], name: str) -> np.ndarray:
    return np.array([getattr(one, name) for one in kept] or [np.nan])


def _mean(kept: list[Kept], name: str) -> float:
    return float(_values(kept, name).mean())


def _least(kept: list[Kept], name: str) -> float:
    return float(_values(kept, name).min())


def _most(kept: list[Kept], name: str) -> float:
    return float(_values(kept, name).max())
