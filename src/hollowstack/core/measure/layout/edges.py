"""Where the page lies in its image: its four corners against a dark, grey or white lid."""

from dataclasses import dataclass
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.histogram import histogram_mode
from hollowstack.core.measure.layout.lettered import is_lettered
from hollowstack.core.measure.layout.lid_outline import outline_by_lid
from hollowstack.core.measure.layout.line_fit import Line, corners_of, fit_line, line_of
from hollowstack.core.measure.layout.outside import outside_of
from hollowstack.core.measure.layout.seam import LIGHT, find_seam
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels

Colour = npt.NDArray[np.float32]

_PPI = 60.0
_FINE_PPI = 200.0
_STROKE_MM = 3.0
_LID_DISTANCE = 14.0
"""Least difference, in 8-bit steps, by which a lid is told from paper."""


_SHADE_MM, _PLAIN = 6.0, 0.9
"""How far in from a side shadow is looked for, and the share of the way from lid to paper that is plain paper."""
_TORN_MM, _TORN_SHARE = 7.0, 0.4
"""Around a corner, and the share of what should be page there that is not; a rounded corner misses a fifth at the most."""
_WEDGE = 6.0
"""How many times as long as it is wide what is missing at a corner is at most, if it was torn off."""
_FLAT_LID = 26.0
"""How far a lid's pixels lie from its usual colour, in 8-bit steps; dust on it and the soft edge of a page lie farther."""
_COLOURED_LID = 30.0
"""Difference between the channels of a lid that no lid of a scanner has."""
_ENOUGH_LID = 0.3
"""Share of the lid that must be left when what is next to the page is left out."""
_BLACK_LID = 60.0
_FLAT_SHARE, _FLAT_SHARE_AROUND = 0.95, 0.75
"""Share of what lies outside the page that is as flat as that: of a picture that runs off the image, less is. A lid on three
sides and more may have other things on it: the pages below an open book, tabs, a hand."""
_BAR, _BAR_AND_LID = 0.4, 0.55
"""Share of an image's corner that is black where a gutter's bar runs through it, and of what lies beyond that side of the
page that is bar or lid: its shade is neither."""
_DEEP, _MOSTLY = 0.08, 0.5
"""Share of the image's side from which what lies beyond a page's edge is looked at by itself, and how much of it is lid."""
_CALM = 1.5
_AROUND_PX = 9
"""Usual difference of a lid's tones from those around them, in 8-bit steps and pixels at 60 ppi: a picture has structure."""
_MUCH_LIGHTER, _LIGHT_SHARE = 90.0, 0.3
"""Gray values by which paper is lighter than a black lid, and its share of the image, where the middle is black as well."""
_DARK_LID = 0.35
_LIGHTS = 0.45
_LIGHTS_SHARE = 0.003
"""Shares of the paper's light: below the first a lid is dark, from the second on something on it is a light; and how much of
it may be. Dust covers less."""
_SURE_BESIDE = 0.65
"""Confidence of an outline against a second lid beside a gutter's bar, at least: its shade frays that side."""
_LEAST_CONFIDENCE = 0.65
"""Below this the outline found is more likely a stain or a shadow than a page's."""


@dataclass(frozen=True, slots=True)
class Edges:
    """``quad`` in pixels of the image, in its own order (not yet turned); ``lid`` whether any surround shows.

    ``bright`` lies within ``quad``: its sides are moved in to where shadow and gutter have given way to plain paper.
    """

    quad: Quad
    bright: Quad
    lid: bool
    confidence: float
    torn: tuple[int, ...] = ()
    """Corners at which the page is missing, by their place in ``quad``."""


