"""Where the output page lies in the image as captured: turn, tilt, crop, corners, size and scale as one quadrilateral."""

import math
from typing import NamedTuple

import numpy as np

from hollowstack.core.measure import Measurements
from hollowstack.core.measure.layout.aspect import snapped
from hollowstack.core.page.geometry import Matrix, Point, Quad, Transform, Turn, turned_size
from hollowstack.core.page.paper_sizes import nearest_size
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.page_group import PageGroup
from hollowstack.core.settings.override import Override, Split
from hollowstack.core.settings.treatment import Treatment

_PRINT_MARGIN_MM = 1.0
"""Paper left around what is printed where a side is moved in."""
_STANDARD_WITHIN = 0.03
"""Share by which a page's sides may differ from a paper size's to be given that size."""


class Outline(NamedTuple):
    """``quad`` in pixels of the image becomes a page of ``size_px`` at ``ppi`` (across, down).

    ``grown`` says that it reaches beyond what was found to be the page, ``by_corners`` that its corners were given or are
    those of a photographed page: then nothing is levelled, and nothing of the surround is in it.
    """

    quad: Quad
    size_px: tuple[int, int]
    ppi: tuple[float, float]
    grown: bool = False
    by_corners: bool = False


def find_outline(
    found: Measurements,
    treatment: Treatment,
    wish: Override,
    turn: Turn,
    skew: float,
    page_group: PageGroup | None,
    *,
    clearing: bool,
) -> Outline:
    """The output page before any change of its resolution.

    Args:
        found: What was measured.
        treatment: The stack's.
        wish: The page's own departures.
        turn: Clockwise quarter turn that will be made.
        skew: Degrees that will be taken out.
        page_group: The common shape of the stack's pages, where the treatment asks for one size.
        clearing: Whether borders will be cleared: then the page may go on into them, to where something is written.
    """
    ppi = turned_size(*(found.ppi or (ASSUMED_PPI, ASSUMED_PPI)), turn)
    crop = treatment.crop if wish.crop is None else wish.crop
    corners = wish.quad or _photographed(found, crop, wish)
    if corners:
        quad, size = _given(corners, turn)
        if not wish.quad and found.photograph is not None:
            aspect = found.photograph.aspect * _share_across(found.page_quad, corners)
            size, ppi = _flat(size, aspect if turn % 180 == 0 else 1 / aspect, ppi)
    else:
        quad, size = _level(found, turn, skew, crop=crop, split=wish.split, clearing=clearing)
    outline = Outline(quad, size, ppi, by_corners=corners is not None)
    if treatment.page_size == "nearest standard":
        outline = _standard(outline)
    elif treatment.page_size == "uniform" and page_group is not None and wish.quad is None and wish.split is None:
        outline = _uniform(outline, found, page_group)
    if treatment.margin_mm:
        across, down = (treatment.margin_mm * v / MM_PER_INCH for v in outline.ppi)
        outline = _window(outline, -across, -down, outline.size_px[0] + across, outline.size_px[1] + down)
    return outline


def scaled(outline: Outline, ppi: float, *, enlarge: bool) -> Outline:
    """At another resolution, the mean of both axes; larger only where that is asked for."""
    factor = ppi / (sum(outline.ppi) / 2)
    if abs(factor - 1) < 0.01 or (factor > 1 and not enlarge):
        return outline
    width, height = (max(1, round(v * factor)) for v in outline.size_px)
    across, down = outline.ppi[0] * width / outline.size_px[0], outline.ppi[1] * height / outline.size_px[1]
    return outline._replace(size_px=(width, height), ppi=(across, down))


def _photographed(found: Measurements, crop: bool, wish: Override) -> Quad | None:
    """The corners of a photographed page, or of the half of a spread, whose perspective is to be taken out.

    None where they are not known.
    """
    sure = found.photograph is not None and found.lid_seen and not found.photograph.cut_off
    if not sure or not crop or wish.skew is not None:
        return None
    if wish.split is None:
        return found.page_quad
    half = _kept(found.page_quad.array(), wish.split)
    if len(half) != 4:
        return None
    # Cut across, the lower half begins with the cut's right end: its corners are counted as the page's are.
    first = int(Transform.onto(found.page_quad, 1, 1).apply(half).sum(axis=1).argmin())
    return Quad.of(np.roll(half, -first, axis=0))


