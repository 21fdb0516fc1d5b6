"""A page photographed on a table: perspective, lens, light, and the tags that a camera writes."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
from PIL import Image

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.standins.skerry.paper import Image3

Table = Literal["oak", "slate", "pine", "grey card", "white", "checked"]


@dataclass(frozen=True, slots=True)
class View:
    """How the camera is held. Shares are of the picture's own sides."""

    size_px: tuple[int, int] = (2400, 3200)
    fills: float = 0.82
    """Share of the picture's height that the page takes up."""
    lean: tuple[float, float] = (8.0, 5.0)
    """Degrees by which the camera looks at the page from below and from one side."""
    turned_deg: float = 1.5
    shift: tuple[float, float] = (0.0, 0.0)
    """The page's middle off the picture's: far enough, and part of it is cut off."""
    blur_px: float = 0.9
    corner_blur_px: float = 0.0
    """More of it towards the lower right corner, as where the page lifts out of focus."""
    shadow: float = 0.12
    """Share of the light that the darkest corner has lost."""
    glare: float = 0.0
    """Share of the page's width that a lamp's reflection covers."""
    table: Table = "oak"
    exposure: float = 0.86
    noise: float = 2.5


def photograph(surface: Image3, view: View, rng: np.random.Generator) -> tuple[Pixels, Quad]:
    """The picture, and the page's corners in it (beyond its border where they are cut off).

    Args:
        surface: The worn sheet, float32 RGB, 0 to 255.
        view: How the camera is held.
        rng: For the table's grain and the sensor's noise.
    """
    width, height = view.size_px
    picture, quad = laid(surface, view, TABLES[view.table](width, height, rng))
    picture = seen(picture, quad, view)
    picture += rng.normal(0, view.noise, (height, width, 3)).astype(np.float32)
    return as_pixels(np.clip(picture + 0.5, 0, 255).astype(np.uint8)), quad


def laid(surface: Image3, view: View, table: Image3) -> tuple[Image3, Quad]:
    """A page on a table, before the light and the lens; and its corners in the picture."""
    width, height = view.size_px
    quad = _corners(surface.shape[1] / surface.shape[0], view)
    rows, cols = surface.shape[:2]
    place = cv2.getPerspectiveTransform(
        np.array([[0, 0], [cols, 0], [cols, rows], [0, rows]], np.float32), quad.array().astype(np.float32)
    )
    calm = cv2.GaussianBlur(surface, (0, 0), 0.6)
    page = cv2.warpPerspective(calm, place, (width, height), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE)
    cover = cv2.warpPerspective(np.ones((rows, cols), np.float32), place, (width, height), flags=cv2.INTER_LINEAR)
    soft = cv2.GaussianBlur(np.roll(cover, (8, 10), axis=(0, 1)), (0, 0), 12)
    picture = table * (1 - 0.45 * soft * (1 - cover))[..., None]
    picture += (page - picture) * cover[..., None]
    return picture, quad


def seen(picture: Image3, quad: Quad, view: View) -> Image3:
    """What lies on the table through the lens, in the light there is, without the sensor's noise."""
    picture = _lens(picture, view)
    picture *= _light(*view.size_px, view)[..., None]
    if view.glare:
        _reflect(picture, quad, view)
    return picture


def save_photograph(path: Path, pixels: Pixels, taken: datetime, orientation: int = 1) -> None:
    """A JPEG with the tags of a camera (Exif 2.32): when it was taken, with what, and how the camera was held."""
    exif = Image.Exif()
    exif[0x010F], exif[0x0110], exif[0x0112] = "Port Annet Optical", "Gallery camera", orientation
    inner = exif.get_ifd(0x8769)
    inner[0x829A], inner[0x829D], inner[0x920A] = 1 / 60, 4.0, 35.0
    inner[0x9003] = taken.strftime("%Y:%m:%d %H:%M:%S")
    Image.fromarray(pixels).save(path, "JPEG", quality=90, exif=exif)


