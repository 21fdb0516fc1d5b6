"""Whether a page is white on black: a negative, a photostat, a blueprint."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.content.letters import like_letters
from hollowstack.core.page.raster import Raster, as_pixels

_DARK = 0.5
"""Share of the lightest tone below which most of a negative lies."""
_MOST = 0.6
"""Share of a negative that does."""
_LIGHT_MEAN = 140
"""Mean gray above which nobody would call a page black."""
_FEWEST = 30
_TIMES = 2.0
"""How many light letters there are for each dark one, at least."""
_WINDOW_MM = 6.0
_STRONG = 0.25
"""Share of the page's range of tones that a stroke differs by from what is around it."""


def is_inverse(page: Raster) -> bool:
    """Whether light writing stands on a dark page, most of which is as dark.

    Args:
        page: Gray or colour, as captured, 72 to 200 ppi; a dark surround does not matter, as no writing is on it.

    Source:
        Connected components of both signs of the difference from a local mean (common practice, no source).
    """
    gray = page.gray().pixels
    if float(cv2.mean(gray)[0]) > _LIGHT_MEAN:
        return False
    dark, light = (float(v) for v in np.percentile(gray[::2, ::2], (1, 99)))
    if light - dark < 40 or np.mean(gray[::2, ::2] < dark + _DARK * (light - dark)) < _MOST:
        return False
    window = max(5, page.px(_WINDOW_MM) | 1)
    calm = cv2.GaussianBlur(gray, (3, 3), 0).astype(np.float32)
    away = calm - cv2.blur(calm, (window, window), borderType=cv2.BORDER_REFLECT)
    lights, darks = (_letters(sign * away > _STRONG * (light - dark)) for sign in (1, -1))
    return lights >= _FEWEST and lights >= _TIMES * darks


def _letters(mask: npt.NDArray[np.bool_]) -> int:
    _, _, stats, _ = cv2.connectedComponentsWithStats(as_pixels(mask.astype(np.uint8)), connectivity=8)
    return int(like_letters(stats[1:], max(mask.shape)).sum())
