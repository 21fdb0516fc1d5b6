"""Page edges on dark, grey and white lids, tilted, punched, torn, with a gutter bar; and that no word is cut."""

import random

import numpy as np

from benchmarks.accuracy.truth import Row, drawn, in_parallel, overlap, upright
from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.specimens import LAYOUTS

LIDS = (18, 40, 70, 120, 205, 252)


def measured(task: tuple[str, int]) -> tuple[int, float, int]:
    """Lid, IoU, words that would be cut."""
    layout, seed = task
    chance = random.Random(seed * 11 + 5)
    lid = LIDS[seed % len(LIDS)]
    gutter = chance.choice(("", "", "left", "right")) if lid < 60 else ""
    glass = Glass(
        skew=chance.uniform(-4, 4), margins_mm=tuple(chance.uniform(5, 14) for _ in range(4)), lid=lid,  # type: ignore[arg-type]
        gutter=gutter, holes=chance.random() < 0.3,  # type: ignore[arg-type]
    )  # fmt: skip
    paper = "buff" if lid > 230 else "white"
    _, made = drawn(layout, seed, glass, paper)
    pixels = made.pixels
    if chance.random() < 0.25:
        pixels = torn(pixels, made.quad.array()[2], lid)
    found = find_edges(Raster(pixels, (300.0, 300.0)))
    outline = found.quad.array()
    cut = sum(not _inside(word.box, outline) for word in made.words)
    return lid, overlap(upright(found.quad, 0), made.quad), cut


def rows(seed: int, each: int) -> list[Row]:
    """Mean overlap, and how many words lie outside."""
    results = list(in_parallel(measured, [(layout, seed + number) for layout in LAYOUTS for number in range(each)]))
    shares, cut = np.array([share for _, share, _ in results]), sum(cut for _, _, cut in results)
    by_lid = ", ".join(f"{lid}: {np.mean([s for at, s, _ in results if at == lid]):.4f}" for lid in LIDS)
    print("         page edges, mean IoU by gray of the lid:", by_lid)
    said = f"mean IoU {shares.mean():.4f}, least {shares.min():.4f}, {cut} words cut, of {len(results)} pages"
    return [Row("page edges", said, "mean IoU ≥ 0.985, no word cut", bool(shares.mean() >= 0.985 and cut == 0))]


def torn(pixels: np.ndarray, corner: np.ndarray, lid: int) -> np.ndarray:
    """The lower right corner of the page gone, along a ragged line."""
    torn = pixels.copy()
    size = 140
    x, y = (round(float(v)) for v in corner)
    rng = np.random.default_rng(x + y)
    for step in range(size):
        wide = max(0, size - step + int(rng.normal(0, 5)))
        torn[y - step : y - step + 1, max(0, x - wide) : x + 12] = lid
    return torn


def _inside(box: tuple[float, float, float, float], outline: np.ndarray) -> bool:
    left, top, right, bottom = box
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    sides = np.roll(outline, -1, axis=0) - outline
    away = [
        side[0] * (corners[:, 1] - at[1]) - side[1] * (corners[:, 0] - at[0])
        for at, side in zip(outline, sides, strict=True)
    ]
    return bool(np.min(away) >= -2 * np.hypot(*sides.T).max())
