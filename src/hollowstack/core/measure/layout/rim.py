"""What surely is no page along the four sides of an image: bars and wedges of lid, and a neighbour page beyond the fold.

Where no outline is sure, every side is looked at by itself: what is surely lid goes, what is surely page stays, and what is
doubtful stays too.
"""

from dataclasses import dataclass, replace

import cv2
import numpy as np

from hollowstack.core.measure.layout.bars import find_bar
from hollowstack.core.measure.layout.corner_blocks import find_corner_blocks
from hollowstack.core.measure.layout.cut import Cut, SideView, laid
from hollowstack.core.measure.layout.edges import Edges
from hollowstack.core.measure.layout.fold import find_fold
from hollowstack.core.measure.layout.line_fit import corners_of, line_of
from hollowstack.core.measure.layout.traces import find_paper_edge
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Raster, as_pixels

RIM_PPI = 75.0
LEAST_PX = 40
"""A smaller reduction shows no sides to speak of."""
BITONAL_RIM_PPI = 110.0
DARK = 0.6
"""Share of the paper's light below which a pixel may be lid; print on old paper is as dark, but does not reach the rim."""
RIM_SHARE = 0.01
BLACK = 0.15
STRIP_SHARE = 0.2
SHADED = 0.85
"""Shares of the width next to the rim, and of the paper's light below which a lid is black, and paper in the shade: where it
is, and lid is darker than half-way between the two."""
BITONAL_DARK = 0.8
"""The same for a reduction of an image in two tones: a thin stroke is gray in it."""
PEELS = 3
"""How often a side is looked at again after something was cut off it: a bar, the white beside it, another one."""
SURE_EDGES = 0.95
TOUCHES = 0.004
"""How sure an outline is from which its sides are let be, and the share of the image's shorter side up to which such a side
lies at the rim."""
AT_RIM = 0.025
"""Share of the image's shorter side within which a side of the outline lies at the rim."""
LEAST_LEFT = 0.5
RIM_CONFIDENCE = 0.7
SQUARE_DEG = 0.6
"""By how much the tilts of a sheet's sides may differ: paper is cut so, and lines are fitted so (common practice)."""


@dataclass(frozen=True, slots=True)
class Rim:
    """Cuts for the sides left, top, right, bottom of an image, in its pixels; None where the page reaches the rim."""

    cuts: tuple[Cut | None, Cut | None, Cut | None, Cut | None]


def find_rim(page: Raster, usual: float, *, bitonal: bool = False, known: Edges | None = None) -> Rim:
    """What along the sides of an image is surely no page.

    Args:
        page: Gray or colour, as captured, upright or on its side.
        usual: Gray of its paper.
        known: Edges that were found already: sides that do not lie at the image's rim are not looked at.
        bitonal: Whether the image has two tones: there is no shade then, and every black is the same.

    Source:
        Connected components; lines by RANSAC (Fischler and Bolles 1981). The limits are common practice, no source.
    """
    small = page.reduced(BITONAL_RIM_PPI if bitonal else RIM_PPI)
    if min(small.width, small.height) < LEAST_PX:
        return Rim((None, None, None, None))
    channels = () if small.is_gray else cv2.split(small.pixels)
    colour = as_pixels(np.maximum.reduce(channels) - np.minimum.reduce(channels)) if channels else None
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    gray = small.gray().pixels
    light = gray if bitonal else as_pixels(cv2.medianBlur(gray, 3))
    scale = (page.width / small.width, page.height / small.height)
    cuts: list[Cut | None] = []
    for side in range(4):
        if known is not None and not _at_rim(known, side, page, bitonal=bitonal):
            cuts.append(None)
            continue
        # Along the longer sides: a book lies with its fold to the side of its image, however that lies.
        bound = not bitonal and (side in (0, 2)) == (page.height >= page.width)
        lying = laid(light, side)
        dark = lying < (BITONAL_DARK if bitonal else DARK) * usual
        view = SideView(dark, lying, None if colour is None else laid(colour, side), usual, px_mm, bitonal)
        across, along = (scale[0], scale[1]) if side in (0, 2) else (scale[1], scale[0])
        found = _peeled(view, bound=bound)
        cuts.append(None if found is None else Cut(found.offset * across, found.slope * across / along, found.kind))
    return Rim((cuts[0], cuts[1], cuts[2], cuts[3]))


