"""The lid of a glass by its looks: even where it is closed, whatever its tone and whatever lies over its rim."""

import numpy as np
import pytest

from hollowstack.core.measure.layout.lid import Lid, is_open, look_at_lid
from hollowstack.core.page.raster import Raster, as_pixels

ROWS, COLS = 877, 638
"""A4 at 75 ppi."""


def look(picture) -> Lid:
    noise = np.random.default_rng(1).normal(0, 4, picture.shape)
    return look_at_lid(Raster(as_pixels(np.clip(picture + noise, 0, 255).astype(np.uint8)), (75, 75)))


def lid(tone: float):
    return np.full((ROWS, COLS), tone, float)


@pytest.mark.parametrize("tone", [20, 44, 130, 240])
def test_a_closed_lid_is_even_whatever_its_tone(tone):
    found = look(lid(tone))
    assert found.tone == pytest.approx(tone, abs=2)
    assert not is_open(found)


@pytest.mark.parametrize("tone", [44, 240])
def test_pages_over_its_rim_do_not_make_it_uneven(tone):
    picture = lid(tone)
    picture[:400, :300] = 215  # in the corner of the mark, over two sides
    picture[500:, 200:] = 60
    assert not is_open(look(picture))


def test_a_page_over_most_of_the_rim_does_not_either():
    picture = lid(44)
    picture[:, : COLS - 40] = 225
    assert not is_open(look(picture))


@pytest.mark.parametrize("fall", [60, 120])
def test_a_room_seen_through_the_glass_is_uneven(fall):
    down = np.linspace(0, fall, ROWS)[:, None]
    assert is_open(look(lid(40) + down))
    across = np.linspace(0, fall, COLS)[None, :]
    picture = lid(60) + across
    picture[300:700, 100:450] = 220
    assert is_open(look(picture))


def test_a_lamp_over_an_open_lid_is_seen():
    y, x = np.mgrid[0:ROWS, 0:COLS]
    glow = 160 * np.exp(-((y - 100) ** 2 + (x - COLS) ** 2) / (2 * 260**2))
    assert is_open(look(lid(35) + glow))


def test_it_is_held_against_earlier_looks_at_the_same_glass():
    now = look(lid(238))
    assert not is_open(now)
    assert not is_open(now, [44, 45])
    assert is_open(now, [44, 45, 43])
    assert not is_open(now, [44, 238, 240, 237])
    assert is_open(look(lid(30)), [235, 236, 234, 30])


@pytest.mark.parametrize(("gradual", "opened"), [(48, False), (48.1, True)])
def test_the_limit_of_what_is_even(gradual, opened):
    assert is_open(Lid(100, gradual)) == opened


@pytest.mark.parametrize(("tone", "opened"), [(180, False), (180.1, True), (20, False), (19.9, True)])
def test_the_limit_of_what_is_like_before(tone, opened):
    assert is_open(Lid(tone, 0), [100, 100, 100]) == opened
