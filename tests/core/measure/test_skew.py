"""Tilt against drawn truth."""

import numpy as np
import pytest

from hollowstack.core.measure.content.skew import measure_skew
from hollowstack.core.page.raster import Raster


@pytest.mark.parametrize("skew", [-12.0, -4.3, -0.77, -0.1, 0.0, 0.06, 0.5, 1.62, 3.9, 9.5])
def test_typed_page(typed_page, skew):
    found = measure_skew(typed_page(skew=skew).gray())
    assert found.degrees == pytest.approx(skew, abs=0.05)
    assert found.confidence > 0.5


def test_few_lines_are_enough(typed_page):
    assert measure_skew(typed_page(lines=3, skew=1.2).gray()).degrees == pytest.approx(1.2, abs=0.15)


@pytest.mark.parametrize(
    "pixels", [np.full((900, 700), 240), np.full((900, 700), 0), np.random.default_rng(1).normal(230, 4, (900, 700))]
)
def test_without_writing_there_is_no_confidence(pixels):
    found = measure_skew(Raster(pixels.astype(np.uint8), (150, 150)))
    assert found.confidence == 0


def test_speckle_is_not_text():
    rng = np.random.default_rng(2)
    page = np.full((1200, 900), 235, np.uint8)
    page[rng.integers(0, 1200, 400), rng.integers(0, 900, 400)] = 20
    assert measure_skew(Raster(page, (150, 150))).confidence < 0.25
