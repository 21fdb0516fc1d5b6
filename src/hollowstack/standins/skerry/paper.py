"""Paper and wear: a drawn sheet as an object with a surface, as it looks after ninety years."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.standins.skerry.sheet import Colour, Sheet

Image3 = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Wear:
    """How a sheet has fared; every amount runs from 0 (none) to 1 (much)."""

    age: float = 0.4
    foxing: float = 0.3
    folds: int = 0
    holes: bool = False
    fade: float = 0.1
    show_through: float = 0.5


def worn(sheet: Sheet, base: Colour, wear: Wear, rng: np.random.Generator, back: Sheet | None = None) -> Image3:
    """The sheet's surface in sRGB, float32 (rows, cols, 3), 0 to 255.

    Args:
        sheet: What is on this side.
        base: Colour of the paper when new.
        back: What is on the other side, to show through.
    """
    cols, rows = sheet.size
    page = np.empty((rows, cols, 3), np.float32)
    page[:] = np.array(base, np.float32)
    _age(page, wear, rng)
    texture = (
        1 + 0.010 * _cloud(rows, cols, 3, rng) + 0.008 * _cloud(rows, cols, 9, rng) + 0.012 * _cloud(rows, cols, 160, rng)
    )
    page *= texture[..., None]
    if back is not None and wear.show_through > 0:
        ghost = np.zeros((rows, cols), np.float32)
        for layer in back.layers.values():
            ghost = np.maximum(ghost, np.asarray(layer, np.float32)[:, ::-1] / 255)
        ghost = cv2.GaussianBlur(ghost, (0, 0), 4.0)
        page *= (1 - 0.085 * wear.show_through * ghost)[..., None]
    _folds(page, wear, rng)
    for colour, layer in sheet.layers.items():
        _ink(page, np.asarray(layer), colour, wear, rng)
    _foxing(page, wear, rng)
    return page


def _age(page: Image3, wear: Wear, rng: np.random.Generator) -> None:
    """Yellowed, more so towards the edges."""
    rows, cols = page.shape[:2]
    y = np.minimum(np.arange(rows), np.arange(rows)[::-1])[:, None] / 300
    x = np.minimum(np.arange(cols), np.arange(cols)[::-1])[None, :] / 300
    edge = np.exp(-3.2 * np.minimum(y, x)).astype(np.float32)
    tint = np.array([0.03, 0.062, 0.15], np.float32) * wear.age
    amount = 0.55 + 0.45 * edge + 0.16 * _cloud(rows, cols, 420, rng)
    page *= 1 - tint * amount[..., None]


def _cloud(rows: int, cols: int, size: int, rng: np.random.Generator) -> npt.NDArray[np.float32]:
    """Smooth noise of about unit deviation whose blobs are about ``size`` pixels."""
    small = rng.standard_normal((rows // size + 3, cols // size + 3), dtype=np.float32)
    return np.asarray(cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC), np.float32)


def _ink(page: Image3, layer: npt.NDArray[np.uint8], colour: Colour, wear: Wear, rng: np.random.Generator) -> None:
    """Ink sinks in: soft rims, uneven cover, fading."""
    rows, cols = layer.shape
    boxes = cv2.boundingRect(layer)
    x, y, w, h = boxes
    if not w or not h:
        return
    x0, y0, x1, y1 = max(0, x - 8), max(0, y - 8), min(cols, x + w + 8), min(rows, y + h + 8)
    cover = cv2.GaussianBlur(layer[y0:y1, x0:x1].astype(np.float32) / 255, (0, 0), 1.05)
    cover *= 1 + 0.10 * _cloud(y1 - y0, x1 - x0, 5, rng) + 0.08 * _cloud(y1 - y0, x1 - x0, 60, rng)
    cover = np.clip(cover * (1 - 0.5 * wear.fade), 0, 0.97)[..., None]
    part = page[y0:y1, x0:x1]
    part += (np.array(colour, np.float32) - part) * cover


def _folds(page: Image3, wear: Wear, rng: np.random.Generator) -> None:
    """A crease catches the light on one side and shadow on the other."""
    rows = page.shape[0]
    for index in range(wear.folds):
        middle = rows * (index + 1) / (wear.folds + 1) + rng.normal(0, 8)
        at = np.arange(rows, dtype=np.float32) - middle
        shade = (
            -0.055 * np.exp(-((at / 3.0) ** 2)) + 0.02 * np.exp(-(((at - 9) / 7) ** 2)) - 0.015 * np.exp(-((at / 50) ** 2))
        )
        page *= (1 + shade)[:, None, None]


def _foxing(page: Image3, wear: Wear, rng: np.random.Generator) -> None:
    """Small brown spots, a few larger and paler."""
    rows, cols = page.shape[:2]
    for _ in range(int(rng.poisson(26 * wear.foxing))):
        radius = float(np.exp(rng.normal(1.9, 0.6)))
        reach = int(radius * 3) + 2
        cx, cy = int(rng.integers(reach, cols - reach)), int(rng.integers(reach, rows - reach))
        y, x = np.mgrid[-reach:reach, -reach:reach].astype(np.float32)
        blot = np.exp(-((np.hypot(x, y) / radius) ** 2)) * min(0.16, 0.5 / radius) * wear.foxing**0.5
        spot = page[cy - reach : cy + reach, cx - reach : cx + reach]
        spot += (np.array([140, 98, 56], np.float32) - spot) * blot[..., None].astype(np.float32)
