"""When a page before the camera is taken without a touch: every limit, and what must not be taken."""

import numpy as np
import pytest

from hollowstack.core.measure.capture_quality import release
from hollowstack.core.measure.capture_quality.live import SOFT_PX, LiveFault, Sight
from hollowstack.core.measure.capture_quality.release import Watch, difference, signature_of, watched
from hollowstack.core.measure.layout.live_outline import LiveOutline
from hollowstack.core.page.geometry import Quad

PAGE = Quad.rectangle(100, 40, 300, 190)


def pattern(seed: int) -> np.ndarray:
    return np.asarray(np.random.default_rng(seed).uniform(90, 166, (release.GRID, release.GRID)))


class Table:
    """Frames one after the other, an eighth of a second apart: the fifth after the first still one is the first in time."""

    def __init__(self) -> None:
        self.watch, self.at, self.taken = Watch(), 0.0, []

    def frames(
        self, count: int, page: int | None, *, fault: LiveFault | None = None, quad: Quad = PAGE, soft: float | None = 2.0
    ):
        """The same ``count`` times; returns what was said of the last."""
        said = None
        for _ in range(count):
            sight = Sight(None if page is None else LiveOutline(quad, 1.0), "no page" if page is None else fault)
            signature = None if page is None else pattern(page)
            self.watch, said, taken = watched(self.watch, self.at, sight, signature, lambda: soft)
            if taken:
                self.taken.append((page, self.at))
            self.at += 0.125
        return said


def test_a_page_is_taken_once_it_has_lain_still_and_not_again():
    table = Table()
    assert table.frames(3, None) == "no page"
    assert table.frames(1, 1) == "moves"
    assert table.frames(5, 1) == "steady"
    assert table.taken == []
    assert table.frames(1, 1) == "taken"
    assert table.frames(20, 1) == "taken"
    assert table.taken == [(1, 9 * 0.125)]


def test_five_pages_one_after_the_other():
    table = Table()
    for page in range(5):
        table.frames(9, page)
    assert [page for page, _ in table.taken] == [0, 1, 2, 3, 4]


def test_pages_that_look_alike_are_two_once_the_first_had_gone():
    table = Table()
    table.frames(9, 1)
    table.frames(4, None)  # three eighths of a second
    table.frames(9, 1)
    assert len(table.taken) == 1, "it was gone for too short a time to tell"
    table.frames(5, None)
    table.frames(9, 1)
    assert len(table.taken) == 2


def test_one_that_was_stirred_and_looks_the_same_waits_for_a_word():
    table = Table()
    table.frames(9, 1)
    assert table.frames(2, 2, fault="covered") == "covered", "a hand"
    assert table.frames(1, 1) == "moves", "it goes away"
    assert table.frames(5, 1) == "taken", "it has not lain still for long enough to ask"
    assert table.frames(1, 1) == "same"
    assert len(table.taken) == 1


@pytest.mark.parametrize("fault", ["dark", "cut off", "covered", "reflection", "no contrast"])
def test_what_is_wrong_is_not_taken_and_counts_from_anew(fault: LiveFault):
    table = Table()
    table.frames(6, 1)
    assert table.frames(5, 1, fault=fault) == fault
    table.frames(5, 1)
    assert table.taken == []
    table.frames(1, 1)
    assert len(table.taken) == 1


@pytest.mark.parametrize(("soft", "taken"), [(SOFT_PX, 1), (SOFT_PX + 0.01, 0), (None, 1)])
def test_only_a_sharp_one(soft: float | None, taken: int):
    table = Table()
    table.frames(12, 1, soft=soft)
    assert len(table.taken) == taken


def test_once_it_is_sharp_it_is_taken_at_once():
    table = Table()
    assert table.frames(12, 1, soft=9.0) == "blurred"
    table.frames(1, 1)
    assert len(table.taken) == 1


@pytest.mark.parametrize(("by", "stays"), [(0.9, True), (1.1, False)])
def test_a_camera_in_the_hand_trembles(by: float, stays: bool):
    """0.4 % of the page's diagonal of 250."""
    table = Table()
    table.frames(2, 1)
    said = table.frames(1, 1, quad=Quad.of(PAGE.array() + np.array([by, 0])))
    assert (said == "steady") == stays


def test_the_same_four_corners_however_they_are_counted():
    table = Table()
    table.frames(2, 1)
    assert table.frames(1, 1, quad=Quad.of(np.roll(PAGE.array(), 1, axis=0))) == "steady"


def test_a_signature_is_of_the_page_and_not_of_the_light_or_the_place():
    rng = np.random.default_rng(2)
    page = rng.integers(60, 200, (15, 20)).astype(np.uint8).repeat(10, axis=0).repeat(10, axis=1)
    frame = np.full((225, 400), 50, np.uint8)
    frame[40:190, 100:300] = page
    moved = np.full((225, 400), 50, np.uint8)
    moved[60:210, 150:350] = (page * 0.8).astype(np.uint8)
    one = signature_of(frame, PAGE)
    assert difference(one, signature_of(moved, Quad.of(PAGE.array() + np.array([50, 20])))) < release.SAME
    other = rng.permuted(page.ravel()).reshape(page.shape)
    frame[40:190, 100:300] = other
    assert difference(one, signature_of(frame, PAGE)) > release.SAME


def test_something_that_stirs_on_a_page_is_seen():
    still, stirred = pattern(1), pattern(1)
    stirred[:, :2] += 17
    assert not release.moved(PAGE, PAGE, still, still)
    assert difference(still, stirred) > release.STIR
    assert release.moved(PAGE, PAGE, still, stirred)
