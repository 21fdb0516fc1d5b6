"""Which pixels of a page are ink: darker than halfway between the paper around them and the darkest that is near."""

import cv2
import numpy as np

from hollowstack.core.bind.layers.levels import Levels
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, as_pixels

_HALF = 0.5
_AROUND_MM, _THIN, _FAINT = 0.75, 0.15, 0.25
"""A hairline is darker than what lies so near, and than the paper, by such shares of the contrast: seldom is it as dark as
the strokes beside it."""


def find_ink(levels: Levels) -> Pixels:
    """1 where there is ink: (height, width).

    Source:
        A threshold halfway between local background and foreground, as in J. Bernsen, Dynamic thresholding of grey-level
        images, ICPR 1986 (from memory).
    """
    dark, contrast = levels.dark, levels.contrast

    def level(share: float) -> Pixels:
        return levels.below_paper(np.maximum(contrast * share, 0.9 * levels.least))

    strokes = dark < level(_HALF)
    side = max(3, round(_AROUND_MM * levels.ppi / MM_PER_INCH) | 1)
    around = cv2.subtract(cv2.blur(dark, (side, side)), dark)
    thin = levels.over_page(np.where(levels.enough, contrast * _THIN, 255).astype(np.uint8))
    hairs = (around > thin) & (dark < level(_FAINT))
    return as_pixels((strokes | hairs).astype(np.uint8))
