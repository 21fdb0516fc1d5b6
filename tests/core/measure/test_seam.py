"""Pages on a lid as light as they are: where their shade gives way to paper they begin; print, frames and age are no seam."""

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.measure.layout.seam import find_seam
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 100.0
SIZE = (820, 1160)
BOX = ((70, 60), (745, 75), (728, 1085), (52, 1070))
CREAM, WHITE = (238, 234, 222), (240, 240, 240)


def on_a_lid(paper=CREAM, lid=235, shade=40.0, wide=4.0, corners=BOX, size=SIZE, seed=3) -> np.ndarray:
    """A page that throws a soft shade on its lid."""
    width, height = size
    page = np.zeros((height, width), np.uint8)
    cv2.fillPoly(page, [np.array(corners, np.int32)], 255, cv2.LINE_AA)
    share = page[..., None] / 255.0
    shadow = cv2.GaussianBlur(np.roll(page, (2, 2), (0, 1)), (0, 0), wide)[..., None] / 255.0
    image = (lid - shade * shadow) * (1 - share) + np.array(paper, np.float64) * share
    image += np.random.default_rng(seed).normal(0, 1.5, (height, width, 1))
    for row in range(180, 900, 30):
        cv2.line(image, (140, row), (640, row), (60.0, 60.0, 60.0), 3)
    return np.clip(image, 0, 255).astype(np.uint8)


def off(found: Quad, corners=BOX) -> float:
    """The farthest that a corner lies off, in mm."""
    # A polygon is drawn with the pixels of its right and lower sides.
    drawn = np.add(corners, ((0, 0), (1, 0), (1, 1), (0, 1)))
    return float(np.abs(found.array() - drawn).max()) / PPI * 25.4


@pytest.mark.parametrize("lid", [175, 215, 235, 244])
@pytest.mark.parametrize("paper", [CREAM, WHITE])
def test_a_page_on_a_light_lid_is_found_to_a_fifth_of_a_millimetre(lid, paper):
    found = find_edges(Raster(on_a_lid(paper, lid), (PPI, PPI)))
    assert found.lid
    assert off(found.quad) < 0.2


def test_a_gray_scan_too():
    gray = cv2.cvtColor(on_a_lid(WHITE), cv2.COLOR_RGB2GRAY)
    assert off(find_edges(Raster(gray, (PPI, PPI))).quad) < 0.2


def test_where_no_shade_falls_the_paper_s_colour_tells():
    found = find_seam(Raster(on_a_lid(shade=0.0), (PPI, PPI)))
    assert found is not None
    assert off(found.quad) < 0.2


def test_paper_as_white_as_its_lid_and_without_a_shade_is_not_guessed_at():
    assert find_seam(Raster(on_a_lid((235, 235, 235), shade=0.0), (PPI, PPI))) is None


@pytest.mark.parametrize(("lid", "seen"), [(140, False), (165, True)])
def test_only_a_light_lid_is_looked_at(lid, seen):
    assert (find_seam(Raster(on_a_lid(WHITE, lid), (PPI, PPI))) is not None) == seen


def test_a_dyed_surround_is_no_lid():
    image = on_a_lid().astype(np.int16)
    outside = np.ones(image.shape[:2], np.uint8)
    cv2.fillPoly(outside, [np.array(BOX, np.int32)], 0)
    image[outside > 0] += np.array((0, -8, -22), np.int16)
    assert find_seam(Raster(np.clip(image, 0, 255).astype(np.uint8), (PPI, PPI))) is None


@pytest.mark.parametrize("thick", [1, 3, 6])
def test_a_printed_frame_is_none(thick):
    """The same paper on both sides of it."""
    page = np.random.default_rng(5).normal(0, 1.5, (SIZE[1], SIZE[0], 1)) + np.array(CREAM, np.float64)
    cv2.polylines(page, [np.array(BOX, np.int32)], True, (70.0, 66.0, 60.0), thick, cv2.LINE_AA)
    image = Raster(np.clip(page, 0, 255).astype(np.uint8), (PPI, PPI))
    assert find_seam(image) is None
    assert not find_edges(image).lid


