"""Facing pages photographed on a table: their fold is found from anywhere, and each half becomes a page of its own."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.measure import Measurements, measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import SURE_OF_FOLD, plan_page, split_overrides
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph
from hollowstack.standins.skerry.specimens import LAYOUTS
from hollowstack.standins.skerry.spread import spread


def taken(view: View) -> tuple[Measurements, np.ndarray, list[float]]:
    """An open book on a table: what is measured, where its fold is in truth, and the shapes of both pages."""
    rng = np.random.default_rng(4)
    halves = [worn(LAYOUTS["prose"](random.Random(seed)), (240, 238, 231), Wear(0.3, 0.2, 0), rng) for seed in (4, 5)]
    rows = min(half.shape[0] for half in halves)
    surface, fold = spread(halves[0][:rows], halves[1][:rows], 300, 0.5, 9, rng)
    small = cv2.resize(surface, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    pixels, quad = photograph(small, view, rng)
    shapes = [half.shape[1] / rows for half in halves]
    rows, cols = surface.shape[:2]
    onto = cv2.getPerspectiveTransform(
        np.array([[0, 0], [cols, 0], [cols, rows], [0, rows]], np.float32), quad.array().astype(np.float32)
    )
    truth = cv2.perspectiveTransform(np.array([fold], np.float32), onto)[0]
    return measure(Raster(pixels), photographed=True), truth, shapes


@pytest.mark.parametrize("view", [View(lean=(8, 5), table="oak"), View(lean=(-10, -6), turned_deg=3, table="pine")])
def test_the_fold_is_found_and_both_halves_are_made_flat(view: View):
    found, truth, shapes = taken(View(**{**vars_of(view), "size_px": (2000, 1500), "fills": 0.8}))
    assert found.gutter is not None
    assert found.gutter_confidence >= SURE_OF_FOLD
    assert np.hypot(*(np.array(found.gutter) - truth).T).max() < 0.004 * 2500
    halves = split_overrides(found, Treatment(split_facing=True))
    plans = [plan_page(found, Treatment(split_facing=True), half) for half in halves]
    assert len(plans) == 2
    for plan, side in zip(plans, (0, 1), strict=True):
        corners = np.array(plan.quad)
        outer = (found.page_quad.array()[[0, 3]], found.page_quad.array()[[1, 2]])[side]
        mine = corners[[0, 3]] if side == 0 else corners[[1, 2]]
        assert np.abs(mine - outer).max() < 1
        inner = corners[[1, 2]] if side == 0 else corners[[0, 3]]
        assert np.hypot(*(inner - truth).T).max() < 0.006 * 2500
        assert plan.size_px[0] / plan.size_px[1] == pytest.approx(shapes[side], rel=0.04)


def vars_of(view: View) -> dict[str, object]:
    return {name: getattr(view, name) for name in View.__dataclass_fields__}


def test_halves_of_a_spread_that_lies_on_its_side_are_both_upright():
    """The cut goes across the image then; each half begins at its own upper left all the same."""
    found, _, shapes = taken(View(size_px=(1500, 2000), fills=0.8, lean=(5, 3), turned_deg=90))
    found = found.model_copy(update={"turn": 270, "turn_confidence": 3.0})
    treatment = Treatment(split_facing=True, turn_upright=True)
    plans = [plan_page(found, treatment, half) for half in split_overrides(found, treatment)]
    assert len(plans) == 2
    for plan, shape in zip(plans, shapes, strict=True):
        a, b, _, d = np.array(plan.quad)
        # Turned back by a quarter: the page's top runs down the image's columns, its left side along the rows.
        assert abs(b[0] - a[0]) < abs(b[1] - a[1])
        assert abs(d[1] - a[1]) < abs(d[0] - a[0])
        assert plan.size_px[0] / plan.size_px[1] == pytest.approx(shape, rel=0.06)
    # The left page lies above the right one.
    assert plans[0].quad[0][1] < plans[1].quad[0][1] - 300
