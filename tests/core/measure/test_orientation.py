"""Which way is up."""

import numpy as np
import pytest

from hollowstack.core.measure import SURE_OF_TURN
from hollowstack.core.measure.content.rotation import measure_orientation
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_typed_page_on_its_side(typed_page, turn):
    found = measure_orientation(typed_page(lines=20, turn=turn).gray())
    assert found.turn == (360 - turn) % 360
    assert found.confidence >= SURE_OF_TURN


def test_a_blank_page_has_no_way_up():
    assert measure_orientation(Raster(np.full((900, 700), 240, np.uint8), (150, 150))).confidence == 0


@pytest.mark.parametrize("turn", [0, 180])
def test_pale_pages_are_turned_as_dark_ones_are(typed_page, turn):
    """With a quarter of the contrast that print has; and noise, which must not be taken for letters."""
    rng = np.random.default_rng(5)
    page = typed_page(lines=20, turn=turn).pixels.astype(np.float32)
    pale = np.clip(170 + (page - 170) * 0.3 + rng.normal(0, 4, page.shape[:2])[..., None], 0, 255).astype(np.uint8)
    found = measure_orientation(Raster(pale, (150.0, 150.0)).gray())
    assert found.turn == turn
    assert found.confidence >= SURE_OF_TURN
    assert abs(found.skew.degrees) < 0.1


@pytest.mark.parametrize("turn", [0, 180])
def test_what_is_so_faint_that_its_letters_are_in_pieces_is_never_turned_wrongly(turn):
    """The engine's model takes the pieces for letters upside down, and is sure; what it reads tells better."""
    page = captured(typed_sheet(20), Glass(turn=turn), Wear(age=0.1, foxing=0, fade=0)).pixels.astype(np.float32)
    noise = np.random.default_rng(1).normal(0, 3, page.shape[:2])[..., None]
    faint = np.clip(230 + (page - 230) * 0.19 + noise + 0.5, 0, 255).astype(np.uint8)
    found = measure_orientation(Raster(faint, (150.0, 150.0)).gray())
    assert found.turn == turn or found.confidence < SURE_OF_TURN


def test_noise_on_an_empty_page_has_no_way_up():
    rng = np.random.default_rng(6)
    for spread in (2, 6, 12, 20):
        page = np.clip(rng.normal(220, spread, (1500, 1100)), 0, 255).astype(np.uint8)
        assert measure_orientation(Raster(page, (150.0, 150.0))).confidence < SURE_OF_TURN
