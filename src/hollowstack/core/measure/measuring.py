"""Facts about a page, as numbers with units. Nothing here decides anything: ``core.plan`` does.

In: a ``Raster``. Out: ``Measurements``. Everything is measured on reductions; the full raster is touched once, to make them.
"""

import math
from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np

from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.imaging.paper_surface import fit_paper, flat_paper, paper_tone
from hollowstack.core.measure.bare_page import cut_out, paper_map_of, paper_range
from hollowstack.core.measure.capture_quality.camera import seen_by_camera
from hollowstack.core.measure.capture_quality.photograph import measure_photograph
from hollowstack.core.measure.capture_quality.scan import measure_quality
from hollowstack.core.measure.content.blankness import measure_blankness
from hollowstack.core.measure.content.clipped import with_clipped
from hollowstack.core.measure.content.colour import ColourContent, measure_colour
from hollowstack.core.measure.content.covered import find_covered
from hollowstack.core.measure.content.letters import letter_height
from hollowstack.core.measure.content.pale_traces import pale_traces
from hollowstack.core.measure.content.perceptual_hash import perceptual_hash
from hollowstack.core.measure.content.polarity import is_inverse
from hollowstack.core.measure.content.regions import find_regions
from hollowstack.core.measure.content.resolution import Resolution, measure_resolution, x_height
from hollowstack.core.measure.content.rotation import SURE_OF_TURN, measure_orientation
from hollowstack.core.measure.content.sheet_code import COVER, SEPARATOR, sheet_code
from hollowstack.core.measure.content.streaks import Streak, find_streaks
from hollowstack.core.measure.content.tones import Tones, measure_tones
from hollowstack.core.measure.content.writing import find_writing
from hollowstack.core.measure.layout.border import find_border_ink
from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.measure.layout.gutter import find_gutter, find_photographed_gutter
from hollowstack.core.measure.layout.photographed import find_photographed
from hollowstack.core.measure.layout.print_area import print_outline
from hollowstack.core.measure.layout.rim import Rim, find_rim, with_rim
from hollowstack.core.measure.layout.text_block import find_text_block
from hollowstack.core.measure.measurements import SIDES, Measurements
from hollowstack.core.page.geometry import Matrix, Point, Quad, Transform, Turn, turned_size
from hollowstack.core.page.raster import Raster, as_pixels, is_two_valued

_PPI = 150.0
_SURE_OF_PPI = 0.7
_AS_THEY_ARE = Tones(0.5, 127, 0.0)
"""Of an image in two tones."""
_BACKGROUND_PPI, _BACKGROUND_HUE = 20.0, 24
"""How coarsely the ground of a white-on-black page is looked at, and the difference of channels that is a colour."""


def measure(image: Raster, *, photographed: bool = False) -> Measurements:
    """Everything that is measured on a page image as captured; ``photographed`` where it says that a camera took it.

    What the file says of its resolution is held against the height of letters first, because everything else is measured by
    millimetres; once the page's own size is known, it is judged again, and all is measured anew where that changes much.
    """
    letters = letter_height(image)
    said = None if image.ppi is None else sum(image.ppi) / 2
    first = measure_resolution((image.width, image.height), letters, said)
    working = image.ppi if image.ppi is not None and first.rests_on.startswith("file") else (first.ppi, first.ppi)
    found = _measured(image, working, letters, photographed=photographed)
    if photographed or found.true_ppi is None:
        return found
    if _as_said(working, found.true_ppi) or _as_said(image.ppi, found.true_ppi):
        return found
    if found.ppi_confidence < _SURE_OF_PPI:
        # No surer than what it was measured by.
        return found if image.ppi is not None else found.model_copy(update={"true_ppi": sum(working) / 2})
    return _measured(image, (found.true_ppi, found.true_ppi), letters, photographed=False)


def _as_said(said: tuple[float, float] | None, true: float) -> bool:
    return said is not None and abs(true / ((said[0] + said[1]) / 2) - 1) < 0.02


