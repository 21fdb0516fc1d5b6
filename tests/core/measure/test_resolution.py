"""What a file says of its resolution, held against paper and letters."""

import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import measure
from hollowstack.core.measure.content.resolution import measure_resolution
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment

A4_300 = (2480, 3508)


@pytest.mark.parametrize(
    ("size", "letters", "said", "ppi", "rests_on"),
    [
        (A4_300, 21.0, 300, 300, "file and paper size"),
        (A4_300, 45.0, 300, 300, "file and paper size"),  # large handwriting is no reason to doubt it
        ((2000, 2900), 45.0, 300, 300, "file"),
        (A4_300, 21.0, 72, 300, "paper size and letters"),
        (A4_300, 21.0, None, 300, "paper size and letters"),
        ((1240, 1754), 10.5, None, 150, "paper size and letters"),  # A6 at 300 would do as well: the letters decide
        (A4_300, None, None, 300, "paper size"),
        ((2000, 2900), 21.0, 300, 300, "file"),
        ((2000, 2900), 21.0, None, 300, "letters"),
        ((2000, 2900), None, 72, 72, "file"),
        ((2000, 2900), None, None, 300, "nothing"),
        ((3508, 2480), 42.0, 600, 600, "file and paper size"),
    ],
)
def test_what_it_rests_on(size, letters, said, ppi, rests_on):
    found = measure_resolution(size, letters, said)
    assert (found.ppi, found.rests_on) == (ppi, rests_on)


def test_the_less_there_is_to_go_by_the_less_sure():
    sure = [measure_resolution(A4_300, *how).confidence for how in ((21.0, 300), (21.0, None), (None, None))]
    assert sure == sorted(sure, reverse=True)


@pytest.mark.parametrize("said", [None, (72.0, 72.0)])
def test_a_page_is_measured_by_its_true_resolution(typed_page, said):
    page = typed_page(lines=20)
    found = measure(Raster(page.pixels, said))
    assert found.ppi == (150.0, 150.0)
    assert found.ppi_said == said
    assert found.ppi_confidence >= 0.7
    plan = plan_page(found, Treatment())
    assert plan.ppi == (150.0, 150.0)
    words = {f.check: f.message for f in check_page(found, plan, None)}["resolution"]
    assert "which is taken" in words
    assert found.skew_deg == measure(page).skew_deg


def test_what_the_file_says_stands_where_it_can_be(typed_page):
    found = measure(typed_page(lines=20))
    assert found.ppi == found.ppi_said == (150.0, 150.0)


def test_a_page_without_a_lid_is_the_whole_image_to_the_last_pixel(typed_page):
    pixels = typed_page(lines=20).pixels[:-1, :-1]
    found = measure(Raster(pixels, (300.0, 300.0)))
    assert not found.lid_seen
    assert found.page_quad.bottom_right == (pixels.shape[1], pixels.shape[0])
