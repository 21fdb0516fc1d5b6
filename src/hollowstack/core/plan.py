"""What will be done to one page. ``plan_page`` decides; ``render`` obeys."""

import hashlib
import math

import numpy as np
from pydantic import BaseModel, ConfigDict

from hollowstack.core.geometry import Matrix, Point, Quad, Transform, Turn, turned_size
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.measure.aspect import snapped
from hollowstack.core.measure.colour import ColourMode
from hollowstack.core.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.treatment import AsideReason, Override, Split, Treatment

SURE_OF_TILT = 0.25
"""Tilt confidence from which a page is levelled by its text."""
_LEAST_TILT_DEG = 0.03
"""Below this a page is left as it lies: no eye sees it, and a page that is not resampled stays exact."""

_PICTURE_PERCENT = 12.0
"""Half-tones or colour over more of the page than this are a picture."""
_DARK_PAPER = 90


class Tone(BaseModel):
    """Every pixel is taken relative to the local paper: ``ink`` (0 to 1) and darker becomes black, bare paper ``paper``."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    ink: float
    paper: tuple[int, ...]


class Plan(BaseModel):
    """One geometry, one tone, one clean-up decision for one page; plain data, valid for one master and frame."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    turn: Turn
    tilt_deg: float
    quad: Quad
    """The output page's corners in pixels of the image as captured, in output order."""
    size_px: tuple[int, int]
    """Width and height of the output page."""
    ppi: tuple[float, float]
    """Resolution of the output page, across and down."""
    colour: ColourMode
    tone: Tone | None
    clear_outside: Quad | None
    """Outline of plain paper in pixels of the image as captured: what lies outside is painted in its tone."""
    paper: tuple[int, ...]
    jpeg_quality: int
    aside: AsideReason | None

    def digest(self) -> str:
        """SHA-256 of the plan, for the keys of results made from it; whether the page is aside does not matter to them."""
        return hashlib.sha256(self.model_dump_json(exclude={"aside"}).encode()).hexdigest()


def plan_page(found: Measurements, treatment: Treatment, override: Override | None = None) -> Plan:
    """Decide what is done to a page.

    Args:
        found: What was measured on it.
        treatment: The stack's.
        override: The page's own departures, which win.
    """
    wish = override or Override()
    measured: Turn = found.turn if treatment.turn_upright and found.turn_confidence >= SURE_OF_TURN else 0
    turn = measured if wish.turn is None else wish.turn
    # The tilt was measured on the page turned by the measured angle; lines of a page on its side have no tilt to level.
    same_way = (turn - (found.turn if found.turn_confidence >= SURE_OF_TURN else 0)) % 180 == 0
    tilt = found.tilt_deg if treatment.level and same_way and found.tilt_confidence >= SURE_OF_TILT else 0.0
    if abs(tilt) < _LEAST_TILT_DEG:
        tilt = 0.0
    ppi = turned_size(*(found.ppi or (ASSUMED_PPI, ASSUMED_PPI)), turn)
    corners = wish.quad or _photographed(found, treatment, wish)
    if corners:
        tilt = 0.0
        quad, size = _given(corners, turn)
        if not wish.quad and found.photograph is not None:
            size, ppi = _flat(size, found.photograph.aspect if turn % 180 == 0 else 1 / found.photograph.aspect, ppi)
    else:
        quad, size = _outline(found, turn, tilt, crop=treatment.crop, split=wish.split)
    colour = _colour(found, treatment, wish)
    clear = treatment.clear_surround and found.lid_seen and not corners
    return Plan(
        turn=turn,
        tilt_deg=tilt,
        quad=quad,
        size_px=size,
        ppi=(round(ppi[0], 2), round(ppi[1], 2)),
        colour=colour,
        tone=_tone(found) if treatment.even_tone else None,
        clear_outside=found.bright_quad if clear else None,
        paper=found.paper,
        jpeg_quality=treatment.jpeg_quality,
        aside=_aside(found, treatment, wish),
    )