def _share_across(page: Quad, part: Quad) -> float:
    """Width over height of a part of a flat page, over the page's own."""
    if part == page:
        return 1.0
    corners = Transform.onto(page, 1, 1).apply(part.array())
    across, down = (float(np.ptp(corners[:, axis])) for axis in (0, 1))
    return across / max(down, 1e-6)


def _flat(size: tuple[int, int], aspect: float, ppi: tuple[float, float]) -> tuple[tuple[int, int], tuple[float, float]]:
    """A photographed page's true shape, as many pixels as before; and its scale, where that shape is a known paper's."""
    shape, paper = snapped(aspect)
    pixels = size[0] * size[1]
    width, height = round(math.sqrt(pixels * shape)), round(math.sqrt(pixels / shape))
    if paper is not None:
        scale = max(width, height) / paper.height_mm * MM_PER_INCH
        ppi = (scale, scale)
    return (max(1, width), max(1, height)), ppi


def _given(quad: Quad, turn: Turn) -> tuple[Quad, tuple[int, int]]:
    """Corners set by hand, in output order; each side of the page is the mean of the two that face each other."""
    turned = Quad.of(np.roll(quad.array(), turn // 90, axis=0))
    a, b, c, d = turned
    width, height = (math.dist(a, b) + math.dist(d, c)) / 2, (math.dist(a, d) + math.dist(b, c)) / 2
    return turned, (max(1, round(width)), max(1, round(height)))


def _level(
    found: Measurements, turn: Turn, skew: float, *, crop: bool, split: Split | None, clearing: bool
) -> tuple[Quad, tuple[int, int]]:
    """The level rectangle around the page's outline."""
    width, height = found.size_px
    page = found.page_quad if crop else Quad.rectangle(0, 0, width, height)
    upright_w, upright_h = turned_size(width, height, turn)
    straighten = Transform.turn(turn, width, height).then(
        Transform.rotation(-skew, Point(upright_w / 2, upright_h / 2)),
    )
    outline = page.array() if split is None else _kept(page.array(), split)
    # Writing that runs beyond the page's edge into the bar stays on the page; the rest of the bar will be cleared.
    kept = found.border_ink if clearing and split is None else ()
    ink = np.vstack([outline, *(spot.array() for spot in kept)])
    corners = straighten.apply(np.clip(ink, 0, (width, height)))
    if crop and skew and not found.lid_seen and split is None:
        # Nothing to crop to: the page fills its image, so keep its size instead of growing wedges of nothing.
        left, top = (upright_w - round(upright_w)) / 2, (upright_h - round(upright_h)) / 2
        right, bottom = left + round(upright_w), top + round(upright_h)
    else:
        left, top = (float(v) for v in corners.min(axis=0))
        right, bottom = (float(v) for v in corners.max(axis=0))
        if crop and split is None and found.rim_sides and not kept:
            left, top, right, bottom = _within(found, straighten, (left, top, right, bottom))
    out_w, out_h = max(1, round(right - left)), max(1, round(bottom - top))
    if not skew:
        left, top = round(left), round(top)
    # Exactly as many source pixels as output pixels: the resolution stays what it was.
    box = Quad.rectangle(left, top, left + out_w, top + out_h)
    return _tidy(straighten.inverse().quad(box)), (out_w, out_h)


def _within(
    found: Measurements, straighten: Transform, box: tuple[float, float, float, float]
) -> tuple[float, float, float, float]:
    """The box moved in to where nothing but page is left, on sides that are no edge of paper; nothing printed goes."""
    corners = straighten.apply(found.page_quad.array())
    ends = {"left": (0, 3), "top": (0, 1), "right": (1, 2), "bottom": (2, 3)}
    middle = corners.mean(axis=0)
    sides = list(box)
    printed = straighten.apply(np.array(found.print_outline)) if found.print_outline else None
    margin = _PRINT_MARGIN_MM * (found.ppi or (ASSUMED_PPI, ASSUMED_PPI))[0] / MM_PER_INCH
    for name in found.rim_sides:
        side = corners[list(ends[name])]
        away = side.mean(axis=0) - middle
        axis = int(abs(away[1]) > abs(away[0]))
        far = away[axis] > 0
        inner = float(side[:, axis].min() if far else side[:, axis].max())
        if printed is not None:
            limit = printed[:, axis].max() + margin if far else printed[:, axis].min() - margin
            inner = float(max(inner, limit) if far else min(inner, limit))
        place = axis + 2 * far
        sides[place] = min(sides[place], inner) if far else max(sides[place], inner)
    return sides[0], sides[1], sides[2], sides[3]


def _kept(outline: Matrix, split: Split) -> Matrix:
    """The part of a convex outline on the side of a line that is meant (Sutherland and Hodgman 1974)."""
    start, end = np.array(split.start), np.array(split.end)
    along = end - start
    sign = 1.0 if split.keep == "left" else -1.0
    # With y downwards, what is to the left of somebody looking along the line has this product negative.
    side = -sign * (along[0] * (outline[:, 1] - start[1]) - along[1] * (outline[:, 0] - start[0]))
    points: list[Matrix] = []
    for i, here in enumerate(outline):
        j = (i + 1) % len(outline)
        if side[i] <= 0:
            points.append(here)
        if side[i] * side[j] < 0:
            points.append(here + (outline[j] - here) * (side[i] / (side[i] - side[j])))
    return np.array(points) if len(points) >= 3 else outline


def _window(outline: Outline, left: float, top: float, right: float, bottom: float) -> Outline:
    """Another rectangle of the plane of the output page, in its pixels, at the same resolution."""
    width, height = max(1, round(right - left)), max(1, round(bottom - top))
    onto = Transform.onto(outline.quad, *outline.size_px)
    quad = onto.inverse().quad(Quad.rectangle(left, top, left + width, top + height))
    grown = left < -0.5 or top < -0.5 or left + width > outline.size_px[0] + 0.5 or top + height > outline.size_px[1] + 0.5
    return outline._replace(quad=_tidy(quad), size_px=(width, height), grown=outline.grown or grown)


def _standard(outline: Outline) -> Outline:
    """The paper size that the page nearly has, the page in its middle; as it is where there is none."""
    width, height = outline.size_px
    across, down = (MM_PER_INCH / v for v in outline.ppi)
    paper = nearest_size(width * across, height * down, _STANDARD_WITHIN)
    if paper is None:
        return outline
    sides = (paper.width_mm, paper.height_mm)
    wide, high = sides if height * down >= width * across else sides[::-1]
    new_w, new_h = round(wide / across), round(high / down)
    left, top = (width - new_w) // 2, (height - new_h) // 2
    return _window(outline, left, top, left + new_w, top + new_h)


def _uniform(outline: Outline, found: Measurements, page_group: PageGroup) -> Outline:
    """The size of its page group, the text where theirs is; as it is where the page is of another kind or would be cut."""
    width, height = (v * MM_PER_INCH / ppi for v, ppi in zip(outline.size_px, outline.ppi, strict=True))
    if not page_group.like(width, height):
        return outline
    across, down = (v / MM_PER_INCH for v in outline.ppi)
    new_w, new_h = page_group.width_mm * across, page_group.height_mm * down
    left, top = (outline.size_px[0] - new_w) / 2, (outline.size_px[1] - new_h) / 2
    if found.text_quad is not None:
        text = Transform.onto(outline.quad, *outline.size_px).quad(found.text_quad).array()
        (x0, y0), (x1, y1) = text.min(axis=0), text.max(axis=0)
        left, top = x0 - page_group.text_left_mm * across, y0 - page_group.text_top_mm * down
        # What is written must stay on the page, wherever the others have theirs.
        left, top = min(left, x0), min(top, y0)
        left, top = max(left, x1 - new_w), max(top, y1 - new_h)
    return _window(outline, left, top, left + new_w, top + new_h)


def _tidy(quad: Quad) -> Quad:
    return Quad(*(Point(round(x, 3), round(y, 3)) for x, y in quad))
