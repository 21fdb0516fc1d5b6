"""Turns and transforms: what goes in a circle comes back, and corners keep their order."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.page.geometry import Point, Quad, Transform, turned_size

TURNS = [0, 90, 180, 270]
sizes = st.tuples(st.integers(1, 5000), st.integers(1, 5000))


@given(size=sizes, turn=st.sampled_from(TURNS))
def test_a_turn_keeps_the_image_in_its_frame(size, turn):
    corners = Transform.turn(turn, *size).apply(Quad.rectangle(0, 0, *size).array())
    assert np.allclose([corners.min(axis=0), corners.max(axis=0)], [(0, 0), turned_size(*size, turn)])


@given(size=sizes)
def test_four_quarter_turns_are_none(size):
    width, height = size
    around = Transform(np.eye(3))
    for number in range(4):
        around = around.then(Transform.turn(90, *turned_size(width, height, 90 * (number % 2))))
    assert np.allclose(around.matrix, np.eye(3))


@pytest.mark.parametrize(
    ("corners", "good"),
    [
        ([(0, 0), (10, 0), (10, 20), (0, 20)], True),
        ([(10, 0), (10, 20), (0, 20), (0, 0)], True),
        ([(0, 0), (0, 20), (10, 20), (10, 0)], False),
        ([(0, 0), (10, 20), (10, 0), (0, 20)], False),
        ([(0, 0), (5, 0), (10, 0), (0, 20)], False),
        ([(0, 0), (10, 0), (3, 3), (0, 20)], False),
        ([(0, 0), (10, 0), (math.nan, 20), (0, 20)], False),
        ([(0, 0), (10, 0), (math.inf, 20), (0, 20)], False),
        ([(0, 0), (1e6, 0), (1e6, 20), (0, 20)], True),
        ([(0, 0), (1e6 + 1, 0), (10, 20), (0, 20)], False),
        ([(0, 0), (1, 0), (1, 1), (0, 1)], False),
        ([(0, 0), (1.01, 0), (1.01, 1.01), (0, 1.01)], True),
    ],
    ids=["page", "turned", "mirrored", "crossed", "collinear", "dented", "no number", "endless", "far", "too far", "dot", "least"],
)  # fmt: skip
def test_what_can_be_a_page(corners, good):
    assert Quad.of(corners).is_page() == good


def test_a_clockwise_quarter_turn_takes_the_top_left_to_the_top_right():
    assert Transform.turn(90, 40, 30).apply([(0, 0)])[0] == pytest.approx((30, 0))


def test_positive_rotation_is_clockwise_as_seen():
    x, y = Transform.rotation(90, Point(0, 0)).apply([(1, 0)])[0]
    assert (x, y) == pytest.approx((0, 1))  # from pointing right to pointing down


@given(
    angle=st.floats(-40, 40), x=st.floats(-500, 500), y=st.floats(-500, 500), width=st.integers(10, 4000), height=st.integers(10, 4000)
)  # fmt: skip
def test_onto_takes_each_corner_to_its_own(angle, x, y, width, height):
    quad = Transform.rotation(angle, Point(x, y)).quad(Quad.rectangle(x, y, x + width, y + height))
    placed = Transform.onto(quad, width, height).quad(quad)
    assert np.allclose(placed.array(), Quad.rectangle(0, 0, width, height).array(), atol=1e-4)


def test_onto_handles_perspective():
    quad = Quad(Point(10, 12), Point(190, 30), Point(170, 260), Point(25, 240))
    assert np.allclose(Transform.onto(quad, 100, 150).quad(quad).array(), Quad.rectangle(0, 0, 100, 150).array())


@given(angle=st.floats(-180, 180))
def test_inverse_leads_back(angle):
    there = Transform.rotation(angle, Point(3, 4)).then(Transform.turn(90, 10, 20))
    assert np.allclose(there.then(there.inverse()).matrix, np.eye(3), atol=1e-9)


def test_area():
    turned = Transform.rotation(31, Point(5, 5)).quad(Quad.rectangle(0, 0, 30, 20))
    assert turned.area() == pytest.approx(600)
    assert math.isclose(Quad.rectangle(0, 0, 0, 5).area(), 0)
