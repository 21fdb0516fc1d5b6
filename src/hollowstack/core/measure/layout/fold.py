"""The fold beyond which the strip of a neighbouring page shows along a side of an image."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.cut import Cut, Floats, Mask, SideView
from hollowstack.core.measure.layout.line_fit import Line
from hollowstack.core.page.raster import Pixels

FOLD_REACH = 0.28
"""Share of the width within which a neighbour's strip is looked for. Letters are creased at a third and at a half; and
nearer to the middle lie two pages."""
FOLD_BAND_MM = 2.6
FEWEST_BANDS = 24
FOLD_BESIDE_MM = 3.5
"""How far to both sides of a fold the paper is compared."""


class _Kind(NamedTuple):
    """What a line of dips must be to be a fold."""

    depth: float
    """Share of the paper's light beside it that is missing."""
    seen: float
    """Share of the image's height at which it is."""
    crowded: float
    """Share of the heights at which any place has such a dip, from which a line of them says nothing."""


PLAIN_FOLD = _Kind(0.05, 0.86, 0.56)
FAINT_FOLD = _Kind(0.03, 0.92, 0.3)
"""The fainter it is the more of it must be seen, and the less elsewhere."""
FOLD_ENDS_MM, FOLD_ENDS_SEEN = 8.0, 0.33
"""Within so much of the image's rim, and at that share of heights there, it is seen at both ends: a printed frame ends
before, and where there is lid a fold is not seen."""
MOST_LINES = 4
"""Parallel lines that may be seen where one is a fold: those of the pages below it. Text has more."""
FOLD_HALF_MM = 0.9
ANOTHER_TONE, ANOTHER_INK = 0.04, 0.03
"""Difference of tone between two sheets, and the share of a sheet that print covers."""
FOLD_SLOPE = 0.12
REFINED_SLOPE = 0.008
REFINED_STEP = 0.001
REFINED_PX = 3
"""Around a fold that was found, how far and how finely a better line is looked for: in slope, and in pixels."""
LEAST_STRIP_MM = 1.2
"""A narrower strip is no neighbour's but the shade of the page's own edge."""
INK = 0.68
"""Share of the light around it that ink is darker than."""
MOST_ACROSS = 0.12
"""Share of heights at which there may be ink on both sides of a fold."""


def find_fold(side: SideView) -> Cut | None:
    """The fold beyond which a neighbour page shows, on the left: a dark line from rim to rim that nothing is written across.

    A printed rule or frame ends within the page's margins; what lies beyond a fold ends with the image.
    """
    light, px_mm = side.light, side.px_mm
    rows, cols = light.shape
    band = max(3, round(FOLD_BAND_MM * px_mm))
    count = rows // band
    if count < FEWEST_BANDS:
        return None
    last = round(FOLD_REACH * cols)
    outer = light[: count * band, : last + round(5 * px_mm)].reshape(count, band, -1)
    profile = np.median(outer[:, ::2], axis=1).astype(np.float32)
    dips = _valleys(profile, max(2, round(FOLD_BESIDE_MM * px_mm)))
    middle = (np.arange(count) + 0.5) * band
    for kind in (PLAIN_FOLD, FAINT_FOLD):
        line = _line_of_dips(side, dips >= kind.depth, middle, last, kind)
        if line is not None:
            offset, slope = _refined(dips, middle, line)
            return Cut(offset + 0.5, slope, "neighbour")
    return None


