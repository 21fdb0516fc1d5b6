"""Bars and wedges of lid along a side of an image, and slivers of a neighbour's lines that the rim cuts."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.cut import Cut, Floats, Mask, SideView
from hollowstack.core.measure.layout.line_fit import Line
from hollowstack.core.page.raster import Pixels


class _Padding(NamedTuple):
    """White along a rim before anything else comes."""

    most_mm: float
    ink: float
    """Share of its height at which it may be soiled."""


PADDING = _Padding(2.2, 0.003)
"""Put there by a device or a program; specks may lie on it."""
PADDING_AGAIN = _Padding(4.5, 0.05)
"""The gap beside a bar that was cut off, with what was left of that."""
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
ALMOST_ALL = 0.9
LID_LIGHT = 0.5
"""Share of the paper's light that such a lid stays below nearly everywhere: a picture has lights in it."""
BLACK_AGAIN = 0.36
"""Share of the paper's light below which there is lid beside what was cut off already: paper in its shade is lighter."""
LETTERS_FROM = 0.72
"""Light within it, as a share of the paper's, from which something is written there in white."""
COLOURED, COLOURED_LIGHT = 30, 0.33
"""Difference between channels of a strip that is coloured, and the light from which such a one is no lid."""
FILLED = 0.9
"""Share of it that is dark."""
PAPER_COST = 0.5
"""What is lost with a pixel of bare paper, as a share of what is left with one of lid."""
SLIVER_PAPER_COST = 0.05
"""The same beside a neighbour's lines: the paper between them is the neighbour's."""
TAKEN = 0.985
"""Share of a sliver's rows that reach no deeper than what counts as its depth."""
MARGIN_MM = 5.0
"""How far into a corridor of bare paper beside a neighbour's sliver the fold may lie."""
HARMLESS_MM = 2.5
"""A cut no deeper than this takes nothing but the rim of a bare margin, however little of it is soiled."""


class _Fit(NamedTuple):
    """How a cut is laid to what was seen of lid."""

    covered: float
    """Share of the heights of a cut at which lid was seen, at least."""
    steepest: float
    """Slope of a page's edge against its image; where it lies more askew there is lid all around."""
    taken: float
    """Share of the lid's rows that a cut takes whole."""


SHARP_CUT = _Fit(0.5, 0.03, 0.6)
"""Lid that ends on a line; print that runs into it makes it look deeper here and there."""
BITONAL_CUT = _Fit(0.2, 0.01, TAKEN)
"""In two tones lid, broken by a threshold, is seen at few places, and a wedge would leave much of what lies between."""
SHARP_STEP = 0.72
"""Light of a lid as a share of that of the paper, two millimetres further in."""
DUST_MM = 0.7


