"""One threshold for a whole image."""

import cv2
import numpy as np

from hollowstack.core.page.raster import Pixels


def otsu(pixels: Pixels) -> float:
    """The threshold that parts a histogram into the two classes of least variance; values up to it are dark.

    Args:
        pixels: Gray, of any shape.

    Source:
        N. Otsu, A threshold selection method from gray-level histograms, IEEE SMC 9 (1979).
    """
    flat = np.ascontiguousarray(pixels).reshape(len(pixels), -1)
    threshold, _ = cv2.threshold(flat, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    return float(threshold)
