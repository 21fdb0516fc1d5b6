"""A picture on paper is as sharp an outline as a page on its lid; writing around it says which it is."""

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.edges import find_edges
from hollowstack.core.measure.layout.lettered import is_lettered
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 150.0
BOX = (150, 200, 850, 900)


def plate(paper=236, picture=30, ink=40, caption="Plate 31. Master of a steamer", seed=1) -> np.ndarray:
    """A black picture on a page, with its caption below."""
    rng = np.random.default_rng(seed)
    page = rng.normal(paper, 2, (1400, 1000))
    left, top, right, bottom = BOX
    page[top:bottom, left:right] = rng.normal(picture, 2, (bottom - top, right - left))
    page = np.clip(page, 0, 255).astype(np.uint8)
    cv2.putText(page, caption, (260, 1100), cv2.FONT_HERSHEY_SIMPLEX, 0.55, ink, 1, cv2.LINE_AA)
    return page


def test_a_captioned_plate_keeps_its_paper():
    found = find_edges(Raster(plate(), (PPI, PPI)))
    assert found.quad == Quad.rectangle(0, 0, 1000, 1400)
    assert not found.lid


def test_a_photograph_on_a_white_lid_is_cropped_to():
    found = find_edges(Raster(plate(caption=""), (PPI, PPI)))
    assert found.lid
    assert np.abs(found.quad.array() - Quad.rectangle(*BOX).array()).max() < 3


def test_white_ink_on_the_dark_sheet_of_an_album_counts_as_well():
    page = Raster(plate(paper=35, picture=190, ink=230), (PPI, PPI))
    assert is_lettered(page, Quad.rectangle(*BOX))
    assert not find_edges(page).lid


def test_a_plate_on_its_own_lid_is_cropped_to_the_paper():
    image = np.full((1600, 1200), 18, np.uint8)
    image[100:1500, 100:1100] = plate()
    found = find_edges(Raster(image, (PPI, PPI)))
    assert found.lid
    assert np.abs(found.quad.array() - Quad.rectangle(100, 100, 1100, 1500).array()).max() < 3


@pytest.mark.parametrize(("caption", "lettered"), [("Plate ii", False), ("Plate thirty-one", True)])
def test_it_takes_a_row_of_letters(caption, lettered):
    page = plate(caption=caption)
    assert is_lettered(Raster(page, (PPI, PPI)), Quad.rectangle(*BOX)) == lettered


def test_dust_on_a_lid_is_no_writing():
    page = plate(caption="")
    rng = np.random.default_rng(8)
    for x, y in zip(rng.integers(10, 990, 60), rng.integers(950, 1390, 60), strict=True):
        cv2.circle(page, (int(x), int(y)), int(rng.integers(2, 5)), 150, -1)
    assert not is_lettered(Raster(page, (PPI, PPI)), Quad.rectangle(*BOX))


def test_a_hair_on_a_lid_is_none_either():
    page = plate(caption="")
    points = np.array([(300 + 4 * at, 1100 + round(9 * np.sin(at / 6))) for at in range(60)], np.int32)
    cv2.polylines(page, [points], False, 90, 1, cv2.LINE_AA)
    assert not is_lettered(Raster(page, (PPI, PPI)), Quad.rectangle(*BOX))


def test_a_neighbour_s_print_beyond_a_black_bar_is_not_on_the_lid():
    """The bar is the surround; what is printed on the paper beyond it does not stand on its tone."""
    page = np.random.default_rng(2).normal(236, 2, (1400, 1000))
    page[:, 600:720] = 15
    page = np.clip(page, 0, 255).astype(np.uint8)
    page[:, 640:720] = 15
    for row in range(100, 1300, 40):
        cv2.putText(page, "each half hour", (730, row), cv2.FONT_HERSHEY_SIMPLEX, 0.5, 40, 1, cv2.LINE_AA)
    page[:, 720:] = np.where(page[:, 720:] > 0, page[:, 720:], 0)
    dark = page.copy()
    dark[:, 600:720] = 15
    outline = Quad.rectangle(0, 0, 600, 1400)
    wide = np.full((1400, 1500), 15, np.uint8)
    wide[:, :600], wide[:, 1220:] = dark[:, :600], dark[:, 720:]
    assert not is_lettered(Raster(wide, (PPI, PPI)), outline)
