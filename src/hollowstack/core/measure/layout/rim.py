"""What surely is no page along the four sides of an image: bars and wedges of lid, and a neighbour page beyond the fold.

Where no outline is sure, every side is looked at by itself: what is surely lid goes, what is surely page stays, and what is
doubtful stays too.
"""

from dataclasses import dataclass
from typing import Literal, NamedTuple, TypeVar

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.edges import Edges, Line, corners_of
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

RIM_PPI = 75.0
LEAST_PX = 40
"""A smaller reduction shows no sides to speak of."""
BITONAL_RIM_PPI = 110.0
DARK = 0.6
"""Share of the paper's light below which a pixel may be lid; print on old paper is as dark, but does not reach the rim."""
BITONAL_DARK = 0.8
"""The same for a reduction of an image in two tones: a thin stroke is gray in it."""
PADDING_MM, PADDING_INK = 2.2, 0.003
"""How much white is taken for padding at most, and the share of its height at which it may be soiled."""
FLOATING_LENGTH, FLOATING_THICK_MM, FLOATING_TAPER = 0.15, 0.45, 0.3
"""Of a bar that does not reach the rim: its share of the side's length, its mean thickness, and how much that varies, as a
share of it; printed rules are of one thickness."""
FEW_SHORT_LINES = 0.4
"""Heights at which a sliver's lines end before the rim, for each at which they are cut by it."""
SLIVER_LINES, SLIVER_INK = 8, 0.4
"""Lines of a neighbour's sliver that the rim cuts, at least, and the share of it that is dark, at most."""
REACHES_MM = 0.7
"""How near to the image's rim a piece comes that reaches it."""
GAP_MM = 4.0
"""Pieces no farther apart than this, inwards, belong together: the letters of a line, but not page and neighbour."""
LEAST_LENGTH = 0.05
"""Share of a side's length at which there is lid at least; a letter cut by the rim is shorter."""
LEAST_DEPTH_MM = 0.3
DEEPEST_BAR = 0.075
DEEPEST_BAR_MM = 14.0
"""Share of the image's width, and mm, that a bar of lid or a neighbour's sliver takes up at most."""
DEEPEST_LID = 0.38
"""Share of the width that lid takes up at most where it runs all along its side."""
ALL_ALONG = 0.9
LID_LIGHT = 0.5
"""Share of the paper's light that such a lid stays below nearly everywhere: a picture has lights in it."""
LETTERS_FROM = 0.72
"""Light within it, as a share of the paper's, from which something is written there in white."""
COLOURED, COLOURED_LIGHT = 30, 0.33
"""Difference between channels of a strip that is coloured, and the light from which such a one is no lid."""
FILLED = 0.9
"""Share of it that is dark."""
LID_SLOPE = 0.03
"""Slope of a page's edge against its image; where it lies more askew there is lid all around."""
COVERED, COVERED_BITONAL = 0.5, 0.2
"""Share of the heights of a cut at which lid was seen, at least; broken by a threshold it is seen at few."""
PAPER_COST = 0.5
"""What is lost with a pixel of bare paper, as a share of what is left with one of lid."""
BITONAL_SLOPE = 0.01
"""The same in two tones, where lid shows at few places, and a wedge would leave much of what lies between them."""
TAKEN_SHARP = 0.6
"""The same where lid ends on a line, and print that runs into it makes it look deeper here and there."""
TAKEN = 0.985
"""Share of the lid's rows that a cut takes whole."""
SHARP_STEP = 0.72
"""Light of a lid as a share of that of the paper, two millimetres further in."""
DUST_MM = 0.7
FOLD_REACH = 0.28
"""Share of the width within which a neighbour's strip is looked for. Letters are creased at a third and at a half; and
nearer to the middle lie two pages."""
FOLD_BAND_MM = 2.6
FEWEST_BANDS = 24
FOLD_BESIDE_MM = 3.5
"""How far to both sides of a fold the paper is compared."""
FOLD_DEPTH = 0.05
"""Share of that paper's light which is missing in the fold."""
FOLD_SEEN = 0.86
"""Share of the image's height at which a fold is seen."""
FOLD_ENDS_MM, FOLD_ENDS_SEEN = 8.0, 0.33
"""Within so much of the image's rim, and at that share of heights there, it is seen at both ends: a printed frame ends
before, and where there is lid a fold is not seen."""
MOST_LINES = 4
"""Parallel lines that may be seen where one is a fold: those of the pages below it. Text has more."""
FOLD_HALF_MM = 0.9
ANOTHER_TONE, ANOTHER_INK = 0.04, 0.03
"""Difference of tone between two sheets, and the share of a sheet that print covers."""
FOLD_SLOPE = 0.12
LEAST_STRIP_MM = 1.2
"""A narrower strip is no neighbour's but the shade of the page's own edge."""
AT_RIM = 0.025
"""Share of the image's shorter side within which a side of the outline lies at the rim."""
LEAST_LEFT = 0.5
RIM_CONFIDENCE = 0.7
INK = 0.68
"""Share of the light around it that ink is darker than."""
MOST_ACROSS = 0.12
"""Share of heights at which there may be ink on both sides of a fold."""

