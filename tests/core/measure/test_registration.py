"""Colours apart are laid on each other, and coloured strokes are left alone."""

import cv2
import numpy as np
import pytest

from hollowstack.core.imaging.registration import registered
from hollowstack.core.measure.content.colour import measure_colour
from hollowstack.core.page.raster import Raster
from tests.conftest import captured, typed_sheet


@pytest.fixture(scope="module")
def page() -> np.ndarray:
    return captured(typed_sheet()).pixels


def apart(pixels: np.ndarray, red: tuple[float, float], blue: tuple[float, float]) -> Raster:
    """The same page by a sensor that sees red and blue elsewhere."""

    def moved(channel: np.ndarray, by: tuple[float, float]) -> np.ndarray:
        matrix = np.float32([[1, 0, by[0]], [0, 1, by[1]]])
        return cv2.warpAffine(channel, matrix, channel.shape[::-1], flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)

    r, g, b = cv2.split(pixels)
    return Raster(cv2.merge([moved(r, red), g, moved(b, blue)]), (150.0, 150.0))


@pytest.mark.parametrize(
    ("red", "blue"), [((0, 0.5), (0, -0.5)), ((0, -1), (0, 1)), ((0.7, 0), (0, 0)), ((0.4, 0.6), (-0.5, 0.3))]
)
def test_fringes_go(page, red, blue):
    fringed = apart(page, red, blue)
    away = np.abs(fringed.pixels.astype(int) - page).mean()
    left = np.abs(registered(fringed).pixels.astype(int) - page).mean()
    assert left < 0.5 * away  # half a pixel cannot be moved back without some loss
    assert measure_colour(fringed).coloured_percent == 0


def test_a_page_without_fringes_is_left_as_it_is(page):
    assert np.array_equal(registered(Raster(page, (150.0, 150.0))).pixels, page)


@pytest.mark.parametrize("ink", [(30, 50, 150), (170, 30, 30)])
def test_coloured_writing_is_no_fringe(page, ink):
    signed = page.copy()
    cv2.putText(signed, "H. Larch", (200, 1150), cv2.FONT_HERSHEY_SCRIPT_SIMPLEX, 2, ink, 3, cv2.LINE_AA)
    assert np.array_equal(registered(Raster(signed, (150.0, 150.0))).pixels, signed)
    assert measure_colour(apart(signed, (0, 0.5), (0, -0.5))).content == "colour"


@pytest.mark.parametrize("shape", [(1, 1, 3), (2, 300, 3), (300, 400, 3)])
def test_there_may_be_nothing_to_go_by(shape):
    blank = Raster(np.full(shape, 230, np.uint8), (100.0, 100.0))
    assert registered(blank) is blank
