"""Pages in layers: writing as a stencil, pictures in patches; nothing of the page goes, and viewers show what was meant."""

import datetime as dt

import cv2
import numpy as np
import pypdfium2
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont
from skimage.color import deltaE_ciede2000, rgb2lab

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import decode_encoded, encode
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.boxes import boxes_around, within
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.inks import find_inks
from hollowstack.core.bind.layers.levels import find_levels
from hollowstack.core.bind.layers.parts import Box, Layered
from hollowstack.core.bind.layers.rims import wide_rims
from hollowstack.core.bind.layers.separating import separate
from hollowstack.core.bind.layers.spread import coarse
from hollowstack.core.bind.layers.stencil import find_ink
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.encoding import encode_page
from hollowstack.core.run.keeping import data_of, described, restored
from hollowstack.core.settings.treatment import Treatment
from tests.examples import about

FONTS = "src/hollowstack/standins/skerry/fonts"
PPI = (300.0, 300.0)
BLACK, RED, BLUE = (25, 22, 28), (170, 30, 40), (40, 60, 150)
LINES = (
    (BLACK, "the lantern burned clear from dusk"),
    (RED, "RECEIVED 12 June 1927"),
    (BLUE, "and was trimmed at midnight"),
)


def written(size: tuple[int, int] = (1203, 901), paper: tuple[int, ...] = (255, 255, 255)) -> np.ndarray:
    """Three lines in three inks, with rims as a scanner gives them."""
    image = Image.new("RGB", size, paper)
    pen = ImageDraw.Draw(image)
    font = ImageFont.truetype(f"{FONTS}/CourierPrime-Regular.ttf", 50)
    for at, (ink, text) in enumerate(LINES):
        pen.text((60, 80 + 120 * at), text, fill=ink, font=font)
    return cv2.GaussianBlur(np.asarray(image), (0, 0), 1.0)


def with_picture(page: np.ndarray) -> tuple[np.ndarray, Box]:
    """With a photograph below the text."""
    box = Box(200, 500, 700, 850)
    rng = np.random.default_rng(2)
    noise = cv2.resize(rng.normal(0, 60, (35, 50, 3)).astype(np.float32), (500, 350), interpolation=cv2.INTER_CUBIC)
    page = page.copy()
    page[box.top : box.bottom, box.left : box.right] = np.clip(130 + noise, 0, 255)
    return page, box


def layered(pixels: np.ndarray) -> Layered:
    made = separate(Raster(pixels, PPI), 50)
    assert made is not None
    return made


def test_writing_takes_a_fraction_of_a_jpeg():
    page = Raster(written(), PPI)
    assert layered(page.pixels).bytes < 0.3 * encode(page, "colour", 50).bytes


@pytest.mark.parametrize("line", range(3))
def test_each_ink_keeps_its_colour(line):
    """In the mean of its strokes, by CIEDE2000."""
    page = written()
    shown = compose(layered(page))
    strip = np.s_[70 + 120 * line : 150 + 120 * line]
    # From afar, so that a crisp edge stands for a soft one.
    far = [cv2.resize(one[strip], None, fx=1 / 8, fy=1 / 8, interpolation=cv2.INTER_AREA) for one in (page, shown)]
    inked = far[0].min(axis=2) < 200
    labs = [rgb2lab(one[inked].mean(axis=0).reshape(1, 1, 3) / 255) for one in far]
    assert float(deltaE_ciede2000(*labs)[0, 0]) <= 3.0


@pytest.mark.parametrize("size", [(1203, 901), (1200, 900), (1197, 903)])
def test_a_viewer_shows_what_was_composed(tmp_path, size):
    """Sides that are no whole number of cells, too."""
    made = layered(np.minimum(written(size), (250, 240, 210)).astype(np.uint8))
    bind(
        [BoundPage(made, PPI, None, "1")],
        tmp_path / "a.pdf",
        Binding(Description("Layers", dt.datetime(2026, 3, 1, tzinfo=dt.UTC), "en")),
    )
    with pypdfium2.PdfDocument(tmp_path / "a.pdf") as pdf:
        shown = np.array(pdf[0].render(scale=300 / 72, rev_byteorder=True).to_numpy())[: size[1], : size[0]]
    off = np.abs(shown.astype(int) - compose(made)).max(axis=2)
    assert np.mean(off > 2) < 0.02  # rims of strokes and patches may fall between two pixels
    assert np.median(off) == 0