def _line_of_dips(side: SideView, dips: Mask, middle: Floats, last: int, kind: _Kind) -> Line | None:
    """The line of dips from end to end that is a fold, the one seen at most heights; None where there is none."""
    rows, px_mm = len(side.light), side.px_mm
    seen = cv2.dilate(dips.astype(np.float32), np.ones((1, 3), np.uint8))
    ends = max(3, round(FOLD_ENDS_MM / FOLD_BAND_MM))
    first = max(2, round(LEAST_STRIP_MM * px_mm))
    best: tuple[Line, float] | None = None
    if float(seen[:, first:last].any(axis=1).mean()) < kind.seen:
        return None
    for slope in np.arange(-FOLD_SLOPE, FOLD_SLOPE + 1e-9, 0.006):
        # Each band moved by what the line has gone by then, so that the line stands upright; counted from its middle.
        shift = np.rint(slope * (middle - rows / 2)).astype(int)
        places = np.arange(first, last)[None, :] + shift[:, None]
        inside = (places >= 0) & (places < seen.shape[1])
        hits = np.where(inside, np.take_along_axis(seen, np.clip(places, 0, seen.shape[1] - 1), axis=1), 0)
        share = hits.mean(axis=0)
        reaches = (hits[:ends].mean(axis=0) >= FOLD_ENDS_SEEN) & (hits[-ends:].mean(axis=0) >= FOLD_ENDS_SEEN)
        good = np.flatnonzero((share >= kind.seen) & reaches)
        if not len(good) or float(np.median(share)) > kind.crowded:
            continue  # a picture, a half-tone: dips are everywhere
        if 1 + np.count_nonzero(np.diff(good) > 2 * px_mm) > MOST_LINES:
            return None  # lines of text that run from rim to rim
        at = int(good[-1])
        line = (float(first + at - slope * rows / 2), float(slope))
        if (best is None or float(share[at]) > best[1]) and _is_fold(side.light, side.usual, line, px_mm):
            best = line, float(share[at])
    return None if best is None else best[0]


def _refined(dips: npt.NDArray[np.float32], middle: Floats, near: Line) -> Line:
    """The line near one that was found along which it is darkest."""
    offset, slope = near
    best, line = -1.0, near
    at = float(middle.mean())
    rows = np.arange(len(middle))
    for steep in slope + np.arange(-REFINED_SLOPE, REFINED_SLOPE + 1e-9, REFINED_STEP):
        for place in offset + slope * at + np.arange(-REFINED_PX, REFINED_PX + 1):
            columns = np.rint(place + steep * (middle - at)).astype(int)
            inside = (columns >= 0) & (columns < dips.shape[1])
            # The square root: a few very dark places do not outweigh a line that is seen all along.
            seen = float(np.sqrt(np.maximum(dips[rows[inside], columns[inside]], 0)).sum())
            if seen > best:
                best, line = seen, (float(place - steep * at), float(steep))
    return line


def _is_fold(light: Pixels, usual: float, line: Line, px_mm: float) -> bool:
    return _another_page(light, line, px_mm) and not _written_across(light, usual, line, px_mm)


def _another_page(light: Pixels, line: Line, px_mm: float) -> bool:
    """Whether what lies beyond a line is another sheet: its paper differs in tone, or it has print that the rim cuts."""
    rows, cols = light.shape
    at = line[0] + line[1] * np.arange(rows)
    places = np.arange(cols)[None, :] - at[:, None]
    beyond = light[places < -FOLD_HALF_MM * px_mm]
    within = light[(places > FOLD_HALF_MM * px_mm) & (places < (FOLD_HALF_MM + FOLD_BESIDE_MM) * px_mm)]
    if len(beyond) < rows or len(within) < rows:
        return False
    paper, own = (float(np.percentile(part, 70)) for part in (beyond, within))
    return abs(paper / max(own, 1.0) - 1) >= ANOTHER_TONE or float(np.mean(beyond < INK * paper)) >= ANOTHER_INK


def _valleys(profile: npt.NDArray[np.float32], beside: int) -> npt.NDArray[np.float32]:
    """How much darker each place is than the lightest on either side of it, as a share of the darker of those."""
    window = np.ones((1, beside), np.uint8)
    left = cv2.dilate(profile, window, anchor=(beside - 1, 0), borderType=cv2.BORDER_REPLICATE)
    right = cv2.dilate(profile, window, anchor=(0, 0), borderType=cv2.BORDER_REPLICATE)
    return np.asarray(1 - profile / np.maximum(np.minimum(left, right), 1), np.float32)


def _written_across(light: Pixels, usual: float, line: Line, px_mm: float) -> bool:
    """Whether writing goes on across a line at more than a few heights: then it is a crease in one page, not a fold."""
    rows, cols = light.shape
    near, far = 0.5 * px_mm, 2.5 * px_mm
    at = line[0] + line[1] * np.arange(rows)
    places = np.arange(cols)[None, :] - at[:, None]
    around = cv2.blur(light, (2 * round(4 * px_mm) + 1,) * 2, borderType=cv2.BORDER_REFLECT)
    ink = light < INK * np.minimum(around.astype(np.float32), usual)
    left = (ink & (places <= -near) & (places >= -far)).any(axis=1)
    right = (ink & (places >= near) & (places <= far)).any(axis=1)
    return float(np.mean(left & right)) > MOST_ACROSS
