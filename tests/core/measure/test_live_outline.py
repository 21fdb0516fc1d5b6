"""Where a page lies in a frame of a camera's stream, on every table; and where it does not."""

import random
from typing import get_args

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.live_outline import LONGEST_PX, Found, LiveOutline, _weight, live_outline
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import as_pixels
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import TABLES, Table, View, photograph
from hollowstack.standins.skerry.poster import poster
from hollowstack.standins.skerry.specimens import LAYOUTS

SIZE = (LONGEST_PX, 225)


def frame(view: View, layout: str = "prose", paper: tuple[int, int, int] = (240, 238, 231)) -> tuple[np.ndarray, Quad]:
    """A page on a table as a camera's frame, and its corners in the frame."""
    sheet = poster(random.Random(5)) if layout == "poster" else LAYOUTS[layout](random.Random(5))
    surface = worn(sheet, paper, Wear(0.3, 0.2, 1), np.random.default_rng(5))
    surface = cv2.resize(surface, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    pixels, quad = photograph(surface, view, np.random.default_rng(5))
    scale = LONGEST_PX / max(pixels.shape[:2])
    small = as_pixels(cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA))
    return np.ascontiguousarray(small), Quad.of(quad.array() * scale)


def off(found: Found, truth: Quad) -> float:
    """The worst corner, as a share of the frame's diagonal."""
    assert found.outline is not None
    corners = found.outline.quad.array()
    return min(float(np.hypot(*(np.roll(corners, turn, axis=0) - truth.array()).T).max()) for turn in range(4)) / float(
        np.hypot(*SIZE)
    )


@pytest.mark.parametrize("table", get_args(Table))
@pytest.mark.parametrize("turned", [2.0, 87.0])
def test_its_corners_on_every_table(table: Table, turned: float):
    view = View(size_px=(1280, 720), fills=0.8, table=table, turned_deg=turned, lean=(9.0, -6.0))
    assert off(live_outline(frame(view)[0]), frame(view)[1]) <= 0.01


@pytest.mark.parametrize("table", ["oak", "slate", "pine"])
def test_a_page_with_a_dark_band_and_a_picture_is_found_whole(table: Table):
    view = View(size_px=(1280, 720), fills=0.85, table=table)
    pixels, truth = frame(view, "poster")
    assert off(live_outline(pixels), truth) <= 0.01


def test_a_dark_page_on_a_light_table():
    pixels, truth = frame(View(size_px=(1280, 720), fills=0.8, table="white"), paper=(60, 80, 120))
    assert off(live_outline(pixels), truth) <= 0.01


@pytest.mark.parametrize("table", get_args(Table))
def test_on_a_bare_table_there_is_none(table: Table):
    bare = TABLES[table](*SIZE, np.random.default_rng(3))
    found = live_outline(as_pixels(np.clip(bare * 0.86, 0, 255).astype(np.uint8)))
    assert found.outline is None


@pytest.mark.parametrize(("shift", "side"), [((-0.25, 0.0), 0), ((0.0, -0.25), 1), ((0.25, 0.0), 2), ((0.0, 0.25), 3)])
def test_a_page_that_runs_out_says_where(shift: tuple[float, float], side: int):
    pixels, _ = frame(View(size_px=(1280, 720), fills=0.9, turned_deg=90, shift=shift, lean=(0, 0)))
    found = live_outline(pixels)
    assert side in found.runs_out
    assert (side + 2) % 4 not in found.runs_out


@pytest.mark.parametrize(("before", "chosen"), [(None, 0), (0, 0), (1, 1)])
def test_between_two_that_are_nearly_as_good_it_is_the_one_that_lay_there(before: int | None, chosen: int):
    found = [LiveOutline(Quad.rectangle(0, 0, right, 100), 1.0) for right in (200, 190)]
    weights = [_weight(one, found, None if before is None else found[before].quad) for one in found]
    assert weights.index(max(weights)) == chosen


@pytest.mark.parametrize("size", [(1, 400), (39, 400), (400, 39), (40, 400), (400, 40), (1, 1)])
def test_in_a_strip_no_page_is_looked_for(size: tuple[int, int]):
    """Nor does a frame of any shape or content break it."""
    noise = np.random.default_rng(1).integers(0, 256, (*size, 3)).astype(np.uint8)
    assert live_outline(noise).outline is None
