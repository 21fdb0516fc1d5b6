"""What a page would look like: made at once from a reduction, while somebody is still turning the knobs."""

import base64
import io
import threading
from collections import OrderedDict

import cv2
import numpy as np
from PIL import Image
from pydantic import BaseModel

from hollowstack.core.calibrate import calibrate, read_patches
from hollowstack.core.measure import Measurements
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan
from hollowstack.core.render import render_before_adjusting, two_toned
from hollowstack.core.render.adjusting import adjusted
from hollowstack.core.settings.adjustments import Calibration
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Refused
from hollowstack.server.images.pictures import PICTURES, view_path
from hollowstack.server.stacks import planning, services
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places

_PICTURE_GONE = "The picture of this page is not there any more: let it be measured again."
_KEPT = 12
_BINS = 64
_QUALITY = 82
_FINER = 2
"""Two tones are made so many times as fine as they are shown, and averaged: letters would break up otherwise."""


class Preview(BaseModel):
    """A page as it would be. ``image`` is a data URL of ``px`` pixels, fit to be shown at the plan's size."""

    plan: Plan
    image: str
    px: tuple[int, int]
    histogram: list[float]
    """Shares of the tones before points and curves, from black to white; together 1."""


class Reductions:
    """Reduced pictures of originals, the least lately used given up first; safe for many threads."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[str, int], tuple[Raster, float]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: str, longest: int) -> tuple[Raster, float]:
        """The original of a measured page, its longer side no longer than that, and how much it was reduced."""
        with self._lock:
            if (key, longest) in self._kept:
                self._kept.move_to_end((key, longest))
                return self._kept[key, longest]
        path = view_path(places.result_path("measure", key))
        if path is None:
            raise Refused(_PICTURE_GONE)
        pixels = PICTURES.get(path)
        factor = min(1.0, longest / max(pixels.shape[:2]))
        size = (max(1, round(pixels.shape[1] * factor)), max(1, round(pixels.shape[0] * factor)))
        small = pixels if factor == 1 else as_pixels(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA))
        with self._lock:
            self._kept[key, longest] = (Raster(small), factor)
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        return Raster(small), factor


_reductions = Reductions()


def preview(page: Page, override: Override, treatment: Treatment | None, longest: int) -> Preview:
    """A page with a departure from the treatment in place of its own, by its stack's treatment or another.

    Raises:
        Refused: The page has not been measured yet.
    """
    if page.measured is None or page.measured.body is None:
        raise Refused(services.NOT_MEASURED)
    found = Measurements.model_validate(page.measured.made["measurements"])
    plan = planning.decide(page, treatment or services.treatment_of(page.stack), found, override)
    small, factor = _reductions.get(page.measured.key, longest)
    # As many pixels as the reduction has, whatever the resolution that the page will get.
    shown = factor * float(np.hypot(*np.subtract(plan.quad[1], plan.quad[0]))) / plan.size_px[0]
    reduced = plan.reduced(factor, shown)
    before = render_before_adjusting(small, reduced)
    after = adjusted(before, plan.adjust, plan.balance)
    pixels = _in_two_tones(after, reduced) if plan.colour == "bitonal" else after.pixels
    count = cv2.calcHist([before.gray().pixels], [0], None, [_BINS], [0, 256]).ravel()
    return Preview(
        plan=plan,
        image=_data_url(Image.fromarray(pixels)),
        px=(pixels.shape[1], pixels.shape[0]),
        histogram=[round(float(v), 5) for v in count / count.sum()],
    )


def _in_two_tones(page: Raster, plan: Plan) -> Pixels:
    wide, high = page.width * _FINER, page.height * _FINER
    across, down = (ppi * _FINER for ppi in page.scale_ppi)
    large = Raster(as_pixels(cv2.resize(page.pixels, (wide, high), interpolation=cv2.INTER_CUBIC)), (across, down))
    fine = two_toned(large, plan, draft=True)
    return as_pixels(cv2.resize(fine.pixels, (page.width, page.height), interpolation=cv2.INTER_AREA))


def calibration(page: Page, patches: str, name: str) -> Calibration:
    """The profile of the device that captured a page: the page is a colour target, its corners those of the patches.

    Raises:
        Refused: The page has not been measured yet.
        CalibrationError: It is not the target, or the patch file is none.
    """
    if page.measured is None or page.measured.body is None or page.plan is None:
        raise Refused(services.NOT_MEASURED)
    target = read_patches(patches)
    path = view_path(places.result_path("measure", page.measured.key))
    if path is None:
        raise Refused(_PICTURE_GONE)
    return calibrate(Raster(PICTURES.get(path)), Plan.model_validate(page.plan).quad, target, name)


def _data_url(image: Image.Image) -> str:
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=_QUALITY)
    return "data:image/jpeg;base64," + base64.b64encode(buffer.getvalue()).decode()