Mask = npt.NDArray[np.bool_]
Floats = npt.NDArray[np.float64]


class Cut(NamedTuple):
    """Where the page begins on one side: depth in pixels from the rim = ``offset + slope * place along``; and why."""

    offset: float
    slope: float
    kind: Literal["lid", "neighbour"]


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
    colour = (
        None
        if small.is_gray
        else as_pixels(np.maximum.reduce(cv2.split(small.pixels)) - np.minimum.reduce(cv2.split(small.pixels)))
    )
    small = small.gray()
    light = cv2.medianBlur(small.pixels, 3) if not bitonal else small.pixels
    dark = light < (BITONAL_DARK if bitonal else DARK) * usual
    scale = (page.width / small.width, page.height / small.height)
    cuts: list[Cut | None] = []
    if min(small.width, small.height) < LEAST_PX:
        return Rim((None, None, None, None))
    for side in range(4):
        if known is not None and not _at_rim(known, side, page):
            cuts.append(None)
            continue
        across, along = (scale[0], scale[1]) if side in (0, 2) else (scale[1], scale[0])
        found = _bar(
            _laid(dark, side),
            _laid(light, side),
            usual,
            small,
            None if colour is None else _laid(colour, side),
            sharp=not bitonal,
        )
        if not bitonal and (side in (0, 2)) == (page.height >= page.width):
            # Along the longer sides: a book lies with its fold to the side of its image, however that lies.
            fold = _fold(_laid(light, side), usual, small)
            found = max((cut for cut in (found, fold) if cut), key=lambda cut: _deep(cut, len(light)), default=None)
        cuts.append(None if found is None else Cut(found.offset * across, found.slope * across / along, found.kind))
    return Rim((cuts[0], cuts[1], cuts[2], cuts[3]))


def with_rim(edges: Edges, rim: Rim, image: Raster) -> Edges:
    """Edges whose sides lie at the image's rim moved in to where the rim was found to be no page; others as they are."""
    if not any(rim.cuts):
        return edges
    frame = Quad.rectangle(0, 0, image.width, image.height)
    lines, plain = [], []
    for side, cut in enumerate(rim.cuts):
        line, bright = (_line_of(quad, side) for quad in (edges.quad, edges.bright))
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
    return Edges(quad, bright_quad, lid=True, confidence=min(edges.confidence, RIM_CONFIDENCE), torn=edges.torn)


def _at_rim(edges: Edges, side: int, image: Raster) -> bool:
    """Whether a side of an outline lies at the rim of its image."""
    offset, slope = _line_of(edges.quad, side)
    size = (image.width, image.height)
    limit = 0 if side < 2 else size[side % 2]
    return abs(offset + slope * size[1 - side % 2] / 2 - limit) <= AT_RIM * min(size)


def _line_of(quad: Quad, side: int) -> Line:
    """A side of a quad as a line: 0 left, 1 top, 2 right, 3 bottom."""
    a, b, c, d = quad
    (x1, y1), (x2, y2) = ((a, d), (a, b), (b, c), (d, c))[side]
    if side in (1, 3):
        x1, y1, x2, y2 = y1, x1, y2, x2
    slope = (x2 - x1) / max(y2 - y1, 1e-6)
    return x1 - slope * y1, slope


def _deep(cut: Cut, rows: int) -> float:
    return cut.offset + cut.slope * rows / 2


Values = TypeVar("Values", bound=np.generic)


