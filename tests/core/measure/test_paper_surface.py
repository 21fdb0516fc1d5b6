"""Paper is fitted to paper alone: what else lies on a page stays content, and shade stays paper."""

import cv2
import numpy as np
import pytest

from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Tone
from hollowstack.core.render.tone import apply_tone

PPI = (150.0, 150.0)
PX_MM = 150 / 25.4
TONE = Tone(ink=0.1, paper=(255,))


def sheet(tone: float = 232, colour: bool = False) -> np.ndarray:
    """An A5 sheet with grain."""
    page = np.random.default_rng(2).normal(tone, 2, (1240, 874))
    return np.repeat(page[..., None], 3, axis=2) if colour else page


def raster(page: np.ndarray) -> Raster:
    return Raster(np.clip(page, 0, 255).astype(np.uint8), PPI)


def toned(page: Raster) -> np.ndarray:
    fitted = fit_paper(page)
    return apply_tone(page, TONE, fitted.level, fitted.content).pixels


@pytest.mark.parametrize("size_mm", [5, 8, 15, 30, 60])
@pytest.mark.parametrize("tone", [45, 90, 140, 190])
def test_a_solid_area_keeps_its_tone(size_mm, tone):
    page, side = sheet(), round(size_mm * PX_MM)
    page[300 : 300 + side, 200 : 200 + side] += tone - 232
    clean = toned(raster(page))
    inside = clean[306 : 294 + side, 206 : 194 + side]
    assert np.median(inside) == pytest.approx(tone * 255 / 232, abs=6)


def test_a_red_block_stays_red():
    page = sheet(colour=True)
    page[300:480, 200:380] = (190, 40, 45)
    clean = toned(raster(page))[310:470, 210:370]
    assert np.median(clean[..., 0]) > 180
    assert np.median(clean[..., 1:]) < 60


@pytest.mark.parametrize(("share", "kept"), [(0.94, True), (0.90, True), (0.985, False)])
def test_a_pale_fill_is_content_from_a_contrast_of_six_percent(share, kept):
    page = sheet()
    page[300:420, 100:700] *= share
    assert bool(fit_paper(raster(page)).content[95, 100]) == kept


def test_shade_that_falls_slowly_is_paper():
    fall = np.linspace(1, 0.55, 874)[None, :]
    fitted = fit_paper(raster(sheet() * fall))
    assert fitted.content.mean() < 0.01
    row = fitted.level[fitted.level.shape[0] // 2].astype(float)
    expected = 232 * cv2.resize(fall, (len(row), 1), interpolation=cv2.INTER_AREA)[0]
    assert np.abs(row / expected - 1)[2:-2].max() < 0.03


def test_paper_goes_on_below_a_picture():
    page = sheet()
    page[400:800, 150:700] = np.linspace(20, 200, 550)[None, :]
    fitted = fit_paper(raster(page))
    assert np.abs(fitted.level.astype(int) - 232).max() <= 6
    middle = fitted.content[fitted.content.shape[0] // 2 - 20 : fitted.content.shape[0] // 2 + 5, 60:110]
    assert middle.mean() > 0.95


def test_a_soft_dark_cloud_amid_the_page_is_no_shade():
    y, x = np.mgrid[0:1240, 0:874]
    cloud = 1 - 0.6 * np.exp(-(((x - 437) / 120.0) ** 2 + ((y - 620) / 120.0) ** 2))
    clean = toned(raster(sheet() * cloud))
    assert clean[600:640, 420:455].mean() < 190


def test_what_lies_outside_the_page_says_nothing_of_its_paper():
    page = sheet()
    page[:, :150] = 30
    inside = np.ones(page.shape, np.uint8)
    inside[:, :150] = 0
    fitted = fit_paper(raster(page), inside)
    assert abs(int(fitted.level.min()) - 232) <= 8
    assert fitted.content[:, 30:].mean() < 0.01


def test_a_page_of_one_tone_is_its_own_paper():
    fitted = fit_paper(Raster(np.full((40, 30), 180, np.uint8), PPI))
    assert fitted.typical == (180,)
    assert not fitted.content.any()


def photograph(rows: int, cols: int) -> np.ndarray:
    """A sky that is as light as the paper at one corner, over dark land."""
    y, x = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j]
    sky = 1.0 - 0.42 * y - 0.30 * (1 - x)
    return np.where(y > 0.75, 0.25, np.clip(sky, 0.3, 1.0))


def test_a_sky_as_light_as_the_paper_beside_it_stays_a_picture():
    page = sheet()
    page[300:700, 150:720] *= photograph(400, 570)
    clean = toned(raster(page))[310:590, 160:710].astype(float)
    wanted = 255 * photograph(400, 570)[10:290, 10:560]
    there = wanted < 235
    assert np.mean(np.abs(clean - wanted)[there]) < 12
    assert np.mean(clean[there] >= 250) < 0.02


def test_a_soft_dip_ends_softly():
    """A stain with no border: no part of it is brought to white while the rest stays."""
    page = sheet()
    y, x = np.mgrid[0:1240, 0:874]
    page *= 1 - 0.4 * np.exp(-(((x - 430) / 130) ** 2 + ((y - 600) / 130) ** 2))
    clean = cv2.GaussianBlur(toned(raster(page)), (0, 0), 4).astype(float)
    steps = np.abs(np.diff(clean[600]))
    assert steps.max() < 12


def test_paper_that_lies_in_shade_nearly_everywhere_is_paper():
    """Most of it is far from its own lightest tone, which small things on it have too."""
    y, x = np.mgrid[0:1240, 0:874]
    page = sheet() * (1 - 0.42 * np.clip(x / 700, 0, 1) * (0.4 + 0.6 * y / 1240))
    for top, left in ((300, 500), (620, 560), (900, 600)):
        page[top : top + 120, left : left + 120] = 90
        page[top + 42 : top + 78, left + 42 : left + 78] = 222
    fitted = fit_paper(raster(page))
    assert fitted.content.mean() < 0.06
    shaded = fitted.level[-40, -40] / fitted.level[40, 10]
    assert shaded == pytest.approx(page[-125, -120] / page[125, 30], abs=0.04)


def test_a_shade_that_writing_parts_from_the_rim_is_no_soft_picture():
    page = sheet()
    y, x = np.mgrid[0:1240, 0:874]
    page *= 1 - 0.45 * np.exp(-(((x - 430) / 220) ** 2 + ((y - 1240) / 260) ** 2))
    page[1210:1234, 40:830:9] = 25
    page[1216:1220, 40:830] = 25
    fitted = fit_paper(raster(page))
    # The writing itself aside.
    assert fitted.content[: round(0.96 * len(fitted.content))].mean() < 0.01
