"""How a sheet looks through a station: its place on the glass, its tilt, the lid, dust, and the mode asked for."""

import io
import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image

from hollowstack.standins.station.bundles import Leaf, Painter, blank

Pixels = npt.NDArray[np.uint8]
_LID = 44
_OPEN = 238
_SURFACE_PPI = (75.0, 300.0)
"""Sheets are drawn within these; a finer capture enlarges what was drawn, as a lens that resolves no more."""


@dataclass(frozen=True, slots=True)
class Lying:
    """A sheet on the glass or in the path: centre in mm of the scanning area, clockwise tilt in degrees, which side, and how
    far it lies turned: 0, 90, 180 or 270 degrees clockwise."""

    leaf: Leaf
    x_mm: float
    y_mm: float
    skew: float = 0.0
    back: bool = False
    turn: int = 0

    @property
    def width_mm(self) -> float:
        """Across the image, as it lies."""
        return self.leaf.height_mm if self.turn % 180 else self.leaf.width_mm

    @property
    def height_mm(self) -> float:
        """Down the image, as it lies."""
        return self.leaf.width_mm if self.turn % 180 else self.leaf.height_mm


@dataclass(frozen=True, slots=True)
class Area:
    """What is captured, in mm of the scanning area, and how finely."""

    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float
    ppi: int


def see(sheets: Sequence[Lying], area: Area, *, lid_open: bool = False, dust: bool = False, seed: int = 0) -> Pixels:
    """The scanning area in colour."""
    px = area.ppi / 25.4
    width, height = max(1, round(area.width_mm * px)), max(1, round(area.height_mm * px))
    rng = np.random.default_rng(seed)
    image = np.full((height, width, 3), _OPEN if lid_open else _LID, np.uint8)
    for lying in sheets:
        _lay(image, lying, area, seed, lid_open=lid_open)
    if dust:
        at, wide = round(width * 0.37), max(1, round(0.2 * px))
        image[:, at : at + wide] = (image[:, at : at + wide] * 0.55).astype(np.uint8)
    for top in range(0, height, 2048):  # band by band, so that a strip of 20,000 rows needs no memory of its size
        band = image[top : top + 2048]
        grain = rng.integers(-5, 6, band.shape[:2], dtype=np.int16)[..., None]
        band[:] = np.clip(band.astype(np.int16) + grain, 0, 255)
    return image


def corners(lying: Lying, area: Area) -> list[tuple[float, float]]:
    """The sheet's corners in pixels of the capture, from its top-left corner clockwise: the truth of where it lies."""
    px = area.ppi / 25.4
    angle = math.radians(lying.skew + lying.turn)
    c, s = math.cos(angle), math.sin(angle)
    w, h = lying.leaf.width_mm / 2, lying.leaf.height_mm / 2
    found = []
    for dx, dy in ((-w, -h), (w, -h), (w, h), (-w, h)):
        x = lying.x_mm + c * dx - s * dy - area.left_mm
        y = lying.y_mm + s * dx + c * dy - area.top_mm
        found.append((x * px, y * px))
    return found


def _lay(image: Pixels, lying: Lying, area: Area, seed: int, *, lid_open: bool) -> None:
    drawn_ppi = min(max(float(area.ppi), _SURFACE_PPI[0]), _SURFACE_PPI[1])
    surface = _side(lying.leaf, lying.back)(drawn_ppi, seed)
    if lid_open:
        through = _side(lying.leaf, not lying.back)(drawn_ppi, seed)[:, ::-1]
        lit = 255 - (255 - surface.astype(np.float32)) * 0.45
        surface = np.clip(lit - (255 - through.astype(np.float32)) * 0.12, 0, 255).astype(np.uint8)
    rows, cols = surface.shape[:2]
    source = np.array([(0, 0), (cols, 0), (0, rows)], np.float32) - 0.5
    a, b, _, d = corners(lying, area)
    target = np.array([a, b, d], np.float32) - 0.5
    matrix = cv2.getAffineTransform(source, target)
    height, width = image.shape[:2]
    cv2.warpAffine(surface, matrix, (width, height), dst=image, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_TRANSPARENT)


def _side(leaf: Leaf, back: bool) -> Painter:
    return (leaf.back or blank(leaf.width_mm, leaf.height_mm)) if back else leaf.front


def encoded(pixels: Pixels, colour: str, media_type: str, ppi: int) -> bytes:
    """An image file in an eSCL colour mode (BlackAndWhite1, Grayscale8, RGB24)."""
    image = Image.fromarray(pixels)
    if colour != "RGB24":
        image = image.convert("L")
    if colour == "BlackAndWhite1":
        image = image.point(lambda value: 255 if value > 140 else 0).convert("1")
    out = io.BytesIO()
    dpi = (ppi, ppi)
    if media_type == "image/jpeg":
        image.convert("L" if image.mode == "1" else image.mode).save(out, "JPEG", quality=90, dpi=dpi)
    elif media_type == "image/png":
        image.save(out, "PNG", dpi=dpi, compress_level=2)
    elif media_type == "image/tiff":
        image.save(out, "TIFF", dpi=dpi, compression="group4" if image.mode == "1" else "tiff_adobe_deflate")
    else:
        image.save(out, "PDF", resolution=float(ppi))
    return out.getvalue()
