"""What a page would look like by another plan, what went and came on it, and what a colour target says of its device: in a
page worker, from pictures that are there already, while somebody looks.
"""

import io
from collections import OrderedDict
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
from PIL import Image

from hollowstack.core.calibrate import calibrate, read_patches
from hollowstack.core.check.difference import difference
from hollowstack.core.check.structure import Box
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan
from hollowstack.core.render import render_before_adjusting, two_toned
from hollowstack.core.render.adjusting import adjusted
from hollowstack.core.run.pictures import PICTURES
from hollowstack.core.settings.adjustments import Calibration

_KEPT = 12
_BINS = 64
_QUALITY = 82
_FINER = 2
"""Two tones are made so many times as fine as they are shown, and averaged: letters would break up otherwise."""


class Tried(NamedTuple):
    """A page as it would be: ``jpeg`` is an image of ``px`` pixels."""

    jpeg: bytes
    px: tuple[int, int]
    histogram: list[float]
    """Shares of the tones before points and curves, from black to white; together 1."""


class Reductions:
    """Reduced pictures, the least lately used given up first; for one thread."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[Path, int], tuple[Raster, float]] = OrderedDict()

    def get(self, path: Path, longest: int) -> tuple[Raster, float]:
        """A picture, its longer side no longer than that, and how much it was reduced. Raises OSError where it is gone."""
        if (path, longest) in self._kept:
            self._kept.move_to_end((path, longest))
            return self._kept[path, longest]
        pixels = PICTURES.get(path)
        factor = min(1.0, longest / max(pixels.shape[:2]))
        size = (max(1, round(pixels.shape[1] * factor)), max(1, round(pixels.shape[0] * factor)))
        small = pixels if factor == 1 else as_pixels(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA))
        self._kept[path, longest] = (Raster(small), factor)
        while len(self._kept) > _KEPT:
            self._kept.popitem(last=False)
        return Raster(small), factor


_reductions = Reductions()


def try_plan(picture: Path, plan: Plan, longest: int) -> Tried:
    """Render a picture of a page as captured by a plan, at a reduction. Raises OSError where it is gone."""
    small, factor = _reductions.get(picture, longest)
    # As many pixels as the reduction has, whatever the resolution that the page will get.
    shown = factor * float(np.hypot(*np.subtract(plan.quad[1], plan.quad[0]))) / plan.size_px[0]
    reduced = plan.reduced(factor, shown)
    before = render_before_adjusting(small, reduced)
    after = adjusted(before, plan.adjust, plan.balance)
    pixels = _in_two_tones(after, reduced) if plan.colour == "bitonal" else after.pixels
    count = cv2.calcHist([before.gray().pixels], [0], None, [_BINS], [0, 256]).ravel()
    return Tried(
        jpeg=_jpeg(Image.fromarray(pixels)),
        px=(pixels.shape[1], pixels.shape[0]),
        histogram=[round(float(v), 5) for v in count / count.sum()],
    )


class Shown(NamedTuple):
    """A difference: ``jpeg`` is an image of ``px`` pixels; places are boxes on the clean page in its own pixels."""

    jpeg: bytes
    px: tuple[int, int]
    went: list[Box]
    came: list[Box]


def show_difference(picture: Path, clean: Path, plan: Plan) -> Shown:
    """What went and what came from a picture of a page as captured to one of its clean page. Raises OSError."""
    found = difference(Raster(PICTURES.get(picture)), plan, Raster(PICTURES.get(clean), plan.ppi))
    size = found.picture.shape[1], found.picture.shape[0]
    return Shown(_jpeg(Image.fromarray(found.picture)), size, found.went, found.came)


def calibrate_from(picture: Path, plan: Plan, patches: str, name: str) -> Calibration:
    """The profile of the device that captured a page which shows a colour target from corner to corner.

    Raises:
        CalibrationError: It is not the target, or the patch file is none.
        OSError: The picture is gone.
    """
    return calibrate(Raster(PICTURES.get(picture)), plan.quad, read_patches(patches), name)


def _in_two_tones(page: Raster, plan: Plan) -> Pixels:
    wide, high = page.width * _FINER, page.height * _FINER
    across, down = (ppi * _FINER for ppi in page.scale_ppi)
    large = Raster(as_pixels(cv2.resize(page.pixels, (wide, high), interpolation=cv2.INTER_CUBIC)), (across, down))
    fine = two_toned(large, plan, draft=True)
    return as_pixels(cv2.resize(fine.pixels, (page.width, page.height), interpolation=cv2.INTER_AREA))


def _jpeg(image: Image.Image) -> bytes:
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=_QUALITY)
    return buffer.getvalue()
