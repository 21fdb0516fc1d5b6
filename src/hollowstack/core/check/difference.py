"""What went and what came between a page as captured and its clean page, to be seen: whatever its light and paper were."""

from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.check.structure import (
    Box,
    Mask,
    cleared_by,
    detail_of,
    laid_over,
    nearby,
    reduced_size,
    relative_light,
)
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan

PPI = 100.0
_SEEN, _LEFT, _NOTHING = 0.11, 0.35, 0.05
"""Difference from its surroundings, as a share of the light there, from which something is structure; the share of it below
which it is gone; and what a place has that had none."""
_CAME = 1.5
"""Clean pages are clearer: what came must be so many times as clear as that."""
_SPECK_MM2 = 0.5
"""A full stop 0.4 mm across covers 0.58 at this resolution, and a speck of 0.35 mm covers 0.32 (measured)."""
_APART_MM = 2.5
"""Pieces no farther apart are shown as one place."""
_MOST = 200
"""Places that are listed, the largest first."""
_FADED = 0.4
"""How much of the clean page's tones shows beneath."""
WENT, CAME = (176, 38, 32), (22, 84, 168)
"""Colours of what went and of what came; places are told by their outlines as well."""


class Difference(NamedTuple):
    """``picture`` is the clean page, faded, with what went and came on it, RGB; places are boxes on the clean page: left,
    top, right, bottom in its pixels."""

    picture: Pixels
    went: list[Box]
    came: list[Box]


def difference(image: Raster, plan: Plan, page: Raster) -> Difference:
    """What a clean page has not that its image has, and the other way round, from specks on.

    Borders that were cleared, and what was cut away, are not looked at: the crop is seen beside it.

    Args:
        image: The page as captured.
        plan: What was done.
        page: The clean page.

    Source:
        Local contrast after E. Peli, Contrast in complex images, JOSA A 7 (1990); the limits are ours.
    """
    px_mm = PPI / MM_PER_INCH
    size = reduced_size(plan, PPI)
    colours, seen = laid_over(image, plan, size, PPI)
    clean = cv2.resize(page.gray().pixels, size, interpolation=cv2.INTER_AREA)
    was = detail_of(relative_light(Raster(colours).gray().pixels, px_mm), px_mm)
    now = detail_of(relative_light(as_pixels(clean), px_mm), px_mm)
    seen &= ~cleared_by(plan, size, px_mm)
    ink = 1 if plan.inverse else -1
    went = (ink * was >= _SEEN) & (nearby(now) < _LEFT * np.abs(was)) & seen
    came = (ink * now >= _CAME * _SEEN) & (nearby(was) < _NOTHING) & seen
    went, came = (_without_specks(np.asarray(mask), px_mm) for mask in (went, came))
    picture = np.repeat((255 - _FADED * (255 - clean.astype(np.float32)))[..., None], 3, axis=2)
    picture[went], picture[came] = WENT, CAME
    factor = plan.size_px[0] / size[0], plan.size_px[1] / size[1]
    return Difference(as_pixels(picture.astype(np.uint8)), _places(went, px_mm, factor), _places(came, px_mm, factor))


def _without_specks(mask: Mask, px_mm: float) -> Mask:
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    keep = stats[:, cv2.CC_STAT_AREA] >= _SPECK_MM2 * px_mm**2
    keep[0] = False
    return np.asarray(keep[pieces], np.bool_)


def _places(mask: Mask, px_mm: float, factor: tuple[float, float]) -> list[Box]:
    """Boxes around pieces that lie near each other, the largest first, in pixels of the clean page."""
    reach = 2 * round(_APART_MM / 2 * px_mm) + 1
    joined = cv2.dilate(mask.astype(np.uint8), np.ones((reach, reach), np.uint8))
    _, _, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    found = sorted(stats[1:].tolist(), key=lambda row: -row[cv2.CC_STAT_AREA])[:_MOST]
    across, down = factor
    return [
        (round(left * across), round(top * down), round((left + wide) * across), round((top + high) * down))
        for left, top, wide, high, _ in found
    ]
