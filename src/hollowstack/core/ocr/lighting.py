"""A page in even light, so that one threshold tells ink from paper everywhere on it: the OCR engine takes but one."""

import cv2
import numpy as np

from hollowstack.core.imaging.background import normalised_by
from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.page.raster import Pixels, as_pixels

_SPAN = 4.0
"""Heights of small letters that no stroke of writing is as wide as."""
_USUAL_PX = 24.0
"""Height of small letters where it is not known: about 2 mm at 300 ppi."""
_DARKEST, _LIGHTEST = 0.01, 0.96
"""Shares of a page that are in darker and in lighter light than what is compared."""
_EVEN = 0.8
"""Ratio of dark to light from which on one threshold does for the page."""


def evenly_lit(pixels: Pixels, letter_px: float | None) -> Pixels | None:
    """A page divided by the light on it; None where that is even enough already.

    Pictures lose their tones: it is for reading only.

    Args:
        pixels: Gray.
        letter_px: Height of small letters, in pixels.

    Source:
        Background estimation by gray-scale closing, as in P. Soille, Morphological Image Analysis, 2nd ed. 2003, 4.4.2
        (from memory).
    """
    span = max(5.0, _SPAN * (letter_px or _USUAL_PX))
    factor = max(1, int(span / 12))
    rows, cols = pixels.shape
    size = (max(1, cols // factor), max(1, rows // factor))
    small = as_pixels(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA))
    reach = round(span / factor) | 1
    light = cv2.morphologyEx(small, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach)))
    light = as_pixels(np.maximum(cv2.GaussianBlur(light, (0, 0), reach / 3), 1))
    if quantile(light, _DARKEST)[0] >= _EVEN * quantile(light, _LIGHTEST)[0]:
        return None
    whole = as_pixels(cv2.resize(light, (cols, rows), interpolation=cv2.INTER_LINEAR))
    return as_pixels(np.minimum(255 * normalised_by(pixels, whole), 255).astype(np.uint8))
