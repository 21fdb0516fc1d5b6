"""What pages need to be kept in: two tones, grey, or colour."""

import random

import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.sheet import PENCIL, RED, Sheet
from hollowstack.standins.skerry.specimens import LAYOUTS

INK_BLUE = (40, 60, 150)
MARKER = (250, 240, 90)
KINDS = {
    "print": "bitonal", "yellowed print": "bitonal", "grey cast": "bitonal", "colour fringes": "bitonal", "pencil": "grey",
    "blue signature": "colour", "signature and fringes": "colour", "highlighter": "colour", "red stamp": "colour", "pink paper": "colour",
}  # fmt: skip


def measured(task: tuple[str, int]) -> tuple[str, str]:
    """Kind and what was found."""
    kind, seed = task
    chance, rng = random.Random(seed * 23 + 9), np.random.default_rng(seed)
    sheet: Sheet = LAYOUTS[chance.choice(("prose", "columns", "Greek", "few lines"))](random.Random(seed))
    height = sheet.height_mm
    if kind == "pencil":
        sheet.write(20, height - 30, "compare with the log of June", chance, 16, PENCIL, 120)
    elif "signature" in kind:
        sheet.write(30, height - 24, "H. Larch", chance, 19, INK_BLUE)
    elif kind == "red stamp":
        sheet.print(40, height - 22, "PAID", "LeagueGothic-Regular", 14, RED, "ls", 170)
    elif kind == "highlighter":
        sheet.pen(MARKER).rectangle([sheet.px(20), sheet.px(30), sheet.px(70), sheet.px(35)], fill=190)
    wear = Wear(age=0.85 if kind == "yellowed print" else 0.25, foxing=0.3 if kind == "yellowed print" else 0.1)
    paper = PAPERS["pink"] if kind == "pink paper" else PAPERS["cream" if kind == "yellowed print" else "white"]
    made = scan(worn(sheet, paper, wear, rng), [], Glass(skew=chance.uniform(-1, 1)), 300, rng)
    pixels = made.pixels
    if kind == "grey cast":
        pixels = np.clip(pixels.astype(np.float32) * [0.94, 1.0, 1.03] * 0.85, 0, 255).astype(np.uint8)
    elif "fringes" in kind:
        pixels = np.dstack([np.roll(pixels[..., 0], 1, axis=0), pixels[..., 1], np.roll(pixels[..., 2], -1, axis=0)])
    return kind, measure(Raster(np.ascontiguousarray(pixels), (300.0, 300.0))).colour


def rows(seed: int, each: int) -> list[Row]:
    """Share that is right, and what was taken for what."""
    results = list(in_parallel(measured, [(kind, seed + number) for kind in KINDS for number in range(each)]))
    wrong = sorted({f"{kind}: {found}" for kind, found in results if KINDS[kind] != found})
    share = float(np.mean([KINDS[kind] == found for kind, found in results]))
    print("         colour content, wrong:", ", ".join(wrong) or "none")
    return [Row("colour content", f"{100 * share:.1f} % of {len(results)} right", "≥ 97 %", share >= 0.97)]