@pytest.mark.parametrize("gray", [False, True])
def test_a_picture_is_a_patch_as_fine_as_the_page(gray):
    page, box = with_picture(written())
    page = page[:, :, 0] if gray else page
    made = layered(page)
    fine = [patch for patch in made.patches if patch.image.size_px == patch.box.size and within(box, patch.box)]
    assert len(fine) == 1
    stencil = decode_encoded(made.ink.stencil)
    assert stencil[box.top : box.bottom, box.left : box.right].min() == 255  # none of it is taken for ink
    shown = compose(made)
    inside = np.s_[box.top : box.bottom, box.left : box.right]
    assert np.abs(shown[inside].astype(int) - page[inside]).mean() < 6
    assert shown.shape == page.shape


def test_a_page_of_pictures_is_one_image():
    page, _ = with_picture(written())
    page[:, :] = cv2.resize(page[500:850, 200:700], (1203, 901))
    assert separate(Raster(page, PPI), 50) is None


def test_bare_paper_is_one_image():
    assert separate(Raster(np.full((600, 400, 3), 240, np.uint8), PPI), 50) is None


def test_a_hairline_beside_bold_strokes_stays():
    """Half as dark as they are, and touching them, as the thin strokes of a type face do."""
    page = np.full((300, 600, 3), 255, np.uint8)
    page[100:200, 100:112] = page[100:200, 400:412] = 20
    page[148:150, 112:400] = 150
    ink = find_ink(find_levels(cv2.GaussianBlur(page, (0, 0), 0.8), 300.0))
    assert ink[147:151, 130:380].any(axis=0).mean() > 0.95


@pytest.mark.parametrize(("light", "stays"), [(240, False), (200, True)])
def test_what_is_hardly_darker_than_paper_is_no_ink(light, stays):
    page = np.full((300, 600, 3), 255, np.uint8)
    page[148:156, 100:500] = light
    assert bool(find_ink(find_levels(page, 300.0)).any()) == stays


