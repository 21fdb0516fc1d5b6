"""Facts about a page, as numbers with units. Nothing here decides anything: ``core.plan`` does.

In: a ``Raster``. Out: ``Measurements``. Everything is measured on reductions; the full raster is touched once, to make them.
"""

import math
from dataclasses import replace

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict

from hollowstack.core.geometry import Matrix, Point, Quad, Transform, Turn, turned_size
from hollowstack.core.measure.blankness import measure_blankness
from hollowstack.core.measure.border import find_border_ink
from hollowstack.core.measure.camera import seen_by_camera
from hollowstack.core.measure.colour import ColourContent, ColourMode, measure_colour
from hollowstack.core.measure.corners import find_photographed
from hollowstack.core.measure.edges import find_edges
from hollowstack.core.measure.ground import ranked
from hollowstack.core.measure.gutter import find_gutter
from hollowstack.core.measure.letters import letter_height
from hollowstack.core.measure.likeness import likeness
from hollowstack.core.measure.orientation import SURE_OF_TURN, measure_orientation
from hollowstack.core.measure.paper_surface import PaperSurface, fit_paper, flat_paper, paper_tone
from hollowstack.core.measure.photograph import Photograph, measure_photograph
from hollowstack.core.measure.polarity import is_inverse
from hollowstack.core.measure.print_area import print_outline
from hollowstack.core.measure.quality import Quality, measure_quality
from hollowstack.core.measure.regions import Region, find_regions
from hollowstack.core.measure.resolution import Resolution, measure_resolution, x_height
from hollowstack.core.measure.rim import Rim, find_rim, with_rim
from hollowstack.core.measure.separator import is_separator
from hollowstack.core.measure.text_block import find_text_block
from hollowstack.core.measure.writing import find_writing
from hollowstack.core.paper_map import PaperMap
from hollowstack.core.raster import MM_PER_INCH, Pixels, Raster, as_pixels, is_two_valued, paint

__all__ = ["MEASURE_VERSION", "SURE_OF_TURN", "Measurements", "measure", "turned_ppi"]

MEASURE_VERSION = 9
"""Raised whenever a change here may change a figure; part of the key of stored measurements."""

_PPI = 150.0
_SURE_OF_PPI = 0.7
_IN_BORDER_PERCENT = 0.01
_GROUND_PPI, _GROUND_HUE = 20.0, 24
"""How coarsely the ground of a white-on-black page is looked at, and the difference of channels that is a colour."""
_SHADED_SHARE = 0.06
"""Share of each side, next to the page's edges, that may be shaded without saying anything of the paper."""
SIDES = ("left", "top", "right", "bottom")
_RIM_MM = 0.3
"""Where lid and paper mix along the page's sides."""


