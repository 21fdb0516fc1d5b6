"""Page edges against drawn truth, on every kind of lid."""

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout import edges
from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet


def overlap(one: Quad, other: Quad) -> float:
    """Intersection over union of two convex quadrilaterals."""
    shared, _ = cv2.intersectConvexConvex(one.array().astype(np.float32), other.array().astype(np.float32))
    return shared / (one.area() + other.area() - shared)


@pytest.mark.parametrize("lid", [15, 60, 130, 205])
@pytest.mark.parametrize("skew", [-3.0, 0.0, 1.4])
def test_on_a_lid(lid, skew):
    made = captured(typed_sheet(), Glass(skew=skew, margins_mm=(8, 6, 10, 9), lid=lid))
    found = find_edges(Raster(made.pixels, (150, 150)))
    assert found.lid
    assert overlap(found.quad, made.quad) > 0.985


@pytest.mark.parametrize("side", ["left", "right"])
def test_with_a_gutter_bar(side):
    made = captured(typed_sheet(), Glass(skew=0.8, margins_mm=(9, 6, 9, 8), lid=20, gutter=side))
    assert overlap(find_edges(Raster(made.pixels, (150, 150))).quad, made.quad) > 0.96


def test_two_sides_only():
    """Laid into the corner of the glass: lid shows on the right and below."""
    made = captured(typed_sheet(), Glass(margins_mm=(0, 0, 20, 15), lid=30))
    assert overlap(find_edges(Raster(made.pixels, (150, 150))).quad, made.quad) > 0.985


@pytest.mark.parametrize("skew", [0.0, 2.0])
def test_a_page_that_fills_its_image_is_left_whole(typed_page, skew):
    page = typed_page(skew=skew)
    found = find_edges(page)
    assert not found.lid
    assert found.quad == Quad.rectangle(0, 0, page.width, page.height)


def test_a_tiny_image_is_left_whole():
    assert not find_edges(Raster(np.zeros((8, 9), np.uint8), (300, 300))).lid


@pytest.mark.parametrize("colour", [False, True])
def test_a_page_close_to_the_rim_is_no_reason_to_fail(colour):
    """A side so near the rim of the image that no row has room for a look across it."""
    for seed in range(60):
        rng = np.random.default_rng(seed)
        image = np.full((700, 500), 40, np.uint8)
        wide, high = rng.integers(200, 480), rng.integers(200, 680)
        left, top = rng.integers(0, 14), rng.integers(0, 14)
        image[top : top + high, left : left + wide] = 235
        pixels = np.dstack([image] * 3) if colour else image
        edges = find_edges(Raster(pixels, (150.0, 150.0)))
        drawn = Quad.rectangle(left + 1, top + 1, left + wide - 1, top + high - 1)
        outline = edges.quad.array().astype(np.float32)
        assert all(cv2.pointPolygonTest(outline, corner, measureDist=False) >= 0 for corner in drawn.array()), seed


@pytest.mark.parametrize("side", ["left", "right"])
@pytest.mark.parametrize(("lid", "skew"), [(200, 0.9), (200, -1.2), (190, 0.2), (120, 0.5)])
def test_beside_a_gutter_bar_a_lighter_lid_is_lid_too(side, lid, skew):
    """Two surrounds, black on one side and grey on the others, whichever covers more of the rim."""
    made = captured(typed_sheet(), Glass(skew=skew, margins_mm=(5, 6, 5, 8), lid=lid, gutter=side))
    found = find_edges(Raster(made.pixels, (150, 150)))
    assert found.lid
    seen = [1, 2] if side == "left" else [0, 3]
    assert np.abs(found.quad.array() - made.quad.array())[seen].max() < 2
    assert overlap(found.quad, made.quad) > 0.94


@pytest.mark.parametrize("wide", [90, 140])
def test_black_printed_along_a_page_that_runs_out_of_its_image_stays(wide):
    """It ends where the page does, above and below; a gutter's bar goes on."""
    image = np.full((1100, 800), 200, np.uint8)
    image[60:1030, :720] = 238
    image[60:1030, :wide] = 15
    for top in range(140, 960, 40):
        image[top : top + 14, wide + 40 : 660] = 40
    assert find_edges(Raster(image, (150, 150))).quad.array()[:, 0].min() < 2


@pytest.mark.parametrize("over", [0.0, 2.0])
def test_an_outline_with_nothing_outside_of_it_is_flat(over):
    """Corners set from lines may lie on the sides of an image, or beyond: no pixel tells of a lid then, and none is in the way."""
    pixels = np.full((120, 90, 3), 200, np.uint8)
    quad = Quad.rectangle(-over, -over, 90 + over, 120 + over)
    assert edges._is_flat(pixels, np.full(3, 30.0, np.float32), quad, 50.0)
