"""How dark ink is: the limit between what is written and what is paper, over a page and place by place."""

import cv2
import numpy as np

from hollowstack.core.imaging.background import Normalised

_DARKEST = (0.002, 0.0005)
_PALE, _THROUGH = 0.58, 0.86
"""Evened gray of a page's darkest pixels from which its writing is pale, and from which it is none."""
PALEST = 0.88
"""The lightest limit of ink; the back of a sheet shines through lighter."""
_LIMIT_MM, _LIMIT_PX_MM = 14.0, 3.0
"""Extent of what counts as nearby, and how fine it is looked at."""
_LIMIT_MARGIN = 0.02
"""How much darker than what shines through pale print is where it is looked for nearby: stains are as pale."""
_OF_PALE = 0.6
"""How far from paper to the darkest pixels the limit lies."""


def ink_limit(light: Normalised, usual: float) -> float:
    """The evened gray below which a page has ink: ``usual``, or lighter where all of its writing is pale.

    Where the darkest five-hundredth of a page (on a nearly bare one, two-thousandth) is paler than writing usually is, and
    darker than what shines through from the other side, it is what the page has for ink; the limit then lies so near paper
    that most of its strokes are taken in.
    """
    few = light[::2, ::2].ravel()
    many, least = (int(share * (few.size - 1)) for share in _DARKEST)
    ordered = np.partition(few, (least, many))
    dark = float(ordered[many] if ordered[many] < _THROUGH else ordered[least])
    if not _PALE < dark < _THROUGH:
        return usual
    return max(usual, min(PALEST, 1 - _OF_PALE * (1 - dark)))


def local_ink_limit(light: Normalised, px_mm: float, usual: float) -> Normalised:
    """The evened gray below which there is ink, place by place: ``usual``, or lighter where all writing nearby is pale.

    A dark headline says nothing of pale print further down.
    """
    step = max(1, round(px_mm / _LIMIT_PX_MM))
    rows, cols = light.shape
    small = cv2.resize(light, (max(1, cols // step), max(1, rows // step)), interpolation=cv2.INTER_AREA)
    reach = max(3, round(_LIMIT_MM * px_mm / step) | 1)
    dark = cv2.erode(cv2.blur(small, (2, 2)), np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_REPLICATE)
    pale = (dark > _PALE) & (dark < _THROUGH - _LIMIT_MARGIN)
    limit = np.where(pale, np.clip(1 - _OF_PALE * (1 - dark), usual, PALEST), usual).astype(np.float32)
    return np.asarray(cv2.resize(limit, (cols, rows), interpolation=cv2.INTER_NEAREST), np.float32)
