"""A page seen in perspective is a photograph, tags or no tags; a page on the glass never is."""

import random

import numpy as np
import pytest

from hollowstack.core.measure import measure
from hollowstack.core.measure.capture_quality.camera import is_oblique, seen_by_camera
from hollowstack.core.measure.layout.edges import Edges
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.specimens import LAYOUTS
from tests.conftest import captured, typed_sheet


@pytest.mark.parametrize("table", ["oak", "checked", "white"])
def test_a_photograph_without_tags_is_told_and_its_corners_found(table):
    rng = np.random.default_rng(5)
    sheet = LAYOUTS["prose"](random.Random(5))
    surface = worn(sheet, (240, 238, 231), Wear(age=0.3), rng)
    pixels, quad = photograph(surface, View(size_px=(1200, 1600), lean=(12.0, 6.0), table=table), rng)
    found = measure(Raster(pixels))
    assert found.photograph is not None
    off = np.hypot(*(found.page_quad.array() - quad.array()).T).mean() / np.hypot(1200, 1600)
    assert off < 0.005


@pytest.mark.parametrize(
    "glass",
    [
        Glass(skew=3.0, margins_mm=(8, 8, 8, 8)),
        Glass(skew=-4.0, margins_mm=(8, 12, 6, 9), lid=200),
        Glass(skew=2.5, margins_mm=(8, 8, 8, 8), gutter="left"),
        Glass(skew=1.0),
    ],
)
def test_a_page_on_the_glass_is_no_photograph(glass):
    assert measure(Raster(captured(typed_sheet(), glass).pixels, (150.0, 150.0))).photograph is None


def turned(degrees: float) -> Quad:
    angle = np.radians(degrees)
    corners = np.array([[0, 0], [1000, 0], [1000, 1400], [0, 1400]]) - [500, 700]
    return Quad.of(corners @ np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]]) + [900, 1000])


@pytest.mark.parametrize("degrees", [0, 3, -12, 40])
def test_a_rectangle_is_not_oblique_however_it_lies(degrees):
    assert not is_oblique(turned(degrees))


@pytest.mark.parametrize(("narrower", "oblique"), [(0, False), (20, False), (60, True), (120, True)])
def test_a_page_that_narrows_is_oblique(narrower, oblique):
    quad = Quad.of([[narrower / 2, 0], [1000 - narrower / 2, 0], [1000, 1400], [0, 1400]])
    assert is_oblique(quad) == oblique


def test_one_side_askew_is_a_gutter_and_no_perspective():
    assert not is_oblique(Quad.of([[60, 0], [1000, 0], [1000, 1400], [0, 1400]]))


@pytest.mark.parametrize("side", range(4))
@pytest.mark.parametrize(("cut", "told"), [(0, True), (1, False)])
def test_a_page_that_runs_out_of_its_image_is_no_photograph_by_its_corners(side, cut, told):
    """Its corners are not seen, on whichever side."""
    rng = np.random.default_rng(5)
    surface = worn(LAYOUTS["prose"](random.Random(5)), (240, 238, 231), Wear(age=0.3), rng)
    pixels, quad = photograph(surface, View(size_px=(1200, 1600), lean=(12.0, 6.0), table="oak"), rng)
    corners = quad.array()
    if cut:
        left, top = np.ceil(corners.min(axis=0)).astype(int) + 30
        right, bottom = np.floor(corners.max(axis=0)).astype(int) - 30
        pixels = (pixels[:, left:], pixels[top:], pixels[:, :right], pixels[:bottom])[side]
        corners = corners - ([left, 0], [0, top], [0, 0], [0, 0])[side]
    small = Raster(np.ascontiguousarray(pixels), (150.0, 150.0))
    assert seen_by_camera(small, Edges(Quad.of(corners), Quad.of(corners), lid=True, confidence=1.0)) == told