def find_edges(image: Raster, *, scanned: bool = True) -> Edges:
    """The page's corners in the image as captured; the image's own where no surround shows.

    Every pixel goes to paper or lid, whichever is nearer in colour; writing is closed over; the largest piece of paper
    is the page, so a gutter bar parts it from a sliver of its neighbour. A straight line is fitted to each side and
    settled to a fraction of a pixel on a finer reduction.

    Args:
        image: Gray or colour, as captured.
        scanned: Whether it lies under a lid, which is flat; a table that a camera sees may have structure.

    Returns:
        Corners within the image. Confidence 0 to 1 is the share of the outline that lies on the four lines.

    Source:
        Line fit by least squares with the farthest points left out (trimmed, Rousseeuw and Leroy 1987).
    """
    found = _edges(image, scanned=scanned)
    if scanned and found.lid and is_lettered(image, found.quad):
        # What surrounds it is the page's paper: a picture was found.
        found = _edges(image, scanned=True, paper=_tone_around(image, found.quad))
        if found.lid and is_lettered(image, found.quad):
            return _whole(image)
    if scanned and (not found.lid or float(_tone_around(image, found.quad).mean()) >= LIGHT):
        # Against a lid as light as paper an outline by tones takes the page's shade in, or fails.
        seam = find_seam(image)
        if seam is not None:
            return Edges(seam.quad, seam.quad, lid=True, confidence=seam.seen, torn=seam.torn)
    barred = scanned and found.lid and _sides_seen(found.quad, image.width, image.height) == 1
    return (_beside_bar(image, found) if barred else None) or found


def _whole(image: Raster) -> Edges:
    frame = Quad.rectangle(0, 0, image.width, image.height)
    return Edges(frame, frame, lid=False, confidence=1.0)


def _edges(image: Raster, *, scanned: bool, paper: Colour | None = None) -> Edges:
    """The outline against a lid; of paper of this colour, where it is known."""
    whole = _whole(image)
    frame = whole.quad
    small = image.reduced(_PPI)
    if min(small.width, small.height) < 24:
        return whole
    calm = as_pixels(cv2.medianBlur(small.pixels, 3))
    found = _paper_and_lid(calm, paper)
    if found is None:
        return whole
    paper, lid = found
    mask = _page_mask(_nearer_paper(calm, paper, lid), max(3, small.px(_STROKE_MM) | 1))
    if mask is None:
        return (_by_lid(small, calm, paper, lid, image) if scanned else None) or whole
    fine = image.reduced(_FINE_PPI)
    sides = [_side(mask, fine, side, paper, lid) for side in range(4)]
    # Lines were fitted in the fine reduction; corners go back to pixels of the image.
    scale = np.array([image.width / fine.width, image.height / fine.height])
    quad = corners_of([side.line for side in sides], scale, frame)
    bright = corners_of([side.bright for side in sides], scale, frame)
    confidence = round(min(side.agreeing for side in sides), 3)
    if quad.area() < 0.04 * image.width * image.height or confidence < _LEAST_CONFIDENCE:
        return (_by_lid(small, calm, paper, lid, image) if scanned else None) or whole
    if np.abs(quad.array() - frame.array()).max() < 1:
        return whole  # something dark at its rim, a punch hole perhaps, and no lid
    on_small = Quad.of(quad.array() * [small.width / image.width, small.height / image.height])
    flat = _is_flat(calm, lid, on_small, _PPI)
    if flat and scanned:
        flat = _is_lid_all_along(calm, lid, on_small) and not _has_lights(small, paper, lid, on_small)
    if not flat:
        # A picture, a banner, a cover's design: whatever has structure stays.
        return (_by_lid(small, calm, paper, lid, image) if scanned else None) or whole
    torn = _torn(mask, on_small, small)
    return Edges(quad, bright, lid=True, confidence=confidence, torn=torn)


