"""The page cut out of its image, and its paper as the rest of the house goes by it."""

from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.imaging.paper_surface import PaperSurface
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.paper_map import PaperMap
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels, paint

_SHADED_SHARE = 0.06
"""Share of each side, next to the page's edges, that may be shaded without saying anything of the paper."""
_RIM_MM = 0.3
"""Where lid and paper mix along the page's sides."""


def paper_map_of(surface: PaperSurface, page: Raster, small: Raster, image: Raster, corner: tuple[float, float]) -> PaperMap:
    """The page's paper over the whole image; beyond the page it goes on as it ends."""
    rows, cols = surface.content.shape
    step = (page.width / cols, page.height / rows)
    around = (
        round(corner[1] / step[1]), max(0, round((small.height - corner[1] - page.height) / step[1])),
        round(corner[0] / step[0]), max(0, round((small.width - corner[0] - page.width) / step[0])),
    )  # fmt: skip
    level = cv2.copyMakeBorder(surface.level, *around, cv2.BORDER_REPLICATE)
    content = cv2.copyMakeBorder(surface.content, *around, cv2.BORDER_CONSTANT, value=0)
    x, y = image.scale_ppi
    return PaperMap.of(
        as_pixels(level), as_pixels(content), (image.width, image.height),
        (image.width * MM_PER_INCH / x, image.height * MM_PER_INCH / y),
    )  # fmt: skip


def paper_range(level: Pixels, page: Raster) -> float:
    """Light of the paper's darkest parts over that of its lightest, away from the page's edges."""
    margin = [max(1, round(side * _SHADED_SHARE)) for side in level.shape]
    inner = level[margin[0] : level.shape[0] - margin[0], margin[1] : level.shape[1] - margin[1]]
    dark, light = np.percentile(inner if inner.size else level, (3, 97))
    return round(float(dark / max(light, 1.0)), 3)


class CutOut(NamedTuple):
    """A page's bounding rectangle, with what lies outside its bright outline painted in its paper; and 1 where it is not."""

    page: Raster
    inside: Pixels


def cut_out(small: Raster, quad: Quad, bright: Quad) -> CutOut:
    """The page cut out of its image."""
    corners = quad.array()
    left, top = np.maximum(np.floor(corners.min(axis=0)).astype(int), 0)
    right, bottom = np.ceil(corners.max(axis=0)).astype(int)
    part = small.pixels[top:bottom, left:right]
    outline = bright.array() - [left, top]
    inside = np.zeros(part.shape[:2], np.uint8)
    cv2.fillConvexPoly(inside, np.rint(outline).astype(np.int32), 1)
    rim = 2 * max(1, small.px(_RIM_MM)) + 1
    inside = as_pixels(cv2.erode(inside, np.ones((rim, rim), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1))
    if inside.all():
        return CutOut(Raster(np.ascontiguousarray(part), small.ppi), inside)
    page = part.copy()
    paint(page, 1 - inside, quantile(part, 0.5, inside))
    return CutOut(Raster(page, small.ppi), inside)
