"""Which way is up."""

import numpy as np
import pytest

from hollowstack.core.measure import SURE_OF_TURN
from hollowstack.core.measure.orientation import measure_orientation
from hollowstack.core.raster import Raster


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_typed_page_on_its_side(typed_page, turn):
    found = measure_orientation(typed_page(lines=20, turn=turn).gray())
    assert found.turn == (360 - turn) % 360
    assert found.confidence >= SURE_OF_TURN


def test_a_blank_page_has_no_way_up():
    assert measure_orientation(Raster(np.full((900, 700), 240, np.uint8), (150, 150))).confidence == 0
