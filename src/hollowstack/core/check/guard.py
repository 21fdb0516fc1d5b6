"""The guard: the clean page held against its master, by code that shares neither masks nor paper with what made it.

What was there and is gone, or came from nowhere, is found as structure (edges of tone) and as tone (areas darker than what
is around them). It is the last to speak before a page is kept.
"""

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from hollowstack.core.check.structure import (
    Box,
    Floats,
    Mask,
    box_in_image,
    cleared_by,
    detail_of,
    laid_over,
    nearby,
    reduced_size,
    relative_light,
)
from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.raster import MM_PER_INCH, Raster, as_pixels
from hollowstack.core.plan.plan import Plan

GUARD_PPI = 50.0
LARGEST_PERCENT = 0.015
"""Share of the page that may be lost, in strokes: less than a typed word of A5."""
DETAIL = 0.11
"""Difference from its surroundings, as a share of the light there, from which something is structure; what shines through
from the back of a sheet stays below it."""
LEFT = 0.35
"""Share of that which must be left on the clean page."""
NOTHING = 0.05
"""Below this a place had no structure; what has some on the clean page then came from nowhere."""
DARKER = 0.14
"""The same as ``DETAIL`` for areas: how much darker than the lightest nearby they are."""
STROKE_MM = 4.0
"""No stroke of writing is wider: a closing of this size lifts it away."""
HALO_MM = 3.0
"""Width from which an area counts: what is narrower would be a stroke, which has structure of its own."""
STEP = 0.05
"""Change from pixel to pixel at the border of something printed; shade has no border."""
LEAST_MM2, LEAST_AREA_MM2 = 2.5, 20.0
"""Smaller losses are specks, and rims."""
LETTER_MM = 14.0
"""In a border that was cleared, pieces longer than this are its own edge."""
EDGE_MM = 2.4
"""So near to the rim of a page such pieces are the edge of its paper."""
LETTERS = 14
"""Pieces like letters in what was cut away, from which it was no lid."""

Kind = Literal["lost", "cleared", "cropped", "new"]


@dataclass(frozen=True, slots=True)
class Guarded:
    """``percent`` of the page lost, of which ``kind`` is the most; ``spot`` shows it: left, top, width, height in pixels of
    the image as captured."""

    percent: float
    kind: Kind | None = None
    spot: Box | None = None

    @property
    def passes(self) -> bool:
        """Whether nothing was lost that anybody would miss."""
        return self.percent <= LARGEST_PERCENT


def guard(image: Raster, plan: Plan, page: Raster) -> Guarded:
    """What a clean page has lost of its master.

    Args:
        image: The page as captured.
        plan: What was done.
        page: The clean page.

    Source:
        Local contrast after E. Peli, Contrast in complex images, JOSA A 7 (1990); the comparison and limits are ours.
    """
    px_mm = GUARD_PPI / MM_PER_INCH
    size = reduced_size(plan, GUARD_PPI)
    colours, seen = laid_over(image, plan, size, GUARD_PPI)
    master = Raster(colours).gray().pixels
    clean = as_pixels(cv2.resize(page.downsampled(GUARD_PPI).gray().pixels, size, interpolation=cv2.INTER_AREA))
    before, after = relative_light(master, px_mm), relative_light(clean, px_mm)
    cleared = cleared_by(plan, size, px_mm)
    losses: list[tuple[Kind, Mask]] = []
    detail, left = detail_of(before, px_mm), detail_of(after, px_mm)
    gone = (np.abs(detail) >= DETAIL) & (nearby(left) < LEFT * np.abs(detail)) & seen
    inside = gone & ~cleared
    # With its writing, whose gray is still there, and without: writing has borders of its own, where it lies in shade too.
    bare = _lifted(before, px_mm)
    tones = _tones_gone(before, after, px_mm) & _tones_gone(bare, _lifted(after, px_mm), px_mm) & seen & ~cleared
    lost = _large(inside, LEAST_MM2 * px_mm**2) | _bordered(tones, bare, px_mm)
    losses.append(("lost", _without_edges(lost, seen, px_mm)))
    losses.append(("cleared", _letters(gone & cleared, px_mm)))
    new = (np.abs(left) >= 1.5 * DETAIL) & (nearby(detail) < NOTHING) & seen & ~cleared
    losses.append(("new", _large(new, LEAST_MM2 * px_mm**2)))
    area = float(np.count_nonzero(seen)) or 1.0
    kind, mask = max(losses, key=lambda loss: int(np.count_nonzero(loss[1])))
    percent = 100 * sum(float(np.count_nonzero(lost)) for _, lost in losses) / area
    cut = _cropped(image, plan, px_mm)
    if cut is not None and cut[0] / area * 100 > percent:
        return Guarded(round(100 * cut[0] / area, 3), "cropped", cut[1])
    if not mask.any():
        return Guarded(round(percent, 3))
    return Guarded(round(percent, 3), kind, _spot(mask, plan, size, image))