def _laid(values: npt.NDArray[Values], side: int) -> npt.NDArray[Values]:
    """The image turned so that a side is on the left: rows run along it, columns inwards."""
    upright = values if side in (0, 2) else values.T
    return np.ascontiguousarray(upright[:, ::-1] if side >= 2 else upright)


def _bar(dark: Mask, light: Pixels, usual: float, small: Raster, colour: Pixels | None, *, sharp: bool) -> Cut | None:
    """Bars and wedges of lid that reach the left rim, and slivers of a neighbour's lines that are cut by it."""
    rows, cols = dark.shape
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    rim = max(1, round(REACHES_MM * px_mm))
    shallow = round(min(DEEPEST_BAR * cols, DEEPEST_BAR_MM * px_mm))
    if sharp and np.count_nonzero(dark[:, :rim].any(axis=1)) < LEAST_LENGTH * rows:
        return None
    # White that a device or a program has put around what was captured is no part of it.
    pad = 0 if sharp else _padding(dark, px_mm)
    dark, light = dark[:, pad:], light[:, pad:]
    end = min(shallow, rows // 4)
    dark = _without_ends(dark, end, rim)
    # Letters of a line that the rim cuts belong together, as far as the gap of a margin. In a gray image a neighbour is
    # known by the fold before it, and dark print would be tied to a dark lid.
    gap = 1 if sharp else max(3, round(GAP_MM * px_mm) | 1)
    joined = cv2.dilate(dark.astype(np.uint8), np.ones((1, gap), np.uint8))
    count, groups, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    reaching = np.zeros(count, bool)
    reaching[np.unique(groups[:, :rim][dark[:, :rim]])] = True
    reaching[0] = False
    if not sharp:
        reaching |= _floating(groups, stats, dark, shallow, px_mm)
    lid = np.zeros(count, bool)
    for index in np.flatnonzero(reaching):
        box = np.s_[stats[index, 1] : stats[index, 1] + stats[index, 3], : stats[index, 0] + stats[index, 2]]
        depth = _reach((groups[box] == index) & dark[box])
        deep = float(depth.max(initial=0))
        lid[index] = deep <= shallow or _is_lid(
            groups[box] == index,
            dark[box],
            light[box],
            None if colour is None else colour[box],
            depth,
            usual,
            rows - 2 * end,
            cols,
        )
    if not lid.any():
        return None
    mask = lid[groups] & dark
    reach = _reach(mask).astype(np.float64)
    if not _enough(reach, rows, px_mm) or (sharp and not _ends_sharply(light, reach, px_mm)):
        return None
    other = dark & ~mask & (groups > 0)
    other &= ~_dust(dark, px_mm)
    if not sharp:
        other &= ~_beyond(groups, stats, lid, reach, px_mm)
    line = _envelope(
        reach, other, px_mm, *((COVERED, LID_SLOPE, TAKEN_SHARP) if sharp else (COVERED_BITONAL, BITONAL_SLOPE, TAKEN))
    )
    if line is None:
        return None
    # A neighbour's sliver is mostly paper, with print on it that the rim cuts; a bar of lid is dark.
    within = np.arange(cols - pad)[None, :] < (line[0] + line[1] * np.arange(rows))[:, None]
    many = not sharp and int(lid.sum()) >= SLIVER_LINES
    sparse = many and float(dark[within].mean() if within.any() else 1.0) < SLIVER_INK
    return Cut(line[0] + pad, line[1], "neighbour" if sparse else "lid")


def _beyond(groups: npt.NDArray[np.int32], stats: npt.NDArray[np.int32], lid: Mask, reach: Floats, px_mm: float) -> Mask:
    """Lines of a neighbour's sliver that end before the rim: few, among many that it cuts, no farther in than those."""
    deepest = float(np.quantile(reach[reach > 0], TAKEN))
    right = stats[:, cv2.CC_STAT_LEFT] + stats[:, cv2.CC_STAT_WIDTH]
    within = ~lid & (right <= deepest + 2 * px_mm)
    within[0] = False
    rows = float(stats[within, cv2.CC_STAT_HEIGHT].sum())
    if rows > FEW_SHORT_LINES * np.count_nonzero(reach):
        within[:] = False
    return np.asarray(within[groups], np.bool_)


def _padding(dark: Mask, px_mm: float) -> int:
    """How many columns at the rim have nothing on them, before something has."""
    most = max(1, round(PADDING_MM * px_mm))
    seen = np.flatnonzero(dark[:, :most].mean(axis=0) > PADDING_INK)
    return int(seen[0]) if len(seen) else 0


def _floating(groups: npt.NDArray[np.int32], stats: npt.NDArray[np.int32], dark: Mask, shallow: int, px_mm: float) -> Mask:
    """Long bars near the rim that are thick here and thin there, as the shade of a page's edge is, and no printed rule."""
    found = np.zeros(len(stats), bool)
    near = stats[:, cv2.CC_STAT_LEFT] + stats[:, cv2.CC_STAT_WIDTH] <= shallow
    near &= stats[:, cv2.CC_STAT_HEIGHT] >= FLOATING_LENGTH * len(dark)
    near[0] = False
    for index in np.flatnonzero(near):
        rows = np.s_[stats[index, cv2.CC_STAT_TOP] : stats[index, cv2.CC_STAT_TOP] + stats[index, cv2.CC_STAT_HEIGHT]]
        piece = (groups[rows, :shallow] == index) & dark[rows, :shallow]
        _, _, parts, _ = cv2.connectedComponentsWithStats(piece.astype(np.uint8), connectivity=8)
        if len(parts) < 2 or parts[1:, cv2.CC_STAT_HEIGHT].max() < 0.8 * len(piece):
            continue  # a line of text
        thick = piece.sum(axis=1).astype(float)
        if thick.mean() < FLOATING_THICK_MM * px_mm or thick.std() < FLOATING_TAPER * thick.mean():
            continue
        start = np.where(piece.any(axis=1), piece.argmax(axis=1), 0)
        before = dark[rows, :shallow] & (np.arange(shallow)[None, :] < start[:, None])
        found[index] = float(before.any(axis=1).mean()) < 0.1
    return found


def _without_ends(dark: Mask, end: int, rim: int) -> Mask:
    """Without what lies along the two sides next to this one: they are looked at by themselves."""
    out = dark.copy()
    if end < 1:
        return out
    for rows in (np.s_[:end], np.s_[len(dark) - end :]):
        part = out[rows] if rows.start is None else out[rows][::-1]
        _, pieces = cv2.connectedComponents(part.astype(np.uint8), connectivity=8)
        along = np.unique(pieces[:rim])
        part[np.isin(pieces, along[along > 0])] = False
    return out


def _ends_sharply(light: Pixels, depth: Floats, px_mm: float) -> bool:
    """Whether lid gives way to paper within a few millimetres at most places; shade takes longer."""
    rows = np.flatnonzero(depth > 0)
    at = depth[rows].astype(int)
    before = np.maximum(at - max(1, round(0.7 * px_mm)), 0)
    after = np.minimum(at + max(1, round(1.2 * px_mm)), light.shape[1] - 1)
    steps = light[rows, before].astype(float) / np.maximum(light[rows, after], 1)
    return bool(np.mean(steps < SHARP_STEP) >= 0.6)


def _is_lid(
    group: Mask,
    dark: Mask,
    light: Pixels,
    colour: Pixels | None,
    depth: npt.NDArray[np.int64],
    usual: float,
    rows: int,
    cols: int,
) -> bool:
    """Whether something that goes deep into the image is lid all the same: along its whole side, dark and without lights."""
    long = np.count_nonzero(depth) / rows >= ALL_ALONG
    if not long or float(np.percentile(depth[depth > 0], 75)) > DEEPEST_LID * cols:
        return False
    within = np.arange(dark.shape[1])[None, :] < depth[:, None]
    middle, lights, highest = np.percentile(light[within], (50, 90, 99.5)) / usual
    if highest > LETTERS_FROM or (colour is not None and np.median(colour[within]) > COLOURED and middle > COLOURED_LIGHT):
        return False  # letters on a banner, a coloured column
    return bool((dark & group)[within].mean() >= FILLED and lights <= LID_LIGHT)


def _enough(depth: Floats, rows: int, px_mm: float) -> bool:
    """Whether there is more along the rim than a letter or two."""
    return bool(np.count_nonzero(depth) >= LEAST_LENGTH * rows and depth.max() >= LEAST_DEPTH_MM * px_mm)


def _reach(mask: Mask) -> npt.NDArray[np.int64]:
    """How far in from the left each row has something set; 0 where it has nothing."""
    cols = mask.shape[1]
    return np.asarray(np.where(mask.any(axis=1), cols - mask[:, ::-1].argmax(axis=1), 0), np.int64)


def _dust(dark: Mask, px_mm: float) -> Mask:
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(dark.astype(np.uint8), connectivity=8)
    small = np.maximum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT]) < DUST_MM * px_mm
    small[0] = False
    return np.asarray(small[pieces], np.bool_)