def _beside_bar(image: Raster, barred: Edges) -> Edges | None:
    """Edges against a lighter lid in what a gutter's black bar leaves of an image; None where that shows none around."""
    corners = barred.bright.array()
    left, top = np.maximum(np.ceil(corners.min(axis=0)), 0).astype(int)
    right, bottom = np.floor(corners.max(axis=0)).astype(int)
    beyond = np.ones((image.height, image.width), bool)
    beyond[top:bottom, left:right] = False
    if float(np.median(image.pixels[beyond])) > _BLACK_LID:
        return None
    rest = Raster(np.ascontiguousarray(image.pixels[top:bottom, left:right]), image.ppi, image.stretch)
    found = _edges(rest, scanned=True)
    if not found.lid or found.confidence < _SURE_BESIDE or _sides_seen(found.quad, rest.width, rest.height) < 3:
        return None
    frame = Quad.rectangle(0, 0, image.width, image.height)
    limits = (0, 0, image.width, image.height)
    # The bar's side is the one that lies within the image.
    at_bar = [abs(line_of(barred.quad, side)[0] - limits[side]) > 1 for side in range(4)]

    def joined(old: Quad, new: Quad) -> Quad:
        there = Quad.of(new.array() + np.array([left, top]))
        return corners_of([line_of(old if at_bar[side] else there, side) for side in range(4)], np.ones(2), frame)

    quad, bright = joined(barred.quad, found.quad), joined(barred.bright, found.bright)
    return Edges(quad, bright, lid=True, confidence=found.confidence)


def _by_lid(small: Raster, calm: Pixels, paper: Colour, lid: Colour, image: Raster) -> Edges | None:
    """Edges by the lid alone; None where it does not tell."""
    found = outline_by_lid(calm, lid) if float(np.ptp(lid)) <= _COLOURED_LID else None
    if found is None or _has_lights(small, paper, lid, found[0]):
        return None
    quad = Quad.of(found[0].array() * [image.width / calm.shape[1], image.height / calm.shape[0]])
    return Edges(quad, quad, lid=True, confidence=found[1])


def _is_lid_all_along(pixels: Pixels, lid: Colour, quad: Quad) -> bool:
    """Whether what lies beyond each side of an outline is mostly lid; a picture beside the paper of its page is not."""
    rows, cols = pixels.shape[:2]
    (left, top), (right, bottom) = (
        np.rint(quad.array().min(axis=0)).astype(int),
        np.rint(quad.array().max(axis=0)).astype(int),
    )
    left, top = max(0, left), max(0, top)
    beyond = (pixels[top:bottom, :left], pixels[:top, left:right], pixels[top:bottom, right:], pixels[bottom:, left:right])
    corners = (pixels[:top, :left], pixels[:top, right:], pixels[bottom:, right:], pixels[bottom:, :left])
    black = [bool(part.size) and float(np.mean(part <= _BLACK_LID)) >= _BAR for part in corners]
    depths = (left / cols, top / rows, 1 - right / cols, 1 - bottom / rows)
    for side, (strip, depth) in enumerate(zip(beyond, depths, strict=True)):
        # A gutter's bar goes on beyond the page's ends, where black printed on the page ends with it.
        bar = black[side] and black[side - 1]
        if depth < _DEEP or not strip.size:
            continue
        values = strip.reshape(-1, 1 if pixels.ndim == 2 else 3).astype(np.float32)
        alike = np.abs(values - lid).max(axis=1) <= _FLAT_LID
        if float(lid.max()) <= _BLACK_LID + _FLAT_LID or bar:
            alike |= values.max(axis=1) <= _BLACK_LID
        if alike.mean() < (_BAR_AND_LID if bar else _MOSTLY) or (not bar and _detail(strip) > _CALM):
            return False
    return True


def _detail(strip: Pixels) -> float:
    """How much tones in a strip differ from what is around them, in 8-bit steps: the usual amount, whatever lies on it."""
    gray = as_pixels(cv2.cvtColor(strip, cv2.COLOR_RGB2GRAY)) if strip.ndim == 3 else np.ascontiguousarray(strip)
    around = cv2.blur(gray, (_AROUND_PX, _AROUND_PX), borderType=cv2.BORDER_REPLICATE)
    return float(np.median(cv2.absdiff(gray, around)))


_FEW_PX = 50
"""So few pixels outside of an outline tell nothing."""


