"""Measured geometry against the truth of the demo's drawn pages, and the page sizes against the standards."""

import cv2
import numpy as np
import pytest

from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.raster import Raster

# ISO 216:2007, table 1, and ANSI/ASME Y14.1 (letter and legal; from memory): width and height in millimetres.
SIZES = {
    "A3": (297, 420),
    "A4": (210, 297),
    "A5": (148, 210),
    "A6": (105, 148),
    "letter": (215.9, 279.4),
    "legal": (215.9, 355.6),
}


@pytest.mark.parametrize(("name", "size"), SIZES.items())
@pytest.mark.parametrize("ppi", [150.0, 300.0, 600.0])
def test_paper_sizes_in_pixels(name, size, ppi):
    """A sheet at a resolution has the pixels the standard's millimetres ask for, to half a pixel."""
    page = Raster(np.zeros((4, 4), np.uint8), (ppi, ppi))
    for mm in size:
        assert page.px(mm) == pytest.approx(mm / 25.4 * ppi, abs=0.5)


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
