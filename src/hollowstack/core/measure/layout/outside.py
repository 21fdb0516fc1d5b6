"""What lies outside of an outline, as a mask."""

import cv2
import numpy as np

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster, as_pixels


def outside_of(quad: Quad, small: Raster, image: Raster, away: int = 0) -> Pixels:
    """1 where a reduced image lies outside of an outline, else 0.

    Args:
        quad: The outline in pixels of ``image``.
        small: The reduction.
        image: What it is a reduction of; itself where the outline is in its own pixels.
        away: What lies nearer to the outline than so many pixels of the reduction is left out.
    """
    outside = np.ones((small.height, small.width), np.uint8)
    corners = quad.array() * [small.width / image.width, small.height / image.height]
    cv2.fillConvexPoly(outside, np.rint(corners).astype(np.int32), 0)
    if away:
        kernel = np.ones((2 * away + 1, 2 * away + 1), np.uint8)
        outside = cv2.erode(outside, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=1)
    return as_pixels(outside)
