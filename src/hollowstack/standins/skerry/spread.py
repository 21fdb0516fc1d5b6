"""An open volume as one image: two pages side by side, bending down into the fold between them."""

import cv2
import numpy as np

from hollowstack.core.page.geometry import Point
from hollowstack.standins.skerry.paper import Image3


def spread(
    left: Image3, right: Image3, ppi: float, depth: float, reach_mm: float, rng: np.random.Generator
) -> tuple[Image3, tuple[Point, Point]]:
    """Both pages on one surface, and where their fold is at its top and bottom, in pixels.

    Args:
        left: The verso's surface; the lower one is made as high as the other.
        right: The recto's.
        ppi: Of both.
        depth: Share of the light that is missing in the fold.
        reach_mm: How far from the fold the light is half as much less.
        rng: For the fold's waver.
    """
    rows = max(left.shape[0], right.shape[0])
    pages = [cv2.copyMakeBorder(page, 0, rows - page.shape[0], 0, 0, cv2.BORDER_REPLICATE) for page in (left, right)]
    surface = np.concatenate(pages, axis=1)
    fold = left.shape[1]
    waver = cv2.resize(rng.normal(0, 0.25, (7, 1)).astype(np.float32), (1, rows), interpolation=cv2.INTER_CUBIC)
    away = np.abs(np.arange(surface.shape[1], dtype=np.float32)[None, :] - fold - waver * ppi / 25.4) / ppi * 25.4
    surface = surface * (1 - depth * np.exp2(-away / reach_mm))[..., None]
    return surface.astype(np.float32), (Point(float(fold), 0.0), Point(float(fold), float(rows)))
