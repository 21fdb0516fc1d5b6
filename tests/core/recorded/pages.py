"""Captured pages of many kinds: written, drawn, photographed, bound, torn from their neighbours; drawn alike every time."""

import random
from collections.abc import Callable
from dataclasses import replace

import cv2
import numpy as np
from skimage import data

from benchmarks.accuracy import content, content_kinds
from benchmarks.accuracy.degraded import HARMS, degraded
from benchmarks.accuracy.truth import drawn
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.standins.skerry.notices import notice
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.spread import spread
from tests.conftest import captured, typed_sheet
from tests.core.measure.test_rim import fold, text_page

Make = Callable[[], Raster]


def _halved(pixels: Pixels) -> Raster:
    """A capture of 300 ppi at 150."""
    small = cv2.resize(pixels, (pixels.shape[1] // 2, pixels.shape[0] // 2), interpolation=cv2.INTER_AREA)
    return Raster(as_pixels(small), (150.0, 150.0))


def _gray(raster: Raster) -> Raster:
    return Raster(raster.gray().pixels, raster.ppi)


def _two_toned(raster: Raster, at: int = 150) -> Raster:
    return Raster(np.where(raster.gray().pixels > at, 255, 0).astype(np.uint8), raster.ppi)


def _layout(name: str, seed: int, **glass: object) -> Make:
    return lambda: _halved(drawn(name, seed, Glass(**glass))[1].pixels)  # type: ignore[arg-type]


def _content(kind: str, seed: int) -> Make:
    def make() -> Raster:
        return _halved(content.KINDS[kind](random.Random(f"{kind} {seed}"), np.random.default_rng(seed)).capture.pixels)

    return make


def _marked(kind: str) -> Make:
    return lambda: _halved(content_kinds.marks_of(kind, random.Random(kind), np.random.default_rng(7)).capture.pixels)


def _harmed(name: str) -> Make:
    return lambda: _halved(degraded("prose", 31, HARMS[name]).image.pixels)


def _photographed(**view: object) -> Make:
    def make() -> Raster:
        surface = worn(notice(1, random.Random(3)), (240, 238, 231), Wear(0.35, 0.2, 1), np.random.default_rng(1))
        how = replace(View(size_px=(1200, 1600), blur_px=0.6), **view)  # type: ignore[arg-type]
        return Raster(photograph(surface, how, np.random.default_rng(2))[0])

    return make


def _opened() -> Raster:
    pages = [worn(typed_sheet(seed=s), (240, 236, 226), Wear(), np.random.default_rng(s)) for s in (1, 2)]
    surface, _ = spread(*pages, 150.0, 0.6, 8.0, np.random.default_rng(3))
    glass = Glass(skew=0.6, margins_mm=(8, 8, 8, 8), lid=30)
    return Raster(scan(surface, [], glass, 150.0, np.random.default_rng(4)).pixels, (150.0, 150.0))


def _barred(*, bitonal: bool) -> Raster:
    """Black bars of a lid on two sides, not quite level."""
    page = text_page(3)
    for x in range(page.shape[1]):
        page[: 30 + x // 60, x] = 12
    page[:, -40:] = 18
    raster = Raster(page, (150.0, 150.0))
    return _two_toned(raster, 128) if bitonal else raster


def _beside_a_neighbour() -> Raster:
    page = text_page(4)
    page[:, :70] = 235
    page[200:1200:34, :40] = page[208:1200:34, :40] = 40
    fold(page, 72)
    return Raster(page, (150.0, 150.0))


def _with_black_corners() -> Raster:
    """In two tones: black in the upper corners, a broken line where the paper ends on the left, a bar below."""
    page = _two_toned(Raster(text_page(5), (150.0, 150.0)), 128).pixels.copy()
    rows, cols = page.shape
    page[:24, :70] = page[:26, cols - 90 :] = 0
    rng = np.random.default_rng(9)
    for row in range(30, rows):
        if (row // 90) % 4 != 3:
            left = 34 + row // 120
            page[row, left : left + int(rng.integers(1, 5))] = 0
    page[rows - 18 :, : cols // 2] = 0
    return Raster(page, (150.0, 150.0))


def _beside_lines() -> Raster:
    """In two tones: the ends of a neighbour's lines at the right, and black that does not reach the rim."""
    page = _two_toned(Raster(text_page(6), (150.0, 150.0)), 128).pixels.copy()
    rows, cols = page.shape
    page[:, cols - 130 :] = 255
    for top in range(90, rows - 90, 31):
        page[top : top + 11, cols - 30 - top // 60 :: 3] = 0
    page[60:90, cols - 42 : cols - 34] = 0
    return Raster(page, (150.0, 150.0))


def _in_shade() -> Raster:
    """Nearly all of it darker than its own paper, with light spots in what is printed on it."""
    page = text_page(7).astype(float)
    y, x = np.mgrid[0 : 1 : page.shape[0] * 1j, 0 : 1 : page.shape[1] * 1j]
    page *= 1 - 0.42 * np.clip(1.25 * x, 0, 1) * (0.4 + 0.6 * y)
    lightest = float(np.quantile(page, 0.98))
    for top, left in ((300, 500), (700, 400)):
        page[top : top + 120, left : left + 120] = 80
        page[top + 42 : top + 78, left + 42 : left + 78] = 0.97 * lightest
    return Raster(page.clip(0, 255).astype(np.uint8), (150.0, 150.0))


def _fed(strip: float) -> Raster:
    """A page longer than it is wide by far."""
    sheet = typed_sheet(int(strip * 14), height=210 * strip)
    return Raster(captured(sheet).pixels, (150.0, 150.0))


def _open_data(name: str) -> Make:
    return lambda: Raster(np.ascontiguousarray(getattr(data, name)()), None)


PAGES: dict[str, Make] = {
    "prose": _layout("prose", 1),
    "prose on a dark lid": _layout("prose", 2, skew=1.7, margins_mm=(9, 8, 12, 7), lid=34),
    "prose on a grey lid": _layout("prose", 3, skew=-0.9, margins_mm=(5, 9, 6, 11), lid=120),
    "prose on a white lid": _layout("prose", 4, skew=-2.4, margins_mm=(9, 9, 9, 9), lid=252),
    "columns, askew": _layout("columns", 5, skew=-6.5, margins_mm=(20, 20, 20, 20), lid=25),
    "columns, on their side": _layout("columns", 6, turn=90, skew=0.4),
    "columns in two tones": lambda: _two_toned(_layout("columns", 7, skew=0.8)()),
    "few lines": _layout("few lines", 8, margins_mm=(4, 4, 4, 4), lid=18),
    "table": _layout("table", 9, skew=0.3),
    "table, upside down": _layout("table", 10, turn=180),
    "form": _layout("form", 11, skew=-0.5, margins_mm=(6, 6, 6, 6), lid=60),
    "figure": _layout("figure", 12),
    "ledger": _layout("ledger", 13, skew=1.1, margins_mm=(3, 7, 9, 5), lid=40),
    "Greek": lambda: _gray(_layout("Greek", 14, turn=270)()),
    "Cyrillic": _layout("Cyrillic", 15, skew=0.05),
    "bound at the left": _layout("prose", 16, skew=0.7, margins_mm=(12, 9, 9, 9), lid=30, gutter="left"),
    "bound at the right, grey": lambda: _gray(
        _layout("columns", 17, skew=-1.2, margins_mm=(9, 9, 12, 9), lid=45, gutter="right")()
    ),
    "holes": _layout("prose", 18, margins_mm=(7, 7, 7, 7), lid=20, holes=True),
    "noisy": _layout("prose", 19, noise=14.0),
    "heavy grain": lambda: _gray(_layout("few lines", 20, noise=30.0)()),
    **{name: _harmed(name) for name in HARMS},
    **{f"{kind} {seed}": _content(kind, seed) for kind in content.KINDS for seed in (1, 2)},
    **{kind: _marked(kind) for kind in content_kinds.MARKS[:6]},
    "photograph": _photographed(),
    "photograph, leaning": _photographed(lean=(18.0, 8.0), turned_deg=-4.0, table="slate"),
    "photograph, cut off, in glare": _photographed(shift=(0.2, 0.0), glare=0.3, blur_px=2.2, table="checked"),
    "open volume": _opened,
    "bars": lambda: _barred(bitonal=False),
    "bars in two tones": lambda: _barred(bitonal=True),
    "beside a neighbour": _beside_a_neighbour,
    "beside a neighbour in two tones": lambda: _two_toned(_beside_a_neighbour(), 128),
    "black corners in two tones": _with_black_corners,
    "beside lines in two tones": _beside_lines,
    "in shade": _in_shade,
    "strip": lambda: _fed(3.0),
    "scikit-image's page": _open_data("page"),
    "scikit-image's text": _open_data("text"),
    "scikit-image's coffee": _open_data("coffee"),
}
