"""Tone and colour by figures: what is at rest changes nothing, what is set does what it says, text never gets lost."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from hollowstack.core.imaging.background import PAPER_CODE
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Tone
from hollowstack.core.render.adjusting import adjusted, curve_of, sharpened, tables
from hollowstack.core.render.tone import apply_tone, strengthened, without_show_through
from hollowstack.core.settings.adjustments import Adjustments

RNG = np.random.default_rng(4)
NOISE = RNG.integers(0, 256, (60, 50, 3), dtype=np.uint8)
RAMP = np.tile(np.arange(256, dtype=np.uint8), (8, 1))
AMOUNT = st.floats(-100, 100)


def test_at_rest_nothing_changes():
    assert Adjustments().at_rest
    assert np.array_equal(adjusted(Raster(NOISE), Adjustments()).pixels, NOISE)
    assert np.array_equal(adjusted(Raster(NOISE[..., 0]), Adjustments()).pixels, NOISE[..., 0])


@given(black=st.floats(0, 60), white=st.floats(70, 100), gamma=st.floats(0.2, 5), brightness=AMOUNT, contrast=AMOUNT)
def test_a_curve_never_falls_and_keeps_its_range(black, white, gamma, brightness, contrast):
    wish = Adjustments(black=black, white=white, gamma=gamma, brightness=brightness, contrast=contrast)
    curve = curve_of(wish, np.linspace(0, 1, 256))
    assert (np.diff(curve) >= -1e-12).all()
    assert curve.min() >= 0
    assert curve.max() <= 1


def test_points_are_where_they_say():
    out = adjusted(Raster(RAMP), Adjustments(black=20, white=80)).pixels[0]
    assert (out[: round(0.2 * 255)] == 0).all()
    assert (out[round(0.8 * 255) + 1 :] == 255).all()
    assert out[128] == pytest.approx(128, abs=2)


@pytest.mark.parametrize(("wish", "darker"), [({"gamma": 0.5}, True), ({"gamma": 2}, False), ({"brightness": 50}, False)])
def test_middle_tones_and_brightness(wish, darker):
    out = adjusted(Raster(RAMP), Adjustments(**wish)).pixels[0]
    assert (out[128] < 120) == darker
    assert (out[0], out[255]) == (0, 255)


def test_contrast_spreads_the_middle():
    out = adjusted(Raster(RAMP), Adjustments(contrast=100)).pixels[0].astype(int)
    assert out[64] < 50
    assert out[192] > 205
    assert out[128] == pytest.approx(128, abs=2)


def test_without_saturation_there_is_no_colour():
    out = adjusted(Raster(NOISE), Adjustments(saturation=-100)).pixels.astype(int)
    assert np.ptp(out, axis=2).max() <= 1


def test_warmth_goes_from_blue_to_amber_without_brightening():
    warm, cold = (adjusted(Raster(np.full((2, 2, 3), 200, np.uint8)), Adjustments(warmth=w)).pixels[0, 0] for w in (60, -60))
    assert warm[0] == 200
    assert warm[2] < 180
    assert cold[2] == 200
    assert cold[0] < 180


def test_tint_goes_from_green_to_magenta():
    green, magenta = (
        adjusted(Raster(np.full((2, 2, 3), 200, np.uint8)), Adjustments(tint=t)).pixels[0, 0] for t in (-60, 60)
    )
    assert green[1] > green[0] == green[2]
    assert magenta[1] < magenta[0] == magenta[2]


def test_balance_makes_paper_neutral():
    paper = np.full((4, 4, 3), (240, 220, 180), np.uint8)
    factors = np.array([180 / 240, 180 / 220, 1.0])
    out = adjusted(Raster(paper), Adjustments(), tuple(factors)).pixels[0, 0]
    assert np.ptp(out.astype(int)) <= 1


def test_tables_for_gray_pages_have_one_curve():
    assert np.array_equal(tables(Adjustments(gamma=2))[:, 0], tables(Adjustments(gamma=2))[:, 2])


def test_sharpening_makes_no_seams():
    edge = np.full((20, 40), 230, np.uint8)
    edge[:, 18:21] = [180, 120, 70]
    edge[:, 21:] = 40
    out = sharpened(Raster(edge, (300.0, 300.0)), 1.0).pixels
    assert out.max() == 230
    assert out.min() == 40
    assert int(out[10, 18]) - int(out[10, 20]) >= int(edge[10, 18]) - int(edge[10, 20])


def test_points_out_of_order_are_refused():
    with pytest.raises(ValidationError, match="white point"):
        Adjustments(black=50, white=52)


def faint_page(darkness: float) -> np.ndarray:
    page = np.full((400, 500), PAPER_CODE, float)
    for row in range(40, 360, 30):
        for col in range(40, 460, 12):
            page[row : row + 14, col : col + 4] *= 1 - darkness
    return np.clip(page + RNG.normal(0, 2.0, page.shape), 0, 255).astype(np.uint8)


def test_faint_strokes_are_strengthened_and_paper_is_not():
    page = Raster(faint_page(0.22), (300.0, 300.0))
    out = strengthened(page, 1.0).pixels
    stroke, paper = np.s_[42:52, 41:43], np.s_[10:30, 10:490]
    assert out[stroke].mean() < 90
    assert abs(float(out[paper].mean()) - PAPER_CODE) < 3
    assert out[paper].std() < 4
    half = strengthened(page, 0.5).pixels
    assert out[stroke].mean() < half[stroke].mean() < page.pixels[stroke].mean()


def test_strong_strokes_need_no_strengthening():
    page = Raster(faint_page(0.9), (300.0, 300.0))
    out = strengthened(page, 1.0).pixels
    assert np.abs(out.astype(int) - page.pixels).max() <= 2


def test_show_through_goes_and_strokes_keep_their_rims():
    page = np.full((200, 300), PAPER_CODE, np.uint8)
    page[40:60, 40:200] = round(0.89 * PAPER_CODE)  # the back of the sheet
    page[100:110, 40:200] = round(0.80 * PAPER_CODE)  # a stroke's rim
    page[103:107, 40:200] = round(0.3 * PAPER_CODE)
    out = without_show_through(page)
    assert (out[40:60, 40:200] == PAPER_CODE).all()
    assert np.array_equal(out[100:110, 40:200], page[100:110, 40:200])


def test_a_faint_page_through_the_whole_of_tone():
    lit = (faint_page(0.25) * np.linspace(0.7, 1.0, 500)).astype(np.uint8)
    plain = apply_tone(Raster(lit, (300.0, 300.0)), Tone(ink=0.2, paper=(255,))).pixels
    strong = apply_tone(Raster(lit, (300.0, 300.0)), Tone(ink=0.2, paper=(255,)), strengthen=1.0).pixels
    assert np.median(strong[10:30, 10:490]) == 255
    assert strong[42:52, 41:43].mean() < 60 < plain[42:52, 41:43].mean()
