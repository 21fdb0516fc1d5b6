"""Measured geometry against the truth of the demo's drawn pages, and the page sizes against the standards."""

import cv2
import numpy as np
import pytest

from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.paper_sizes import paper_size
from hollowstack.core.page.raster import Raster

# Sizes in pixels as printers' tables have them (common practice, from memory): width and height.
IN_PIXELS = {
    ("A3", 300): (3508, 4961),
    ("A4", 150): (1240, 1754),
    ("A4", 300): (2480, 3508),
    ("A4", 600): (4961, 7016),
    ("A5", 300): (1748, 2480),
    ("A6", 300): (1240, 1748),
    ("Letter", 300): (2550, 3300),
    ("Legal", 300): (2550, 4200),
}


@pytest.mark.parametrize(("name", "ppi"), IN_PIXELS)
def test_paper_sizes_in_pixels(name, ppi):
    page = Raster(np.zeros((4, 4), np.uint8), (ppi, ppi))
    size = paper_size(name)
    assert (page.px(size.width_mm), page.px(size.height_mm)) == IN_PIXELS[name, ppi]


def test_the_demos_tilts(bound, truth):
    off = []
    for page in bound.pages:
        known = truth[page["source"].rsplit("/", 1)[-1]][page["frame"]]
        off.append(abs(page["skew_deg"] - known["tilt_deg"]))
    assert np.mean(off) < 0.03
    assert max(off) < 0.12


def test_the_demos_turns(bound, truth):
    for page in bound.pages:
        known = truth[page["source"].rsplit("/", 1)[-1]][page["frame"]]
        assert page["orientation_deg"] == (360 - known["turn_deg"]) % 360, page["source"]


def test_the_demos_edges(bound, truth):
    """Overlap of the output page with the drawn sheet, in the scan; letters fill their scan and are left whole."""
    for page in bound.pages:
        name = page["source"].rsplit("/", 1)[-1]
        if name.startswith(("01", "05")):
            continue
        known, cut = Quad.of(truth[name][page["frame"]]["quad_px"]), Quad.of(page["quad_px"])
        shared, _ = cv2.intersectConvexConvex(known.array().astype(np.float32), cut.array().astype(np.float32))
        assert shared / (known.area() + cut.area() - shared) > 0.98, name


def test_blank_pages_and_no_others_are_aside(bound, truth):
    for page in bound.report["pages"]:
        if page["status"] != "failed":
            known = truth[page["source"].rsplit("/", 1)[-1]][page["frame"]]
            assert (page["status"] == "aside") == known["blank"], page["source"]


def test_homography_is_opencvs():
    quad = Quad(Point(10, 12), Point(190, 30), Point(170, 260), Point(25, 240))
    theirs = cv2.getPerspectiveTransform(
        quad.array().astype(np.float32), np.float32([[0, 0], [100, 0], [100, 150], [0, 150]])
    )
    assert np.allclose(Transform.onto(quad, 100, 150).matrix, theirs, atol=1e-4)
