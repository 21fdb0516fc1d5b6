"""The guard sees what is gone, what came from nowhere and what was cut away; and a page that lost nothing passes."""

import cv2
import numpy as np
import pytest

from hollowstack.core.bind.codecs import decode_reduced, encode
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.lossy import encode_jpeg
from hollowstack.core.check import check_page
from hollowstack.core.check.content import content_finding
from hollowstack.core.check.guard import LARGEST_PERCENT, Guarded, guard, milder
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan, Tone, TwoTones
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet

PPI = (150.0, 150.0)


@pytest.fixture(scope="module")
def image() -> Raster:
    return Raster(captured(typed_sheet(), Glass(skew=0.4)).pixels, PPI)


@pytest.fixture(scope="module")
def plan(image: Raster) -> Plan:
    return plan_page(measure(image), Treatment(bitonal_from=75))


def test_a_page_that_lost_nothing_passes(image, plan):
    assert guard(image, plan, render(image, plan)).percent == 0


@pytest.mark.parametrize("side_mm", [8, 20])
def test_what_is_wiped_out_is_seen_and_shown(image, plan, side_mm):
    page = render(image, plan)
    spoilt, side = page.pixels.copy(), round(side_mm * 150 / 25.4)
    rows, cols = np.nonzero(spoilt[200:800, 100:600] == 0)
    top, left = 200 + int(rows[0]), 100 + int(cols[0])
    spoilt[top : top + side, left : left + side] = 255
    found = guard(image, plan, Raster(spoilt, page.ppi))
    assert found.kind == "lost"
    assert not found.passes
    assert found.spot is not None
    x, y, wide, high = found.spot
    assert x - 10 <= left + side
    assert left <= x + wide + 10
    assert y - 10 <= top + side
    assert top <= y + high + 10


def test_what_came_from_nowhere_is_seen(image, plan):
    page = render(image, plan)
    spoilt = page.pixels.copy()
    cv2.rectangle(spoilt, (60, 1100), (320, 1180), 0, 3)
    assert guard(image, plan, Raster(spoilt, page.ppi)).kind == "new"


def test_writing_that_was_cut_away_is_seen(image, plan):
    half = plan.model_copy(update={"quad": Quad.rectangle(0, 600, 874, 1240), "size_px": (874, 640)})
    assert guard(image, half, render(image, half)).kind == "cropped"
    meant = half.model_copy(update={"cut_on_purpose": True})
    assert guard(image, meant, render(image, meant)).kind is None


def test_a_solid_that_turns_to_paper_is_seen():
    pixels = np.random.default_rng(1).normal(232, 2, (1240, 874))
    pixels[400:700, 250:600] = 120
    image = Raster(np.clip(pixels, 0, 255).astype(np.uint8), PPI)
    plan = plan_page(measure(image), Treatment())
    assert guard(image, plan, render(image, plan)).passes
    bleached = Raster(np.full((plan.size_px[1], plan.size_px[0]), 255, np.uint8), plan.ppi)
    assert guard(image, plan, bleached).kind == "lost"


@pytest.mark.parametrize(
    ("kind", "change", "step"),
    [
        ("lost", {"colour": "bitonal"}, "grey instead of bitonal"),
        ("lost", {"colour": "grey", "two_tones": None}, "no evening"),
        ("cleared", {"clear_outside": Quad.rectangle(5, 5, 90, 90)}, "nothing cleared"),
        ("cropped", {}, "not cropped"),
    ],
)
def test_the_next_milder_plan(image, plan, kind, change, step):
    found = milder(plan.model_copy(update=change), kind, (image.width, image.height))
    assert found is not None
    assert found[1] == step
    assert render(image, found[0]).width == found[0].size_px[0]


def test_nothing_milder_is_left(image, plan):
    bare = plan.model_copy(update={"colour": "grey", "two_tones": None, "tone": None, "clear_outside": None})
    assert milder(bare, "lost", (image.width, image.height)) is None


