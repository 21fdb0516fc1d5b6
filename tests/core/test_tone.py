"""What becomes of each tone: paper to white, ink to black, what lies between and under content."""

import numpy as np
import pytest

from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Tone
from hollowstack.core.render.bitonal import to_bitonal
from hollowstack.core.render.tone import apply_tone, strengthened, without_show_through

PPI = (300.0, 300.0)
TONE = Tone(ink=0.2, paper=(255,))
LEVEL = np.full((20, 20), 200, np.uint8)


def flat(share: float) -> Raster:
    """Paper of 200, all of the page at a share of it."""
    return Raster(np.full((200, 200), round(200 * share), np.uint8), PPI)


@pytest.mark.parametrize(
    ("share", "tone", "code"),
    [
        (1.0, TONE, 255), (1.1, TONE, 255), (0.95, TONE, 255), (0.84, TONE, round((0.84 - 0.2) / 0.8 * 255)),
        (0.6, TONE, 128), (0.2, TONE, 0), (0.1, TONE, 0), (0.895, TONE, round((0.9475 - 0.2) / 0.8 * 255)),
        (0.95, Tone(ink=0.2, paper=(255,), grain=(0.93, 0.98)), 244), (0.5, Tone(ink=0.0, paper=(255,)), 128),
        (1.0, Tone(ink=0.2, paper=(180,)), 180), (0.6, Tone(ink=0.2, paper=(180,)), 90),
    ],
)  # fmt: skip
def test_each_tone_has_its_place(share, tone, code):
    """Half-way between grain's two shares a tone is brought half-way to paper; below, ink and paper are the ends of a line."""
    out = apply_tone(flat(share), tone, LEVEL).pixels
    assert abs(int(out[100, 100]) - code) <= 2


def test_content_gets_the_papers_gain_and_nothing_more():
    content = np.zeros((20, 20), np.uint8)
    content[5:10, 5:10] = 1
    page = flat(0.9)
    out = apply_tone(page, TONE, LEVEL, content).pixels
    assert abs(int(out[70, 70]) - round(0.9 * 255)) <= 2
    assert abs(int(out[30, 30]) - 241) <= 2  # grain, brought half-way to paper
    assert (out[50:100, 50:100] == out[70, 70]).all()
    assert (out[48:50, 50:100] == out[30, 30]).all()
    assert (out[100:102, 50:100] == out[30, 30]).all()
    assert (out[50:100, 100] == out[30, 30]).all()


def written(*tones: float) -> np.ndarray:
    """Strokes of three pixels, each of a share of paper's light, on evened paper (230)."""
    page = np.full((300, 600), 230, np.uint8)
    for number, tone in enumerate(tones):
        page[60 + 60 * number : 63 + 60 * number, 100:500] = round(230 * tone)
    return page


def test_what_is_faint_and_hangs_on_no_stroke_shines_through():
    page = written(0.5, 0.8, 0.76, 0.9)
    page[63:70, 300:303] = round(230 * 0.85)  # faint, but a stroke goes over into it
    out = without_show_through(page)
    assert out[61, 300] == page[61, 300]
    assert out[66, 301] == page[66, 301]
    assert (out[[121, 181, 241], 300] == 230).all()
    assert np.array_equal(without_show_through(written(0.73)), written(0.73))
    assert (without_show_through(written(0.75)) == 230).all()


@pytest.mark.parametrize(("tone", "grows"), [(0.96, False), (0.86, True), (0.7, True)])
def test_faint_strokes_are_strengthened_and_what_is_none_is_not(tone, grows):
    page = Raster(written(tone), PPI)
    out = strengthened(page, 1.0).pixels
    assert (out[61, 300] < page.pixels[61, 300] - 10) == grows
    assert out[20, 300] == 230
    half = strengthened(page, 0.5).pixels
    if grows:
        assert out[61, 300] < half[61, 300] < page.pixels[61, 300]


def test_strong_strokes_need_no_strengthening():
    page = Raster(written(0.15), PPI)
    assert abs(int(strengthened(page, 1.0).pixels[61, 300]) - int(page.pixels[61, 300])) < 12


@pytest.mark.parametrize(("method", "limit"), [("evened", 0.6), ("global", 0.5)])
@pytest.mark.parametrize("strengthen", [0.0, 1.0])
def test_strokes_darker_than_the_limit_are_black_and_strengthening_takes_in_more(method, limit, strengthen):
    """Over paper of 200: evened, the limit is a share of that; global, of white. Strengthening goes on towards paper."""
    most = 200 * limit if method == "evened" else 255 * limit
    end = most if not strengthen else most + 0.7 * (0.88 * 200 - most) if method == "evened" else most + 0.3 * (255 - most)
    page = np.full((400, 400), 200, np.uint8)
    tones = [round(end) - 6, round(end) + 6]
    for number, tone in enumerate(tones):
        page[100 + 100 * number : 120 + 100 * number, 50:350] = tone
    out = to_bitonal(
        Raster(page, PPI), method, np.full((30, 30), 200, np.uint8), limit=limit, strengthen=strengthen, weak_strokes=False
    ).pixels
    assert [int(out[110 + 100 * number, 200]) for number in range(2)] == [0, 255]


@pytest.mark.parametrize("strengthen", [0.0, 1.0])
def test_local_thresholds_follow_the_light(strengthen):
    """Sauvola: mean · (1 + 0.2 · (deviation / 128 − 1)); strengthened, a fifth of that 0.2."""
    page = np.tile(np.linspace(90, 230, 600), (300, 1))
    page[100:103, 50:550] *= 0.5
    out = to_bitonal(Raster(page.astype(np.uint8), PPI), "local", strengthen=strengthen).pixels
    assert (out[101, 60:540] == 0).all()
    assert (out[200, 60:540] == 255).mean() > 0.99
    faint = np.full((300, 300), 200, np.uint8)
    faint[100:103, 50:250] = 175
    made = to_bitonal(Raster(faint, PPI), "local", strengthen=strengthen, despeckle=False).pixels
    assert (made[101, 150] == 0) == bool(strengthen)