def _has_lights(small: Raster, paper: Colour, lid: Colour, quad: Quad) -> bool:
    """Whether what lies outside an outline on one or two sides has lights in it: a picture of the night, not a lid."""
    if _sides_seen(quad, small.width, small.height) >= 3 or float(lid.mean()) >= _DARK_LID * float(paper.mean()):
        return False
    away = outside_of(quad, small, small, small.px(_SHADE_MM))
    light = small.gray().pixels[away > 0]
    return len(light) > 0 and bool(np.mean(light > _LIGHTS * float(paper.mean())) > _LIGHTS_SHARE)


def _is_flat(pixels: Pixels, lid: Colour, quad: Quad, ppi: float) -> bool:
    """Whether what lies outside an outline is as flat as a lid, or darker than it: the depth of a gutter."""
    outside = np.ones(pixels.shape[:2], np.uint8)
    cv2.fillConvexPoly(outside, np.rint(quad.array()).astype(np.int32), 0)
    # Away from the page, whose shade falls on the lid, and which bends down into a gutter.
    reach = max(3, round(_SHADE_MM * ppi / MM_PER_INCH) | 1)
    away = cv2.erode(outside, np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1)
    near = cv2.erode(outside, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1)
    outside = as_pixels(away if np.count_nonzero(away) >= _ENOUGH_LID * np.count_nonzero(near) else near)
    count = int(np.count_nonzero(outside))
    if count < _FEW_PX:
        return True
    values = pixels[outside > 0].reshape(count, -1).astype(np.float32)
    if float(np.ptp(lid)) > _COLOURED_LID and _sides_seen(quad, pixels.shape[1], pixels.shape[0]) < 3:
        return False  # lids are neutral; print that runs off one side of the image is not
    apart = np.abs(values - lid).max(axis=1)
    near = apart <= _FLAT_LID
    around = _sides_seen(quad, pixels.shape[1], pixels.shape[0]) >= 3
    if around or lid.max() <= _BLACK_LID + _FLAT_LID:
        near |= values.max(axis=1) <= _BLACK_LID  # the depth of a gutter
    if around and not near.all():
        other = np.array(
            histogram_mode(as_pixels(values[~near].reshape(-1, *pixels.shape[2:]).astype(np.uint8))), np.float32
        )
        near |= np.abs(values - other).max(axis=1) <= _FLAT_LID  # a bar in the gutter, and a lighter lid elsewhere
    return float(near.mean()) >= (_FLAT_SHARE_AROUND if around else _FLAT_SHARE)


def _sides_seen(quad: Quad, width: int, height: int) -> int:
    """On how many sides anything lies outside an outline."""
    (left, top), (right, bottom) = quad.array().min(axis=0), quad.array().max(axis=0)
    return sum((left > 1, top > 1, right < width - 1, bottom < height - 1))


def _torn(mask: Pixels, quad: Quad, small: Raster) -> tuple[int, ...]:
    """Corners of an outline at which there is no paper."""
    inside = np.zeros_like(mask)
    cv2.fillConvexPoly(inside, np.rint(quad.array()).astype(np.int32), 1)
    inside = as_pixels(cv2.erode(inside, np.ones((3, 3), np.uint8)))
    reach = max(2, small.px(_TORN_MM))
    missing = []
    for index, (x, y) in enumerate(quad):
        left, top = max(0, round(x) - reach), max(0, round(y) - reach)
        box = np.s_[top : round(y) + reach, left : round(x) + reach]
        page = int(inside[box].sum())
        if (
            page
            and (inside[box] & ~mask[box] & 1).sum() > _TORN_SHARE * page
            and not _is_wedge(as_pixels(inside & ~mask & 1), box)
        ):
            missing.append(index)
    return tuple(missing)


def _tone_around(image: Raster, quad: Quad) -> Colour:
    """The commonest colour outside of an outline."""
    small = image.reduced(_PPI)
    return np.array(histogram_mode(as_pixels(small.pixels[outside_of(quad, small, image) > 0])), np.float32)