class Measurements(BaseModel):
    """What was measured on one page image; lengths in pixels of the image as captured."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    size_px: tuple[int, int]
    """Width and height as captured."""
    ppi: tuple[float, float] | None
    """Resolution to reckon with; None where neither the file gives it nor the page tells."""
    ppi_said: tuple[float, float] | None = None
    """Resolution as the file gives it."""
    true_ppi: float | None = None
    """What paper size and letters make of it."""
    ppi_confidence: float = 1.0
    """How sure that is, 0 to 1."""
    page_quad: Quad
    """The page's corners in the image as captured, top-left first as captured."""
    bright_quad: Quad
    """Within ``page_quad``, where no shadow of an edge or gutter lies any more."""
    lid_seen: bool
    """Whether any surround shows beside the page."""
    edges_confidence: float
    """0 to 1."""
    turn: Turn
    """Clockwise quarter turn that would make the page upright."""
    turn_confidence: float
    """0 where nothing tells; from ``SURE_OF_TURN`` on it is sure."""
    tilt_deg: float
    """Tilt of the upright page; positive where lines fall to the right."""
    tilt_confidence: float
    """0 to 1."""
    ink_percent: float
    """Marked share of the page's area; 0 on a blank page."""
    marks: int
    """Separate pieces of ink."""
    colour: ColourMode
    """The least colour mode that keeps what is there."""
    dyed: bool
    """Whether the paper itself has a colour that is not ageing's."""
    coloured_percent: float
    """Share of the page whose colour stands out."""
    midtone_percent: float
    """Share of the page in half-tones."""
    paper: tuple[int, ...]
    """Commonest value of bare paper, gray or R, G, B."""
    ink: int
    """Gray of its darkest writing: the value a fiftieth of the inked pixels lie below."""
    separator: bool = False
    """Whether it is a separator sheet."""
    mean: tuple[int, ...] = ()
    """Mean of the whole page, gray or R, G, B."""
    text_quad: Quad | None = None
    """The level rectangle around its text, in the order of the image as captured; None where there is hardly any."""
    neighbour: tuple[str, ...] = ()
    """Sides on which the strip of a neighbouring page lies beyond the fold, outside ``page_quad``."""
    rim_sides: tuple[str, ...] = ()
    """Sides of ``page_quad`` that were found by themselves: what lies beyond is no page, but they are no edge of paper."""
    print_outline: tuple[Point, ...] = ()
    """Convex outline of all that is printed or written within ``page_quad``; empty on a bare page."""
    two_valued: bool = False
    """Whether the image has two tones only, as a fax or a bitonal scan has."""
    inverse: bool = False
    """Whether it is white on black; everything else was measured on its negative."""
    pale_share: float = 0.0
    """Share of its letters that are pale at their darkest."""
    letter_px: float | None = None
    """Height of small letters in pixels of the image; None where there are too few to tell."""
    regions: tuple[Region, ...] = ()
    """What lies on the page besides paper, in pixels of the image as captured."""
    paper_map: PaperMap | None = None
    """Its bare paper, place by place; None for an image of two tones or white on black."""
    paper_range: float = 1.0
    """Light of the darkest parts of its paper over that of the lightest, away from the edges."""
    torn: tuple[Point, ...] = ()
    """Corners at which a piece of the page is missing."""
    border_ink: tuple[Quad, ...] = ()
    """Places along the border where something is written that clearing would take."""
    cut_off: tuple[Quad, ...] = ()
    """Writing that runs off the image."""
    likeness: str = ""
    """Signs by which another image of the same page is known."""
    gutter: tuple[Point, Point] | None = None
    """The fold between two facing pages, from its top to its bottom for the reader; None on a single page."""
    gutter_confidence: float = 0.0
    """Share of the page's height at which the fold is seen on one line."""
    quality: Quality | None = None
    """How well a scan's writing was captured; None for a photograph."""
    photograph: Photograph | None = None
    """How good a photograph it is; None where it is none."""


def measure(image: Raster, *, photographed: bool = False) -> Measurements:
    """Everything that is measured on a page image as captured; ``photographed`` where it says that a camera took it.

    What the file says of its resolution is held against the height of letters first, because everything else is measured by
    millimetres; once the page's own size is known, it is judged again, and all is measured anew where that changes much.
    """
    letters = letter_height(image)
    said = None if image.ppi is None else sum(image.ppi) / 2
    if _oblong(image):
        working = image.ppi
    else:
        first = measure_resolution((image.width, image.height), letters, said)
        working = image.ppi if image.ppi is not None and first.rests_on.startswith("file") else (first.ppi, first.ppi)
    found = _measured(image, working, letters, photographed=photographed)
    if photographed or found.true_ppi is None or working is None or _oblong(image):
        return found
    if _as_said(working, found.true_ppi) or _as_said(image.ppi, found.true_ppi):
        return found
    if found.ppi_confidence < _SURE_OF_PPI:
        # No surer than what it was measured by.
        return found if image.ppi is not None else found.model_copy(update={"true_ppi": sum(working) / 2})
    return _measured(image, (found.true_ppi, found.true_ppi), letters, photographed=False)


def _oblong(image: Raster) -> bool:
    """Whether pixels are longer than wide, as a fax's are: paper sizes fit neither axis then."""
    return image.ppi is not None and abs(image.ppi[0] / image.ppi[1] - 1) > 0.05


def _as_said(said: tuple[float, float] | None, true: float) -> bool:
    return said is not None and abs(true / ((said[0] + said[1]) / 2) - 1) < 0.02


