"""The bare paper of a page as a smooth surface, fitted to paper alone, and what on the page is none.

There is one idea of paper in the house, and this is it: what is evened, whitened, put in two tones, called blank or held
against its paper goes by this surface.
"""

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

SURFACE_PPI = 40.0
"""Fine enough for the shade of a gutter, coarse enough to cost next to nothing."""
STROKE_MM = 4.0
"""No stroke of writing is wider: a closing of this size lifts writing away and leaves paper, fills, solids and pictures."""
LEAST_LEVEL = 16
"""Paper darker than this is not divided by."""
STEP = 0.022
"""Change of tone from one side of a pixel to the other, as a share of paper, from which it may be the border of something
printed. The grain of textured paper stays below it after the median (measured on drawn pages)."""
SHARP = 0.5
"""Share of a change over 5 mm that happens within 1.3 mm where it is a printed border; a shade spreads over all of it."""
BRIGHT_SHARE = 0.08
"""Share of the page that the lightest tone must cover to be its paper's."""
NEAR_PAPER = 0.035
"""Difference from the fitted paper, as a share of it, up to which a smooth piece between printed borders is paper too."""
NEAR_HUE = 0.045
"""The same for the difference between channels: a pale tint is seen sooner than a shade."""
ROUGH_STEPS = 3.5
"""Times the median step of a page that a border must be on rough paper: foxed, mottled, or its writing so dense that a
closing leaves some of it."""
CALM_PAGE = 0.012
"""Median step of a page up to which straight borders are those of pictures and solids, not rests of dense writing."""
BRIDGE_MM = 32.0
"""Gap in a straight border that is closed; parts of it of a quarter of that length count as straight."""
GROWS_FROM_MM = 5.0
"""Side of a square as large as a piece must be for paper to go on from it."""
TOUCH_MM = 1.9
"""How far apart two pieces may lie that go over into one another: a border's own width."""
ALIKE_SHARE = 0.6
"""Share of the places where two pieces meet at which they have the same tone, if one goes over into the other."""
GROWTH_STEPS = 12
DARKEST_SHADE = 0.4
"""Share of the usual paper's light that shaded paper has at least."""
DIP = 0.82
"""What is so much darker than the paper around it, without reaching the page's rim, is no shade but a soft picture."""
DIP_ENDS = 0.95
DIP_REACH_MM = 40.0
"""Where such a picture ends, as a share of the paper around, and how far beyond what is so dark."""
DENSE_MM = 10.0
"""Gaps of paper in dense writing are no farther apart: headlines in blackletter have lines of 8 mm."""
AROUND_MM = 45.0
"""How far around is looked for that."""
ENCLOSED_MM = 11.0
ENOUGH_BARE = 0.2
"""How near to one another parts of content must come to enclose what lies between, and the share of the paper that must be
left by which it is fitted again."""
LEAST_PIECE_MM = 2.6
"""Extent from which a piece that is not paper is content of its own, not a rest of writing."""

Mask = npt.NDArray[np.bool_]
Floats = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class PaperSurface:
    """``level``: the paper, uint8, (rows, cols) or (rows, cols, 3), over the whole image; ``content``: 1 where something
    other than paper with writing on it lies; ``lifted``: the image without its writing; all three of the same size."""

    level: Pixels
    content: Pixels
    lifted: Pixels

    @property
    def typical(self) -> tuple[int, ...]:
        """The paper's usual value, gray or R, G, B."""
        flat = self.level.reshape(-1, 1 if self.level.ndim == 2 else 3)
        return tuple(int(v) for v in np.median(flat, axis=0))

    def gray(self) -> "PaperSurface":
        """The same for the gray page."""
        if self.level.ndim == 2:
            return self
        return PaperSurface(
            as_pixels(cv2.cvtColor(self.level, cv2.COLOR_RGB2GRAY)),
            self.content,
            as_pixels(cv2.cvtColor(self.lifted, cv2.COLOR_RGB2GRAY)),
        )