def _shaded(side: SideView) -> SideView | None:
    """The same side with a black lid told from paper in the shade: dark is what is below half-way; None where none is."""
    cols = side.light.shape[1]
    rim, strip = side.light[:, : max(1, round(RIM_SHARE * cols))], side.light[:, : round(STRIP_SHARE * cols)]
    black, paper = float(np.median(rim)), float(np.median(strip))
    if side.bitonal or black >= BLACK * side.usual or paper >= SHADED * side.usual:
        return None
    return replace(side, dark=side.light < (black + paper) / 2)


def _peeled(side: SideView, *, bound: bool) -> Cut | None:
    """What is cut off one side: what surely is no page there, and then what surely is none beside that."""
    cut: Cut | None = None
    for turn in range(PEELS):
        length = len(side.dark)
        bar = find_bar(side, again=turn > 0)
        if bar is None and (shaded := _shaded(side)) is not None:
            bar = find_bar(shaded, again=turn > 0)
        found = [bar, find_fold(side) if bound and turn == 0 else None]
        found += [find_paper_edge(side), find_corner_blocks(side)] if side.bitonal else []
        deepest = max((one for one in found if one), key=lambda one: one.depth(length), default=None)
        if deepest is None:
            break
        cut = deepest if cut is None else cut.within(deepest)
        side = side.beyond(deepest)
    return cut


def with_rim(edges: Edges, rim: Rim, image: Raster) -> Edges:
    """Edges whose sides lie at the image's rim moved in to where the rim was found to be no page; others as they are."""
    if not any(rim.cuts):
        return edges
    frame = Quad.rectangle(0, 0, image.width, image.height)
    lines, plain = [], []
    for side, cut in enumerate(rim.cuts):
        line, bright = (line_of(quad, side) for quad in (edges.quad, edges.bright))
        if cut is not None:
            line = (
                (cut.offset, cut.slope)
                if side < 2
                else (float((image.width, image.height)[side % 2]) - cut.offset, -cut.slope)
            )
            bright = line
        lines.append(line)
        plain.append(bright)
    one = np.ones(2)
    quad, bright_quad = corners_of(lines, one, frame), corners_of(plain, one, frame)
    if quad.area() < LEAST_LEFT * frame.area():
        return edges
    # A side that is square to those that were seen against the lid is one of theirs.
    sure = (
        edges.lid
        and edges.confidence >= SURE_EDGES
        and is_square(quad, (image.width, image.height))
        and all(c.kind == "lid" for c in rim.cuts if c)
    )
    confidence = edges.confidence if sure else min(edges.confidence, RIM_CONFIDENCE)
    return Edges(quad, bright_quad, lid=True, confidence=confidence, torn=edges.torn)


def is_square(quad: Quad, size: tuple[int, int]) -> bool:
    """Whether those sides of an outline that lie within their image are tilted alike, as a sheet's are; two at least."""
    corners = quad.array()
    across = np.roll(corners, -1, axis=0) - corners
    tilts = (np.degrees(np.arctan2(across[:, 1], across[:, 0])) + 45) % 90 - 45
    limits = ((1, 0), (0, size[0]), (1, size[1]), (0, 0))  # top, right, bottom, left
    ends = np.stack([corners, np.roll(corners, -1, axis=0)], axis=1)
    inside = [at for at, (axis, rim) in enumerate(limits) if np.abs(ends[at, :, axis] - rim).max() > 1]
    return len(inside) >= 2 and bool(np.ptp(tilts[inside]) <= SQUARE_DEG)


def _at_rim(edges: Edges, side: int, image: Raster, *, bitonal: bool) -> bool:
    """Whether a side of an outline lies at the rim of its image."""
    offset, slope = line_of(edges.quad, side)
    size = (image.width, image.height)
    limit = 0 if side < 2 else size[side % 2]
    if edges.lid and edges.confidence >= SURE_EDGES and not bitonal:
        # Seen against its lid from end to end: it is at the rim only where it touches it all along.
        ends = abs(offset - limit), abs(offset + slope * size[1 - side % 2] - limit)
        return max(ends) <= TOUCHES * min(size)
    return abs(offset + slope * size[1 - side % 2] / 2 - limit) <= AT_RIM * min(size)
