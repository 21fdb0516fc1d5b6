"""Frames proposed on a prescan, against where things truly lie."""

import math

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.frames import Frame, bounds, corners, propose_frames
from hollowstack.core.page.raster import Raster
from hollowstack.standins.station.bundles import bundles
from hollowstack.standins.station.device import MODELS, Device
from hollowstack.standins.station.imaging import Area, Lying, see

GLASS = Area(0, 0, 216, 297, 75)


def prescan(lying: list[Lying], **how: bool) -> list[Frame]:
    return propose_frames(Raster(see(lying, GLASS, **how), (75.0, 75.0)))


@pytest.mark.parametrize("bundle", ["photographs", "register", "mixed"])
def test_each_item_has_its_frame_where_it_lies(bundle):
    device = Device(MODELS[0], lambda _: None, lambda: 0.0)
    leaves = {
        "photographs": bundles()["photographs"][1],
        "register": bundles()["register"][1][:1],
        "mixed": bundles()["mixed"][1][3:],
    }
    device.load(leaves[bundle])
    lying = device.on_glass()
    found = prescan(lying)
    assert len(found) == len(lying)
    for frame, item in zip(found, lying, strict=True):
        assert math.dist((frame.x, frame.y), (item.x_mm, item.y_mm)) < 0.8
        assert (frame.width, frame.height) == pytest.approx((item.leaf.width_mm + 1.2, item.leaf.height_mm + 1.2), abs=1.2)
        assert frame.angle == pytest.approx(item.skew, abs=0.6)


@pytest.mark.parametrize("skew", [-40, -20, 0, 12, 44])
def test_any_turn(skew):
    card = bundles()["mixed"][1][1]
    (frame,) = prescan([Lying(card, 108, 140, skew)])
    assert frame.angle == pytest.approx(skew, abs=0.7)
    assert (frame.width, frame.height) == pytest.approx((128.2, 77.2), abs=1.2)


def test_an_empty_glass_has_none():
    assert prescan([]) == []
    assert propose_frames(Raster(np.full((400, 300), 250, np.uint8), (75.0, 75.0))) == []


def test_the_rectangle_around_a_frame():
    frame = Frame(100, 100, 80, 40, 30)
    left, top, width, height = bounds(frame)
    xs, ys = zip(*corners(frame), strict=True)
    assert (left, top) == pytest.approx((min(xs), min(ys)))
    assert (width, height) == pytest.approx((max(xs) - min(xs), max(ys) - min(ys)))


def lying(wide_mm: float, high_mm: float, degrees: float = 0.0) -> np.ndarray:
    """A gray card in the middle of a white glass, at 75 ppi."""
    glass, px_mm = np.full((877, 638), 250, np.uint8), 75 / 25.4
    box = cv2.boxPoints(((319.0, 438.0), (wide_mm * px_mm, high_mm * px_mm), degrees))
    cv2.fillConvexPoly(glass, np.rint(box).astype(np.int32), 90)
    return glass


@pytest.mark.parametrize(("short_mm", "there"), [(13.5, False), (16.5, True)])
def test_what_is_shorter_than_a_thumb_is_no_item(short_mm, there):
    assert bool(propose_frames(Raster(lying(60, short_mm), (75.0, 75.0)))) == there


@pytest.mark.parametrize("degrees", [0.0, 90.0, 10.0])
def test_a_frame_leaves_a_little_of_the_lid_around(degrees):
    (frame,) = propose_frames(Raster(lying(80, 50, degrees), (75.0, 75.0)))
    wide, high = (50, 80) if degrees == 90 else (80, 50)
    assert (frame.width, frame.height) == pytest.approx((wide + 1.2, high + 1.2), abs=1.0)


@pytest.mark.parametrize(("tone", "there"), [(250 - 20, False), (250 - 34, True)])
def test_an_item_stands_out_from_the_lid(tone, there):
    glass = lying(80, 50)
    glass[glass == 90] = tone
    assert bool(propose_frames(Raster(glass, (75.0, 75.0)))) == there