def fit_paper(page: Raster, inside: Pixels | None = None) -> PaperSurface:
    """The paper of a page, across the places where something else lies.

    Writing is closed away. What is left falls into smooth pieces between printed borders: those as light and of the same
    hue as the lightest tone that covers much of the page are paper, and whatever goes over into them without a border is
    shaded paper. The surface runs through those alone; below pictures, solids and fills it is what their surroundings are.

    Args:
        page: Gray or colour, 40 ppi or more, dark on light.
        inside: Mask of the same rows and columns, 0 where the page is not (lid, table); None where it is everywhere.

    Returns:
        At ``SURFACE_PPI`` or a little more, over the whole of ``page``.

    Source:
        Closing: Serra 1982, Image Analysis and Mathematical Morphology. Filling from what surrounds a hole: S. Gortler,
        R. Grzeszczuk, R. Szeliski and M. Cohen, The Lumigraph, SIGGRAPH 1996 (pull-push). The limits are ours.
    """
    small = page.reduced(SURFACE_PPI)
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    where = _reduced_mask(inside, small)
    lifted = _lifted(small.pixels, px_mm)
    values = (lifted if lifted.ndim == 3 else lifted[..., None]).astype(np.float32)
    usual = _usual(values, where)
    borders, rough = _borders(values, usual, where, px_mm)
    pieces = _pieces((~borders & where).astype(np.uint8))
    areas = np.bincount(pieces.ravel())
    chosen = _paper_pieces(values, usual, pieces, areas, rough, px_mm) if len(areas) > 1 else np.zeros(1, bool)
    paper = chosen[pieces]
    paper &= ~_soft_pictures(values, paper, where, rough, px_mm)
    surface = _filled(values, paper) if paper.any() else np.broadcast_to(usual, values.shape).copy()
    surface = _smooth(surface, px_mm)
    content = _content(paper, where, values, surface, rough, px_mm)
    # On a rough page much of what looks like content is dense writing.
    bare = _outside(paper, content, px_mm) if rough <= CALM_PAGE else paper
    if ENOUGH_BARE * np.count_nonzero(paper) <= np.count_nonzero(bare) < np.count_nonzero(paper):
        # What content encloses is its own: the sky in a photograph has no say in how light the paper is.
        surface = _smooth(_filled(values, bare), px_mm)
        content = _content(bare, where, values, surface, rough, px_mm)
    return PaperSurface(_as_level(surface, lifted), content, lifted)