def _measured(
    image: Raster, working: tuple[float, float] | None, scale_letters: float | None, *, photographed: bool
) -> Measurements:
    """Everything, by a resolution to reckon with."""
    said, image = image.ppi, Raster(image.pixels, working, image.stretch)
    bitonal = is_two_valued(image.pixels)
    small = image.downsampled(_PPI)
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
    page, inside = cut_out(small, edges.quad, edges.bright)
    gray = page.gray()
    surface = flat_paper(page) if bitonal else fit_paper(page, inside)
    level = surface.gray().level
    writing = find_writing(gray, level)
    left, top = (float(v) for v in np.maximum(np.floor(edges.quad.array().min(axis=0)), 0))
    factor = max(1, image.width // small.width)
    regions, content = find_regions(page, surface, writing, (left, top), float(factor))
    regions = with_clipped(regions, small, float(factor))
    surface = replace(surface, content=content)
    ink = quantile(gray.pixels, 0.003)[0]
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
    streaks = find_streaks(small.gray())
    code = sheet_code(gray)
    border = find_border_ink(small.gray(), edges.quad, edges.bright, lid=edges.lid)
    text = find_text_block(gray, writing, orientation.skew.degrees)
    blank = measure_blankness(gray, None if text is None else writing.limit, surface, regions)
    corner = np.array([left, top])
    plain = Quad.of(edges.bright.array() * scale) if edges.lid else whole
    quality = None
    if not photographed and not inverse:
        quality = measure_quality(image, plain, gray, writing, (left, top), letters, level, content)
    tones = _AS_THEY_ARE if bitonal else measure_tones(image, gray, level, edges.bright.array(), (int(left), int(top)))
    fold = (
        _photographed_gutter(small.gray(), turn, edges.quad, scale)
        if photographed
        else _gutter(upright, turn, gray, edges.quad, scale)
    )
    return Measurements(
        size_px=(image.width, image.height),
        stretch=image.stretch,
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
        print_outline=print_outline(gray, level, content, edges.quad, (left, top), float(factor)),
        two_valued=bitonal,
        inverse=inverse,
        turn=orientation.turn,
        turn_confidence=orientation.confidence,
        skew_deg=orientation.skew.degrees,
        skew_confidence=orientation.skew.confidence,
        ink_percent=blank.ink_percent,
        marks=blank.marks + len(border.protected),
        colour=colour.content,
        dyed=colour.dyed,
        coloured_percent=colour.coloured_percent,
        midtone_percent=colour.midtone_percent,
        pale_share=round(writing.pale_share, 3),
        letter_px=scale_letters if letters is None else round(letters * float(scale[1]), 1),
        regions=regions,
        paper_map=None if bitonal or inverse else paper_map_of(surface, page, small, image, (left, top)),
        paper_range=paper_range(level, page),
        paper=colour.paper,
        ink=ink,
        ink_limit=tones.ink_limit,
        gray_limit=tones.gray_limit,
        noise=tones.noise,
        mean=tuple(round(v) for v in cv2.mean(page.pixels)[: 1 if page.is_gray else 3]),
        text_quad=None if text is None else Quad.of((text.array() + corner) * scale),
        torn=tuple(quad[corner] for corner in edges.torn),
        border_ink=tuple(_tidy(spot.array() * scale) for spot in border.protected),
        cut_off=tuple(_tidy(spot.array() * scale) for spot in border.cut if not _is_streak(spot, streaks)),
        meets_edge=tuple(_tidy(spot.array() * scale) for spot in border.meets_edge),
        streaks=tuple(_tidy(_quad_of(streak, small).array() * scale) for streak in streaks),
        covered=tuple(find_covered(gray, level, regions, (left, top), float(factor))),
        pale_traces=None if blank.marks or bitonal else _traces(gray, (left, top), scale),
        separator=code == SEPARATOR,
        cover=code.removeprefix(COVER) if code.startswith(COVER) else "",
        perceptual_hash=perceptual_hash(upright, orientation.skew.degrees),
        gutter=None if fold is None else fold[0],
        gutter_confidence=0.0 if fold is None else fold[1],
        quality=quality,
        photograph=measure_photograph(image, quad, table_seen=edges.lid) if photographed else None,
    )


def _as_it_is(colour: ColourContent, image: Raster) -> ColourContent:
    """The colour content of a page that was measured in negative: a blueprint's ground is blue, not yellow."""
    if image.is_gray:
        return colour
    background = [quantile(image.downsampled(_BACKGROUND_PPI).pixels, 0.5)[channel] for channel in range(3)]
    if max(background) - min(background) < _BACKGROUND_HUE:
        return colour
    return replace(colour, content="colour", dyed=True)


def _is_streak(spot: Quad, streaks: Sequence[Streak]) -> bool:
    """Whether what runs off the image is a streak, which does so at both ends."""
    low, high = spot.array().min(axis=0), spot.array().max(axis=0)
    return any(low[0] - 2 <= streak.place <= high[0] + 2 for streak in streaks)


def _quad_of(streak: Streak, image: Raster) -> Quad:
    first, last = streak.place - streak.width / 2, streak.place + streak.width / 2
    return Quad.rectangle(first, 0, last, image.height)


def _traces(page: Raster, corner: tuple[float, float], scale: Matrix) -> Quad | None:
    found = pale_traces(page)
    if found is None:
        return None
    left, top, wide, high = found
    spot = Quad.rectangle(left, top, left + wide, top + high)
    return _tidy((spot.array() + corner) * scale)


def _tidy(points: Matrix) -> Quad:
    return Quad.of(points.round(1))


def _resolution(image: Raster, said: tuple[float, float] | None, quad: Quad, letters: float | None) -> Resolution:
    """From the page's own sides and the height of its letters, in pixels of the image."""
    a, b, c, d = quad
    sides = (math.dist(a, b) + math.dist(d, c)) / 2, (math.dist(a, d) + math.dist(b, c)) / 2
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


def _photographed_gutter(image: Raster, turn: Turn, quad: Quad, scale: Matrix) -> tuple[tuple[Point, Point], float] | None:
    found = find_photographed_gutter(image, Quad.of(np.roll(quad.array(), turn // 90, axis=0)))
    if found is None:
        return None
    top, bottom = (np.array([found.top, found.bottom]) * scale).round(1).tolist()
    return (Point(*top), Point(*bottom)), found.confidence


def turned_ppi(page: Raster, turn: Turn) -> tuple[float, float] | None:
    """Resolution across and down after a quarter turn."""
    return None if page.ppi is None else turned_size(*page.ppi, turn)
