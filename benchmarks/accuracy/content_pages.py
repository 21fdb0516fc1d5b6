"""Pages that are more than text on paper: solids, fills, pictures, dyed sheets, white on black; drawn, worn and captured.

Photographs are those that ship with scikit-image (``skimage.data``), not drawings of our own.
"""

import random
from collections.abc import Callable
from functools import cache
from typing import NamedTuple

import cv2
import numpy as np
import skimage.data

from benchmarks.accuracy.truth import PAPERS
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels
from hollowstack.standins.skerry.paper import Image3, Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import Sheet, TrueWord
from hollowstack.standins.skerry.specimens import LAYOUTS

PHOTOGRAPHS = ("astronaut", "chelsea", "coffee", "rocket", "camera", "motorcycle_left", "retina", "hubble_deep_field")
PPI = 300.0
Box = tuple[float, float, float, float]
"""Left, top, right, bottom in mm of the sheet."""


class Place(NamedTuple):
    """Something on the sheet: what, where, and how it was printed (RGB, 0 to 255; None where it is no flat colour)."""

    kind: str
    box: Box
    colour: tuple[int, int, int] | None = None


class Made(NamedTuple):
    """A captured page with its truth."""

    capture: Capture
    sheet: Sheet
    places: list[Place]

    def quad(self, box: Box) -> Quad:
        """A box of the sheet in pixels of the scan."""
        onto = Transform.onto(Quad.rectangle(0, 0, self.sheet.width_mm, self.sheet.height_mm), 1, 1)
        there = Transform.onto(self.capture.quad, 1, 1).inverse()
        return onto.then(there).quad(Quad.rectangle(*box))


@cache
def photograph(name: str) -> Pixels:
    """A photograph as RGB."""
    file = {"motorcycle_left": "motorcycle_left.png"}.get(name)
    if file:
        import os

        data = cv2.imread(os.path.join(os.path.dirname(skimage.data.__file__), file))
        return np.ascontiguousarray(data[..., ::-1])
    image = np.asarray(getattr(skimage.data, name)())
    return np.dstack([image] * 3) if image.ndim == 2 else image[..., :3]


def captured(
    sheet: Sheet, places: list[Place], chance: random.Random, rng: np.random.Generator, print_on: Callable[[Image3], None],
    *, lidded: bool | None = None, paper: str | None = None, wear: Wear | None = None,
) -> Made:  # fmt: skip
    """A sheet with what is printed on it, worn and laid on the glass as the others are."""
    wear = wear or Wear(age=chance.uniform(0, 0.5), foxing=chance.uniform(0, 0.3), folds=chance.randint(0, 1))
    surface = worn(sheet, PAPERS[paper or chance.choice(("cream", "white", "buff"))], wear, rng)
    print_on(surface)
    lidded = chance.random() < 0.5 if lidded is None else lidded
    margins = tuple(chance.uniform(4, 12) for _ in range(4)) if lidded else (0.0,) * 4
    glass = Glass(
        skew=chance.uniform(-2, 2) if lidded else chance.uniform(-0.4, 0.4),
        margins_mm=margins,
        lid=chance.choice((18, 40, 90)),
    )  # type: ignore[arg-type]
    return Made(scan(surface, sheet.words, glass, PPI, rng), sheet, places)


def ink(surface: Image3, box: Box, colour: tuple[int, int, int]) -> None:
    """A flat area: print over paper, with the paper's own shade."""
    left, top, right, bottom = _px(box)
    part = surface[top:bottom, left:right]
    tone = part.mean(axis=2, keepdims=True)
    part[:] = np.array(colour, np.float32) * (tone / max(float(tone.mean()), 1))


def tint(surface: Image3, box: Box, share: tuple[float, float, float]) -> None:
    """A pale fill: a share of the paper's light in each channel."""
    left, top, right, bottom = _px(box)
    surface[top:bottom, left:right] *= np.array(share, np.float32)


def picture(surface: Image3, box: Box, image: Pixels, *, halftone: float = 0.0) -> None:
    """A photograph printed on the paper; ``halftone`` lines an inch make it one of dots, at 45 degrees."""
    left, top, right, bottom = _px(box)
    wide, high = right - left, bottom - top
    shape = image.shape[1] / image.shape[0]
    if wide / high > shape:
        rows = round(image.shape[1] * high / wide)
        image = image[(image.shape[0] - rows) // 2 :][:rows]
    else:
        cols = round(image.shape[0] * wide / high)
        image = image[:, (image.shape[1] - cols) // 2 :][:, :cols]
    printed = cv2.resize(image, (wide, high), interpolation=cv2.INTER_CUBIC).astype(np.float32)
    if halftone:
        gray = printed.mean(axis=2) / 255
        y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
        step = np.pi * halftone / PPI * np.sqrt(2)
        dots = 0.5 + 0.25 * (np.cos((x + y) * step) + np.cos((x - y) * step))
        cover = cv2.GaussianBlur((dots > gray).astype(np.float32), (0, 0), 0.7)
        printed = np.repeat((1 - 0.88 * cover)[..., None] * 255, 3, axis=2)
    surface[top:bottom, left:right] *= (0.06 + 0.94 * printed / 255) if not halftone else printed / 255


def text(chance: random.Random, layout: str = "prose") -> Sheet:
    """A written sheet of A4's size."""
    sheet = Sheet(210, 297)
    inner = LAYOUTS[layout](chance)
    for colour, layer in inner.layers.items():
        sheet.pen(colour)
        sheet.layers[colour].paste(layer, (sheet.px(15), sheet.px(25)))
    x, y = sheet.px(15), sheet.px(25)
    for word in inner.words:
        left, top, right, bottom = word.box
        sheet.words.append(TrueWord(word.text, (left + x, top + y, right + x, bottom + y)))
    return sheet


def _px(box: Box) -> tuple[int, int, int, int]:
    left, top, right, bottom = (round(v * PPI / 25.4) for v in box)
    return left, top, right, bottom