def test_a_page_that_has_browned_around_a_frame_is_none():
    page = np.random.default_rng(5).normal(0, 1.5, (SIZE[1], SIZE[0], 1)) + np.array((226, 212, 184), np.float64)
    inner = np.zeros(page.shape[:2], np.uint8)
    cv2.fillPoly(inner, [np.array(BOX, np.int32)], 1)
    page[inner > 0] += np.array((10, 20, 34), np.float64)
    assert find_seam(Raster(np.clip(page, 0, 255).astype(np.uint8), (PPI, PPI))) is None


def test_a_torn_corner_is_told_of_the_page_that_has_one():
    torn = ((70, 60), (745, 75), (728, 1085), (300, 1078), (56, 800))
    found = find_seam(Raster(on_a_lid(corners=torn), (PPI, PPI)))
    assert found is None or found.torn == (3,)
    whole = find_seam(Raster(on_a_lid(), (PPI, PPI)))
    assert whole is not None
    assert whole.torn == ()
    little = ((70, 60), (745, 75), (728, 1085), (110, 1072), (55, 1010))
    found = find_seam(Raster(on_a_lid(corners=little), (PPI, PPI)))
    assert found is not None
    assert found.torn == (3,)


def test_a_page_that_lies_in_a_corner_of_the_glass_has_two_seams():
    corners = ((-9, -9), (700, -9), (700, 1040), (-9, 1040))
    found = find_seam(Raster(on_a_lid(corners=corners), (PPI, PPI)))
    assert found is not None
    assert off(found.quad, ((0, 0), (700, 0), (700, 1040), (0, 1040))) < 0.2


def test_a_page_that_fills_its_image_has_none():
    page = on_a_lid(corners=((-9, -9), (900, -9), (900, 1300), (-9, 1300)))
    assert find_seam(Raster(page, (PPI, PPI))) is None


def test_lines_above_a_title_are_no_lid():
    """A photocopy, gray with grain: its title is as straight as a side, and its running head stands beyond it."""
    rng = np.random.default_rng(6)
    gray = rng.normal(205, 14, (SIZE[1], SIZE[0])) - np.linspace(0, 25, SIZE[0])
    page = np.clip(gray, 0, 255).astype(np.uint8)
    cv2.putText(page, "TRANSACTIONS ON THEORY, VOL. 37", (40, 40), cv2.FONT_HERSHEY_SIMPLEX, 0.5, 30, 1, cv2.LINE_AA)
    for row in range(110, 1100, 26):
        cv2.putText(page, "of adaptive text compression and of novel events in it", (40, row), cv2.FONT_HERSHEY_SIMPLEX, 0.8,
                    30, 2, cv2.LINE_AA)  # fmt: skip
    page[:, :16] = 235
    image = Raster(page, (PPI, PPI))
    found = find_edges(image).quad
    assert found.top_left.y < 25
    assert found.bottom_right.y > SIZE[1] - 40


@pytest.mark.parametrize(("specks", "seen"), [(60, True), (700, False)])
def test_dust_on_a_lid_is_let_pass(specks, seen):
    image = on_a_lid()
    outside = np.ones(image.shape[:2], np.uint8)
    cv2.fillPoly(outside, [np.array(BOX, np.int32)], 0)
    rows, cols = np.nonzero(cv2.erode(outside, np.ones((27, 27), np.uint8), borderValue=1))
    for at in np.random.default_rng(9).integers(0, len(rows), specks):
        cv2.circle(image, (int(cols[at]), int(rows[at])), 2, (120, 120, 120), -1)
    assert (find_seam(Raster(image, (PPI, PPI))) is not None) == seen


def test_an_image_of_a_few_pixels_has_none():
    assert find_seam(Raster(on_a_lid()[:60, :60].copy(), (PPI, PPI))) is None
