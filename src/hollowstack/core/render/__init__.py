"""Master to clean page. Decides nothing: does what the plan says, with one resampling."""

import cv2
import numpy as np

from hollowstack.core.decode.limits import MAX_PIXELS, MAX_SIDE
from hollowstack.core.imaging.colour_profile import calibrated
from hollowstack.core.imaging.paper_surface import SURFACE_PPI
from hollowstack.core.imaging.warp import warp
from hollowstack.core.page.errors import RenderError
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels, paint
from hollowstack.core.plan.plan import Plan, TwoTones
from hollowstack.core.render.adjusting import adjusted
from hollowstack.core.render.bitonal import to_bitonal
from hollowstack.core.render.tone import apply_tone

__all__ = ["RENDER_VERSION", "render", "render_before_adjusting", "render_for_reading"]

RENDER_VERSION = 10
"""Raised whenever a change here may change a pixel; part of the key of stored pages."""

_INSET_MM = 0.5
"""Cleared this far inside the outline, where lid and paper mix."""


def render(image: Raster, plan: Plan) -> Raster:
    """The clean page.

    Args:
        image: The page as captured; the plan was made for it.
        plan: What to do.

    Raises:
        RenderError: It would be larger than what is taken in.

    Returns:
        Gray for bitonal (0 and 255 only) and grey, RGB for colour.
    """
    page = render_before_adjusting(image, plan)
    if plan.adjust.at_rest and plan.balance is None:
        return two_toned(page, plan)
    return two_toned(adjusted(page, plan.adjust, plan.balance), plan)


def render_for_reading(image: Raster, plan: Plan) -> Raster:
    """The clean page as the OCR engine is given it: one in two tones as it is before them, everything in the same place.

    A threshold takes the grey rims off letters, by which a comma is told from a full stop where pixels are few.
    """
    return render(image, plan.model_copy(update={"colour": "grey"}) if plan.colour == "bitonal" else plan)


def render_before_adjusting(image: Raster, plan: Plan) -> Raster:
    """The page as it is before points and curves by hand, and before it is brought to two tones."""
    check_output(plan.size_px)
    pixels = image.pixels
    if plan.colour != "colour" and pixels.ndim == 3:
        pixels = image.gray().pixels
    elif plan.colour == "colour" and pixels.ndim == 2:
        pixels = as_pixels(cv2.cvtColor(pixels, cv2.COLOR_GRAY2RGB))
    paper = _paper(plan, pixels.ndim)
    page = warp(pixels, plan.quad, plan.size_px, paper)
    if plan.clear_outside:
        page = _clear_outside(page, plan, plan.clear_outside, paper)
    done = calibrated(Raster(page, plan.ppi), plan.icc) if plan.icc else Raster(page, plan.ppi)
    if plan.colour == "bitonal" or plan.tone is None:
        return done
    strengthen = plan.adjust.strengthen / 100
    level, content = paper_of(plan, done)
    return apply_tone(done, plan.tone, level, content, reduce_show_through=plan.reduce_show_through, strengthen=strengthen)


def check_output(size_px: tuple[int, int]) -> None:
    """Refuse a page that would be larger than what is taken in.

    Raises:
        RenderError: Over 500 megapixels, or over 65,000 pixels on a side.
    """
    width, height = size_px
    if width * height > MAX_PIXELS or max(width, height) > MAX_SIDE:
        raise RenderError(
            f"The page would have {width:,} × {height:,} pixels; the most is {MAX_PIXELS // 10**6} megapixels "
            f"and {MAX_SIDE:,} on a side: choose a lower resolution for it."
        )


def paper_of(plan: Plan, page: Raster) -> tuple[Pixels | None, Pixels | None]:
    """The bare paper of a planned page and where it has content, on a coarse grid over it; None without."""
    if plan.paper_map is None:
        return None, None
    factor = page.divisor(SURFACE_PPI)
    size = (max(1, page.width // factor), max(1, page.height // factor))
    level = plan.paper_map.level_on(plan.quad, size, 1 if page.is_gray else 3)
    content = plan.paper_map.content_on(plan.quad, size)
    if plan.clear_outside is not None:
        # What is cleared is painted in the page's usual paper, whatever its paper is like nearby.
        outside = np.ones(size[::-1], np.uint8)
        onto = Transform.onto(plan.quad, *size)
        _fill(outside, onto.quad(plan.clear_outside), 0)
        content[outside > 0] = 0
        paint(level, outside, _paper(plan, page.pixels.ndim))
    if plan.icc and not page.is_gray:
        level = calibrated(Raster(level), plan.icc).pixels
    return level, content


def two_toned(page: Raster, plan: Plan, *, draft: bool = False) -> Raster:
    """A bitonal page in its two tones; any other as it is.

    For a draft, specks are not looked for, nor tails: it is most of the work, and none is seen on a reduction.
    """
    if plan.colour != "bitonal" or _is_black_and_white(page.pixels):
        return page
    how = plan.two_tones or TwoTones()
    if how.method == "middle":
        return Raster(as_pixels(cv2.threshold(page.pixels, 127, 255, cv2.THRESH_BINARY)[1]), page.ppi)
    strengthen = plan.adjust.strengthen / 100
    # Tones set by hand have moved paper and ink: both are looked for again then.
    as_planned = plan.adjust.at_rest
    return to_bitonal(
        page,
        how.method,
        paper_of(plan, page)[0] if as_planned else None,
        limit=how.limit if as_planned else None,
        smooth_mm=how.smooth_mm,
        despeckle=how.despeckle and not draft,
        strengthen=strengthen,
        weak_strokes=not draft,
    )


def _paper(plan: Plan, ndim: int) -> tuple[int, ...]:
    """The paper's tone in the channels of the page."""
    if ndim == 3:
        return plan.paper if len(plan.paper) == 3 else plan.paper * 3
    if len(plan.paper) == 1:
        return plan.paper
    red, green, blue = plan.paper
    return (round(0.299 * red + 0.587 * green + 0.114 * blue),)


def _clear_outside(page: Pixels, plan: Plan, outline: Quad, paper: tuple[int, ...]) -> Pixels:
    width, height = plan.size_px
    onto = Transform.onto(plan.quad, width, height)
    outside = np.ones((height, width), np.uint8)
    _fill(outside, onto.quad(outline), 0)
    inset = round(_INSET_MM * sum(plan.ppi) / 2 / MM_PER_INCH)
    kernel = np.ones((2 * inset + 1, 2 * inset + 1), np.uint8)
    outside = cv2.dilate(outside, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=1)
    for spot in plan.protected:
        _fill(outside, onto.quad(spot), 0)
    page = page if page.flags.writeable else page.copy()
    paint(page, outside, paper)
    return page


def _fill(mask: Pixels, quad: Quad, value: int) -> None:
    # Sub-pixel corners: OpenCV's fixed-point coordinates carry 4 fractional bits here.
    cv2.fillConvexPoly(mask, np.rint((quad.array() - 0.5) * 16).astype(np.int32), value, shift=4)


def _is_black_and_white(page: Pixels) -> bool:
    return bool(np.count_nonzero(cv2.calcHist([page], [0], None, [256], [0, 256])[1:255]) == 0)
