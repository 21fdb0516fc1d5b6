"""One warp: exact where it can be, the library's own elsewhere, seamless across bands."""

import contextlib
import sys

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.imaging.background import PAPER_CODE, over_paper
from hollowstack.core.imaging.noise import smoothing_mm
from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.imaging.warp import warp
from hollowstack.core.measure import measure
from hollowstack.core.measure.content.tones import measure_tones
from hollowstack.core.page.errors import RenderError
from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Tone
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import check_output, render
from hollowstack.core.render.bitonal import to_bitonal
from hollowstack.core.render.tone import apply_tone
from hollowstack.core.settings.shipped import SHIPPED

RNG = np.random.default_rng(9)
NOISE = RNG.integers(0, 256, (90, 70, 3), dtype=np.uint8)


@given(quarter=st.integers(0, 3), left=st.integers(0, 20), top=st.integers(0, 20))
def test_a_cut_and_quarter_turn_is_exact(quarter, left, top):
    box = Quad.rectangle(left, top, 60, 80)
    corners = Quad.of(np.roll(box.array(), quarter, axis=0))
    part = np.rot90(NOISE[top:80, left:60], -quarter)
    assert np.array_equal(warp(NOISE, corners, (part.shape[1], part.shape[0]), (0, 0, 0)), part)


def test_half_a_pixel_aside_is_between_two_pixels():
    ramp = np.tile(np.arange(0, 200, 4, dtype=np.uint8), (20, 1))
    moved = warp(ramp, Quad.rectangle(4.5, 4, 14.5, 14), (10, 10), (0,))
    assert np.array_equal(moved[:, 2:-2], np.tile(np.arange(18, 58, 4, dtype=np.uint8), (10, 1))[:, 2:-2])


def test_bands_join_without_a_seam(monkeypatch):
    smooth = cv2.GaussianBlur(RNG.integers(0, 256, (300, 260), dtype=np.uint8), (0, 0), 2)
    quad = Transform.rotation(3.0, Point(130, 150)).quad(Quad.rectangle(10, 10, 250, 290))
    whole = warp(smooth, quad, (240, 280), (255,))
    monkeypatch.setattr(sys.modules[warp.__module__], "_BAND", 37)
    assert np.abs(warp(smooth, quad, (240, 280), (255,)).astype(int) - whole).max() <= 1


def test_beyond_32767_pixels():
    """OpenCV's own limit of a signed 16-bit coordinate does not hold for a long strip."""
    strip = np.zeros((40_000, 6), np.uint8)
    strip[39_000:] = 200
    quad = Quad.rectangle(0.25, 0.25, 5.25, 39_999.25)
    out = warp(strip, quad, (5, 39_999), (0,))
    assert int(out[38_000].max()) == 0
    assert int(out[39_500].min()) == 200


def test_outside_the_image_is_paper():
    out = warp(NOISE, Quad.rectangle(-30, -30, -10, -10), (20, 20), (9, 8, 7))
    assert (out == (9, 8, 7)).all()


def lit_page() -> Raster:
    """Writing on paper that darkens to one side."""
    light = np.tile(np.linspace(150, 240, 800), (600, 1))
    light[100:500:40, 100:700] *= 0.3
    light[101:501:40, 100:700] *= 0.3
    return Raster(np.clip(light + RNG.normal(0, 2, light.shape), 0, 255).astype(np.uint8), (300, 300))


def test_tone_evens_paper_and_darkens_ink():
    out = apply_tone(lit_page(), Tone(ink=0.3, paper=(255,))).pixels
    paper = np.delete(out, [r for r in range(600) if 95 <= r % 40 + 80 <= 105 or r % 40 in range(15, 27)], axis=0)
    assert np.median(paper) == 255
    assert np.median(out[100, 110:690]) < 25
    assert np.median(out[:, 5]) == np.median(out[:, -5]) == 255


def test_dyed_paper_keeps_its_colour():
    page = np.clip(np.array((240, 200, 195)) + RNG.normal(0, 2, (200, 200, 3)), 0, 255).astype(np.uint8)
    out = apply_tone(Raster(page, (300, 300)), Tone(ink=0.1, paper=(250, 208, 203))).pixels
    assert np.array_equal(np.median(out, axis=(0, 1)), (250, 208, 203))


def test_a_grey_page_is_cleared_in_the_grey_of_its_coloured_paper():
    """ITU-R BT.601's weights: 0.299 red, 0.587 green, 0.114 blue."""
    page = Raster(np.full((200, 200, 3), (200, 100, 50), np.uint8), (150.0, 150.0))
    plan = plan_page(measure(page), SHIPPED["everyday"]).model_copy(
        update={"colour": "grey", "tone": None, "paper": (200, 100, 50), "clear_outside": Quad.rectangle(60, 60, 140, 140)}
    )
    assert abs(int(render(page, plan).pixels[5, 5]) - 124) <= 1


