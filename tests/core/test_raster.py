"""Rasters: painting by a mask, and reduction by whole factors."""

import numpy as np
import pytest

from hollowstack.core.page.raster import Raster, paint


@pytest.mark.parametrize(("shape", "value"), [((150, 40), (7,)), ((150, 40, 3), (7, 8, 9)), ((3, 5), (1,))])
def test_paint_sets_what_the_mask_holds_and_nothing_else(shape, value):
    rng = np.random.default_rng(3)
    pixels = rng.integers(0, 256, shape).astype(np.uint8)
    where = (rng.random(shape[:2]) < 0.3).astype(np.uint8) * 255
    wanted = pixels.copy()
    wanted[where > 0] = value if len(value) > 1 else value[0]
    paint(pixels, where, value)
    assert np.array_equal(pixels, wanted)


def test_paint_reaches_into_a_part_of_a_larger_image():
    whole = np.zeros((200, 100, 3), np.uint8)
    paint(whole[20:180, 10:90], np.ones((160, 80), np.uint8), (1, 2, 3))
    assert (whole[20:180, 10:90] == (1, 2, 3)).all()
    assert int(whole.sum()) == 160 * 80 * 6


def test_division_is_by_a_whole_factor():
    image = Raster(np.zeros((101, 203), np.uint8), (300.0, 300.0))
    small = image.downsampled(40)
    assert (image.divisor(40), small.width, small.height) == (7, 29, 14)
    assert small.ppi == pytest.approx((300 / 7, 300 / 7))
    assert image.downsampled(400).pixels is image.pixels
