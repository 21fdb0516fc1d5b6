"""Paper to white, ink to black; and the two tones of a bitonal page."""

import cv2
import numpy as np

from hollowstack.core.measure.ground import paper_ground
from hollowstack.core.plan import Tone
from hollowstack.core.raster import Raster, as_pixels

_PAPER_CODE = 230
"""Code that bare paper gets while evening: leaves room above for grain."""
_FAINT, _GRAIN = 0.84, 0.95
"""Ratios to the local paper: the faintest writing is kept below the first; above the second is only grain."""
_LOW, _HIGH = 0.42, 0.80
_SPECK_MM = 0.14


def apply_tone(page: Raster, tone: Tone) -> Raster:
    """Even the page to its local paper, calm the grain of bare paper, and bring ink to black.

    The ratio of page to paper is what counts, channel by channel, so light that falls off and yellowing go, and the ink's
    hue stays. Ratios near 1 are paper with its grain and become exactly paper: that is also what makes the file small.

    Args:
        page: Gray or colour.
        tone: What to bring where.
    """
    relative = cv2.divide(page.pixels, np.maximum(paper_ground(page), 16), scale=_PAPER_CODE)
    ratio = np.arange(256) / _PAPER_CODE
    # Smoothstep between grain and writing, so that faint strokes keep their soft rims.
    t = np.clip((ratio - _FAINT) / (_GRAIN - _FAINT), 0, 1)
    lifted = np.minimum(ratio + (1 - ratio) * t * t * (3 - 2 * t), 1.0)
    curve = np.clip((lifted - tone.ink) / (1 - tone.ink), 0, 1)
    channels = 1 if page.is_gray else 3
    paper = tone.paper if len(tone.paper) == channels else (tone.paper[0],) * channels
    table = np.rint(curve[:, None] * np.array(paper)).astype(np.uint8)
    return Raster(as_pixels(cv2.LUT(relative, table.reshape(256, 1, channels))), page.ppi)


def to_bitonal(page: Raster) -> Raster:
    """A gray page in two tones, 0 and 255: threshold on the page divided by its own paper, then despeckled.

    Source:
        N. Otsu, A threshold selection method from gray-level histograms, IEEE SMC 1979, on the evened page.
    """
    even = as_pixels(cv2.divide(page.pixels, np.maximum(paper_ground(page), 16), scale=_PAPER_CODE))
    threshold, _ = cv2.threshold(even[::2, ::2], 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    # Nearly bare pages have no second peak for Otsu: keep the threshold where ink ends.
    limit = float(np.clip(threshold, _LOW * _PAPER_CODE, _HIGH * _PAPER_CODE))
    black = as_pixels((even <= limit).astype(np.uint8))
    speck = max(1, page.px(_SPECK_MM)) ** 2
    count, labels, stats, _ = cv2.connectedComponentsWithStats(black, connectivity=8)
    if count > 1:
        keep = (stats[:, cv2.CC_STAT_AREA] > speck).astype(np.uint8)
        keep[0] = 0
        black = as_pixels(keep[labels])
    return Raster(as_pixels((1 - black) * 255), page.ppi)