def _envelope(depth: Floats, other: Mask, px_mm: float, covered: float, steepest: float, taken: float) -> Line | None:
    """The shallowest line beyond which all of the lid lies, moved back to the rim where it would cut anything else."""
    rows = len(depth)
    at = np.arange(rows)
    known = depth > 0
    best: Line | None = None
    cost = np.inf
    first = np.where(other.any(axis=1), other.argmax(axis=1), np.inf)
    for slope in np.arange(-steepest, steepest + 1e-9, 0.002):
        beyond = depth[known] - slope * at[known]
        offset = float(np.quantile(beyond, taken)) + 0.1 * px_mm
        room = float(np.min(first - offset - slope * at))
        offset += min(0.0, room - 0.2 * px_mm)
        cut = np.maximum(offset + slope * at, 0)
        if np.count_nonzero(known & (cut >= 1)) < covered * np.count_nonzero(cut >= 1):
            continue
        left = np.maximum(depth - cut, 0)[known].sum()
        paper = np.maximum(cut - depth, 0).sum()
        if (total := float(left) + PAPER_COST * float(paper)) < cost:
            best, cost = (offset, float(slope)), total
    if best is None or float(np.mean(np.maximum(best[0] + best[1] * at, 0))) < LEAST_DEPTH_MM / 2 * px_mm:
        return None
    return best


