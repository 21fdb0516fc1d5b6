"""Where the rims of strokes are so wide that a stencil would fill in what is between them."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.layers.levels import Levels
from hollowstack.core.bind.layers.spread import Mask, cell_means
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, as_pixels

_WIDE_MM = 0.3
"""Out of focus by so much, the eye of an e is as dark as its rim."""
_LIGHT, _HALF, _DARK = 0.25, 0.5, 0.75
"""Shares of the contrast of ink between which a rim lies, and at which its stroke ends."""
_OF_SOLID = 0.5
"""Rims are at least so large, to what is dark: speckles in a solid have rims as well, and lose nothing by a stencil."""
_WINDOW_MM, _LEAST_MM = 4.0, 4.0
"""Rims are looked at over such a square, where they are at least so long: a dot or the end of a stroke says nothing."""


def wide_rims(levels: Levels, step: int) -> npt.NDArray[np.bool_]:
    """Cells around which the rims of strokes are wide: writing out of focus, mostly.

    The width of a rim is the area of its middle by its length: 1.35 times the deviation of the blur, where that is normal
    and strokes stand as close as in writing; those of a lone stroke come out narrower. Sharpness is measured on the capture;
    here it is the clean page that counts, whatever was done to it.

    Args:
        levels: The page, its paper and ink.
        step: Pixels of a cell's side.

    Returns:
        (rows, columns).

    Source:
        Quartiles of the normal distribution; the limits were measured on pages put out of focus.
    """

    def below(share: float) -> Pixels:
        return as_pixels((levels.dark < levels.below_paper(levels.contrast * share)).astype(np.uint8))

    solid, strokes = below(_DARK), below(_HALF)
    middle = cv2.subtract(below(_LIGHT), solid)
    edge = cv2.subtract(strokes, cv2.erode(strokes, np.ones((3, 3), np.uint8)))
    px_mm = levels.ppi / MM_PER_INCH
    side = max(3, round(_WINDOW_MM * px_mm / step) | 1)
    middles, solids, edges = (_around(as_pixels(one), step, side) for one in (middle, solid, edge))
    least = _LEAST_MM * px_mm / (side * step) ** 2
    found = (edges > least) & (middles > _WIDE_MM * px_mm * edges) & (middles > _OF_SOLID * solids)
    # Slivers are where two squares meet; what is out of focus is larger.
    larger = np.ones((side // 2, side // 2), np.uint8)
    return np.asarray(cv2.morphologyEx(found.astype(np.uint8), cv2.MORPH_OPEN, larger) > 0)


def _around(mask: Mask, step: int, side: int) -> npt.NDArray[np.float32]:
    """The share of what is marked in the square around each cell."""
    return np.asarray(cv2.boxFilter(cell_means(mask[:, :, None], step)[:, :, 0], -1, (side, side)), np.float32)
