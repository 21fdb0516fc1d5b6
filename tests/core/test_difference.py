"""What went and what came on a clean page, to be seen: whatever its paper and its light were."""

import cv2
import numpy as np
import pytest

from hollowstack.core.check.difference import CAME, WENT, Difference, difference
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.treatment import Treatment

PPI = 200.0
MM = PPI / 25.4
SIZE = (1200, 1600)
DOT = (600, 1400)


def sheet(*, dot_mm: float = 0.0, word: bool = False) -> np.ndarray:
    page = np.full((SIZE[1], SIZE[0], 3), (238, 230, 208), np.uint8)
    for row in range(200, 1300, 60):
        cv2.putText(page, "each half hour through the night", (120, row), cv2.FONT_HERSHEY_SIMPLEX, 1.5, (50, 48, 44), 3)
    if dot_mm:
        cv2.circle(page, DOT, round(dot_mm / 2 * MM), (60, 56, 50), -1, cv2.LINE_AA)
    if word:
        cv2.putText(page, "Received", (700, 1500), cv2.FONT_HERSHEY_SIMPLEX, 1.5, (50, 48, 44), 3)
    return page


@pytest.fixture(scope="module")
def as_it_is() -> Plan:
    plan = plan_page(measure(Raster(sheet(), (PPI, PPI))), Treatment(colour="colour", level=False))
    return plan.model_copy(
        update={"quad": Quad.rectangle(0, 0, *SIZE), "size_px": SIZE, "clear_outside": None, "tone": None}
    )


def found(image: np.ndarray, page: np.ndarray, plan: Plan) -> Difference:
    return difference(Raster(image, (PPI, PPI)), plan, Raster(page, (PPI, PPI)))


def test_nothing_differs_where_light_and_paper_do(as_it_is):
    gray = cv2.cvtColor(sheet(), cv2.COLOR_RGB2GRAY).astype(np.float32)
    evened = np.clip(gray * 255 / 229, 0, 255).astype(np.uint8)
    told = found(sheet(), evened, as_it_is)
    assert (told.went, told.came) == ([], [])


def test_a_word_that_went_is_framed_on_the_clean_page_and_coloured(as_it_is):
    told = found(sheet(word=True), sheet(), as_it_is)
    assert told.came == []
    assert told.went
    left, top = min(box[0] for box in told.went), min(box[1] for box in told.went)
    right, bottom = max(box[2] for box in told.went), max(box[3] for box in told.went)
    assert (left, right) == (pytest.approx(700, abs=20), pytest.approx(905, abs=25))
    assert (top, bottom) == (pytest.approx(1465, abs=20), pytest.approx(1500, abs=20))
    assert told.picture.shape == (800, 600, 3)
    assert (told.picture[725:755, 350:460] == WENT).all(axis=2).any()
    assert not (told.picture == CAME).all(axis=2).any()


def test_what_came_is_told_apart_from_it(as_it_is):
    told = found(sheet(), sheet(word=True), as_it_is)
    assert told.went == []
    assert told.came
    assert (told.picture == CAME).all(axis=2).any()


@pytest.mark.parametrize(("mm", "seen"), [(0.35, False), (0.4, True)])
def test_a_full_stop_is_seen_and_a_speck_of_dust_is_not(as_it_is, mm, seen):
    assert bool(found(sheet(dot_mm=mm), sheet(), as_it_is).went) == seen


def test_cleared_borders_are_seen_beside_it_and_not_here(as_it_is):
    image = sheet()
    image[:, :60] = 30
    page = sheet()
    cleared = as_it_is.model_copy(update={"clear_outside": Quad.rectangle(62, 0, *SIZE)})
    assert found(image, page, cleared).went == []


def test_white_on_black_is_looked_at_as_it_is(as_it_is):
    inverse = as_it_is.model_copy(update={"inverse": True})
    told = found(255 - sheet(word=True), 255 - sheet(), inverse)
    assert told.went
    assert told.came == []


def test_the_largest_comes_first(as_it_is):
    image = sheet(dot_mm=1.0, word=True)
    first, *others = found(image, sheet(), as_it_is).went
    assert all((first[2] - first[0]) >= other[2] - other[0] for other in others)