def _measured(
    image: Raster, working: tuple[float, float] | None, scale_letters: float | None, *, photographed: bool
) -> Measurements:
    """Everything, by a resolution to reckon with."""
    said, image = image.ppi, Raster(image.pixels, working)
    bitonal = is_two_valued(image.pixels)
    small = image.divided(_PPI)
    inverse = is_inverse(small)
    if inverse:
        # White on black is measured as the black on white that it is the negative of.
        small = Raster(as_pixels(255 - small.pixels), small.ppi)
    edges = find_photographed(small) if photographed else find_edges(small)
    if not photographed and not bitonal and not inverse and seen_by_camera(small, edges):
        photographed, edges = True, find_photographed(small)
    rim = Rim((None,) * 4)
    if not photographed:
        rim = find_rim(small, 255.0 if bitonal else paper_tone(small), bitonal=bitonal, known=edges)
        edges = with_rim(edges, rim, small)
    page = _cut(small, edges.quad, edges.bright)
    gray = page.gray()
    surface = flat_paper(page) if bitonal else fit_paper(page)
    level = surface.gray().level
    writing = find_writing(gray, level)
    left, top = (float(v) for v in np.maximum(np.floor(edges.quad.array().min(axis=0)), 0))
    factor = max(1, image.width // small.width)
    regions, content = find_regions(page, surface, writing, (left, top), float(factor))
    surface = replace(surface, content=content)
    ink = ranked(gray.pixels, 0.003)[0]
    colour = measure_colour(page, surface, regions, ink)
    if inverse:
        colour = _as_it_is(colour, image)
    orientation = measure_orientation(gray, writing, level)
    turn = orientation.turn if orientation.confidence >= SURE_OF_TURN else 0
    upright = Raster(np.ascontiguousarray(np.rot90(gray.pixels, -turn // 90)), turned_ppi(gray, turn))
    scale = np.array([factor, factor], float)
    # A whole-number reduction leaves a last row or column out; a page that fills its image is the whole of it.
    whole = Quad.rectangle(0, 0, image.width, image.height)
    quad = Quad.of(edges.quad.array() * scale) if edges.lid else whole
    letters = x_height(writing, lies=orientation.lies)
    resolution = _resolution(image, said, quad, scale_letters if letters is None else letters * float(scale[1]))
    border = find_border_ink(small.gray(), edges.quad, edges.bright, lid=edges.lid)
    text = find_text_block(gray, writing, orientation.tilt.degrees)
    blank = measure_blankness(gray, None if text is None else writing.limit, surface, regions)
    corner = np.array([left, top])
    plain = Quad.of(edges.bright.array() * scale) if edges.lid else whole
    quality = None
    if not photographed and not inverse:
        quality = measure_quality(image, plain, gray, writing, (left, top), letters, level)
    fold = _gutter(upright, turn, gray, edges.quad, scale)
    return Measurements(
        size_px=(image.width, image.height),
        ppi=working,
        ppi_said=said,
        true_ppi=resolution.ppi,
        ppi_confidence=resolution.confidence,
        page_quad=quad,
        bright_quad=plain,
        lid_seen=edges.lid,
        edges_confidence=edges.confidence,
        neighbour=tuple(name for name, cut in zip(SIDES, rim.cuts, strict=True) if cut and cut.kind == "neighbour"),
        rim_sides=tuple(name for name, cut in zip(SIDES, rim.cuts, strict=True) if cut),
        print_outline=print_outline(gray, level, content, (left, top), float(factor)),
        two_valued=bitonal,
        inverse=inverse,
        turn=orientation.turn,
        turn_confidence=orientation.confidence,
        tilt_deg=orientation.tilt.degrees,
        tilt_confidence=orientation.tilt.confidence,
        # Writing in the border is none to those who look at plain paper only; a page with nothing else is not blank.
        ink_percent=max(blank.ink_percent, _IN_BORDER_PERCENT if border.spared else 0.0),
        marks=blank.marks + len(border.spared),
        colour=colour.content,
        dyed=colour.dyed,
        coloured_percent=colour.coloured_percent,
        midtone_percent=colour.midtone_percent,
        pale_share=round(writing.pale_share, 3),
        letter_px=scale_letters if letters is None else round(letters * float(scale[1]), 1),
        regions=regions,
        paper_map=None if bitonal or inverse else _paper_map(surface, page, small, image, (left, top)),
        paper_range=_paper_range(level, page),
        paper=colour.paper,
        ink=ink,
        mean=tuple(round(v) for v in cv2.mean(page.pixels)[: 1 if page.is_gray else 3]),
        text_quad=None if text is None else Quad.of((text.array() + corner) * scale),
        torn=tuple(quad[corner] for corner in edges.torn),
        border_ink=tuple(_tidy(spot.array() * scale) for spot in border.spared),
        cut_off=tuple(_tidy(spot.array() * scale) for spot in border.cut),
        separator=is_separator(gray),
        likeness=likeness(upright, orientation.tilt.degrees),
        gutter=None if fold is None else fold[0],
        gutter_confidence=0.0 if fold is None else fold[1],
        quality=quality,
        photograph=measure_photograph(image, quad, table_seen=edges.lid) if photographed else None,
    )


def _as_it_is(colour: ColourContent, image: Raster) -> ColourContent:
    """The colour content of a page that was measured in negative: a blueprint's ground is blue, not yellow."""
    if image.is_gray:
        return colour
    ground = [ranked(image.divided(_GROUND_PPI).pixels, 0.5)[channel] for channel in range(3)]
    if max(ground) - min(ground) < _GROUND_HUE:
        return colour
    return replace(colour, content="colour", dyed=True)


def _paper_map(surface: PaperSurface, page: Raster, small: Raster, image: Raster, corner: tuple[float, float]) -> PaperMap:
    """The page's paper over the whole image; beyond the page it goes on as it ends."""
    rows, cols = surface.content.shape
    step = (page.width / cols, page.height / rows)
    around = (
        round(corner[1] / step[1]), max(0, round((small.height - corner[1] - page.height) / step[1])),
        round(corner[0] / step[0]), max(0, round((small.width - corner[0] - page.width) / step[0])),
    )  # fmt: skip
    level = cv2.copyMakeBorder(surface.level, *around, cv2.BORDER_REPLICATE)
    content = cv2.copyMakeBorder(surface.content, *around, cv2.BORDER_CONSTANT, value=0)
    x, y = image.scale_ppi
    return PaperMap.of(
        as_pixels(level), as_pixels(content), (image.width, image.height),
        (image.width * MM_PER_INCH / x, image.height * MM_PER_INCH / y),
    )  # fmt: skip


def _paper_range(level: Pixels, page: Raster) -> float:
    """Light of the paper's darkest parts over that of its lightest, away from the page's edges."""
    margin = [max(1, round(side * _SHADED_SHARE)) for side in level.shape]
    inner = level[margin[0] : level.shape[0] - margin[0], margin[1] : level.shape[1] - margin[1]]
    dark, light = np.percentile(inner if inner.size else level, (3, 97))
    return round(float(dark / max(light, 1.0)), 3)


def _tidy(points: Matrix) -> Quad:
    return Quad.of(points.round(1))


def _resolution(image: Raster, said: tuple[float, float] | None, quad: Quad, letters: float | None) -> Resolution:
    """From the page's own sides and the height of its letters, in pixels of the image."""
    a, b, c, d = quad
    sides = (math.dist(a, b) + math.dist(d, c)) / 2, (math.dist(a, d) + math.dist(b, c)) / 2
    if said is not None and abs(said[0] / said[1] - 1) > 0.05:
        return Resolution(sum(said) / 2, 0.85, "file")  # a fax: paper sizes do not fit either axis
    return measure_resolution(sides, letters, None if said is None else sum(said) / 2)


def _gutter(
    upright: Raster, turn: Turn, page: Raster, quad: Quad, scale: Matrix
) -> tuple[tuple[Point, Point], float] | None:
    """The fold in pixels of the image as captured, and how sure it is."""
    found = find_gutter(upright)
    if found is None:
        return None
    line = Transform.turn(turn, page.width, page.height).inverse().apply(np.array([found.top, found.bottom]))
    corner = np.maximum(np.floor(quad.array().min(axis=0)), 0)
    top, bottom = ((line + corner) * scale).round(1).tolist()
    return (Point(*top), Point(*bottom)), found.confidence


def turned_ppi(page: Raster, turn: Turn) -> tuple[float, float] | None:
    """Resolution across and down after a quarter turn."""
    return None if page.ppi is None else turned_size(*page.ppi, turn)


def _cut(small: Raster, quad: Quad, bright: Quad) -> Raster:
    """The page's bounding rectangle, with what lies outside its bright outline painted in its paper."""
    corners = quad.array()
    left, top = np.maximum(np.floor(corners.min(axis=0)).astype(int), 0)
    right, bottom = np.ceil(corners.max(axis=0)).astype(int)
    part = small.pixels[top:bottom, left:right]
    outline = bright.array() - [left, top]
    inside = np.zeros(part.shape[:2], np.uint8)
    cv2.fillConvexPoly(inside, np.rint(outline).astype(np.int32), 1)
    rim = 2 * max(1, small.px(_RIM_MM)) + 1
    inside = as_pixels(cv2.erode(inside, np.ones((rim, rim), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1))
    if inside.all():
        return Raster(np.ascontiguousarray(part), small.ppi)
    page = part.copy()
    paint(page, 1 - inside, ranked(part, 0.5, inside))
    return Raster(page, small.ppi)