def milder(plan: Plan, kind: Kind, image: tuple[int, int]) -> tuple[Plan, str] | None:
    """The next milder plan where something was lost, and what it spares the page; None where there is none.

    Args:
        plan: What lost it.
        kind: How.
        image: Width and height of the image as captured.
    """
    if kind == "cropped":
        wider = _uncropped(plan, image)
        return None if wider is None else (wider, "not cropped")
    if kind == "cleared" and plan.clear_outside is not None:
        return plan.model_copy(update={"clear_outside": None, "protected": ()}), "nothing cleared"
    if plan.colour == "bitonal" and plan.two_tones is not None and plan.two_tones.method != "middle":
        return plan.model_copy(update={"colour": "grey", "two_tones": None}), "grey instead of bitonal"
    if plan.tone is not None:
        plain = {"tone": None, "paper_map": None, "reduce_show_through": False}
        return plan.model_copy(update=plain), "no evening"
    if plan.clear_outside is not None:
        return plan.model_copy(update={"clear_outside": None, "protected": ()}), "nothing cleared"
    return None


def _uncropped(plan: Plan, image: tuple[int, int]) -> Plan | None:
    """All of the image, levelled as before."""
    onto = Transform.onto(plan.quad, *plan.size_px)
    corners = onto.quad(Quad.rectangle(0, 0, *image)).array().round(3)
    (left, top), (right, bottom) = np.floor(corners.min(axis=0)), np.ceil(corners.max(axis=0))
    if right - left > 1.5 * max(image) or bottom - top > 1.5 * max(image):
        return None
    quad = onto.inverse().quad(Quad.rectangle(left, top, right, bottom))
    tidy = Quad(*(Point(round(x, 3), round(y, 3)) for x, y in quad))
    return plan.model_copy(
        update={"quad": tidy, "size_px": (int(right - left), int(bottom - top)), "clear_outside": None, "protected": ()}
    )


def _tones_gone(before: Floats, after: Floats, px_mm: float) -> Mask:
    """Areas that were darker than what is around them, and hardly are any more."""
    size = (2 * round(1.5 * px_mm) + 1,) * 2
    dark, now = 1 - cv2.blur(before, size), 1 - cv2.blur(after, size)
    return np.asarray((dark >= DARKER) & (now < 0.5 * dark), np.bool_)


def _large(mask: Mask, least: float) -> Mask:
    count, pieces, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    keep = stats[:, cv2.CC_STAT_AREA] >= least
    keep[0] = False
    return np.asarray(keep[pieces], np.bool_) if count > 1 else np.zeros_like(mask)


def _without_edges(mask: Mask, seen: Mask, px_mm: float) -> Mask:
    """Without what lies wholly along the rim of the page, longer than letters are: the edge of its paper, a rest of lid."""
    reach = 2 * round(EDGE_MM * px_mm) + 1
    inner = cv2.erode(
        seen.astype(np.uint8), np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0
    )
    count, pieces, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    edge = np.maximum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT]) > LETTER_MM * px_mm
    edge &= np.bincount(pieces[inner > 0], minlength=count) == 0
    return np.asarray(mask & ~edge[pieces], np.bool_)


