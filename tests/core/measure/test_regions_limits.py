"""Where a region lies, how large and how dark it is, and what makes it one: from both sides of every rule."""

import cv2
import numpy as np
import pytest

from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.measure.content.regions import Found, Region, find_regions
from hollowstack.core.measure.content.writing import find_writing
from hollowstack.core.page.raster import Raster
from tests.core.measure.test_rim import text_page

PPI = 150.0
MM = PPI / 25.4
PAPER = 230.0


def sheet(*, colour: bool = False) -> np.ndarray:
    page = np.random.default_rng(3).normal(PAPER, 1.5, (1240, 874))
    return np.repeat(page[..., None], 3, axis=2) if colour else page


def found(page: np.ndarray, corner: tuple[float, float] = (0, 0), scale: float = 1.0) -> Found:
    raster = Raster(np.clip(page + 0.5, 0, 255).astype(np.uint8), (PPI, PPI))
    surface = fit_paper(raster)
    return find_regions(raster, surface, find_writing(raster.gray(), surface.gray().level), corner, scale)


def one(page: np.ndarray, corner: tuple[float, float] = (0, 0), scale: float = 1.0) -> Region:
    (region,) = found(page, corner, scale).regions
    return region


def block(page: np.ndarray, tone: object = 90.0, box: tuple[int, int, int, int] = (200, 300, 560, 660)) -> np.ndarray:
    left, top, right, bottom = box
    page[top:bottom, left:right] = tone
    return page


def bounds(region: Region) -> np.ndarray:
    points = np.array(region.outline)
    return np.concatenate([points.min(axis=0), points.max(axis=0)])


@pytest.mark.parametrize(("corner", "scale"), [((0.0, 0.0), 1.0), ((30.0, 10.0), 1.0), ((30.0, 10.0), 2.0)])
def test_a_region_lies_where_it_is_in_the_image(corner, scale):
    region = one(block(sheet()), corner, scale)
    wanted = np.add([200, 300, 560, 660], [*corner, *corner]) * scale
    assert np.abs(bounds(region) - wanted).max() < 6 * scale
    assert region.area_mm2 == pytest.approx((360 / MM) ** 2, rel=0.08)


@pytest.mark.parametrize("tone", [40.0, 90.0, 150.0, 205.0])
def test_its_level_is_its_share_of_the_papers_light(tone):
    region = one(block(sheet(), tone))
    assert region.level == pytest.approx(tone / PAPER, abs=0.02)
    assert region.spread < 0.03
    assert region.certainty > 0.85
    assert region.kind == ("solid" if tone / PAPER < 0.6 else "fill")


@pytest.mark.parametrize(
    ("colour", "coloured"), [((120, 120, 120), False), ((132, 118, 116), False), ((170, 110, 100), True)]
)
def test_it_is_coloured_where_its_channels_are_apart(colour, coloured):
    assert one(block(sheet(colour=True), colour)).coloured == coloured


@pytest.mark.parametrize(("spread", "kind"), [(4, "fill"), (60, "picture")])
def test_a_flat_area_is_flat_and_a_picture_has_tones(spread, kind):
    page = sheet()
    page[300:660, 200:560] = 160 + spread * np.sin(np.linspace(0, 9, 360))[None, :] * np.cos(np.linspace(0, 7, 360))[:, None]
    region = one(page)
    assert region.kind == kind
    assert (region.spread > 0.2) == (kind == "picture")


@pytest.mark.parametrize(("side", "there"), [(3.0, False), (9.0, True)])
def test_what_is_small_is_no_region(side, there):
    size = round(side * MM)
    assert (len(found(block(sheet(), 60.0, (300, 600, 300 + size, 600 + size))).regions) > 0) == there


@pytest.mark.parametrize(
    ("from_edge", "diameter", "oval", "there"),
    [(12, 6, 1.0, False), (40, 8, 1.0, True), (12, 12, 1.0, True), (12, 7, 1.6, True)],
)
def test_a_punch_hole_is_none(from_edge, diameter, oval, there):
    page = sheet()
    radii = (round(diameter / 2 * MM * oval), round(diameter / 2 * MM))
    cv2.ellipse(page, (round(from_edge * MM), 620), radii, 0, 0, 360, 40, -1)
    assert (len(found(page).regions) > 0) == there


def test_the_largest_comes_first():
    page = block(block(sheet(), 90.0, (100, 100, 250, 250)), 60.0, (300, 500, 700, 900))
    areas = [region.area_mm2 for region in found(page).regions]
    assert len(areas) == 2
    assert areas[0] > 4 * areas[1]


def test_blocks_of_text_lie_where_their_letters_are():
    page = text_page(margin=150)[:1400, :1000].astype(float)
    page[500:900] = 235
    texts = [region for region in found(page, (10, 20), 2.0).regions if region.kind == "text"]
    assert len(texts) == 2
    tops = sorted(((bounds(text) / 2 - [10, 20, 10, 20]).tolist() for text in texts), key=lambda box: box[1])
    for (left, top, right, bottom), (first, last) in zip(tops, ((180, 500), (900, 1250)), strict=True):
        assert left == pytest.approx(150, abs=14)
        assert right == pytest.approx(845, abs=30)
        assert top == pytest.approx(first, abs=45)
        assert bottom == pytest.approx(last, abs=45)


@pytest.mark.parametrize(("count", "there"), [(2, False), (3, True), (14, True)])
def test_a_few_specks_are_no_text(count, there):
    page = sheet()
    for number in range(count):
        page[600:614, 200 + 20 * number : 208 + 20 * number] = 40
    assert (len([region for region in found(page).regions if region.kind == "text"]) > 0) == there
