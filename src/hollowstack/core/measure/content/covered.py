"""Writing that something lies on: a slip, a ruler, a finger. Its letters are cut at the edge of what lies there.

What belongs to a page leaves its text room: boxes keep letters at a distance, and what is printed on a tint goes on within
it.
"""

from collections.abc import Sequence

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

_KINDS = frozenset({"fill", "solid"})
"""Pictures and half-tones have edges of their own inside, at which ink seems to end."""
_LEAST_MM2 = 120.0
_LIGHTEST = 0.93
"""Light of what lies there as a share of the paper's: what is as light as paper cannot be told from it."""
_ROUGH_MM, _LIKE, _THICK_MM, _WHOLE = 2.5, 0.42, 0.35, 0.6
"""How rough the outline is; how like the others a pixel of it must be, as a share of its difference from paper; how thick it
is everywhere; and how much of the outline it must fill."""
_GAP_MM, _DEEP_MM = 0.17, 0.85
"""Ink is looked for between these distances from the edge, outside and inside."""
_INK, _DIFFERS = 0.7, 0.82
"""Light of ink as a share of what lies around it, on paper and on what lies there."""
_LEAST_INK = 3
"""Pixels of ink that make a place of it."""
_BARE = 0.004
"""Share of ink on what lies there, above which it is something with writing of its own."""
_HOLES = 0.004
"""Share of what lies there that is of another light within it, above which it is a picture."""
_MOST = 2
"""More tinted areas than this that letters meet are how the page is printed."""
_STEP_MM = 0.4
_CUT_LETTERS, _CUT_FROM_OUTSIDE, _REACHES_MM = 5, 3, 2.0
"""So many places along the edge at which ink ends there: fewer are marks that happen to meet it. The second where it reaches
in from the side of the page, that near, as a finger does."""


def find_covered(
    page: Raster, paper: Pixels, regions: Sequence[Region], corner: tuple[float, float], scale: float
) -> list[int]:
    """Indexes of the regions that lie on writing.

    Args:
        page: Gray, cut to its edges.
        paper: Its paper, of any size.
        regions: What was found on it, in pixels of the image as captured.
        corner: Left and top of ``page`` in pixels of its own.
        scale: Pixels of the image for one of the page.
    """
    light = background_normalised(page, paper)
    px_mm = page.px(MM_PER_INCH) / MM_PER_INCH
    found = []
    for index, region in enumerate(regions):
        if region.kind in _KINDS and region.area_mm2 >= _LEAST_MM2:
            outline = np.array(region.outline, np.float64) / scale - corner
            if _cuts_letters(light, outline, px_mm):
                found.append(index)
    return found if len(found) <= _MOST else []


def _cuts_letters(light: npt.NDArray[np.float32], outline: npt.NDArray[np.float64], px_mm: float) -> bool:
    """Whether ink ends at the edge of what lies within an outline in many places."""
    lying = _exactly(light, outline, px_mm)
    if lying is None:
        return False
    gap, deep = max(1, round(_GAP_MM * px_mm)), max(3, round(_DEEP_MM * px_mm))
    ink_out = (_ring(lying, gap, deep) > 0) & (light < _INK)
    inner = _ring(as_pixels(1 - lying), gap, deep) > 0
    level = float(np.median(light[lying > 0]))
    dark = light < _DIFFERS * min(level, 1.0)
    deeper = cv2.erode(lying, np.ones((2 * deep + 1, 2 * deep + 1), np.uint8)) > 0
    if deeper.any() and dark[deeper].mean() > _BARE:
        return False  # it has writing of its own: a box, a label, a cell of a table
    ink_in = inner & dark
    contours, _ = cv2.findContours(lying, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    filled = cv2.drawContours(np.zeros_like(lying), contours, -1, 1, cv2.FILLED)
    if np.count_nonzero(filled & ~lying & 1) > _HOLES * np.count_nonzero(filled):
        return False  # it has lights of its own: a woodcut, a picture of the night
    edge = max(contours, key=len).reshape(-1, 2)[:: max(1, round(_STEP_MM * px_mm))]
    reach = deep + gap
    cut = []
    for x, y in edge.tolist():
        box = np.s_[max(0, y - reach) : y + reach + 1, max(0, x - reach) : x + reach + 1]
        cut.append(bool(ink_out[box].sum() >= _LEAST_INK and not ink_in[box].any()))
    x, y, wide, high = cv2.boundingRect(lying)
    reaches_in = min(x, y, light.shape[1] - x - wide, light.shape[0] - y - high) <= round(_REACHES_MM * px_mm)
    return _runs(np.array(cut, bool)) >= (_CUT_FROM_OUTSIDE if reaches_in else _CUT_LETTERS)


def _exactly(light: npt.NDArray[np.float32], outline: npt.NDArray[np.float64], px_mm: float) -> Pixels | None:
    """What lies within a rough outline, by its own light; None where that is hardly darker than paper, or in pieces."""
    rough = np.zeros(light.shape, np.uint8)
    cv2.fillPoly(rough, [np.rint(outline).astype(np.int32)], 1)
    if not rough.any():
        return None
    level = float(np.median(light[rough > 0]))
    if level > _LIGHTEST:
        return None
    near = 2 * max(1, round(_ROUGH_MM * px_mm)) + 1
    within = cv2.dilate(rough, np.ones((near, near), np.uint8)) > 0
    like = as_pixels((within & (np.abs(light - level) < _LIKE * (1 - level) + 0.02)).astype(np.uint8))
    # The rims of letters have such a light, too, and are as thin as they are.
    thick = 2 * max(1, round(_THICK_MM * px_mm)) + 1
    solid = cv2.morphologyEx(like, cv2.MORPH_OPEN, np.ones((thick, thick), np.uint8))
    whole = cv2.morphologyEx(solid, cv2.MORPH_CLOSE, np.ones((thick, thick), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(whole, connectivity=8)
    if count < 2:
        return None
    largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    if stats[largest, cv2.CC_STAT_AREA] < _WHOLE * rough.sum():
        return None
    return as_pixels((labels == largest).astype(np.uint8))


def _ring(mask: Pixels, gap: int, deep: int) -> Pixels:
    """Pixels beyond a mask, from a gap to a depth away from it."""
    near = cv2.dilate(mask, np.ones((2 * gap + 1, 2 * gap + 1), np.uint8))
    far = cv2.dilate(mask, np.ones((2 * deep + 1, 2 * deep + 1), np.uint8))
    return as_pixels(far & (1 - near))


def _runs(cut: npt.NDArray[np.bool_]) -> int:
    """How many separate stretches there are."""
    return int(np.count_nonzero(cut & ~np.roll(cut, 1)))