def test_a_plan_that_loses_steps_back_and_says_so(image, plan):
    cut = plan.model_copy(update={"quad": Quad.rectangle(0, 600, 874, 1240), "size_px": (874, 640)})
    page, done, (finding, *_), _ = render_guarded(image, cut)
    assert page.height > 1200
    assert done.size_px == (page.width, page.height)
    assert (finding.check, finding.verdict) == ("content", "review")
    assert "not cropped" in finding.message


def test_what_is_set_by_hand_is_done_and_told(image):
    by_hand = plan_page(measure(image), Treatment(), Override(quad=Quad.rectangle(0, 600, 874, 1240)))
    assert by_hand.by_hand
    cut = by_hand.model_copy(update={"cut_on_purpose": False})
    page, done, (finding, *_), _ = render_guarded(image, cut)
    assert done == cut
    assert (page.width, page.height) == cut.size_px
    assert "by hand" in finding.message


@pytest.mark.parametrize(
    ("percent", "verdict"), [(0.0, "pass"), (LARGEST_PERCENT, "pass"), (LARGEST_PERCENT + 0.001, "fail")]
)
def test_the_finding_of_every_page(percent, verdict):
    found = content_finding(Guarded(percent, "lost", (1, 2, 3, 4)), (), by_hand=False)
    assert (found.verdict, found.value, found.limit) == (verdict, percent, LARGEST_PERCENT)


def test_the_page_is_guarded_as_it_will_be_bound(image, plan):
    """Compression that would wipe out strokes steps back; one that does not is left as it is."""
    grey = plan.model_copy(update={"colour": "grey", "two_tones": None, "jpeg_quality": 1})

    def coarse(page: Raster, how: Plan) -> EncodedImage:
        pixels = page.pixels if how.jpeg_quality > 1 else cv2.GaussianBlur(page.pixels, (0, 0), 9)
        return encode(Raster(pixels, page.ppi), "grey", how.jpeg_quality)

    made = render_guarded(image, grey, coarse)
    assert made.plan.jpeg_quality == 85
    assert made.findings[0].verdict == "review"
    assert "compressed less" in made.findings[0].message
    assert made.encoded is not None
    assert len(made.encoded.data) > 10_000
    made = render_guarded(image, grey.model_copy(update={"jpeg_quality": 50}), coarse)
    assert (made.plan.jpeg_quality, made.findings[0].verdict) == (50, "pass")
    by_hand = render_guarded(image, grey.model_copy(update={"by_hand": True}), coarse)
    assert by_hand.plan.jpeg_quality == 1
    assert "by hand" in by_hand.findings[0].message


def test_layers_that_lose_something_give_way_to_one_image(image, plan):
    """Without a word: the page is as it would be without layers, and nobody has to look at it."""
    grey = plan.model_copy(update={"colour": "grey", "two_tones": None, "jpeg_quality": 50, "layers": True})

    def wiped(page: Raster, how: Plan) -> EncodedImage | Layered:
        nothing = Layered((page.width, page.height), page.is_gray, (255,), (), None)
        return nothing if how.layers else encode(page, "grey", how.jpeg_quality)

    made = render_guarded(image, grey, wiped)
    assert isinstance(made.encoded, EncodedImage)
    assert (made.plan.layers, made.findings[0].verdict) == (False, "pass")


@pytest.mark.parametrize(("share", "size"), [(1.0, (640, 480)), (0.5, (320, 240)), (0.3, (320, 240)), (0.25, (160, 120))])
def test_a_reduction_of_what_is_bound_comes_quickly_and_large_enough(share, size):
    page = Raster(np.tile(np.linspace(0, 255, 640).astype(np.uint8), (480, 1)), PPI)
    pixels = decode_reduced(encode_jpeg(page.pixels, 90), share)
    assert pixels.shape[::-1] == size
    assert np.abs(pixels[10] - np.linspace(0, 255, size[0])).max() < 6


@pytest.mark.parametrize("scale", [1.0, 0.5])
def test_a_page_that_is_not_cropped_is_all_of_its_image(plan, scale):
    quad = Quad.rectangle(100, 200, 500, 800)
    cut = plan.model_copy(update={"quad": quad, "size_px": (round(400 * scale), round(600 * scale)), "clear_outside": quad})
    step = milder(cut, "cropped", (1000, 1400))
    assert step is not None
    wider, said = step
    assert said == "not cropped"
    assert np.abs(wider.quad.array() - Quad.rectangle(0, 0, 1000, 1400).array()).max() < 0.01
    assert wider.size_px == (1000 * scale, 1400 * scale)
    assert (wider.clear_outside, wider.protected) == (None, ())


