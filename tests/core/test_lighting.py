"""A page in even light for the OCR engine: ink stays, light goes, and what is even already is left alone."""

import numpy as np
import pytest

from hollowstack.core.ocr.lighting import evenly_lit

ROWS, COLS = 600, 800


def page(dark: float, *, stroke: int = 4) -> np.ndarray:
    """Strokes on paper in light that falls off from left to right to a share of itself."""
    light = np.tile(np.linspace(1.0, dark, COLS), (ROWS, 1))
    ink = np.ones((ROWS, COLS))
    ink[40:-40:30, 60:-60] = 0.3
    for row in range(40, ROWS - 40, 60):
        ink[row : row + stroke, 60:-60] = 0.3
    return np.clip(230 * light * ink, 0, 255).astype(np.uint8)


@pytest.mark.parametrize(("dark", "evened"), [(1.0, False), (0.8, False), (0.78, True), (0.3, True)])
def test_light_is_evened_where_it_falls_off_by_more_than_a_fifth(dark, evened):
    assert (evenly_lit(page(dark), 12.0) is not None) == evened


@pytest.mark.parametrize(("side", "evened"), [(50, False), (110, True)])
def test_a_stain_is_evened_that_takes_a_hundredth_of_the_page(side, evened):
    pixels = page(1.0)
    pixels[200 : 200 + side, 300 : 300 + side] = 0.6 * pixels[200 : 200 + side, 300 : 300 + side]
    assert (evenly_lit(pixels, 6.0) is not None) == evened


@pytest.mark.parametrize("letter_px", [8.0, 12.0, 24.0, None])
def test_paper_becomes_white_and_ink_keeps_its_share(letter_px):
    even = evenly_lit(page(0.35), letter_px)
    assert even is not None
    assert even.shape == (ROWS, COLS)
    bare = even[75:85, 100:-100]
    assert bare.min() > 235
    ink = even[41:43, 100:-100].astype(float) / 255
    assert abs(ink.mean() - 0.3) < 0.06
    assert ink[:, :50].mean() == pytest.approx(ink[:, -50:].mean(), abs=0.06)


@pytest.mark.parametrize(("width", "kept"), [(30, True), (200, False)])
def test_what_is_as_wide_as_a_stroke_may_be_is_ink_and_what_is_wider_is_light(width, kept):
    """Small letters of 12 pixels: nothing written is wider than 48."""
    pixels = page(0.5)
    pixels[200:400, 300 : 300 + width] = 40
    even = evenly_lit(pixels, 12.0)
    assert even is not None
    assert (even[300, 300 + width // 2] < 110) == kept


def test_the_smallest_images_are_no_reason_to_fail():
    for shape in ((1, 1), (3, 40), (40, 3)):
        pixels = np.linspace(20, 250, shape[0] * shape[1]).astype(np.uint8).reshape(shape)
        even = evenly_lit(pixels, 5.0)
        assert even is None or even.shape == shape