def _photographed(found: Measurements, treatment: Treatment, wish: Override) -> Quad | None:
    """The corners of a photographed page, whose perspective is to be taken out; None where they are not known."""
    sure = found.photograph is not None and found.lid_seen and not found.photograph.cut_off
    return found.page_quad if sure and treatment.crop and wish.split is None else None


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


def _outline(
    found: Measurements, turn: Turn, tilt: float, *, crop: bool, split: Split | None
) -> tuple[Quad, tuple[int, int]]:
    """The output page in the image as captured: the level rectangle around the page's outline."""
    width, height = found.size_px
    page = found.page_quad if crop else Quad.rectangle(0, 0, width, height)
    upright_w, upright_h = turned_size(width, height, turn)
    straighten = Transform.turn(turn, width, height).then(
        Transform.rotation(-tilt, Point(upright_w / 2, upright_h / 2)),
    )
    outline = page.array() if split is None else _kept(page.array(), split)
    corners = straighten.apply(outline)
    if crop and tilt and not found.lid_seen and split is None:
        # Nothing to crop to: the page fills its image, so keep its size instead of growing wedges of nothing.
        left, top = (upright_w - round(upright_w)) / 2, (upright_h - round(upright_h)) / 2
        right, bottom = left + round(upright_w), top + round(upright_h)
    else:
        left, top = (float(v) for v in corners.min(axis=0))
        right, bottom = (float(v) for v in corners.max(axis=0))
    out_w, out_h = max(1, round(right - left)), max(1, round(bottom - top))
    if not tilt:
        left, top = round(left), round(top)
    # Exactly as many source pixels as output pixels: the resolution stays what it was.
    box = Quad.rectangle(left, top, left + out_w, top + out_h)
    quad = straighten.inverse().quad(box)
    return Quad(*(Point(round(x, 3), round(y, 3)) for x, y in quad)), (out_w, out_h)


def _kept(outline: Matrix, split: Split) -> Matrix:
    """The part of an outline on one side of the split line (Sutherland and Hodgman 1974); all of it where none is there."""
    (x1, y1), (x2, y2) = split.start, split.end
    away = (x2 - x1) * (outline[:, 1] - y1) - (y2 - y1) * (outline[:, 0] - x1)
    inside = away if split.keep == "left" else -away
    kept: list[Matrix] = []
    for (here, depth), (there, next_depth) in zip(
        zip(outline, inside, strict=True), zip(np.roll(outline, -1, axis=0), np.roll(inside, -1), strict=True), strict=True
    ):
        if depth >= 0:
            kept.append(here)
        if (depth >= 0) != (next_depth >= 0):
            kept.append(here + (there - here) * depth / (depth - next_depth))
    return np.array(kept) if kept else outline


def _colour(found: Measurements, treatment: Treatment, wish: Override) -> ColourMode:
    if wish.colour:
        return wish.colour
    if treatment.colour != "auto":
        return treatment.colour
    enough = min(found.ppi or (ASSUMED_PPI, ASSUMED_PPI)) >= treatment.bitonal_from
    return "grey" if found.colour == "bitonal" and not enough else found.colour


def _tone(found: Measurements) -> Tone | None:
    """Paper evened to white, or to its own colour where it is dyed; None for pictures, which have no paper to go by."""
    if (
        found.midtone_percent > _PICTURE_PERCENT
        or found.coloured_percent > _PICTURE_PERCENT
        or min(found.paper) < _DARK_PAPER
    ):
        return None
    level = max(found.paper)
    # Darkened with restraint: pushed to full black, the ink's own grain would stand out.
    ink = max(0.0, min(0.3, found.ink / level - 0.12))
    return Tone(ink=round(ink, 3), paper=tuple(round(v * 250 / level) for v in found.paper) if found.dyed else (255,))


def _aside(found: Measurements, treatment: Treatment, wish: Override) -> AsideReason | None:
    if wish.aside is not None:
        return wish.reason if wish.aside else None
    if found.separator:
        return "separator"
    return "blank" if treatment.hold_blanks and found.ink_percent < treatment.blank_below else None