def find_bar(side: SideView, *, again: bool = False) -> Cut | None:
    """Bars and wedges of lid that reach the left rim, and slivers of a neighbour's lines that are cut by it.

    Args:
        side: The image, laid so that the side is on the left.
        again: Whether something was cut off it already: white may lie before the next bar then, and what is dark all along
            lid is its shade, which ends softly.
    """
    rows, cols = side.dark.shape
    px_mm, sharp = side.px_mm, not side.bitonal
    rim = max(1, round(REACHES_MM * px_mm))
    shallow = round(min(DEEPEST_BAR * cols, DEEPEST_BAR_MM * px_mm))
    # White that a device or a program has put around what was captured is no part of it.
    pad = _padding(side.dark, px_mm, PADDING_AGAIN if again else PADDING) if side.bitonal or again else 0
    dark, light = side.dark[:, pad:], side.light[:, pad:]
    if sharp and again:
        dark = dark & (light < BLACK_AGAIN * side.usual)
    colour = None if side.colour is None else side.colour[:, pad:]
    if sharp and np.count_nonzero(dark[:, :rim].any(axis=1)) < LEAST_LENGTH * rows:
        return None
    end = min(shallow, rows // 4)
    dark = _without_ends(dark, end, rim, px_mm)
    # Letters of a line that the rim cuts belong together, as far as the gap of a margin. In a gray image a neighbour is
    # known by the fold before it, and dark print would be tied to a dark lid.
    gap = 1 if sharp else max(3, round(GAP_MM * px_mm) | 1)
    joined = cv2.dilate(dark.astype(np.uint8), np.ones((1, gap), np.uint8))
    count, groups, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    reaching = np.zeros(count, bool)
    reaching[np.unique(groups[:, :rim][dark[:, :rim]])] = True
    reaching[0] = False
    if side.bitonal:
        reaching |= _floating(groups, stats, dark, shallow, px_mm)
    lid = np.zeros(count, bool)
    for index in np.flatnonzero(reaching):
        box = np.s_[stats[index, 1] : stats[index, 1] + stats[index, 3], : stats[index, 0] + stats[index, 2]]
        depth = _reach((groups[box] == index) & dark[box])
        # Beside a lid, black at the image's other sides hangs on to the bar.
        deep = float(np.quantile(depth[depth > 0], ALMOST_ALL)) if sharp and again else float(depth.max(initial=0))
        lid[index] = deep <= shallow or _is_lid(
            groups[box] == index,
            dark[box],
            light[box],
            None if colour is None else colour[box],
            depth,
            side.usual,
            rows - 2 * end,
            cols,
        )
    if not lid.any():
        return None
    mask = lid[groups] & dark
    reach = _reach(mask).astype(np.float64)
    if not _enough(reach, rows, px_mm):
        return None
    if sharp and again and np.count_nonzero(reach) < ALL_ALONG * (rows - 2 * end):
        return None
    if sharp and not again and not _ends_sharply(light, reach, px_mm):
        return None
    other = dark & ~mask & (groups > 0)
    other &= ~_dust(dark, px_mm)
    if side.bitonal:
        ends = stats[:, cv2.CC_STAT_LEFT] + stats[:, cv2.CC_STAT_WIDTH] - gap // 2
        other &= ~_beyond(groups, ends, stats[:, cv2.CC_STAT_HEIGHT], lid, reach, px_mm)
    many = side.bitonal and int(lid.sum()) >= SLIVER_LINES
    line = _envelope(reach, other, px_mm, SHARP_CUT if sharp else BITONAL_CUT, SLIVER_PAPER_COST if many else PAPER_COST)
    if line is None:
        return None
    # A neighbour's sliver is mostly paper, with print on it that the rim cuts; a bar of lid is dark.
    within = np.arange(cols - pad)[None, :] < (line[0] + line[1] * np.arange(rows))[:, None]
    sparse = many and float(dark[within].mean() if within.any() else 1.0) < SLIVER_INK
    if not sparse:
        return Cut(line[0] + pad, line[1], "lid")
    # The fold lies between the print of both pages, whose inner margins are alike.
    room = float(np.min(_first(other) - line[0] - line[1] * np.arange(rows)))
    margin = min(MARGIN_MM * px_mm, max(0.0, room / 2))
    return Cut(line[0] + pad + margin, line[1], "neighbour")


def _beyond(
    groups: npt.NDArray[np.int32],
    ends: npt.NDArray[np.int32],
    heights: npt.NDArray[np.int32],
    lid: Mask,
    reach: Floats,
    px_mm: float,
) -> Mask:
    """Lines of a neighbour's sliver that end before the rim: few, among many that it cuts, no farther in than those.

    ``ends`` and ``heights`` are where each group ends, inwards, and how many rows it takes up.
    """
    deepest = float(np.quantile(reach[reach > 0], TAKEN))
    within = ~lid & (ends <= deepest + 2 * px_mm)
    within[0] = False
    if float(heights[within].sum()) > FEW_SHORT_LINES * np.count_nonzero(reach):
        within[:] = False
    return np.asarray(within[groups], np.bool_)


def _padding(dark: Mask, px_mm: float, padding: _Padding) -> int:
    """How many columns at the rim have nothing on them, before something has."""
    most = max(1, round(padding.most_mm * px_mm))
    seen = np.flatnonzero(dark[:, :most].mean(axis=0) > padding.ink)
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


def _without_ends(dark: Mask, end: int, rim: int, px_mm: float) -> Mask:
    """Without what lies along the two sides next to this one, white before it or not: they are looked at by themselves."""
    out = dark.copy()
    if end < 1:
        return out
    for rows in (np.s_[:end], np.s_[len(dark) - end :]):
        part = out[rows] if rows.start is None else out[rows][::-1]
        _, pieces = cv2.connectedComponents(part.astype(np.uint8), connectivity=8)
        along = np.unique(pieces[: _padding(part.T, px_mm, PADDING) + rim])
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


def _first(mask: Mask) -> Floats:
    """The first column of each row that has something set; infinite where none has."""
    return np.asarray(np.where(mask.any(axis=1), mask.argmax(axis=1), np.inf), np.float64)


def _dust(dark: Mask, px_mm: float) -> Mask:
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(dark.astype(np.uint8), connectivity=8)
    small = np.maximum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT]) < DUST_MM * px_mm
    small[0] = False
    return np.asarray(small[pieces], np.bool_)


def _envelope(depth: Floats, other: Mask, px_mm: float, fit: _Fit, paper_cost: float) -> Line | None:
    """The shallowest line beyond which all of the lid lies, moved back to the rim where it would cut anything else."""
    rows = len(depth)
    at = np.arange(rows)
    known = depth > 0
    best: Line | None = None
    cost = np.inf
    first = _first(other)
    for slope in np.arange(-fit.steepest, fit.steepest + 1e-9, 0.002):
        beyond = depth[known] - slope * at[known]
        offset = float(np.quantile(beyond, fit.taken)) + 0.1 * px_mm
        room = float(np.min(first - offset - slope * at))
        offset += min(0.0, room - 0.2 * px_mm)
        cut = np.maximum(offset + slope * at, 0)
        harmless = float(cut.max()) <= HARMLESS_MM * px_mm
        if not harmless and np.count_nonzero(known & (cut >= 1)) < fit.covered * np.count_nonzero(cut >= 1):
            continue
        left = np.maximum(depth - cut, 0)[known].sum()
        paper = np.maximum(cut - depth, 0).sum()
        if (total := float(left) + paper_cost * float(paper)) < cost:
            best, cost = (offset, float(slope)), total
    if best is None or float(np.mean(np.maximum(best[0] + best[1] * at, 0))) < LEAST_DEPTH_MM / 2 * px_mm:
        return None
    return best
