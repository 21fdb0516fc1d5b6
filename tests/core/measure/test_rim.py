"""Along the four sides: what surely is lid or another page goes, what may be page stays."""

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.layout.edges import Edges
from hollowstack.core.measure.layout.rim import find_rim, with_rim
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 150.0
MM = PPI / 25.4


def text_page(seed: int = 1, margin: int = 110) -> np.ndarray:
    """Lines of made-up letters on white."""
    rng = np.random.default_rng(seed)
    page = np.full((1400, 1000), 235, np.uint8)
    for y in range(margin + 30, 1400 - margin, 34):
        x = margin
        while x < 1000 - margin - 12:
            wide = int(rng.integers(5, 12))
            page[y : y + 14, x : x + wide] = 40
            x += wide + int(rng.integers(3, 14))
    return page


def cuts(page: np.ndarray, *, bitonal: bool = False):
    values = np.where(page > 128, 255, 0).astype(np.uint8) if bitonal else page
    return find_rim(Raster(values, (PPI, PPI)), 255.0 if bitonal else 235.0, bitonal=bitonal).cuts


def test_a_plain_page_has_no_cuts():
    assert cuts(text_page()) == (None,) * 4
    assert cuts(text_page(), bitonal=True) == (None,) * 4


@pytest.mark.parametrize("side", range(4))
@pytest.mark.parametrize("bitonal", [False, True])
def test_a_black_bar_goes(side, bitonal):
    page = text_page()
    deep = round(5 * MM)
    turned = np.rot90(page, side)
    turned[:, :deep] = 15
    found = cuts(np.ascontiguousarray(page), bitonal=bitonal)
    # A quarter turn counter-clockwise brings the top to the left.
    at = (0, 1, 2, 3)[side]
    assert [cut is not None for cut in found] == [place == at for place in range(4)]
    cut = found[at]
    assert cut is not None
    assert cut.offset + cut.slope * 600 == pytest.approx(deep, abs=0.8 * MM)


def test_a_bar_that_runs_into_print_takes_none_of_it():
    page = text_page(margin=20)
    page[:, :34] = 15
    cut = cuts(page)[0]
    assert cut is None or cut.offset + cut.slope * 700 <= 35  # a pixel


def test_a_banner_with_white_letters_stays():
    page = text_page()
    page[:230] = 30
    cv2.putText(page, "THE KEEPER", (120, 160), cv2.FONT_HERSHEY_DUPLEX, 3.5, 240, 8)
    assert cuts(page)[1] is None


def test_a_deep_black_lid_goes():
    page = text_page()
    page[:230] = 30
    cut = cuts(page)[1]
    assert cut is not None
    assert cut.offset == pytest.approx(230, abs=1.0 * MM)


def test_print_cut_by_the_image_stays():
    page = np.roll(text_page(margin=60), -70, axis=1)
    assert cuts(page)[0] is None


def fold(page: np.ndarray, x: int, *, to: int = 0) -> None:
    page[:, x - 2 : x + 2] = 90
    page[:, to:x] = np.clip(page[:, to:x].astype(int) - 22, 0, 255).astype(np.uint8)


def test_a_neighbour_beyond_the_fold_goes():
    page = text_page()
    page[:, :60] = 235
    fold(page, 62)
    cut = cuts(page)[0]
    assert cut is not None
    assert cut.kind == "neighbour"
    assert cut.offset + cut.slope * 700 == pytest.approx(62, abs=1.2 * MM)


def test_a_crease_that_is_written_across_is_no_fold():
    page = text_page(margin=20)
    fold(page, 180)
    assert cuts(page)[0] is None


def test_a_printed_frame_is_no_fold():
    page = text_page()
    cv2.rectangle(page, (70, 90), (930, 1310), 40, 4)
    page[:, :68] = 235
    assert cuts(page) == (None,) * 4