@pytest.mark.parametrize(("size", "widened"), [((600, 900), True), ((640, 960), False)])
def test_a_page_is_not_widened_beyond_half_as_much_again_as_its_image(plan, size, widened):
    cut = plan.model_copy(update={"quad": Quad.rectangle(100, 200, 500, 800), "size_px": size})
    assert (milder(cut, "cropped", (1000, 1400)) is not None) == widened


@pytest.mark.parametrize(
    ("kind", "update", "said"),
    [
        ("cleared", {"clear_outside": Quad.rectangle(9, 9, 600, 900)}, "nothing cleared"),
        ("lost", {"colour": "bitonal", "two_tones": TwoTones()}, "grey instead of bitonal"),
        ("lost", {"colour": "bitonal", "two_tones": TwoTones(method="middle"), "tone": None}, None),
        ("lost", {"colour": "grey", "two_tones": None, "tone": Tone(ink=0.1, paper=(255,))}, "no evening"),
        ("new", {"colour": "grey", "tone": None, "clear_outside": Quad.rectangle(9, 9, 600, 900)}, "nothing cleared"),
        ("cleared", {"colour": "grey", "tone": None, "clear_outside": None}, None),
    ],
)
def test_each_loss_has_its_milder_plan(plan, kind, update, said):
    step = milder(plan.model_copy(update={"clear_outside": None, **update}), kind, (1000, 1400))
    assert (step[1] if step else None) == said


def test_a_separator_sheet_has_nothing_to_be_checked(image, plan):
    found = measure(image)
    assert check_page(found, plan, None) != []
    assert check_page(found.model_copy(update={"separator": True}), plan, None) == []


def whole(pixels: np.ndarray) -> Plan:
    """Of a page that is its image, in grey and with its paper evened."""
    rows, cols = pixels.shape
    return Plan(
        turn=0, skew_deg=0.0, quad=Quad.rectangle(0, 0, cols, rows), size_px=(cols, rows), ppi=PPI, colour="grey",
        tone=Tone(ink=0.1, paper=(255,)), clear_outside=None, paper=(235,), jpeg_quality=60, aside=None,
    )  # fmt: skip


def written() -> np.ndarray:
    page = np.full((1240, 874), 235, np.uint8)
    for top in range(150, 1050, 40):
        for left in range(90, 780, 12):
            page[top : top + 18, left : left + 7] = 30
    return page


def guarded(before: np.ndarray, after: np.ndarray) -> Guarded:
    return guard(Raster(before, PPI), whole(before), Raster(after, PPI))


@pytest.mark.parametrize(("fall_mm", "passes"), [(60.0, True), (20.0, True), (0.3, False)])
def test_shade_with_writing_in_it_may_go_and_an_area_with_a_border_may_not(fall_mm, passes):
    x = np.arange(874) / 150 * 25.4
    shade = 1 - 0.45 * np.clip((x - 70) / fall_mm, 0, 1)
    page = written()
    assert guarded((page * shade).astype(np.uint8), page).passes == passes


@pytest.mark.parametrize(("in_mm", "long_mm", "passes"), [(0.6, 60, True), (0.6, 10, False), (4.0, 60, False)])
def test_the_papers_edge_along_the_rim_may_go(in_mm, long_mm, passes):
    page = written()
    marked, px_mm = page.copy(), 150 / 25.4
    left, top = round(in_mm * px_mm), 400
    marked[top : top + round(long_mm * px_mm), left : left + round(1.2 * px_mm)] = 120
    assert guarded(marked, page).passes == passes


def test_large_letters_that_stay_black_have_lost_nothing():
    """Their rims are soft where the image is coarse; the gray of their places is still there."""
    page = written()
    coarse = cv2.resize(cv2.resize(page, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA), page.shape[::-1])
    assert guarded(coarse, page).passes