def test_bitonal_is_two_valued_under_any_light():
    out = to_bitonal(lit_page()).pixels
    assert set(np.unique(out)) == {0, 255}
    assert (out[100, 110:690] == 0).mean() > 0.97
    assert (out[118:122] == 255).mean() > 0.999


def test_bitonal_drops_specks_and_keeps_dots():
    page = np.full((300, 300), 235, np.uint8)
    page[50, 50] = 20
    page[100:104, 100:104] = 20  # a full stop of a third of a millimetre
    out = to_bitonal(Raster(page, (300, 300))).pixels
    assert out[50, 50] == 255
    assert (out[100:104, 100:104] == 0).all()


@pytest.mark.parametrize("amount", [35, 45])
def test_heavy_grain_makes_hardly_a_speck_and_leaves_thin_strokes(amount):
    page = np.full((600, 600), 205.0)
    page[100:500:50, 60:540] = page[101:500:50, 60:540] = page[102:500:50, 60:540] = 45  # a quarter of a millimetre
    noise = np.random.default_rng(4).normal(0, amount, page.shape)
    grainy = Raster(np.clip(page + noise, 0, 255).astype(np.uint8), (300, 300))
    small = grainy.downsampled(150.0)
    outline = Quad.rectangle(0, 0, small.width, small.height).array()
    tones = measure_tones(grainy, small, fit_paper(small).level, outline, (0, 0))
    assert tones.noise == pytest.approx(amount, rel=0.15)
    out = to_bitonal(grainy, limit=tones.ink_limit, smooth_mm=smoothing_mm(tones.noise)).pixels
    assert (out[130:150] == 0).mean() < 0.01
    assert (out[101:500:50, 70:530] == 0).mean() > 0.95


def test_bitonal_keeps_the_faint_tail_of_a_comma_but_no_faint_line_of_its_own():
    page = np.full((300, 300), 230, np.uint8)
    page[80:120, 40:260] = 60  # enough ink for a threshold between the two
    page[150:156, 100:106] = 60
    page[156:163, 103:105] = 155  # the tail
    page[200:203, 40:80] = 155  # what shines through
    out = to_bitonal(Raster(page, (300, 300))).pixels
    assert (out[156:163, 103:105] == 0).all()
    assert (out[195:208] == 255).all()


def test_bitonal_keeps_the_soft_rim_of_a_stroke_out():
    page = np.full((300, 300), 230, np.uint8)
    page[80:120, 40:260] = 60
    page[79], page[120] = np.where(page[80] < 100, 185, 230), np.where(page[80] < 100, 185, 230)
    out = to_bitonal(Raster(page, (300, 300))).pixels
    assert (out[80:120, 40:260] == 0).all()
    assert (out[79, 50:250] == 255).all()


def test_a_crumb_beside_a_letter_is_a_part_of_it_and_dust_elsewhere():
    page = np.full((300, 300), 235, np.uint8)
    page[100:120, 100:110] = 20
    page[121, 104] = page[200, 200] = 20
    out = to_bitonal(Raster(page, (300, 300))).pixels
    assert out[121, 104] == 0
    assert out[200, 200] == 255


def test_rasters_refuse_other_shapes():
    with pytest.raises(ValueError, match=r"\(3, 3, 4\)"):
        Raster(np.zeros((3, 3, 4), np.uint8))


def test_ground_in_bands_is_the_ground_of_the_whole():
    """A slope of light is followed to the last row and column, wherever bands meet."""
    rows, cols = np.mgrid[:3508, :2480]
    lit = Raster((150 + 60 * rows / 3508 + 30 * cols / 2480).astype(np.uint8), (300, 300))
    even = over_paper(lit).astype(int)
    assert np.abs(even - PAPER_CODE).max() <= 6
    assert np.abs(np.diff(even.mean(axis=1))).max() < 1.5


@pytest.mark.parametrize("shape", [(101, 203), (20, 9), (700, 5), (6, 6), (6, 300, 3)])
def test_ground_of_a_snippet(shape):
    even = over_paper(Raster(np.full(shape, 190, np.uint8), (300, 300)))
    assert (even == PAPER_CODE).all()


@pytest.mark.parametrize(
    ("size", "refused"), [((20_000, 25_000), False), ((20_000, 25_001), True), ((65_000, 1), False), ((65_001, 1), True)]
)
def test_a_page_larger_than_what_is_taken_in_is_refused(size, refused):
    with pytest.raises(RenderError, match="choose a lower resolution") if refused else contextlib.nullcontext():
        check_output(size)


def test_before_any_pixel_of_it_is_made():
    image = Raster(np.full((100, 100), 200, np.uint8), (100.0, 100.0))
    plan = plan_page(measure(image), SHIPPED["as-captured"]).model_copy(update={"size_px": (80_000, 80_000)})
    with pytest.raises(RenderError, match="80,000 × 80,000"):
        render(image, plan)
