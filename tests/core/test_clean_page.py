"""What is seen on a clean page that nobody asked for: borders that are left, colours that are gone or came."""

import cv2
import numpy as np
import pytest

from hollowstack.core.check.clean_page import check_clean
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment

PPI = 100.0
MM = PPI / 25.4
SIZE = (827, 1169)
WHOLE = Quad.rectangle(0, 0, *SIZE)


def sheet() -> np.ndarray:
    page = np.full((SIZE[1], SIZE[0], 3), (238, 230, 208), np.uint8)
    for row in range(150, 1000, 32):
        cv2.putText(page, "each half hour through the night", (110, row), cv2.FONT_HERSHEY_SIMPLEX, 0.8, (50, 48, 44), 2)
    return page


def raster(pixels: np.ndarray) -> Raster:
    return Raster(np.ascontiguousarray(pixels), (PPI, PPI))


@pytest.fixture(scope="module")
def as_it_is() -> Plan:
    """The whole image as it came."""
    plan = plan_page(measure(raster(sheet())), Treatment(colour="colour", level=False))
    return plan.model_copy(update={"quad": WHOLE, "size_px": SIZE, "clear_outside": None, "tone": None})


def told(
    image: np.ndarray, plan: Plan, page: np.ndarray
) -> dict[str, tuple[float | None, tuple[int, int, int, int] | None]]:
    return {one.check: (one.value, one.spot) for one in check_clean(raster(image), plan, raster(page))}


def test_a_good_page_gives_no_reason(as_it_is):
    assert told(sheet(), as_it_is, sheet()) == {}


@pytest.mark.parametrize("side", range(4))
def test_a_lid_left_at_a_side_is_told_with_its_depth_and_place(as_it_is, side):
    page = np.rot90(sheet(), side).copy()
    deep = round(6 * MM)
    page[:, :deep] = 40
    page = np.rot90(page, -side).copy()
    value, spot = told(page, as_it_is, page)["borders left"]
    assert value == pytest.approx(6, abs=0.6)
    assert spot is not None
    assert min(spot[2], spot[3]) == pytest.approx(deep, abs=4)


def test_not_where_it_is_to_stay(as_it_is):
    page = sheet()
    page[:, : round(6 * MM)] = 40
    kept = as_it_is.model_copy(update={"keeps_surround": True})
    assert "borders left" not in told(page, kept, page)


@pytest.mark.parametrize(("share", "seen"), [(0.4, False), (0.5, True)])
def test_it_takes_nearly_half_a_side(as_it_is, share, seen):
    page = sheet()
    page[: round(share * SIZE[1]), : round(6 * MM)] = 40
    assert ("borders left" in told(page, as_it_is, page)) == seen


@pytest.mark.parametrize(("mm", "seen"), [(1.0, False), (22.0, True), (30.0, False)])
def test_hardly_any_and_a_picture_to_the_side_are_none(as_it_is, mm, seen):
    page = sheet()
    page[:, : round(mm * MM)] = 40
    assert ("borders left" in told(page, as_it_is, page)) == seen


def test_a_dark_picture_at_the_side_is_none(as_it_is):
    page = sheet()
    deep = round(10 * MM)
    page[:, :deep] = np.random.default_rng(1).integers(5, 90, (SIZE[1] // 12 + 1, deep // 12 + 1, 1), np.uint8).repeat(
        12, axis=0)[: SIZE[1]].repeat(12, axis=1)[:, :deep]  # fmt: skip
    assert "borders left" not in told(page, as_it_is, page)


def stamped(mm2: float, colour=(190, 40, 50)) -> np.ndarray:
    page = sheet()
    side = round(np.sqrt(mm2) * MM)
    page[1040 : 1040 + side, 300 : 300 + side] = colour
    return page


def test_a_stamp_that_became_black_is_told_with_its_place(as_it_is):
    page = stamped(60)
    gray = cv2.cvtColor(page, cv2.COLOR_RGB2GRAY)
    value, spot = told(page, as_it_is, gray)["colour lost"]
    assert value == pytest.approx(60, rel=0.35)
    assert spot is not None
    assert 280 <= spot[0] <= 300
    assert 1020 <= spot[1] <= 1042


def test_a_red_speck_is_none(as_it_is):
    page = stamped(5)
    assert "colour lost" not in told(page, as_it_is, cv2.cvtColor(page, cv2.COLOR_RGB2GRAY))


def test_aged_paper_has_no_colour_to_lose(as_it_is):
    page = sheet()
    page[600:900, 200:600] = (page[600:900, 200:600] * 0.8).astype(np.uint8)
    assert told(page, as_it_is, cv2.cvtColor(page, cv2.COLOR_RGB2GRAY)) == {}


def test_a_colour_that_came_from_nowhere_is_told(as_it_is):
    page = sheet()
    page[600:700, 200:300] = (90, 150, 230)
    assert set(told(sheet(), as_it_is, page)) == {"colour invented"}


def test_what_was_set_by_hand_is_not_doubted(as_it_is):
    page = stamped(60)
    by_hand = as_it_is.model_copy(update={"by_hand": True})
    assert "colour lost" not in told(page, by_hand, cv2.cvtColor(page, cv2.COLOR_RGB2GRAY))


def test_a_gray_image_has_none_to_lose(as_it_is):
    gray = cv2.cvtColor(stamped(60), cv2.COLOR_RGB2GRAY)
    assert told(gray, as_it_is, gray) == {}
