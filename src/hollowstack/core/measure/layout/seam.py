"""Where a page lies on a lid as light as itself: the seam at which its own shade, or the lid's white, gives way to paper."""

from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.measure.layout.cut import laid
from hollowstack.core.measure.layout.lettered import is_lettered
from hollowstack.core.measure.layout.line_fit import Line, corners_of
from hollowstack.core.measure.layout.seam_strip import ALONG_MM, RISE, Floats, Strip, View, planes_of, rise_of
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Raster

_PPI = 50.0
_FINE_PPI = 150.0
_DEEPEST = 0.42
"""Share of an image's width or height up to which a side is looked for."""
_NEAREST_MM = 1.2
"""A side nearer to the rim cannot be told from it."""
_STEEPEST, _STEP = 0.06, 0.002
_FEWEST, _NEARLY = 0.35, 0.85
"""Share of the rows in which a side is seen, and of the most rows of any line: the outermost such line is the side."""
_SEEN = 0.75
"""Share of a side's own length along which it is seen."""
LIGHT = 150
"""Gray of the darkest lid that is looked at in this way."""
_NEUTRAL = 10.0
"""Difference between a lid's channels: lids are neutral."""
_APART = 3.0
"""Gray values between lid and paper in some channel, or in how coloured they are."""
_SHADE = 6.0
"""Gray values by which a lid is darker just outside of a page than farther away."""
_PRINTED = 0.5
"""Share of the lid's light below which what lies there is no shade but print."""
_DUST = 0.02
"""Share of a lid that dust covers at most; lines of text beyond a title cover more."""
_SQUARE = 0.02
"""Slopes of opposite sides differ by no more, nor do sides from being square to each other."""
_LEAST_PAGE = 0.2
_TORN = 0.4
"""Share of a side's end below which it is not seen there: at a corner where the page is missing."""
_HOW_WELL, _CLIP = 0.3, 12.0
"""What the height of the rise counts beside its being seen, and up to how many gray values."""
_LEAST_PX, _FEWEST_SIDES = 40, 2
_ENDS = ((0, 3), (0, 1), (1, 2), (3, 2))
"""Corners of a quad at the ends of its left, top, right and bottom."""


class Seam(NamedTuple):
    """The outline in pixels of the image, and the least share of any side's length along which it is seen; ``torn`` are the
    corners at which the page is missing, by their place in the outline."""

    quad: Quad
    seen: float
    torn: tuple[int, ...] = ()


def find_seam(image: Raster) -> Seam | None:
    """The outline of a page on a light lid; None where there is no such lid, or it does not show well enough.

    Each side is the outermost straight line along which light rises from outside inward: a page lies above its lid, and
    shades it all around; where no shade falls, its paper is more coloured than the lid. What lies beyond must be light,
    neutral, and unlike the paper within; print is darker, and a frame has the same paper on both sides.

    Args:
        image: As captured, gray or colour.

    Source:
        Line integral of the gradient (a Radon transform over few angles, after J. Radon, 1917), settled by trimmed least
        squares. The figures are common practice, no source.
    """
    small = image.reduced(_PPI)
    if min(small.width, small.height) < _LEAST_PX:
        return None
    planes = planes_of(small)
    lines = [_side(planes, side, small) for side in range(4)]
    if sum(line is not None for line in lines) < _FEWEST_SIDES or not _square(lines):
        return None
    fine = image.reduced(_FINE_PPI)
    fine_planes = planes_of(fine)
    scale = (fine.width / small.width, fine.height / small.height)
    strips = {}
    for side, line in enumerate(lines):
        if line is not None:
            across, along = scale if side in (0, 2) else scale[::-1]
            strips[side] = Strip.of(fine, fine_planes, side, (line[0] * across, line[1] * across / along)).settled()
    # A side that is none, a line of text or a rule, is left out: the page reaches the image's rim there.
    views = _views(strips, _outline(strips, fine))
    strips = {side: strip for side, strip in strips.items() if (view := views.get(side)) and _is_beside_lid(view)}
    quad = _outline(strips, fine)
    views = _views(strips, quad)
    if len(views) < _FEWEST_SIDES or not _is_seam(list(views.values())):
        return None
    if quad.area() < _LEAST_PAGE * fine.width * fine.height or is_lettered(fine, quad):
        return None
    seen = min(view.seen for view in views.values())
    onto = [image.width / fine.width, image.height / fine.height]
    return Seam(Quad.of(quad.array() * onto), round(seen, 3), _torn(views))