def _fold(light: Pixels, usual: float, small: Raster) -> Cut | None:
    """The fold beyond which a neighbour page shows, on the left: a dark line from rim to rim that nothing is written across.

    A printed rule or frame ends within the page's margins; what lies beyond a fold ends with the image.
    """
    rows, cols = light.shape
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    band = max(3, round(FOLD_BAND_MM * px_mm))
    count = rows // band
    if count < FEWEST_BANDS:
        return None
    last = round(FOLD_REACH * cols)
    outer = light[: count * band, : last + round(5 * px_mm)].reshape(count, band, -1)
    profile = np.median(outer[:, ::2], axis=1).astype(np.float32)
    dips = _valleys(profile, max(2, round(FOLD_BESIDE_MM * px_mm)))
    seen = cv2.dilate((dips >= FOLD_DEPTH).astype(np.float32), np.ones((1, 3), np.uint8))
    best: tuple[float, float, float] | None = None
    ends = max(3, round(FOLD_ENDS_MM / FOLD_BAND_MM))
    first = max(2, round(LEAST_STRIP_MM * px_mm))
    middle = (np.arange(count) + 0.5) * band
    if float(seen[:, first:last].any(axis=1).mean()) < FOLD_SEEN:
        return None
    for slope in np.arange(-FOLD_SLOPE, FOLD_SLOPE + 1e-9, 0.006):
        # Each band moved by what the line has gone by then, so that the line stands upright; counted from its middle.
        shift = np.rint(slope * (middle - rows / 2)).astype(int)
        places = np.arange(first, last)[None, :] + shift[:, None]
        inside = (places >= 0) & (places < seen.shape[1])
        hits = np.where(inside, np.take_along_axis(seen, np.clip(places, 0, seen.shape[1] - 1), axis=1), 0)
        share = hits.mean(axis=0)
        reaches = (hits[:ends].mean(axis=0) >= FOLD_ENDS_SEEN) & (hits[-ends:].mean(axis=0) >= FOLD_ENDS_SEEN)
        good = np.flatnonzero((share >= FOLD_SEEN) & reaches)
        if not len(good):
            continue
        if 1 + np.count_nonzero(np.diff(good) > 2 * px_mm) > MOST_LINES:
            return None  # lines of text that run from rim to rim
        at = int(good[-1])
        line = (float(first + at - slope * rows / 2), float(slope))
        if (best is None or float(share[at]) > best[2]) and _is_fold(light, usual, line, px_mm):
            best = (*line, float(share[at]))
    return None if best is None else Cut(best[0] + 0.5, best[1], "neighbour")


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
