"""The verdict on a photographed page: each fault is named and its spot lies where it is."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import Measurements, measure
from hollowstack.core.measure.layout.corners import find_corners
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.notices import notice
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph

SIZE = (1500, 2000)
CHECKS = {"corners", "cut off", "sharpness", "glare", "even light", "light"}


@pytest.fixture(scope="module")
def page():
    return worn(notice(1, random.Random(3)), (240, 238, 231), Wear(0.35, 0.2, 1), np.random.default_rng(1))


def looked_at(page, view: View) -> tuple[Measurements, dict[str, object]]:
    pixels, _ = photograph(page, view, np.random.default_rng(2))
    found = measure(Raster(pixels), photographed=True)
    findings = check_page(found, plan_page(found, Treatment()), None)
    return found, {f.check: f for f in findings if f.verdict != "pass"}


def view(**how: object) -> View:
    return View(size_px=SIZE, **{"blur_px": 0.6, **how})


@pytest.mark.parametrize("how", [{}, {"lean": (18.0, 8.0), "turned_deg": -4.0}, {"shadow": 0.3}])
def test_a_good_one_passes(page, how):
    found, faults = looked_at(page, view(**how))
    assert not CHECKS & faults.keys()
    assert found.photograph is not None
    assert found.photograph.table_seen


@pytest.mark.parametrize("table", ["slate", "pine", "grey card", "white", "checked"])
def test_a_page_is_found_on_any_table(page, table):
    how = view(table=table, shadow=0.25, lean=(12.0, -6.0))
    pixels, corners = photograph(page, how, np.random.default_rng(2))
    found = measure(Raster(pixels), photographed=True)
    assert found.lid_seen
    off = np.hypot(*(found.page_quad.array() - corners.array()).T)
    assert off.mean() < 0.005 * np.hypot(*SIZE)


def test_a_table_without_a_page_is_none():
    for table in ("oak", "white", "checked"):
        empty, _ = photograph(np.full((40, 30, 3), 214, np.float32), view(table=table, fills=0.02), np.random.default_rng(4))
        assert find_corners(Raster(empty)) is None


@pytest.mark.parametrize(
    ("how", "fault"),
    [
        ({"blur_px": 3.0}, "sharpness"),
        ({"glare": 0.3}, "glare"),
        ({"shadow": 0.75}, "even light"),
        ({"exposure": 0.3}, "light"),
        ({"fills": 1.6}, "corners"),
        ({"shift": (-0.2, 0)}, "cut off"),
    ],
)
def test_each_fault_is_named(page, how, fault):
    _, faults = looked_at(page, view(**how))
    assert fault in CHECKS & faults.keys() <= {fault, "corners"}


def test_the_spot_is_where_it_is_blurred(page):
    _, faults = looked_at(page, view(corner_blur_px=4.0))
    left, top, width, height = faults["sharpness"].spot
    assert left + width / 2 > 0.55 * SIZE[0]
    assert top + height / 2 > 0.55 * SIZE[1]


def test_the_spot_is_where_the_lamp_is_reflected(page):
    _, faults = looked_at(page, view(glare=0.3))
    left, top, width, height = faults["glare"].spot
    assert 0.25 < (left + width / 2) / SIZE[0] < 0.5
    assert 0.2 < (top + height / 2) / SIZE[1] < 0.5


@pytest.mark.parametrize(
    ("shift", "side"), [((-0.2, 0), "left"), ((0.2, 0), "right"), ((0, -0.2), "top"), ((0, 0.2), "bottom")]
)
def test_which_side_is_cut_off(page, shift, side):
    found, _ = looked_at(page, view(shift=shift))
    assert found.photograph.cut_off == (side,)


def test_blur_grows_with_the_blur(page):
    widths = [looked_at(page, view(blur_px=blur))[0].photograph.edge_mm for blur in (0.5, 1.5, 2.5, 4.0)]
    assert widths == sorted(widths)


def test_perspective_is_taken_out(page):
    pixels, corners = photograph(page, view(lean=(18.0, 8.0)), np.random.default_rng(2))
    found = measure(Raster(pixels), photographed=True)
    plan = plan_page(found, Treatment())
    assert np.abs(plan.quad.array() - corners.array()).max() < 0.005 * np.hypot(*SIZE)
    assert plan.size_px[0] / plan.size_px[1] == pytest.approx(180 / 250, rel=0.02)


def test_a_scan_is_not_judged_as_a_photograph(page):
    flat = np.clip(cv2.copyMakeBorder(page, 60, 60, 60, 60, cv2.BORDER_CONSTANT, value=(30, 30, 30)), 0, 255)
    found = measure(Raster(flat.astype(np.uint8)))
    assert found.photograph is None
