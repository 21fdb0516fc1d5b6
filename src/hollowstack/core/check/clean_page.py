"""The clean page looked at by itself: is any of the surround left on it, and has it the colours of its master?

What made it is not asked: a page that was cropped by a stain, or to nothing, was sure of it.
"""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.check.finding import Check, Finding
from hollowstack.core.check.structure import Box, Mask, box_in_image, laid_over, reduced_size
from hollowstack.core.imaging.histogram import histogram_mode, quantile
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan

_SURROUND_PPI = 60.0
_SIDE_MM = (0.5, 1.5)
"""How far in from the side of a clean page a rest of the surround shows; nearer, the paper's own edge may."""
_DARK = 0.4
"""Share of the paper's light below which that is surround, and no shade of a gutter."""
_ALONG = 0.45
"""Share of a side's length along which it is so dark."""
_DEEPEST_MM, _ENDS = 25.0, 0.8
"""So deep no picture that fills its page ends all along; share of the dark rows in which paper begins before that."""
_EVEN = 14.0
"""Deviation of the surround's tones, in 8-bit steps: a picture's differ by more."""

_COLOUR_PPI = 40.0
_STRONG, _NEUTRAL, _KEPT = 26.0, 9.0, 0.35
"""CIE C* against the page's own paper: of a colour that nobody overlooks, of what is none; and the share to be left."""
_LOST_MM2, _CAME_MM2 = 12.0, 40.0
"""Least area of it: a line of a stamp; a stain that came from nowhere."""


def check_clean(image: Raster, plan: Plan, page: Raster) -> list[Finding]:
    """What is wrong with a clean page as it looks; nothing where all is well.

    Args:
        image: The page as captured.
        plan: What was done.
        page: The clean page.

    Source:
        Colour differences in CIELAB (ISO/CIE 11664-4:2019). The limits are common practice, no source.
    """
    found = [_colours(image, plan, page)] if not plan.by_hand else []
    if not plan.keeps_surround and not plan.inverse:
        found.append(_surround(plan, page, image))
    return [one for one in found if one is not None]


def _surround(plan: Plan, page: Raster, image: Raster) -> Finding | None:
    """Dark, even stuff along a side that gives way to paper: the lid, a table, a scanner's bar."""
    small = page.reduced(_SURROUND_PPI).gray()
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    paper = float(quantile(small.pixels, 0.8)[0])
    worst: tuple[float, tuple[float, float, float, float]] | None = None
    for side in range(4):
        laid = small.pixels if side in (0, 2) else small.pixels.T
        depth = _surround_depth(laid[:, ::-1] if side >= 2 else laid, paper, px_mm)
        if depth and (worst is None or depth > worst[0]):
            wide, high = small.width, small.height
            box = ((0, 0, depth, high), (0, 0, wide, depth), (wide - depth, 0, wide, high), (0, high - depth, wide, high))
            worst = depth, box[side]
    if worst is None:
        return None
    mm = worst[0] / px_mm
    message = f"What lies around the page is left along a side, {mm:.0f} mm deep: move that side in."
    return _finding("borders left", message, box_in_image(worst[1], (small.width, small.height), plan, image), mm)


def _surround_depth(laid: npt.NDArray[np.uint8], paper: float, px_mm: float) -> float:
    """How deep the surround goes on the left, in pixels; 0 where there is none."""
    rows, cols = laid.shape
    first, last = (max(1, round(mm * px_mm)) for mm in _SIDE_MM)
    deepest = min(cols, round(_DEEPEST_MM * px_mm))
    if deepest <= last + 2 or rows < 20:
        return 0.0
    strip = laid[:, first : last + 1]
    dark = np.flatnonzero(strip.max(axis=1) < _DARK * paper)
    if len(dark) < _ALONG * rows or float(strip[dark].std()) > _EVEN:
        return 0.0
    light = laid[dark, :deepest] > (1 + _DARK) / 2 * paper
    ends = light.any(axis=1)
    return float(np.median(light[ends].argmax(axis=1))) if ends.mean() >= _ENDS else 0.0


def _colours(image: Raster, plan: Plan, page: Raster) -> Finding | None:
    """Colours of the master that the clean page has not, or the other way round; each against its own paper."""
    if image.is_gray:
        return None
    size = reduced_size(plan, _COLOUR_PPI)
    master, seen = laid_over(image, plan, size, _COLOUR_PPI)
    clean = cv2.resize(page.downsampled(_COLOUR_PPI).pixels, size, interpolation=cv2.INTER_AREA)
    if page.is_gray:
        clean = cv2.cvtColor(clean, cv2.COLOR_GRAY2RGB)
    was, now = _chroma(master), _chroma(as_pixels(clean))
    mm2 = (MM_PER_INCH / _COLOUR_PPI) ** 2
    around = np.ones((3, 3), np.uint8)
    lost = (was >= _STRONG) & (cv2.dilate(now, around) < _KEPT * was) & seen
    came = (now >= _STRONG) & (cv2.dilate(was, around) < _NEUTRAL) & seen
    for check, mask, least in (("colour lost", lost, _LOST_MM2), ("colour invented", came, _CAME_MM2)):
        piece = _largest(mask)
        area = float(np.count_nonzero(mask)) * mm2
        if piece is None or area < least:
            continue
        box = box_in_image(piece, size, plan, image)
        if check == "colour lost":
            message = f"Something coloured ({area:.0f} mm²) is grey or black on the clean page: keep the page in colour."
            return _finding("colour lost", message, box, area)
        message = f"Something ({area:.0f} mm²) has a colour that it has not as captured: look at its balance and paper."
        return _finding("colour invented", message, box, area)
    return None


def _chroma(pixels: Pixels) -> npt.NDArray[np.float32]:
    """CIE C* of each pixel against the commonest colour, the paper's: what is as yellow as that has none of its own."""
    calm = cv2.GaussianBlur(pixels, (0, 0), 0.8)
    lab = cv2.cvtColor(calm.astype(np.float32) / 255, cv2.COLOR_RGB2LAB)
    paper = np.array(histogram_mode(calm), np.float32).reshape(1, 1, 3) / 255
    own = cv2.cvtColor(paper, cv2.COLOR_RGB2LAB)[0, 0]
    # Darker paper is less yellow in step: its own colour fades with its light.
    share = np.clip(lab[..., :1] / max(float(own[0]), 1.0), 0, 1)
    return np.asarray(np.hypot(lab[..., 1] - share[..., 0] * own[1], lab[..., 2] - share[..., 0] * own[2]), np.float32)


def _largest(mask: Mask) -> tuple[float, float, float, float] | None:
    _, _, stats, _ = cv2.connectedComponentsWithStats(cv2.dilate(mask.astype(np.uint8), np.ones((3, 3), np.uint8)))
    if len(stats) < 2:
        return None
    left, top, wide, high, _ = (float(v) for v in stats[1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())])
    return left, top, left + wide, top + high


def _finding(check: Check, message: str, spot: Box, value: float) -> Finding:
    return Finding(check=check, verdict="review", value=round(value, 1), limit=None, message=message, spot=spot)