def _is_wedge(missing: Pixels, box: tuple[slice, slice]) -> bool:
    """Whether what is missing at a corner is a wedge of lid along a side of the image, left by a page that lies askew."""
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(missing, connectivity=4)
    there = pieces[box]
    largest = int(np.bincount(there[there > 0], minlength=1).argmax())
    wide, high = stats[largest, cv2.CC_STAT_WIDTH], stats[largest, cv2.CC_STAT_HEIGHT]
    return largest > 0 and bool(max(wide, high) > _WEDGE * min(wide, high))


def _paper_and_lid(pixels: Pixels, paper: Colour | None = None) -> tuple[Colour, Colour] | None:
    """Colours of the page (commonest in the middle) and of what surrounds it; None where nothing does."""
    rows, cols = pixels.shape[:2]
    if paper is None:
        middle = pixels[rows // 5 : rows - rows // 5, cols // 5 : cols - cols // 5]
        paper = np.array(histogram_mode(np.ascontiguousarray(middle)), np.float32)
    ring = max(2, min(rows, cols) // 60)
    outer = np.concatenate(
        [
            part.reshape(part.shape[0] * part.shape[1], *pixels.shape[2:])
            for part in (pixels[:ring], pixels[-ring:], pixels[:, :ring], pixels[:, -ring:])
        ]
    )
    away = np.abs(outer.astype(np.float32).reshape(len(outer), -1) - paper).max(axis=1) > _LID_DISTANCE
    if away.mean() < 0.04:
        return _light_paper(pixels, paper)
    lid = np.array(histogram_mode(np.ascontiguousarray(outer[away])), np.float32)
    return (paper, lid) if float(np.abs(lid - paper).max()) > _LID_DISTANCE else None


def _light_paper(pixels: Pixels, lid: Colour) -> tuple[Colour, Colour] | None:
    """Colours of page and lid where the middle is as black as the lid: a picture there; None where it is all one."""
    if float(lid.max()) > _BLACK_LID:
        return None
    values = pixels.reshape(-1, 1 if pixels.ndim == 2 else 3)
    light = np.asarray(values.min(axis=1).astype(np.float32) > float(lid.max()) + _MUCH_LIGHTER)
    if light.mean() < _LIGHT_SHARE:
        return None
    return np.array(histogram_mode(as_pixels(values[light].reshape(-1, 1, *pixels.shape[2:]))), np.float32), lid


def _nearer_paper(pixels: Pixels, paper: Colour, lid: Colour) -> Pixels:
    """1 where a pixel's place on the way from lid to paper is past the middle, else 0."""
    return as_pixels((_along(pixels, paper, lid) > 0.5).astype(np.uint8))


def _along(pixels: Pixels, paper: Colour, lid: Colour) -> Colour:
    way = paper - lid
    values = (pixels[..., None] if pixels.ndim == 2 else pixels).astype(np.float32) - lid
    return np.asarray(values @ way / float(way @ way), dtype=np.float32)


def _page_mask(mask: Pixels, stroke: int) -> Pixels | None:
    """The largest piece of paper with its writing filled in; None where there is none to speak of."""
    kernel = np.ones((stroke, stroke), np.uint8)
    padded = cv2.copyMakeBorder(mask, stroke, stroke, stroke, stroke, cv2.BORDER_CONSTANT, value=0)
    closed = cv2.morphologyEx(padded, cv2.MORPH_CLOSE, kernel)
    opened = cv2.morphologyEx(closed, cv2.MORPH_OPEN, kernel)[stroke:-stroke, stroke:-stroke]
    count, labels, stats, _ = cv2.connectedComponentsWithStats(opened, connectivity=4)
    if count < 2:
        return None
    areas = stats[1:, cv2.CC_STAT_AREA]
    if areas.max() < 0.04 * mask.size:
        return None
    return as_pixels((labels == 1 + int(areas.argmax())).astype(np.uint8))


class _Side(NamedTuple):
    """A side of the page in the fine image, the same moved in to plain paper, and the share of points on it."""

    line: Line
    bright: Line
    agreeing: float


def _side(mask: Pixels, fine: Raster, side: int, paper: Colour, lid: Colour) -> _Side:
    """One side: 0 left, 1 top, 2 right, 3 bottom."""
    upright, far = side in (0, 2), side >= 2
    coarse = mask if upright else mask.T
    pixels = fine.pixels if upright else np.swapaxes(fine.pixels, 0, 1)
    if far:
        coarse, pixels = coarse[:, ::-1], pixels[:, ::-1]
    rows, cols = coarse.shape
    scale_along, scale_across = pixels.shape[0] / rows, pixels.shape[1] / cols
    hit = coarse.any(axis=1)
    where = np.nonzero(hit)[0].astype(np.float64)
    trim = len(where) // 25  # corners are rounded by the closing
    where = where[trim : len(where) - trim] if len(where) > 2 * trim + 8 else where
    first = coarse[where.astype(int)].argmax(axis=1).astype(np.float64)
    line, share = fit_line(where + 0.5, first, tolerance=1.5)
    offset, slope = line[0] * scale_across, line[1] * scale_across / scale_along
    shade = 0.0
    if np.median(first) > 1:
        offset, slope = _subpixel_fit(pixels, where * scale_along, (offset, slope), 2.5 * scale_across, paper, lid)
        shade = _shade(pixels, where * scale_along, (offset, slope), fine.px(_SHADE_MM), paper, lid)
    else:
        offset, slope = 0.0, 0.0  # the page runs off this side of the image
    if far:
        edge = pixels.shape[1]
        return _Side((edge - offset, -slope), (edge - offset - shade, -slope), share)
    return _Side((offset, slope), (offset + shade, slope), share)


def _shade(
    pixels: Pixels,
    rows: npt.NDArray[np.float64],
    line: Line,
    reach: int,
    paper: Colour,
    lid: Colour,
) -> float:
    """How far inside a side the page is darker than its paper all along, in pixels; medians pass over writing."""
    chosen = rows[:: max(1, len(rows) // 200)].astype(int)
    starts = np.rint(line[0] + line[1] * (chosen + 0.5)).astype(int)
    within, strips = _strips(pixels, chosen, starts, reach)
    if within.sum() < 12:
        return 0.0
    light = np.median(_along(strips, paper, lid), axis=0) >= _PLAIN
    return float(light.argmax()) if light.any() else 0.0


def _subpixel_fit(
    pixels: Pixels,
    rows: npt.NDArray[np.float64],
    line: Line,
    reach: float,
    paper: Colour,
    lid: Colour,
) -> Line:
    """The line refitted to where each scan line crosses half-way from lid to paper, to a fraction of a pixel."""
    chosen = rows[:: max(1, len(rows) // 400)].astype(int)
    middle = line[0] + line[1] * (chosen + 0.5)
    span = int(np.ceil(reach))
    starts = middle.astype(int) - span
    within, strips = _strips(pixels, chosen, starts, 2 * span + 1)
    at, middle, starts = chosen[within] + 0.5, middle[within], starts[within]
    way = _along(strips, paper, lid) - 0.5
    rising = (way[:, :-1] <= 0) & (way[:, 1:] > 0)
    off = np.where(rising, np.abs(starts[:, None] + np.arange(1, 2 * span + 1) - middle[:, None]), np.inf)
    found = np.nonzero(rising.any(axis=1))[0]
    if len(found) < 12:
        return line
    nearest = off[found].argmin(axis=1)
    before, after = way[found, nearest], way[found, nearest + 1]
    crossing = starts[found] + nearest + 0.5 - before / (after - before)
    return fit_line(at[found], crossing, tolerance=1.5)[0]


def _strips(
    pixels: Pixels, rows: npt.NDArray[np.int64], starts: npt.NDArray[np.int64], wide: int
) -> tuple[npt.NDArray[np.bool_], Pixels]:
    """``wide`` pixels of each row from its start on: which of them lie within the image, and those."""
    within = (starts >= 0) & (starts + wide <= pixels.shape[1])
    return within, pixels[rows[within, None], starts[within, None] + np.arange(wide)]
