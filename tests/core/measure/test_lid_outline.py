"""Pages of which a part is no paper: their lid tells where they lie, and what has structure is no lid."""

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.measure.layout.lid_outline import outline_by_lid
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 100.0
BOX = (60, 50, 740, 1050)
"""The page under its lid, in pixels."""


def under_a_lid(lid: int = 70) -> np.ndarray:
    image = np.random.default_rng(4).normal(lid, 1.5, (1120, 800))
    left, top, right, bottom = BOX
    image[top:bottom, left:right] = np.random.default_rng(5).normal(232, 2, (bottom - top, right - left))
    return np.clip(image, 0, 255).astype(np.uint8)


def picture(rows: int, cols: int, low: int = 40, high: int = 200) -> np.ndarray:
    """Clouds: tones of every kind, none of them for long."""
    small = np.random.default_rng(6).uniform(low, high, (max(3, rows // 24), max(3, cols // 24)))
    return np.clip(cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC), 0, 255).astype(np.uint8)


def reached(found: Quad, box: tuple[int, int, int, int]) -> float:
    """The farthest that a corner lies off, in pixels."""
    return float(np.abs(found.array() - Quad.rectangle(*box).array()).max())


@pytest.mark.parametrize("lid", [40, 70, 150])
def test_a_picture_over_half_the_page_is_none_of_the_lid(lid):
    page = under_a_lid(lid)
    left, top, right, _ = BOX
    page[top:500, left:right] = picture(500 - top, right - left)
    edges = find_edges(Raster(page, (PPI, PPI)))
    assert edges.lid
    assert reached(edges.quad, BOX) < 8


@pytest.mark.parametrize("lid", [100, 120])
def test_where_it_cannot_be_told_from_the_lid_all_stays(lid):
    page = under_a_lid(lid)
    left, top, right, _ = BOX
    page[top:500, left:right] = picture(500 - top, right - left)
    assert find_edges(Raster(page, (PPI, PPI))).quad.top_left.y <= top


def test_a_dark_picture_without_a_lid_is_no_lid():
    """The night sky over text: black, flat, at the rim, with lights in it."""
    page = np.full((1120, 800), 232, np.uint8)
    page[:480] = 20
    rng = np.random.default_rng(7)
    for x, y in zip(rng.integers(5, 795, 150), rng.integers(5, 470, 150), strict=True):
        cv2.circle(page, (int(x), int(y)), 4, 220, -1)
    edges = find_edges(Raster(page, (PPI, PPI)))
    assert edges.quad.top_left.y < 2


def test_a_dark_lid_without_lights_is_one():
    page = np.full((1120, 800), 232, np.uint8)
    page[:480] = 20
    assert find_edges(Raster(page, (PPI, PPI))).quad.top_left.y == pytest.approx(480, abs=3)


def test_a_picture_as_dark_as_the_lid_on_one_side_does_not_hide_the_edge():
    page = under_a_lid(40)
    left, top, right, _ = BOX
    page[top:560, left:right] = picture(560 - top, right - left, 90, 220)
    page[top:360, left : left + 200] = 42
    quad, agreeing = outline_by_lid(cv2.resize(page, None, fx=0.6, fy=0.6, interpolation=cv2.INTER_AREA), np.array([40.0]))
    assert reached(Quad.of(quad.array() / 0.6), BOX) < 8
    assert agreeing < 1


def test_what_fills_the_image_has_no_outline():
    assert outline_by_lid(picture(600, 400), np.array([70.0])) is None
    assert outline_by_lid(np.full((600, 400), 232, np.uint8), np.array([70.0])) is None


def test_a_coloured_margin_is_print_and_no_lid():
    """A poster's blue border around a picture reaches the rim on all sides."""
    page = np.zeros((1120, 800, 3), np.uint8)
    page[:] = (40, 70, 150)
    left, top, right, bottom = BOX
    page[top:bottom, left:right] = picture(bottom - top, right - left)[..., None]
    edges = find_edges(Raster(page, (PPI, PPI)))
    assert edges.quad == Quad.rectangle(0, 0, 800, 1120)
