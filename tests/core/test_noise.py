"""Grain is told from what is written, and taken away before a page is read."""

import numpy as np
import pytest

from hollowstack.core.imaging.noise import deviation
from hollowstack.core.ocr.denoising import denoised
from hollowstack.core.page.raster import Raster
from tests.conftest import typed_sheet


@pytest.fixture(scope="module")
def typed() -> np.ndarray:
    (ink,) = typed_sheet(3, ppi=300).layers.values()
    return 230 - 0.6 * np.asarray(ink, np.float32)


def grainy(pixels: np.ndarray, amount: float) -> np.ndarray:
    noise = np.random.default_rng(2).normal(0, amount, pixels.shape)
    return np.clip(pixels + noise + 0.5, 0, 255).astype(np.uint8)


@pytest.mark.parametrize("amount", [3.0, 8.0, 20.0])
def test_noise_is_measured_and_writing_is_not(typed, amount):
    assert deviation(typed.astype(np.uint8)) < 0.5
    assert deviation(grainy(np.full_like(typed, 120), amount)) == pytest.approx(amount, rel=0.1)
    assert deviation(grainy(typed - 40, amount)) == pytest.approx(amount, rel=0.15)


def test_fine_grain_is_only_smoothed(typed):
    made = denoised(Raster(grainy(typed, 5), (300.0, 300.0)))
    assert made.mean() == pytest.approx(typed.mean(), abs=1)
    assert made[:200].std() < 2


def test_heavy_grain_becomes_paper_and_letters_stay(typed):
    made = denoised(Raster(grainy(typed, 35), (300.0, 300.0)))
    assert (made[:200] == 255).mean() > 0.98
    assert (made[typed < 120] < 200).mean() > 0.95


def test_a_dark_image_is_left_as_it_is():
    dark = grainy(np.full((300, 300), 90.0), 20)
    assert denoised(Raster(dark, (300.0, 300.0))).mean() == pytest.approx(90, abs=2)


def test_however_coarse_and_grainy_ink_stays_darker_than_paper():
    page = np.full((200, 200), 180.0)
    page[:, :20] = 60
    made = denoised(Raster(grainy(page, 140), (40.0, 40.0)))
    assert made[:, :18].mean() < 0.7 * made[:, 22:].mean()