def test_sides_move_in_only_where_they_were_found():
    page = text_page()
    page[:, :30] = 15
    image = Raster(page, (PPI, PPI))
    frame = Quad.rectangle(0, 0, 1000, 1400)
    whole = Edges(frame, frame, lid=False, confidence=1.0)
    edges = with_rim(whole, find_rim(image, 235.0), image)
    assert edges.lid
    assert edges.quad.top_left.x == pytest.approx(30, abs=0.8 * MM)
    assert edges.quad.top_right == (1000, 0)
    assert with_rim(whole, find_rim(Raster(text_page(), (PPI, PPI)), 235.0), image) == whole


def test_a_bar_beside_a_bar_goes_too():
    """Black at the rim, the white of the device beside it, and the page's own shade."""
    page = text_page()
    page[:, :40] = 20
    page[:, 40:58] = 245
    page[:, 58:90] = 50
    cut = cuts(page)[0]
    assert cut is not None
    assert cut.depth(1400) == pytest.approx(90, abs=8)


def sliver(page: np.ndarray, *, slope: float) -> None:
    """The ends of a neighbour's lines along the right rim, deeper towards the bottom of the image."""
    for y in range(200, 1300, 34):
        page[y : y + 14, 1000 - max(4, int(8 + slope * y)) :: 3] = 40


@pytest.mark.parametrize("mark", [False, True])
def test_a_sliver_of_a_neighbours_lines_goes_whole(mark):
    """Whatever stands alone beside it, and a bar along the top behind white that a device has put there."""
    page = text_page()
    page[6:24, :985] = 15
    sliver(page, slope=0.03)
    if mark:
        page[70:95, 925:932] = 20
    cut = cuts(page, bitonal=True)[2]
    assert cut is not None
    assert cut.kind == "neighbour"
    # Laid on the left, the side of an image begins at its top.
    depth = cut.offset + cut.slope * np.arange(1400)
    reach = np.array([8 + 0.03 * y for y in range(200, 1300, 34)])
    assert (depth[200:1300:34] >= reach - 3).all()
    assert (depth < 110).all()
    if mark:
        assert depth[80] <= 1000 - 932


def test_punch_holes_beside_a_bar_are_no_bar():
    page = text_page()
    page[:, :30] = 20
    for y in (300, 700, 1100):
        cv2.circle(page, (62, y), 22, 25, -1)
    cut = cuts(page)[0]
    assert cut is not None
    assert cut.depth(1400) == pytest.approx(30, abs=6)


def test_a_black_lid_is_told_from_paper_in_the_shade():
    """A table beside a page that grows dark towards it: the page is darker than a lid may be, the table darker still."""
    page = text_page().astype(float)
    page *= np.clip(np.linspace(1.15, 0.45, 1000), 0, 1)[None, :]
    page[:, 960:] = 5
    cut = cuts(page.astype(np.uint8))[2]
    assert cut is not None
    assert cut.depth(1400) == pytest.approx(40, abs=8)


def folded(depth: float, tone: float = 0.95) -> np.ndarray:
    """A page with a strip of its neighbour on the left, the fold darker than both by a share."""
    page = text_page(margin=200).astype(float)
    page[:, :90] *= tone
    page[:, 88:93] *= 1 - depth
    page += np.random.default_rng(8).normal(0, 1.5, page.shape)
    return np.clip(page, 0, 255).astype(np.uint8)


@pytest.mark.parametrize(("depth", "seen"), [(0.2, True), (0.08, True), (0.01, False)])
def test_a_faint_fold_is_one_too(depth, seen):
    cut = cuts(folded(depth))[0]
    assert (cut is not None and cut.kind == "neighbour") == seen
    if cut is not None:
        assert cut.depth(1400) == pytest.approx(91, abs=5)


def test_a_pattern_has_dips_everywhere_and_no_fold():
    y, x = np.mgrid[0:1400, 0:1000]
    page = 200 + 30 * np.sin(x / 9 + 2 * np.sin(y / 40))
    page[:, :200] *= 0.94
    assert all(cut is None or cut.kind != "neighbour" for cut in cuts(page.astype(np.uint8)))