def flat_paper(page: Raster) -> PaperSurface:
    """The paper of a page in two tones: white everywhere, and nothing on it but strokes."""
    level = np.full((max(1, page.height // 4), max(1, page.width // 4)), 255, np.uint8)
    return PaperSurface(level, np.zeros_like(level), level)


def _pieces(smooth: Pixels) -> npt.NDArray[np.int32]:
    """Smooth pieces by number, 0 where there is a border; a gap of a pixel or two in a border joins none."""
    core = cv2.erode(smooth, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1)
    _, pieces = cv2.connectedComponents(core, connectivity=4)
    grown = cv2.dilate(pieces.astype(np.float32), np.ones((3, 3), np.uint8))
    return np.asarray(np.where(smooth > 0, grown, 0), np.int32)


def _paper_pieces(
    values: Floats, usual: Floats, pieces: npt.NDArray[np.int32], areas: npt.NDArray[np.int64], rough: float, px_mm: float
) -> Mask:
    """Which smooth pieces are paper: those like the page's usual paper, and from there on, step by step, those that go on
    from paper found already at its own tone."""
    count = len(areas)
    near, hue = max(NEAR_PAPER, ROUGH_STEPS * rough), max(NEAR_HUE, ROUGH_STEPS * rough)
    means = _means(values, pieces, count)
    chosen = _like(means, usual, near, hue)
    chosen[_holding_most(values, usual, pieces, near, hue)] = True
    chosen[0] = False
    kin = _like(means, usual, 1 - DARKEST_SHADE, 2.5 * hue)
    large = areas >= (GROWS_FROM_MM * px_mm) ** 2
    reach = np.ones((2 * max(2, round(TOUCH_MM * px_mm)) + 1,) * 2, np.uint8)
    chosen &= large | (areas >= 0.5 * areas[1:].max())
    able = (kin & large)[pieces] & (pieces > 0)
    for _ in range(GROWTH_STEPS):
        paper = chosen[pieces]
        beside = np.flatnonzero((cv2.dilate(paper.astype(np.uint8), reach) > 0) & able & ~paper)
        if not len(beside):
            break
        there = pieces.ravel()[beside]
        surface = _filled(values, paper, coarse=True)
        own, paper_there = _at(values, beside), _at(surface, beside)
        goes_on = _like(_means(own, there, count), _means(paper_there, there, count), near, hue)
        # All along: a picture may be as light as paper here and there.
        alike = np.bincount(there, _like(own, paper_there, near, hue), count) / np.maximum(
            np.bincount(there, minlength=count), 1
        )
        grown = chosen | (goes_on & (alike >= ALIKE_SHARE))
        grown[0] = False
        if (grown == chosen).all():
            break
        chosen = grown
    # Small pieces are paper where they lie on the surface; none of them moves it.
    surface = _filled(values, chosen[pieces], coarse=True)
    chosen |= _like(means, _means(surface, pieces, count), near, hue)
    chosen[0] = False
    return np.asarray(chosen, np.bool_)


def _holding_most(values: Floats, usual: Floats, pieces: npt.NDArray[np.int32], near: float, hue: float) -> int:
    """The piece in which most of the usual paper lies; in shade it goes on from there to where its mean is far from that."""
    flat = pieces.ravel()
    at_usual = _like(values.reshape(len(flat), -1), usual, near, hue) & (flat > 0)
    held = np.bincount(flat[at_usual], minlength=1) if at_usual.any() else np.bincount(flat[flat > 0], minlength=1)
    return int(held.argmax())


def paper_tone(page: Raster) -> float:
    """The usual gray of a page's paper: the lightest tone that covers enough of the image, surround and all."""
    small = page.gray().reduced(SURFACE_PPI)
    px_mm = sum(small.scale_ppi) / 2 / MM_PER_INCH
    lifted = _lifted(small.pixels, px_mm)[..., None].astype(np.float32)
    return float(_usual(lifted, np.ones(lifted.shape[:2], bool))[0])


def _reduced_mask(inside: Pixels | None, small: Raster) -> Mask:
    if inside is None:
        return np.ones((small.height, small.width), bool)
    reduced = cv2.resize(inside, (small.width, small.height), interpolation=cv2.INTER_NEAREST)
    return np.asarray(cv2.erode(reduced, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1) > 0)


def _lifted(pixels: Pixels, px_mm: float) -> Pixels:
    """The image without its writing."""
    kernel = _disc(STROKE_MM * px_mm)
    # A median first: otherwise the brightest grain of the noise becomes the paper.
    calm = cv2.medianBlur(np.ascontiguousarray(pixels), 3)
    return as_pixels(cv2.morphologyEx(calm, cv2.MORPH_CLOSE, kernel, borderType=cv2.BORDER_REPLICATE))


def _disc(size: float) -> Pixels:
    across = max(3, round(size) | 1)
    return as_pixels(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (across, across)))


def _usual(values: Floats, where: Mask) -> Floats:
    """The lightest tone that covers enough of the page; its median in each channel."""
    if not where.any():
        where = np.ones_like(where)
    known = values[where][::8]
    tone = _tone(known)
    count = np.convolve(np.bincount(np.clip(tone, 0, 255).astype(int), minlength=256), np.ones(17), "same")
    enough = count >= BRIGHT_SHARE * len(tone)
    if not enough.any():
        return np.asarray(np.median(known, axis=0), np.float32)
    # Down from the lightest: the first hill that is high enough, at its top.
    start = int(np.flatnonzero(enough)[-1])
    top = start
    while top > 0 and count[top - 1] >= count[top] and start - top < 24:
        top -= 1
    near = np.abs(tone - top) <= 10
    return np.asarray(np.median(known[near] if near.any() else known, axis=0), np.float32)


def _borders(values: Floats, usual: Floats, where: Mask, px_mm: float) -> tuple[Mask, float]:
    """Where tone or hue steps from one pixel to the next but one, and not slowly; and how rough the page is."""
    scale = 1 / np.maximum(usual, 40)
    relative = np.asarray(values * scale, np.float32)
    near, far = 1, max(3, round(2.5 * px_mm))
    close = [_change(relative, near, axis) for axis in (0, 1)]
    rough = float(np.median(_most(np.maximum(*close))[where][::3])) if where.any() else 0.0
    step = max(STEP, ROUGH_STEPS * rough)
    border = np.zeros(values.shape[:2], bool)
    for axis in (0, 1):
        wide = _change(relative, far, axis)
        steep = (close[axis] >= step) & (close[axis] >= SHARP * wide)
        border |= _most(steep)
    closed = cv2.morphologyEx(border.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    bridged = _bridged(as_pixels(closed), px_mm) if rough <= CALM_PAGE else closed
    return np.asarray(bridged > 0), rough


def _bridged(borders: Pixels, px_mm: float) -> Pixels:
    """Borders with their gaps closed along straight lines: where a picture is as light as the paper beside it, it shows
    none, and would go over into it."""
    length = round(BRIDGE_MM * px_mm) | 1
    out = borders.copy()
    for across in (True, False):
        # A line that lies a little askew steps from row to row.
        thick = cv2.dilate(borders, _line(3, across=not across))
        straight = cv2.morphologyEx(thick, cv2.MORPH_OPEN, _line(length // 4, across=across))
        out |= cv2.morphologyEx(straight, cv2.MORPH_CLOSE, _line(length, across=across))
    return as_pixels(out)


def _line(length: int, *, across: bool) -> Pixels:
    return np.ones((1, length) if across else (length, 1), np.uint8)


def _change(values: Floats, reach: int, axis: int) -> Floats:
    """Difference between what lies on both sides of each pixel, that far away."""
    size = values.shape[axis]
    across = (0, 0, reach, reach) if axis else (reach, reach, 0, 0)
    padded = np.asarray(cv2.copyMakeBorder(values, *across, cv2.BORDER_REPLICATE)).reshape(*_padded(values, reach, axis))
    if axis:
        before, after = padded[:, :size], padded[:, 2 * reach :]
    else:
        before, after = padded[:size], padded[2 * reach :]
    return np.asarray(cv2.absdiff(np.ascontiguousarray(after), np.ascontiguousarray(before)), np.float32).reshape(
        values.shape
    )


def _padded(values: Floats, reach: int, axis: int) -> tuple[int, ...]:
    shape = list(values.shape)
    shape[axis] += 2 * reach
    return tuple(shape)


def _tone(values: Floats) -> Floats:
    """The mean of the channels; many times as fast as the library's own over a last axis of three."""
    return np.asarray(values @ np.full(values.shape[-1], 1 / values.shape[-1], np.float32), np.float32)


def _most(values: npt.NDArray[np.generic]) -> npt.NDArray[Any]:
    """The greatest of the channels, of truth values whether any is true."""
    most = values[..., 0]
    for channel in range(1, values.shape[-1]):
        most = np.maximum(most, values[..., channel])
    return np.asarray(most)


def _means(values: Floats, pieces: npt.NDArray[np.int32], count: int) -> Floats:
    """The mean of each piece in each channel."""
    flat = pieces.ravel()
    size = np.maximum(np.bincount(flat, minlength=count), 1)
    planes = np.ascontiguousarray(values.reshape(len(flat), -1).T)
    return np.stack([np.bincount(flat, plane, count) / size for plane in planes], axis=1).astype(np.float32)


def _at(values: Floats, places: npt.NDArray[np.int64]) -> Floats:
    return np.asarray(values.reshape(-1, values.shape[-1])[places], np.float32)


def _like(means: Floats, paper: Floats, tone: float, hue: float) -> Mask:
    """Which pieces have a paper's tone and hue."""
    ratio = means / np.maximum(paper, LEAST_LEVEL)
    light = ratio.mean(axis=1)
    apart = np.abs(ratio / np.maximum(light, 0.05)[:, None] - 1).max(axis=1)
    return np.asarray((np.abs(light - 1) <= tone) & (apart <= hue), dtype=np.bool_)


def _filled(values: Floats, paper: Mask, *, coarse: bool = False) -> Floats:
    """The values where there is paper, and what surrounds it everywhere else; pull-push over halved sizes.

    ``coarse`` works on a quarter of the rows and columns: many times as fast, for steps in between.
    """
    if coarse and min(paper.shape) >= 16:
        size = (paper.shape[1] // 4, paper.shape[0] // 4)
        share = np.asarray(cv2.resize(paper.astype(np.float32), size, interpolation=cv2.INTER_AREA), np.float32)
        part = cv2.resize(values * paper[..., None], size, interpolation=cv2.INTER_AREA).reshape(*size[::-1], -1)
        known = _filled(part / np.maximum(share, 1e-6)[..., None], share > 0)
        large = cv2.resize(known, paper.shape[::-1], interpolation=cv2.INTER_LINEAR)
        return np.asarray(large.reshape(values.shape), np.float32)
    weight = paper.astype(np.float32)
    sums = np.asarray(values * weight[..., None], np.float32)
    levels = [(sums, weight)]
    while min(weight.shape) > 1 and (weight == 0).any():
        size = ((weight.shape[1] + 1) // 2, (weight.shape[0] + 1) // 2)
        smaller = cv2.resize(sums, size, interpolation=cv2.INTER_AREA)
        sums = np.asarray(smaller, np.float32).reshape(*size[::-1], -1)
        weight = np.asarray(cv2.resize(weight, size, interpolation=cv2.INTER_AREA), np.float32)
        levels.append((sums, weight))
    sums, weight = levels[-1]
    known = np.asarray(sums / np.maximum(weight, 1e-6)[..., None], np.float32)
    if (weight <= 1e-6).any():
        known[weight <= 1e-6] = sums.sum(axis=(0, 1)) / max(float(weight.sum()), 1e-6)
    for sums, weight in reversed(levels[:-1]):
        above = cv2.resize(known, weight.shape[::-1], interpolation=cv2.INTER_LINEAR).reshape(sums.shape)
        known = np.asarray(sums + (1 - np.minimum(weight, 1.0)[..., None]) * above, np.float32)
    return np.asarray(known, np.float32)


def _outside(paper: Mask, content: Pixels, px_mm: float) -> Mask:
    """Paper that content neither encloses nor nearly encloses."""
    reach = round(ENCLOSED_MM * px_mm)
    around = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    padded = cv2.copyMakeBorder(content, reach, reach, reach, reach, cv2.BORDER_CONSTANT, value=0)
    closed = cv2.morphologyEx(padded, cv2.MORPH_CLOSE, around)[reach:-reach, reach:-reach]
    return np.asarray(paper & (closed == 0), np.bool_)


def _smooth(surface: Floats, px_mm: float) -> Floats:
    calm = cv2.GaussianBlur(surface, (0, 0), 1.0 * px_mm, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(calm, np.float32).reshape(surface.shape)


def _soft_pictures(values: Floats, paper: Mask, where: Mask, rough: float, px_mm: float) -> Mask:
    """Smooth pieces amid the page that are much darker than the paper around them: no shade, which comes from the rim."""
    tone = np.where(paper, _tone(values), np.float32(0))
    if rough > CALM_PAGE:
        # Of dense heavy writing the closing leaves a gray, and between its lines the paper.
        tone = cv2.morphologyEx(tone, cv2.MORPH_CLOSE, _disc(DENSE_MM * px_mm), borderType=cv2.BORDER_REPLICATE)
    reach = max(3, round(AROUND_MM * px_mm) | 1)
    around = cv2.dilate(cv2.blur(tone, (3, 3)), np.ones((reach, reach), np.uint8))
    around = cv2.erode(around, np.ones((reach // 2 | 1, reach // 2 | 1), np.uint8))
    dip = (paper & (tone < DIP * around)).astype(np.uint8)
    if not dip.any():
        return np.zeros_like(paper)
    # Over what is printed in it, and over the border that the edge of the paper draws along the rim.
    near = np.ones((2 * max(2, round(TOUCH_MM * px_mm)) + 1,) * 2, np.uint8)
    count, pieces = cv2.connectedComponents(cv2.morphologyEx(dip, cv2.MORPH_CLOSE, near), connectivity=8)
    rim = ~np.asarray(cv2.erode(where.astype(np.uint8), near, borderValue=0) > 0)
    shade = np.zeros(count, bool)
    shade[np.unique(pieces[rim])] = True
    shade[0] = True
    soft = dip & ~shade[pieces]
    # As far as it goes on being darker than the paper around: it must not end in a rim of its own.
    goes_on = (paper & (tone < DIP_ENDS * around)).astype(np.uint8)
    reach = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    for _ in range(round(DIP_REACH_MM * px_mm / 2)):
        grown = cv2.dilate(soft, reach) & (soft | goes_on)
        if np.array_equal(grown, soft):
            break
        soft = grown
    count, pieces = cv2.connectedComponents(soft, connectivity=8)
    shade = np.zeros(count, bool)
    shade[np.unique(pieces[rim])] = True
    shade[0] = True
    return np.asarray(~shade[pieces])


def _content(paper: Mask, where: Mask, values: Floats, surface: Floats, rough: float, px_mm: float) -> Pixels:
    """What is neither paper nor the rest of a stroke: pieces of some extent that differ from the paper, with their rims."""
    other = (~paper & where).astype(np.uint8)
    ratio = np.asarray(values / np.maximum(surface, LEAST_LEVEL), np.float32)
    light = _tone(ratio)
    apart = _most(np.abs(ratio - light[..., None]))
    differs = (other > 0) & (
        (np.abs(light - 1) > max(NEAR_PAPER, ROUGH_STEPS * rough)) | (apart > max(NEAR_HUE, ROUGH_STEPS * rough))
    )
    joined = cv2.morphologyEx(differs.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    least = max(2, round(LEAST_PIECE_MM * px_mm))
    cores = cv2.morphologyEx(joined, cv2.MORPH_OPEN, np.ones((least, least), np.uint8))
    count, pieces = cv2.connectedComponents(joined, connectivity=8)
    chosen = np.zeros(count, bool)
    chosen[np.unique(pieces[cores > 0])] = True
    chosen[0] = False
    whole = _without_holes(chosen[pieces].astype(np.uint8))
    return as_pixels(cv2.dilate(whole, np.ones((3, 3), np.uint8)) & where.astype(np.uint8))


def _without_holes(mask: Pixels) -> Pixels:
    """What is enclosed by something belongs to it: the sky in a photograph, the counter of a poster's letter does not
    matter; only paper that is enclosed by a thin frame must stay paper, so holes of more than a tenth of the page stay."""
    contours, tree = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    out = mask.copy()
    if tree is None:
        return out
    for contour, (_, _, _, parent) in zip(contours, tree[0], strict=True):
        if parent < 0:
            continue
        hole, around = cv2.contourArea(contour), cv2.contourArea(contours[parent])
        if hole < 0.5 * around and hole < 0.1 * mask.size:
            cv2.drawContours(out, [contour], -1, 1, cv2.FILLED)
    return out


def _as_level(surface: Floats, like: Pixels) -> Pixels:
    level = np.clip(np.rint(surface), LEAST_LEVEL, 255).astype(np.uint8)
    return as_pixels(level if like.ndim == 3 else level.reshape(like.shape))