def bars(wide: int, blur: float, *, ppi: float = 300.0) -> np.ndarray:
    """Upright strokes so wide, half as far again apart, out of focus by so many pixels: where their rims are called wide."""
    side = round(2 * ppi)
    page = np.full((side, side, 1), 255, np.uint8)
    for left in range(side // 10, side - side // 10, 5 * wide // 2):
        page[side // 10 : -side // 10, left : left + wide] = 30
    return wide_rims(find_levels(cv2.GaussianBlur(page, (0, 0), blur)[:, :, None], ppi), max(1, round(ppi / 75)))


@pytest.mark.parametrize(
    ("ppi", "wide", "blur", "is_soft"),
    [
        (300.0, 12, 2.3, False),
        (300.0, 12, 3.0, True),
        (600.0, 24, 5.0, False),
        (600.0, 24, 8.0, True),
        (300.0, 60, 5.0, False),
    ],
)
def test_strokes_are_soft_from_a_width_of_their_rims_unless_they_are_much_wider(ppi, wide, blur, is_soft):
    assert bool(bars(wide, blur, ppi=ppi).any()) == is_soft


def test_one_soft_dot_says_nothing():
    page = np.full((600, 600, 1), 255, np.uint8)
    page[296:304, 296:304] = 30
    levels = find_levels(cv2.GaussianBlur(page, (0, 0), 3.0)[:, :, None], 300.0)
    assert levels.enough.any()
    assert not wide_rims(levels, 4).any()


@pytest.mark.parametrize("blur", [1.0, 1.5])
def test_writing_in_focus_is_a_stencil(blur):
    page = cv2.GaussianBlur(written(), (0, 0), blur)
    assert layered(page).ink is not None
    assert not wide_rims(find_levels(page, 300.0), 4).any()


@pytest.mark.parametrize("beside", [False, True])
def test_writing_out_of_focus_is_not_filled_in(beside):
    """As a picture, also where the rest of the page is as sharp as can be: the eye of an e stays lighter than its rim."""
    page = cv2.GaussianBlur(written((1203, 1801)), (0, 0), 5.0)
    if beside:
        page[400:] = 255
        page = np.vstack([page, written((1203, 901)), np.full((400, 1203, 3), 255, np.uint8)])
    made = separate(Raster(page, PPI), 75)
    assert (made is not None) == beside
    if made is not None:
        off = cv2.absdiff(compose(made)[:400], page[:400])
        assert np.percentile(off[page[:400] < 230], 98) < 30
        assert made.ink is not None


def test_a_tinted_slip_keeps_its_tint_under_its_writing():
    page = written()
    slip = np.s_[60:160, 40:1160]
    page[slip] = np.minimum(page[slip], (255, 240, 120))
    made = layered(page)
    shown = compose(made)
    assert np.abs(shown[70:76, 300:900].astype(int) - page[70:76, 300:900]).mean() < 6
    assert decode_encoded(made.ink.stencil)[62:70, 300:900].min() == 255


def test_letters_on_a_dark_band_are_not_lost_in_it():
    """All of it is darker than halfway between paper and ink: as a stencil it would be one blot."""
    page = np.full((600, 900, 3), 255, np.uint8)
    page[200:270, 50:850] = (150, 40, 40)
    image = Image.fromarray(page)
    pen = ImageDraw.Draw(image)
    font = ImageFont.truetype(f"{FONTS}/CourierPrime-Bold.ttf", 50)
    pen.text((80, 205), "storm warning", fill=(20, 10, 10), font=font)
    pen.text((80, 405), "storm warning", fill=(20, 10, 10), font=font)
    page = np.asarray(image)
    shown = compose(layered(page))
    band = np.s_[205:265, 80:480]
    assert np.corrcoef(shown[band][..., 0].ravel(), page[band][..., 0].ravel())[0, 1] > 0.95


@pytest.mark.parametrize("light", [225, 238])
def test_faint_pencil_is_shown_as_finely_as_paper_can_be(light):
    """Too faint to be ink: it is on the paper, by cells of a 150th of an inch, where bare paper has larger ones."""
    image = Image.fromarray(written())
    font = ImageFont.truetype(f"{FONTS}/LaBelleAurore-Regular.ttf", 90)
    ImageDraw.Draw(image).text((100, 560), "davit ordered 14 Feb.", fill=(light,) * 3, font=font)
    page = np.asarray(image)
    made = layered(page)
    shown = compose(made)
    note = np.s_[560:700, 100:900]
    assert np.corrcoef(shown[note][..., 0].ravel(), page[note][..., 0].ravel())[0, 1] > 0.7
    assert layered(written()).bytes < made.bytes


def test_white_on_black_stays_what_it_is():
    page = (255 - written()).astype(np.uint8)
    made = separate(Raster(page, PPI), 50)
    shown = page if made is None else compose(made)
    assert np.abs(shown.astype(int) - page).mean() < 4


def test_strokes_of_one_ink_are_one_colour():
    image = Image.new("RGB", (800, 200), (255, 255, 255))
    ImageDraw.Draw(image).text(
        (40, 60), "lantern", fill=BLACK, font=ImageFont.truetype(f"{FONTS}/CourierPrime-Bold.ttf", 60)
    )
    made = layered(np.asarray(image))
    assert isinstance(made.ink.tint, tuple)
    assert np.abs(np.array(made.ink.tint) - BLACK).max() <= 8


def test_a_stroke_of_two_colours_keeps_both():
    ink = np.zeros((40, 400), np.uint8)
    ink[16:24, 20:380] = 1
    tint = np.zeros((10, 100, 3), np.uint8)
    tint[:, :50], tint[:, 50:] = RED, BLUE
    inks = find_inks(ink, tint, 4)
    left, right = (inks.colours[inks.cells[5, at]].astype(int) for at in (10, 90))
    assert np.abs(left - RED).max() <= 8
    assert np.abs(right - BLUE).max() <= 8


def test_what_is_not_known_of_a_page_comes_from_around_it():
    page = np.full((64, 64, 1), 200, np.uint8)
    known = np.ones((64, 64), np.uint8)
    page[16:48, 16:48], known[16:48, 16:48] = 0, 0
    assert np.abs(coarse(page, known, 4).astype(int) - 200).max() <= 1
    assert coarse(page, np.zeros_like(known), 4).max() == 0  # nothing is known anywhere


@settings(max_examples=about(80))
@given(st.integers(0, 10_000), st.integers(0, 6), st.floats(0.001, 0.2))
def test_boxes_hold_all_that_is_marked_and_none_lies_on_another(seed, around, share):
    marked = (np.random.default_rng(seed).random((40, 60)) < share).astype(np.uint8)
    boxes = boxes_around(marked, 1, around)
    covered = np.zeros((40, 60), int)
    for left, top, right, bottom in boxes:
        assert 0 <= left < right <= 60
        assert 0 <= top < bottom <= 40
        covered[top:bottom, left:right] += 1
    assert covered.max(initial=0) <= 1
    assert (covered[marked > 0] == 1).all()
    assert len(boxes) <= 60


@pytest.mark.parametrize(("least", "count"), [(4, 1), (5, 0)])
def test_small_marks_are_left_aside(least, count):
    marked = np.zeros((20, 20), np.uint8)
    marked[5:7, 5:7] = 1
    assert len(boxes_around(marked, least, 2)) == count


# As the steps of a page take them.


@pytest.fixture(scope="module")
def clean() -> tuple[Raster, object]:
    page = Raster(written((1654, 1240)), (200.0, 200.0))
    return page, plan_page(measure(page), Treatment(colour="colour"))


@pytest.mark.parametrize(
    ("change", "is_layered"),
    [({}, True), ({"layers": False}, False), ({"lossless": True}, False), ({"colour": "bitonal"}, False)],
)
def test_a_page_is_in_layers_where_its_plan_says_so(tmp_path, clean, change, is_layered):
    page, plan = clean
    how = plan.model_copy(update=change)
    given_page = (
        page if how.colour != "bitonal" else Raster(np.where(page.gray().pixels < 128, 0, 255).astype(np.uint8), page.ppi)
    )
    made = encode_page(given_page, how, tmp_path / "none.png", 0, page)
    assert isinstance(made, Layered) == is_layered


def test_layers_that_do_not_pay_are_not_taken(tmp_path, clean, monkeypatch):
    page, plan = clean
    monkeypatch.setattr("hollowstack.core.run.encoding._PAYS", 0.0)
    assert isinstance(encode_page(page, plan, tmp_path / "none.png", 0, page), Layered)  # so few bytes pay in any case
    monkeypatch.setattr("hollowstack.core.run.encoding._LITTLE", 0.0)
    assert isinstance(encode_page(page, plan, tmp_path / "none.png", 0, page), EncodedImage)


@pytest.mark.parametrize("kind", ["patches", "one ink", "grey", "jpeg", "two tones"])
def test_a_page_is_kept_and_restored(kind):
    page = with_picture(written())[0]
    one = np.full((200, 300, 3), 255, np.uint8)
    one[50:60, 40:200] = 30
    made = {
        "patches": lambda: layered(page),
        "one ink": lambda: layered(one),
        "grey": lambda: layered(page[:, :, 1]),
        "jpeg": lambda: encode(Raster(page, PPI), "colour", 50),
        "two tones": lambda: encode(Raster(np.where(page[:, :, 0] < 128, 0, 255).astype(np.uint8), PPI), "bitonal", 50),
    }[kind]()
    assert restored(data_of(made), described(made)) == made
    assert len(data_of(made)) == made.bytes
