"""The fold of an open volume, and that single pages are left whole."""

import random

import numpy as np
import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import measure
from hollowstack.core.measure.layout.gutter import find_gutter
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan
from hollowstack.standins.skerry.specimens import columns, table
from hollowstack.standins.skerry.spread import spread
from tests.conftest import typed_sheet


def opened(depth: float, skew: float = 0.0, turn: int = 0):
    rng = np.random.default_rng(4)
    sides = [worn(typed_sheet(18, seed=seed), (240, 238, 231), Wear(0.3), rng) for seed in (5, 6)]
    surface, fold = spread(*sides, 150, depth, 4.0, rng)
    return Raster(scan(surface, [], Glass(skew=skew, turn=turn), 150, rng).pixels, (150.0, 150.0)), fold


@pytest.mark.parametrize("depth", [0.15, 0.5, 0.9])
@pytest.mark.parametrize("skew", [-1.0, 0.0, 1.5])
def test_the_fold_is_found(depth, skew):
    page, (top, bottom) = opened(depth, skew)
    found = find_gutter(page.gray())
    assert found is not None
    lean = np.tan(np.radians(skew)) * page.height / 2
    within = 1.5 / 25.4 * 150
    assert found.top.x == pytest.approx(top.x + lean, abs=within)
    assert found.bottom.x == pytest.approx(bottom.x - lean, abs=within)


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_it_is_told_in_the_image_as_captured(turn):
    page, (top, _) = opened(0.6, turn=turn)
    found = measure(page)
    assert found.turn == (360 - turn) % 360
    assert found.gutter is not None
    (x1, y1), (x2, y2) = found.gutter
    along = abs(y1 - y2) if turn % 180 == 0 else abs(x1 - x2)
    assert along == pytest.approx(page.height if turn % 180 == 0 else page.width, rel=0.02)
    across = (x1 + x2) / 2 if turn % 180 == 0 else (y1 + y2) / 2
    assert across == pytest.approx(top.x, rel=0.02)
    finding = {f.check: f for f in check_page(found, plan_page(found, Treatment()), None)}["facing pages"]
    assert "split them" in finding.message


@pytest.mark.parametrize("draw", [columns, table])
def test_single_pages_are_left_whole_on_their_side_too(draw):
    sheet = draw(random.Random(3))
    made = scan(
        worn(sheet, (240, 238, 231), Wear(0.3), np.random.default_rng(1)), [], Glass(), sheet.ppi, np.random.default_rng(1)
    )
    page = Raster(made.pixels, (300.0, 300.0)).gray().reduced(100)
    assert find_gutter(page) is None
    assert find_gutter(Raster(np.ascontiguousarray(np.rot90(page.pixels)), page.ppi)) is None
