"""What the steps make of a page, in figures: measurements, plans, findings, and the clean pages' tones place by place."""

from typing import Any

import cv2
import numpy as np

from hollowstack.core.check import check_page
from hollowstack.core.check.guard import guard
from hollowstack.core.measure import MEASURE_VERSION, Measurements, measure
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import RENDER_VERSION, render
from hollowstack.core.settings.adjustments import Adjustments
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment

VERSIONS = {"measure": MEASURE_VERSION, "render": RENDER_VERSION}
_WAYS: dict[str, tuple[Treatment, Override]] = {
    "everyday": (Treatment(), Override()),
    "two tones": (
        Treatment(colour="bitonal", clear_surround="always", bitonal_ppi=200, reduce_show_through=True),
        Override(adjust=Adjustments(strengthen=30)),
    ),
    "by hand": (
        Treatment(colour="colour", even_tone=False, balance="grey world", clear_surround="never", target_ppi=110),
        Override(adjust=Adjustments(brightness=10, contrast=15, saturation=-20, warmth=12, tint=-8, sharpen=30, gamma=1.2)),
    ),
    "thresholds of their own": (
        Treatment(colour="bitonal", bitonal_method="local", even_tone=False), Override(turn=90, skew=1.0)
    ),
}  # fmt: skip
_GRID = (4, 5)
_GUARDED = {"everyday", "two tones"}


def figures_of(image: Raster, *, whole: bool = True) -> dict[str, Any]:
    """Everything that is on record of a page; but for ``whole`` without its clean pages, which take the longest."""
    found = measure(image)
    ways: dict[str, Any] = {}
    for name, (treatment, override) in _WAYS.items():
        plan = plan_page(found, treatment, override)
        findings = check_page(found, plan, None)
        ways[name] = {
            "plan": _planned(plan),
            "findings": [[finding.check, finding.verdict, finding.value] for finding in findings],
        }
        if whole:
            page = render(image, plan)
            ways[name]["page"] = _tones(page.pixels)
            ways[name]["guard"] = _guarded(image, plan, page) if name in _GUARDED else []
    return {"measured": _measured(found), **ways}


def without_clean_pages(figures: dict[str, Any]) -> dict[str, Any]:
    """What is on record of a page besides its clean pages."""
    ways = {name: {what: told for what, told in figures[name].items() if what not in ("page", "guard")} for name in _WAYS}
    return {"measured": figures["measured"], **ways}


def _measured(found: Measurements) -> dict[str, Any]:
    plain = found.model_dump(exclude={"regions", "paper_map"}, mode="json")
    plain["regions"] = [
        [region.kind, region.area_mm2, region.level, region.spread, region.certainty, region.coloured, *_box(region.outline)]
        for region in found.regions
    ]
    if found.paper_map is not None:
        channels = len(found.paper)
        plain["paper_level"] = _tones(found.paper_map.level_on(found.page_quad, (120, 160), channels))
        plain["content"] = _tones(255 * found.paper_map.content_on(found.page_quad, (120, 160)))
    return plain


def _planned(plan: Plan) -> dict[str, Any]:
    return plan.model_dump(mode="json", exclude={"paper_map", "adjust", "jpeg_quality", "packing", "layers"})


def _guarded(image: Raster, plan: Plan, page: Raster) -> list[Any]:
    """What the guard says of the clean page, and of three that were spoilt: whitened in part, bleached, written upon."""
    rows, cols = page.pixels.shape[:2]
    whitened, bleached, written = page.pixels.copy(), page.pixels.copy(), page.pixels.copy()
    whitened[rows // 3 : rows // 2, cols // 4 : cols // 2] = 250
    bleached = as_pixels(np.clip(bleached.astype(np.int16) + 60, 0, 255).astype(np.uint8))
    cv2.putText(
        written, "seen", (cols // 3, rows // 5), cv2.FONT_HERSHEY_SIMPLEX, cols / 500, (30,) * 3, max(1, cols // 300)
    )
    said = []
    for pixels in (page.pixels, whitened, bleached, written):
        found = guard(image, plan, Raster(pixels, page.ppi))
        said.append([found.percent, found.kind, found.spot])
    return said


def _tones(pixels: Pixels) -> list[list[float]]:
    """Mean tone and its deviation over the cells of a grid, all channels together."""
    gray = pixels if pixels.ndim == 2 else pixels @ np.array([0.2, 0.5, 0.3])
    cells = [part for band in np.array_split(gray, _GRID[1]) for part in np.array_split(band, _GRID[0], axis=1)]
    return [[round(float(values.mean()), 2), round(float(values.std()), 2)] for values in cells if values.size]


def _box(outline: Any) -> list[float]:
    points = np.array(outline, float)
    return [*points.min(axis=0).tolist(), *points.max(axis=0).tolist()]


def differences(now: Any, recorded: Any, where: str = "") -> list[str]:
    """Where two sets of figures are not the same, in words; numbers may differ by a thousandth, as machines do."""
    if isinstance(now, dict) and isinstance(recorded, dict) and now.keys() == recorded.keys():
        return [line for key in now for line in differences(now[key], recorded[key], f"{where} {key}")]
    if isinstance(now, list | tuple) and isinstance(recorded, list | tuple) and len(now) == len(recorded):
        pairs = enumerate(zip(now, recorded, strict=True))
        return [line for number, (one, other) in pairs for line in differences(one, other, f"{where}[{number}]")]
    if _is_number(now) and _is_number(recorded) and abs(now - recorded) <= 0.004 + 0.001 * abs(recorded):
        return []
    return [] if now == recorded else [f"{where.strip()}: {now}, on record {recorded}"]


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)