def _outline(strips: dict[int, Strip], fine: Raster) -> Quad:
    """The sides that were found, and the image's own elsewhere, as corners in its pixels."""
    size = (fine.width, fine.height)
    lines = []
    for side in range(4):
        rim = (0.0 if side < 2 else float(size[side % 2]), 0.0)
        lines.append(strips[side].in_image() if side in strips else rim)
    return corners_of(lines, np.ones(2), Quad.rectangle(0, 0, *size))


def _views(strips: dict[int, Strip], quad: Quad) -> dict[int, View]:
    """What lies on both sides of each side, between its corners."""
    found = {}
    for side, strip in strips.items():
        first, last = sorted(quad.array()[list(_ENDS[side])][:, 1 - side % 2])
        if (view := strip.view(first, last)) is not None:
            found[side] = view
    return found


def _torn(views: dict[int, View]) -> tuple[int, ...]:
    """Corners at which neither side that meets there is seen."""
    ends: dict[int, list[float]] = {}
    for side, view in views.items():
        for corner, share in zip(_ENDS[side], view.ends, strict=True):
            ends.setdefault(corner, []).append(share)
    return tuple(corner for corner, shares in sorted(ends.items()) if len(shares) == 2 and max(shares) < _TORN)


def _side(planes: tuple[Floats, Floats], side: int, small: Raster) -> Line | None:
    """The outermost line along which light rises, in the image laid with that side to the left."""
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    deepest = round(_DEEPEST * (small.width, small.height)[side % 2])
    light, colour = (laid(plane, side)[:, : deepest + 1] for plane in planes)
    rise = rise_of(light, colour, max(3, round(ALONG_MM * px_mm)))
    rows, cols = rise.shape
    seen = cv2.dilate((rise >= RISE).astype(np.float32), np.ones((1, 3), np.uint8))
    # How often it is seen, and then how well.
    weight = np.asarray(seen + _HOW_WELL * np.minimum(rise, _CLIP) / _CLIP, np.float32)
    most = np.zeros(cols)
    slopes = np.zeros(cols)
    for slope in np.arange(-_STEEPEST, _STEEPEST + 1e-9, _STEP):
        shear = np.array([[1, slope, -slope * rows / 2], [0, 1, 0]])
        how = cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
        count = cv2.reduce(cv2.warpAffine(weight, shear, (cols, rows), flags=how), 0, cv2.REDUCE_SUM).ravel()
        better = count > most
        most[better], slopes[better] = count[better], slope
    most[: max(2, round(_NEAREST_MM * px_mm))] = 0
    if most.max() < _FEWEST * rows:
        return None
    # The outermost line seen in nearly as many rows as any, at its best place.
    start = int(np.flatnonzero(most >= _NEARLY * most.max())[0])
    place = start + int(most[start : start + 4].argmax())
    return place + 0.5 - slopes[place] * rows / 2, float(slopes[place])


def _square(lines: list[Line | None]) -> bool:
    """Whether the sides found are nearly a rectangle's; each as its laid image has it."""
    # As turns of the page: a side laid from the far end is mirrored, and a flat one swapped.
    turns = [sign * line[1] for line, sign in zip(lines, (1, -1, -1, 1), strict=True) if line is not None]
    return max(turns) - min(turns) <= _SQUARE


def _is_beside_lid(view: View) -> bool:
    """Whether what lies beyond a side is a light lid, clean but for dust, and nothing printed meets the side."""
    light, colour = view.lid
    return light >= LIGHT and colour <= _NEUTRAL and view.near >= _PRINTED * light and view.soiled <= _DUST


def _is_seam(views: list[View]) -> bool:
    """Whether every side is seen, and lid and paper differ: by a shade on the lid, or by the paper's colour everywhere."""
    if min(view.seen for view in views) < _SEEN:
        return False
    shaded = sum(one.lid[0] - one.ramp >= _SHADE or one.lid[0] - one.near >= 2 * _SHADE for one in views)
    coloured = sum(one.paper[1] - one.lid[1] >= _APART for one in views)
    apart = sum(max(abs(paper - lid) for paper, lid in zip(one.paper, one.lid, strict=True)) >= _APART for one in views)
    return apart >= len(views) - 1 and (shaded >= 2 or coloured == len(views))
