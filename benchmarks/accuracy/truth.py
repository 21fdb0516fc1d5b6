"""Drawn pages whose truth is known, for ``accuracy.py``: every layout, every lid, worn by chance, from seeds."""

import random
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from typing import Any, NamedTuple

import cv2
import numpy as np

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import Sheet
from hollowstack.standins.skerry.specimens import LAYOUTS

PAPERS = {"cream": (244, 238, 222), "white": (240, 238, 231), "buff": (238, 226, 196), "pink": (243, 202, 200)}


class Row(NamedTuple):
    """One line of the table: what, how well, and what it must reach."""

    what: str
    figure: str
    limit: str
    reached: bool

    def __str__(self) -> str:
        return f"{'reached' if self.reached else 'NOT YET':8} {self.what:44} {self.figure:58} limit: {self.limit}"


def in_parallel(function: Callable[[Any], Any], tasks: Iterable[Any], workers: int = 2) -> Iterator[Any]:
    """Results in the order of the tasks; each process draws and measures, so that no picture is sent about."""
    with ProcessPoolExecutor(workers, mp_context=get_context("spawn"), initializer=_one_thread) as pool:
        yield from pool.map(function, tasks)


def _one_thread() -> None:
    cv2.setNumThreads(1)


def drawn(layout: str, seed: int, glass: Glass, paper: str = "white", wear: Wear | None = None) -> tuple[Sheet, Capture]:
    """A page of a layout, worn and captured."""
    sheet = LAYOUTS[layout](random.Random(seed))
    rng = np.random.default_rng(seed)
    chance = random.Random(seed + 1)
    wear = wear or Wear(
        age=chance.uniform(0, 0.6), foxing=chance.uniform(0, 0.4), folds=chance.randint(0, 2), fade=chance.uniform(0, 0.25)
    )
    surface = worn(sheet, PAPERS[paper], wear, rng)
    return sheet, scan(surface, sheet.words, glass, sheet.ppi, rng)


def gray(capture: Capture, *, bitonal: bool = False) -> Raster:
    """A capture in gray, or in two tones as a scanner makes them."""
    pixels: Pixels = Raster(capture.pixels).gray().pixels
    if bitonal:
        pixels = np.where(pixels > 150, 255, 0).astype(np.uint8)
    return Raster(pixels, (300.0, 300.0))


def overlap(one: Quad, other: Quad) -> float:
    """Intersection over union of two convex quads."""
    shared, _ = cv2.intersectConvexConvex(one.array().astype(np.float32), other.array().astype(np.float32))
    return float(shared / (one.area() + other.area() - shared))


def upright(quad: Quad, turn: int) -> Quad:
    """A quad in reading order of the upright page, from one in the order of its scan."""
    return Quad.of(np.roll(quad.array(), turn // 90, axis=0))
