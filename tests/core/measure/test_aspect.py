"""The shape of a page seen through perspective, against a pinhole that projects it."""

import pytest

from hollowstack.core.measure.layout.aspect import page_aspect, snapped
from hollowstack.core.page.geometry import Quad
from hollowstack.standins.skerry.photograph import View, _corners


@pytest.mark.parametrize("aspect", [0.5, 210 / 297, 1.0, 1.6])
@pytest.mark.parametrize("lean", [(0.0, 0.0), (20.0, 3.0), (-12.0, 15.0), (6.0, -25.0)])
def test_any_shape_from_any_side(aspect, lean):
    quad = _corners(aspect, View(lean=lean, turned_deg=4.0, fills=0.7))
    assert page_aspect(quad, 2400, 3200) == pytest.approx(aspect, rel=0.02)


def test_without_perspective_it_is_what_is_seen():
    assert page_aspect(Quad.rectangle(100, 100, 300, 500), 1000, 1000) == pytest.approx(0.5)


@pytest.mark.parametrize(
    ("aspect", "shape", "name"),
    [(0.71, 210 / 297, "A4"), (1.41, 297 / 210, "A4"), (0.775, 215.9 / 279.4, "Letter"), (0.66, 0.66, None)],
)
def test_a_known_shape_is_taken_exactly(aspect, shape, name):
    found, paper = snapped(aspect)
    assert found == pytest.approx(shape)
    assert (paper.name if paper else None) == name
