"""The lid over a glass, as it looks around what lies there: one tone where it is closed."""

from collections.abc import Sequence
from statistics import median
from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.page.raster import Raster

_SEGMENTS = 12
"""Each side of the picture's rim is looked at in so many pieces."""
_STEP = 18
"""Gray levels by which two pieces side by side differ where a page's edge lies between them: no light falls off so."""
_UNEVEN = 48
"""A lid under its own lamp is even; a room seen through the glass falls off by more (common practice, no source)."""
_UNLIKE = 80
"""Gray levels by which an open lid differs from what this glass shows with its lid closed, in most rooms."""
_LOOKS = 3
"""So many earlier looks tell what the lid of a glass is like."""


class Lid(NamedTuple):
    """How the lid looks: its tone, 0 to 255, and by how much it changes gradually along the rim."""

    tone: float
    gradual: float


def look_at_lid(prescan: Raster) -> Lid:
    """The rim of a look at a glass, where most of what shows is the lid.

    Args:
        prescan: A quick look at the whole glass, gray or colour.

    Returns:
        The median tone of the rim's pieces, and the largest range of tones within a run of pieces that differ from their
        neighbours by little: a page that lies over the rim stands out from it by a step, and begins another run.
    """
    gray = prescan.gray().pixels
    smooth = cv2.GaussianBlur(gray, (0, 0), 1.5)
    rim = max(2, min(gray.shape) // 60)
    top, bottom = smooth[:rim], smooth[-rim:]
    left, right = smooth[:, :rim], smooth[:, -rim:]
    # Once around, so that what is beside each other on the glass is so here too.
    ring = [*_pieces(top), *_pieces(right.T), *_pieces(bottom)[::-1], *_pieces(left.T)[::-1]]
    return Lid(float(median(ring)), max(_ranges(ring)))


def is_open(lid: Lid, before: Sequence[float] = ()) -> bool:
    """Whether the lid looks open: uneven as a room is, or unlike itself as it looked before.

    Args:
        lid: As it looks now.
        before: Its tone at earlier looks at the same glass; of too few nothing is concluded.
    """
    if lid.gradual > _UNEVEN:
        return True
    return len(before) >= _LOOKS and abs(lid.tone - median(before)) > _UNLIKE


def _pieces(strip: np.ndarray) -> list[float]:
    return [float(np.median(piece)) for piece in np.array_split(strip, _SEGMENTS, axis=1)]


def _ranges(ring: Sequence[float]) -> list[float]:
    """The range of tones of each run without a step; the ring is cut open where it has its largest one."""
    steps = [abs(tone - ring[at - 1]) for at, tone in enumerate(ring)]
    start = steps.index(max(steps))
    runs: list[list[float]] = []
    for at in range(len(ring)):
        place = (start + at) % len(ring)
        if at == 0 or steps[place] > _STEP:
            runs.append([])
        runs[-1].append(ring[place])
    return [max(run) - min(run) for run in runs]
