"""What lies on a page is told by what it is made of; holes and strokes are no regions."""

import cv2
import numpy as np
import pytest
import skimage.data

from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.measure.content.regions import HOLE_MM, find_regions
from hollowstack.core.measure.content.writing import find_writing
from hollowstack.core.page.raster import Raster
from tests.conftest import captured, typed_sheet

PPI = 150.0
PX_MM = PPI / 25.4


def page_with(draw) -> Raster:
    page = np.random.default_rng(3).normal(233, 2, (1240, 874))
    draw(page)
    return Raster(np.clip(page, 0, 255).astype(np.uint8), (PPI, PPI))


def kinds(page: Raster) -> list[str]:
    surface = fit_paper(page)
    writing = find_writing(page.gray(), surface.gray().level)
    return [region.kind for region in find_regions(page, surface, writing, (0, 0), 1.0).regions if region.kind != "text"]


def block(tone: float):
    def draw(page: np.ndarray) -> None:
        page[300:600, 200:600] = tone

    return draw


@pytest.mark.parametrize(("tone", "kind"), [(40, "solid"), (137, "solid"), (143, "fill"), (200, "fill")])
def test_a_flat_area_is_a_solid_or_a_fill(tone, kind):
    assert kinds(page_with(block(tone))) == [kind]


def test_a_photograph_is_a_picture():
    photo = cv2.resize(skimage.data.camera(), (400, 300), interpolation=cv2.INTER_AREA)

    def draw(page: np.ndarray) -> None:
        page[300:600, 200:600] = photo * 0.9

    assert kinds(page_with(draw))[0] in {"picture", "half-tone"}


def test_white_letters_on_a_bar_are_inverse():
    def draw(page: np.ndarray) -> None:
        bar = np.full((120, 500), 40, np.uint8)
        cv2.putText(bar, "NOTICE TO ALL", (20, 80), cv2.FONT_HERSHEY_DUPLEX, 1.6, 240, 3)
        page[300:420, 150:650] = bar

    assert kinds(page_with(draw)) == ["inverse"]


def test_a_typed_page_is_text_and_nothing_else():
    page = Raster(captured(typed_sheet()).pixels, (150.0, 150.0))
    assert kinds(page) == []


@pytest.mark.parametrize(("diameter_mm", "x_mm", "region"), [(5.5, 11, False), (5.5, 60, True), (13, 11, True)])
def test_a_punch_hole_is_no_region(diameter_mm, x_mm, region):
    assert HOLE_MM[0] < 5.5 < HOLE_MM[1] < 13

    def draw(page: np.ndarray) -> None:
        cv2.circle(page, (round(x_mm * PX_MM), 500), round(diameter_mm / 2 * PX_MM), 30, -1)

    assert bool(kinds(page_with(draw))) == region


def test_regions_are_laid_in_the_image_as_captured():
    page = page_with(block(40))
    surface = fit_paper(page)
    found = find_regions(page, surface, find_writing(page), (10, 20), 2.0).regions[0]
    corners = np.array(found.outline)
    assert corners.min(axis=0) == pytest.approx([(200 + 10) * 2, (300 + 20) * 2], abs=14)
    assert corners.max(axis=0) == pytest.approx([(600 + 10) * 2, (600 + 20) * 2], abs=14)