def _corners(aspect: float, view: View) -> Quad:
    """The page's corners through a pinhole whose axis meets the picture's middle, as every camera's nearly does."""
    width, height = view.size_px
    focal = 1.25 * max(width, height)
    tall = view.fills * height
    wide = tall * aspect
    if wide > view.fills * width:
        wide, tall = view.fills * width, view.fills * width / aspect
    plane = np.array([[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]], float) * [wide / 2, tall / 2, 0]
    nod, shake, roll = np.radians(view.lean[0]), np.radians(view.lean[1]), np.radians(view.turned_deg)
    around_z = np.array([[np.cos(roll), -np.sin(roll), 0], [np.sin(roll), np.cos(roll), 0], [0, 0, 1]])
    around_x = np.array([[1, 0, 0], [0, np.cos(nod), -np.sin(nod)], [0, np.sin(nod), np.cos(nod)]])
    around_y = np.array([[np.cos(shake), 0, np.sin(shake)], [0, 1, 0], [-np.sin(shake), 0, np.cos(shake)]])
    # As far away as makes a page that lies flat as large as asked for.
    seen = plane @ (around_y @ around_x @ around_z).T + [view.shift[0] * width, view.shift[1] * height, focal]
    return Quad.of(focal * seen[:, :2] / seen[:, 2:] + [width / 2, height / 2])


def _oak(width: int, height: int, rng: np.random.Generator) -> Image3:
    """Dark oak, its grain along the picture."""
    grain = cv2.resize(rng.normal(0, 1, (240, 5)).astype(np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    fine = cv2.resize(
        rng.normal(0, 1, (height // 3, 24)).astype(np.float32), (width, height), interpolation=cv2.INTER_LINEAR
    )
    tone = 1 + 0.10 * grain + 0.05 * fine
    wood: Image3 = (np.array([92, 66, 46], np.float32) * tone[..., None]).astype(np.float32)
    return wood


def _plain(colour: tuple[int, int, int], width: int, height: int, rng: np.random.Generator) -> Image3:
    """One colour with a little unevenness: painted wood, slate, card."""
    cloud = cv2.resize(rng.normal(0, 1, (9, 7)).astype(np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    return np.asarray(np.array(colour, np.float32) * (1 + 0.02 * cloud)[..., None], np.float32)


def _checked(width: int, height: int, rng: np.random.Generator) -> Image3:
    """A tablecloth: white and blue squares, paler where only one thread is blue."""
    side = width / rng.uniform(16, 26)
    x, y = (np.arange(length, dtype=np.float32) + rng.uniform(0, side) for length in (width, height))
    blue = ((x // side) % 2)[None, :] + ((y // side) % 2)[:, None]
    cloth = np.array([222, 221, 216], np.float32) - (blue / 2)[..., None] * np.array([164, 132, 74], np.float32)
    weave = cv2.resize(rng.normal(0, 1, (height // 3, width // 3)).astype(np.float32), (width, height))
    return np.asarray(cloth * (1 + 0.02 * weave)[..., None], np.float32)


TABLES: dict[Table, Callable[[int, int, np.random.Generator], Image3]] = {
    "oak": _oak,
    "slate": partial(_plain, (70, 74, 80)),
    "pine": partial(_plain, (196, 160, 112)),
    "grey card": partial(_plain, (168, 168, 166)),
    "white": partial(_plain, (214, 213, 210)),
    "checked": _checked,
}


def _lens(picture: Image3, view: View) -> Image3:
    sharp = cv2.GaussianBlur(picture, (0, 0), view.blur_px) if view.blur_px else picture
    if not view.corner_blur_px:
        return np.asarray(sharp, np.float32)
    dull = cv2.GaussianBlur(picture, (0, 0), view.corner_blur_px)
    height, width = picture.shape[:2]
    x, y = np.meshgrid(np.linspace(0, 1, width, dtype=np.float32), np.linspace(0, 1, height, dtype=np.float32))
    share = np.clip((x + y - 1.1) / 0.4, 0, 1)[..., None]
    return np.asarray(sharp * (1 - share) + dull * share, np.float32)


def _light(width: int, height: int, view: View) -> Image3:
    x, y = np.meshgrid(np.linspace(0, 1, width, dtype=np.float32), np.linspace(0, 1, height, dtype=np.float32))
    return np.asarray(view.exposure * (1 - view.shadow * np.clip((x + 1 - y) / 2, 0, 1) ** 1.5), np.float32)


def _reflect(picture: Image3, quad: Quad, view: View) -> None:
    height, width = picture.shape[:2]
    left, right = quad.array()[:, 0].min(), quad.array()[:, 0].max()
    top, bottom = quad.array()[:, 1].min(), quad.array()[:, 1].max()
    x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
    radius = view.glare * (right - left) / 2
    away = np.hypot(x - (left + 0.35 * (right - left)), y - (top + 0.3 * (bottom - top))) / radius
    picture += (260 * np.clip(1.5 - away, 0, 1) ** 1.5)[..., None]