def _lifted(relative: Floats, px_mm: float) -> Floats:
    size = round(STROKE_MM * px_mm) | 1
    return np.asarray(cv2.morphologyEx(relative, cv2.MORPH_CLOSE, np.ones((size, size), np.uint8)), np.float32)


def _bordered(mask: Mask, before: Floats, px_mm: float) -> Mask:
    """Pieces of some size and width with a border: what has none is shade, and what is thin beside writing is its halo."""
    found = _large(mask, LEAST_AREA_MM2 * px_mm**2)
    across = round(HALO_MM * px_mm) | 1
    wide = cv2.erode(found.astype(np.uint8), np.ones((across, across), np.uint8), borderValue=1)
    count, pieces = cv2.connectedComponents(found.astype(np.uint8), connectivity=8)
    found &= (np.bincount(pieces[wide > 0], minlength=count) > 0)[pieces]
    if not found.any():
        return found
    slope = cv2.magnitude(cv2.Sobel(before, cv2.CV_32F, 1, 0, scale=0.25), cv2.Sobel(before, cv2.CV_32F, 0, 1, scale=0.25))
    steep = cv2.dilate(slope, np.ones((3, 3), np.uint8))
    _, pieces = cv2.connectedComponents(found.astype(np.uint8), connectivity=8)
    rim = found & ~np.asarray(cv2.erode(found.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0)
    count = int(pieces.max()) + 1
    share = np.bincount(pieces[rim], steep[rim] >= STEP, count) / np.maximum(np.bincount(pieces[rim], minlength=count), 1)
    share[0] = 0
    return np.asarray((share >= 0.5)[pieces], np.bool_)


def _letters(mask: Mask, px_mm: float) -> Mask:
    """Pieces that may be letters: neither specks nor the long edge of a bar."""
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    span = np.maximum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT])
    short = np.minimum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT])
    keep = (span >= 1.5 * px_mm) & (span <= LETTER_MM * px_mm) & (short >= 0.8 * px_mm) & (span < 6 * short)
    keep[0] = False
    return np.asarray(keep[pieces], np.bool_) if keep.sum() >= 3 else np.zeros_like(mask)


def _cropped(image: Raster, plan: Plan, px_mm: float) -> tuple[float, Box] | None:
    """Writing in what was cut away: its area in pixels of the guard's scale, and where it is."""
    if plan.cut_on_purpose:
        return None
    small = image.downsampled(2 * GUARD_PPI).gray().reduced(GUARD_PPI)
    scale = np.array([small.width / image.width, small.height / image.height])
    outside = np.ones((small.height, small.width), np.uint8)
    cv2.fillConvexPoly(outside, np.rint(plan.quad.array() * scale).astype(np.int32), 0)
    reach = 2 * round(1.5 * px_mm) + 1
    outside = as_pixels(cv2.erode(outside, np.ones((reach, reach), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0))
    if np.count_nonzero(outside) < LEAST_AREA_MM2 * px_mm**2:
        return None
    detail = np.abs(detail_of(relative_light(small.pixels, px_mm), px_mm)) >= DETAIL
    letters = _letters(detail & (outside > 0), px_mm)
    count, _, stats, _ = cv2.connectedComponentsWithStats(letters.astype(np.uint8), connectivity=8)
    if count - 1 < LETTERS:
        return None
    left, top = stats[1:, 0].min(), stats[1:, 1].min()
    right, bottom = (stats[1:, 0] + stats[1:, 2]).max(), (stats[1:, 1] + stats[1:, 3]).max()
    box = (int(left / scale[0]), int(top / scale[1]), int((right - left) / scale[0]), int((bottom - top) / scale[1]))
    return float(np.count_nonzero(letters)) * 3, box


def _spot(mask: Mask, plan: Plan, size: tuple[int, int], image: Raster) -> Box:
    """The largest piece of a loss, in the image as captured."""
    wider = cv2.dilate(mask.astype(np.uint8), np.ones((5, 5), np.uint8))
    _, _, stats, _ = cv2.connectedComponentsWithStats(wider, connectivity=8)
    left, top, wide, high, _ = (int(v) for v in stats[1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())])
    return box_in_image((left, top, left + wide, top + high), size, plan, image)
