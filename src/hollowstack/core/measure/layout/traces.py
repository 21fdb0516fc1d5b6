"""The edge of the paper in an image of two tones, where it shows as a thin line, mostly broken, along a side."""

import cv2
import numpy as np

from hollowstack.core.measure.layout.cut import Cut, Mask, SideView

_DEEPEST_MM = 9.0
"""How far from the rim such a line is looked for; the margin rule of a ruled sheet lies farther in."""
_DEEPEST_ASKEW_MM = 14.0
_ASKEW = 0.012
"""The same for a line that lies askew by so much against its image: rules are printed straighter, and pages laid so."""
_STEEPEST = 0.024
_STEP = 0.001
_BENT_PX = 4
_SEEN = 0.5
"""Share of the side's length at which the line is seen."""
_AS_MUCH = 0.02
_END_SHARE = 0.1
_SEEN_AT_END = 0.3
"""Within such a share of the side at either end, and how much of it is seen there: it goes to the image's rim, which a
printed rule does not."""
_BARE_MM = 1.0
_SOILED = 0.12
"""On both sides of the line it is bare nearly everywhere: share of the heights at which there may be something."""
_UNEVEN = 0.25
"""Least deviation of its thickness, as a share of the mean: a printed rule is even."""


def find_paper_edge(side: SideView) -> Cut | None:
    """A line from end to end along the left rim with nothing but specks and black beyond it; None where there is none.

    Source:
        Projection along sheared columns, as for skew (Postl 1986). The limits are common practice, no source.
    """
    rows, cols = side.dark.shape
    deepest = min(cols // 4, round(_DEEPEST_ASKEW_MM * side.px_mm))
    deepest_straight = min(cols // 4, round(_DEEPEST_MM * side.px_mm))
    bare = max(2, round(_BARE_MM * side.px_mm))
    if deepest < 4 or rows < 40:
        return None
    strip = side.dark[:, : deepest + bare + _BENT_PX + 1]
    at = np.arange(rows)
    best: tuple[float, Cut] | None = None
    for slope in np.arange(-_STEEPEST, _STEEPEST + 1e-9, _STEP):
        shift = np.rint(slope * (at - rows / 2)).astype(int)
        sheared = _sheared(strip, shift)
        # Four columns: such an edge is a little bent.
        wide = cv2.dilate(sheared.astype(np.uint8), np.ones((1, _BENT_PX), np.uint8), anchor=(0, 0))
        share = wide.mean(axis=0)
        # The line is thinner than the window: in the middle of the places from which all of it is seen it lies whole.
        share = share[: deepest if abs(slope) >= _ASKEW else deepest_straight]
        most = np.flatnonzero(share >= share.max() - _AS_MUCH)
        place = int(most[len(most) // 2])
        if share[place] < _SEEN or (best is not None and share[place] <= best[0]):
            continue
        end = max(1, round(_END_SHARE * rows))
        if min(wide[:end, place].mean(), wide[-end:, place].mean()) < _SEEN_AT_END:
            continue
        inside = sheared[:, place + _BENT_PX : place + _BENT_PX + bare].any(axis=1)
        outside = sheared[:, max(0, place - bare) : place].any(axis=1)
        if max(inside.mean(), outside.mean()) > _SOILED or not _is_uneven(sheared[:, place : place + _BENT_PX]):
            continue
        best = float(share[place]), Cut(place + _BENT_PX + 0.5 - slope * rows / 2, float(slope), "lid")
    return None if best is None else best[1]


def _sheared(strip: Mask, shift: np.ndarray) -> Mask:
    places = np.arange(strip.shape[1])[None, :] + shift[:, None]
    inside = (places >= 0) & (places < strip.shape[1])
    return np.asarray(np.take_along_axis(strip, np.clip(places, 0, strip.shape[1] - 1), axis=1) & inside)


def _is_uneven(line: Mask) -> bool:
    thick = line.sum(axis=1)
    thick = thick[thick > 0]
    return len(thick) > 0 and bool(thick.std() >= _UNEVEN * thick.mean() or np.count_nonzero(thick) < 0.9 * len(line))
