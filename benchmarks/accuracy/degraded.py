"""Pages that have suffered in one way each, with the text that was on them."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np

from benchmarks.accuracy.truth import PAPERS
from hollowstack.core.page.raster import Pixels, Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.readable import READABLE
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.sheet import TrueWord
from hollowstack.standins.skerry.specimens import LAYOUTS

PPI = 300.0


@dataclass(frozen=True, slots=True)
class Degraded:
    """A page as captured; what is written on it, in order; where its ink is, without wear, in the same place."""

    image: Raster
    text: str
    ink: Pixels
    """1 where a page without wear would be darker than half-way from paper to ink."""
    words: list[TrueWord]
    """What is written, with where that is in an image as wide as ``width``."""
    width: int


@dataclass(frozen=True, slots=True)
class Harm:
    """What happened to a page, and the treatment that is meant for it."""

    treatment: str
    wear: dict[str, Any]
    glass: dict[str, Any]
    after: Callable[[Pixels, float, np.random.Generator], Pixels] = lambda pixels, amount, rng: pixels
    back: bool = False


def shade(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    """Light that falls off to one corner, to a third."""
    rows, cols = pixels.shape[:2]
    slope = np.add.outer(np.linspace(0, 1, rows), np.linspace(0, 1, cols)) / 2
    return _as_pixels(pixels * (1 - 0.66 * amount * slope[..., None] ** 1.3))


def _pale(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    """Light through the paper, as with the lid open: the tones are drawn together, and noise is not."""
    return _as_pixels(
        150 + (pixels.astype(np.float32) - 150) * (1 - 0.7 * amount) + rng.normal(0, 5 * amount, pixels.shape[:2])[..., None]
    )


def _noisy(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    return _as_pixels(pixels + rng.normal(0, 26 * amount, pixels.shape[:2])[..., None])


def _stained(pixels: Pixels, amount: float, rng: np.random.Generator) -> Pixels:
    """Brown water marks over much of the page."""
    rows, cols = pixels.shape[:2]
    cloud = cv2.resize(rng.normal(0, 1, (7, 5)).astype(np.float32), (cols, rows), interpolation=cv2.INTER_CUBIC)
    stain = np.clip(cloud - 0.1, 0, 1)[..., None] * np.array([0.42, 0.52, 0.66]) * amount
    return _as_pixels(pixels * (1 - stain))


HARMS: dict[str, Harm] = {
    "faded": Harm("faint typescript", {"fade": 1.5}, {}),
    "uneven light": Harm("everyday", {}, {"skew": 1.2}, shade),
    "pale": Harm("faint typescript", {}, {}, _pale),
    "noisy": Harm("everyday", {"fade": 0.5}, {"skew": -1.0}, _noisy),
    "stained": Harm("everyday", {"age": 0.8, "foxing": 0.8}, {}, _stained),
    "shows through": Harm("everyday", {"show_through": 3.6}, {}, back=True),
    "bound": Harm("bound volume", {}, {"skew": 1.8, "margins_mm": (12, 9, 9, 9), "lid": 30, "gutter": "left"}),
    "askew": Harm("everyday", {}, {"skew": 6.5, "margins_mm": (14, 14, 14, 14), "lid": 50}),
}
CLEAN = Harm("everyday", {"age": 0.1, "foxing": 0.0, "fade": 0.0}, {"skew": 0.2})


def degraded(layout: str, seed: int, harm: Harm, amount: float = 1.0) -> Degraded:
    """A page of a layout that came to harm, by an amount up to 1."""
    sheet = {**LAYOUTS, **READABLE}[layout](random.Random(seed))
    wear = replace(
        Wear(age=0.3, foxing=0.1, fade=0.1, show_through=0.0), **{name: value * amount for name, value in harm.wear.items()}
    )
    glass = Glass(**{name: value * amount if name == "skew" else value for name, value in harm.glass.items()})
    back = LAYOUTS["prose"](random.Random(seed + 1)) if harm.back else None
    back = back if back is not None and back.size == sheet.size else sheet if harm.back else None
    rng = np.random.default_rng(seed)
    surface = worn(sheet, PAPERS["white"], wear, rng, back)
    made = scan(surface, sheet.words, glass, sheet.ppi, rng)
    ideal = worn(sheet, (255, 255, 255), Wear(0, 0, 0, False, 0, 0), np.random.default_rng(1))
    plain = scan(ideal, [], replace(glass, gutter="", lid=255, noise=0), sheet.ppi, np.random.default_rng(1))
    image = Raster(harm.after(made.pixels, amount, rng), (PPI, PPI))
    # Wear without age still has texture; ink is what is darker than half of the way to it.
    text, ink = " ".join(word.text for word in sheet.words), (plain.pixels.max(axis=2) < 140).astype(np.uint8)
    return Degraded(image, text, ink, made.words, made.pixels.shape[1])


def _as_pixels(values: np.ndarray) -> Pixels:
    return np.clip(values + 0.5, 0, 255).astype(np.uint8)
