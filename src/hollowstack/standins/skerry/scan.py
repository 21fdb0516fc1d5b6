"""The capture: a sheet laid on the glass a little crooked, seen through lamp, lens and sensor."""

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.standins.skerry.paper import Image3
from hollowstack.standins.skerry.sheet import TrueWord

Pixels = npt.NDArray[np.uint8]
Quarter = Literal[0, 90, 180, 270]


@dataclass(frozen=True, slots=True)
class Glass:
    """How a sheet is captured. ``tilt`` turns it clockwise; ``turn`` is how far off upright it lies, clockwise."""

    skew: float = 0.0
    turn: Quarter = 0
    margins_mm: tuple[float, float, float, float] = (0, 0, 0, 0)
    """Glass seen beyond the sheet: left, top, right, bottom."""
    lid: int = 40
    gutter: Literal["", "left", "right"] = ""
    """The side on which a bound volume runs into the dark of its gutter."""
    holes: bool = False
    noise: float = 2.2


@dataclass(frozen=True, slots=True)
class Capture:
    """A scan and its truth; ``quad`` are the sheet's corners in reading order of the upright page, in pixels of the scan."""

    pixels: Pixels
    quad: Quad
    words: list[TrueWord]
    skew: float
    turn: Quarter


def scan(surface: Image3, words: list[TrueWord], glass: Glass, ppi: float, rng: np.random.Generator) -> Capture:
    """Lay a sheet on the glass and capture it in colour."""
    rows, cols = surface.shape[:2]
    px = ppi / 25.4
    left, top, right, bottom = (round(m * px) for m in glass.margins_mm)
    width, height = cols + left + right, rows + top + bottom
    place = Transform(np.array([[1, 0, left], [0, 1, top], [0, 0, 1]], float)).then(
        Transform.rotation(glass.skew, Point(left + cols / 2, top + rows / 2))
    )
    if glass.holes:
        _punch(surface, ppi, glass.lid)
    image = _bed(height, width, glass, rng)
    _lay(image, surface, place, edges=any(glass.margins_mm) or bool(glass.gutter), lid=glass.lid)
    if glass.gutter:
        _gutter(image, glass.gutter, left if glass.gutter == "left" else right, px, rng)
    image += rng.normal(0, glass.noise, image.shape[:2]).astype(np.float32)[..., None]
    image += rng.normal(0, glass.noise * 0.5, (*image.shape[:2], 1)).astype(np.float32)
    pixels = np.clip(image + 0.5, 0, 255).astype(np.uint8)
    turn = Transform.turn(glass.turn, width, height)
    whole = place.then(turn)
    true_words = [TrueWord(w.text, _box(whole, w.box)) for w in words]
    quad = whole.quad(Quad.rectangle(0, 0, cols, rows))
    return Capture(np.ascontiguousarray(np.rot90(pixels, -glass.turn // 90)), quad, true_words, glass.skew, glass.turn)


def _bed(height: int, width: int, glass: Glass, rng: np.random.Generator) -> Image3:
    """The inside of the lid, dusty and unevenly lit."""
    bed = np.full((height, width, 3), glass.lid, np.float32)
    light = cv2.resize(rng.normal(0, 1, (4, 4)).astype(np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    bed += 2.5 * light[..., None]
    return bed


def _lay(image: Image3, surface: Image3, place: Transform, *, edges: bool, lid: int) -> None:
    """Resample the sheet into the image, with a soft shadow beside it where its edges show."""
    height, width = image.shape[:2]
    matrix = place.matrix.copy()
    centre = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(centre) @ matrix @ centre
    if not edges:
        laid = cv2.warpPerspective(surface, matrix, (width, height), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        image[:] = laid
        return
    laid = cv2.warpPerspective(surface, matrix, (width, height), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    cover = cv2.warpPerspective(np.ones(surface.shape[:2], np.float32), matrix, (width, height), flags=cv2.INTER_LINEAR)
    shade = cv2.GaussianBlur(cover, (0, 0), 9) * (0.35 if lid > 90 else 0.0)
    shadow = np.roll(shade, (7, 5), axis=(0, 1))
    image *= (1 - shadow * (1 - cover))[..., None]
    image += (laid - image) * cover[..., None]


def _gutter(image: Image3, side: str, margin: int, px: float, rng: np.random.Generator) -> None:
    """The page bends down towards the binding: it darkens, then there is only black."""
    cols = image.shape[1]
    depth = np.arange(cols, dtype=np.float32) if side == "left" else np.arange(cols, dtype=np.float32)[::-1]
    wave = cv2.resize(rng.normal(0, 1.2, (9, 1)).astype(np.float32), (1, image.shape[0]), interpolation=cv2.INTER_CUBIC)
    at = (depth[None, :] - margin + wave * px * 0.15) / px
    light = np.clip(1 / (1 + np.exp(-(at - 1.2) * 1.9)), 0, 1) * np.clip(0.86 + 0.14 * at / 16, 0.0, 1.0)
    image *= np.maximum(light, 0.04)[..., None]


def _punch(surface: Image3, ppi: float, lid: int) -> None:
    """Two filing holes of 5.5 mm, 80 mm apart, through which the lid is seen."""
    rows = surface.shape[0]
    px = ppi / 25.4
    for offset in (-40, 40):
        centre = (round(11 * px), round(rows / 2 + offset * px))
        cv2.circle(surface, centre, round(2.75 * px), (lid, lid, lid), -1, cv2.LINE_AA)


def _box(transform: Transform, box: tuple[float, float, float, float]) -> tuple[float, float, float, float]:
    l, t, r, b = box  # noqa: E741
    corners = transform.apply([(l, t), (r, t), (r, b), (l, b)])
    (x0, y0), (x1, y1) = corners.min(axis=0), corners.max(axis=0)
    return (round(float(x0), 1), round(float(y0), 1), round(float(x1), 1), round(float(y1), 1))
