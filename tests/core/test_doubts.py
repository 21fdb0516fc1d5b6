"""How far words are to be relied on, how many errors that makes, and writing that was not read at all."""

from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.ocr.reading import read_page
from hollowstack.core.ocr.rows import read_figures, read_rows
from hollowstack.core.page.raster import Raster
from hollowstack.core.read.doubts import expected_errors, features, with_doubts, with_second_look
from hollowstack.core.read.looks import LOOK_BYTES, likeness, looks_of
from hollowstack.core.read.unread import lone_figures, unread_letters, unread_rows
from hollowstack.core.run.reading import _with_numbers
from hollowstack.standins import skerry
from tests.conftest import typed_sheet

FONTS = Path(skerry.__file__).parent / "fonts"


def word(text: str = "lantern", at: int = 0, **more: object) -> Word:
    return Word(**{"text": text, "box": (100 * at, 0, 100 * at + 80, 30), "confidence": 95, "known": True, **more})  # type: ignore[arg-type]


def reading(*words: Word, **more: object) -> Reading:
    blocks = [block_of([Line(words=list(words), baseline=(0, 30, 900, 30))])] if words else []
    return Reading(language="eng", size_px=(2000, 300), blocks=blocks, **more)  # type: ignore[arg-type]


def doubt_of(one: Word) -> float:
    """Among twenty sure words."""
    return (
        with_doubts(reading(*(word(at=at) for at in range(20)), one.model_copy(update={"box": (2100, 0, 2180, 30)})))
        .words[-1]
        .doubt
    )


@pytest.mark.parametrize(
    ("better", "worse"),
    [
        (word(confidence=95), word(confidence=60)),
        (word(margin=1.0), word(margin=0.05)),
        (word(known=True), word(known=False, margin=0.3)),
        (word("lantern"), word("lanTern")),
        (word("lantern"), word("l@ntern")),
    ],
    ids=["the engine's confidence", "another character near", "its list of words", "a capital within", "a sign within"],
)
def test_what_makes_a_word_doubtful(better, worse):
    assert doubt_of(better) < doubt_of(worse)


def test_a_word_on_a_page_of_doubtful_words_is_more_doubtful():
    among_sure = with_doubts(reading(word(), *(word(at=at) for at in range(1, 20)))).words[0].doubt
    among_doubtful = (
        with_doubts(reading(word(), *(word(at=at, confidence=40, known=False) for at in range(1, 20)))).words[0].doubt
    )
    assert among_sure < 0.05 < among_doubtful


def test_chances_are_chances_and_nothing_else_changes():
    before = reading(word(), word("2gth", 1, confidence=0, margin=0, known=False))
    after = with_doubts(before)
    assert all(0 <= one.doubt <= 1 for one in after.words)
    assert after.words[1].doubt > 0.5
    assert [one.model_copy(update={"doubt": 0.0}) for one in after.words] == before.words
    assert with_doubts(reading()) == reading()
    assert features([word("a"), word("—")]).shape == (2, 19)


def test_what_the_other_reading_holds_in_a_place_is_the_first_alternative():
    mine = reading(word("2gth", alternatives=("2qth", "29th", "a", "b", "c")), word("inst.", 1))
    other = reading(word("29th"), word("inst.", 1), word("more", 5))
    found = with_second_look(mine, other).words
    assert found[0].alternatives == ("29th", "2qth", "a", "b", "c")
    assert found[1].alternatives == ()


def test_expected_errors_are_those_of_all_words_and_of_what_was_not_read():
    sure = expected_errors(reading(word(doubt=0.0), word(at=1, doubt=0.0)))
    assert (sure.characters, sure.errors, sure.rate) == (16, 0.0, 0.0)
    one = expected_errors(reading(word(doubt=0.0), word(at=1, doubt=1.0)))
    assert one.errors == pytest.approx(0.45 * 8)
    unread = expected_errors(reading(word(doubt=0.0), unread=16))
    assert (unread.characters, unread.errors, unread.rate) == (40, 32.0, pytest.approx(0.8))
    assert unread.spread > one.spread > sure.spread > 0


@pytest.mark.parametrize(("confidence", "share"), [(54.9, 0.87), (55.0, 0.45)])
def test_words_of_a_page_of_noise_are_wrong_nearly_throughout(confidence, share):
    found = expected_errors(reading(*(word(at=at, confidence=confidence, doubt=1.0) for at in range(4))))
    assert found.errors == pytest.approx(4 * share * 8)


def test_words_put_right_by_hand_are_right():
    assert expected_errors(reading(word(doubt=1.0, mark="corrected"))).errors == 0
    assert expected_errors(reading()).rate == 0.0


# Writing that was not read.


@pytest.fixture(scope="module")
def page() -> Raster:
    (ink,) = typed_sheet(6, ppi=300).layers.values()
    return Raster(255 - np.asarray(ink), (300.0, 300.0))


@pytest.fixture(scope="module")
def whole(page: Raster) -> Reading:
    return read_page(page)


def without(whole: Reading, line: int) -> Reading:
    lines = [one for at, one in enumerate(whole.lines) if at != line]
    return whole.model_copy(update={"blocks": [block_of(lines)]})


def test_nothing_is_unread_where_all_was_read(page, whole):
    assert unread_rows(page.pixels, whole, None) == []


def test_a_line_that_was_passed_over_is_found_and_read(page, whole):
    missing = whole.lines[2]
    rows = unread_rows(page.pixels, without(whole, 2), None)
    letters = sum(len(one.text) for one in missing.words)
    assert abs(sum(row.letters for row in rows) - letters) <= 0.15 * letters
    left, top, right, bottom = missing.box
    assert all(left - 9 <= row.box[0] and row.box[2] <= right + 9 and top - 9 <= row.box[1] <= bottom for row in rows)
    found = [one.text for line in read_rows(page, [row.box for row in rows], "eng") for one in line.words]
    assert np.mean([one.text in found for one in missing.words]) >= 0.75


def test_what_shines_through_is_no_writing_that_was_not_read(page, whole):
    pale = 255 - (255 - page.pixels.astype(int)) // 4
    _, top, _, bottom = whole.lines[2].box
    both = page.pixels.copy()
    both[top - 4 : bottom + 4] = pale[top - 4 : bottom + 4]
    assert unread_rows(both, without(whole, 2), None) == []


def test_grain_and_pictures_are_no_writing(page, whole):
    rng = np.random.default_rng(3)
    grain = np.clip(page.pixels + rng.normal(0, 70, page.pixels.shape), 0, 255).astype(np.uint8)
    assert unread_rows(grain, without(whole, 2), None) == [] or len(unread_rows(grain, without(whole, 2), None)) <= 12


def test_what_is_left_out_by_hand_or_as_no_text_is_not_unread(page, whole):
    gone = without(whole, 2).model_copy(update={"left_out": whole.lines[2].words})
    assert unread_rows(page.pixels, gone, None) == []


def test_without_letters_nothing_is_told():
    assert unread_rows(np.full((300, 300), 250, np.uint8), reading(), None) == []
    assert read_rows(Raster(np.full((300, 300), 250, np.uint8), (300.0, 300.0)), [(10, 10, 200, 40)], "eng") == []


def numbered(page: Raster, *places: tuple[int, int], text: str = "7") -> np.ndarray:
    """The page with a figure at places, as large as its letters."""
    font = ImageFont.truetype(str(FONTS / "CourierPrime-Regular.ttf"), 50)
    image = Image.fromarray(page.pixels)
    for place in places:
        ImageDraw.Draw(image).text(place, text, fill=20, font=font)
    return np.asarray(image)


def figures(pixels: np.ndarray, whole: Reading) -> list:
    letters = unread_letters(pixels, whole, None)
    assert letters is not None
    return lone_figures(letters, whole)


def test_a_page_number_of_one_figure_is_found_and_read(page, whole):
    foot = page.height - 220
    (box,) = figures(numbered(page, (1200, foot)), whole)
    assert 1190 <= box[0] < box[2] <= 1250
    assert foot <= box[1] < box[3] <= foot + 60
    (line,) = read_rows(Raster(numbered(page, (1200, foot)), (300.0, 300.0)), [box], "eng")
    assert line.text == "7"


@pytest.mark.parametrize(
    "places",
    [
        [],
        [(400, 3288), (1200, 3388)],  # two of them are no number
        [(1200, 3288), (1700, 3288)],
    ],
    ids=["none", "two below each other", "two beside each other"],
)
def test_what_is_no_lone_figure(page, whole, places):
    assert figures(numbered(page, *places), whole) == []


def test_a_word_below_the_text_is_no_lone_figure(page, whole):
    assert figures(numbered(page, (1200, page.height - 220), text="verte"), whole) == []


def test_without_any_word_nothing_says_where_the_text_ends(page):
    letters = unread_letters(page.pixels, reading(), 20.0)
    assert letters is not None
    assert lone_figures(letters, reading()) == []


# Looks of words.


def test_words_printed_alike_look_alike_however_dark(page, whole):
    looks = looks_of(whole, page.pixels)
    assert looks.shape == (len(whole.words), LOOK_BYTES)
    paler = looks_of(whole, (200 - (255 - page.pixels.astype(int)) // 2).astype(np.uint8))
    same = [likeness(one.tobytes(), [other.tobytes()])[0] for one, other in zip(looks, paler, strict=True)]
    assert min(same) > 0.97
    long = [at for at, one in enumerate(whole.words) if len(one.text) >= 4]
    others = [
        likeness(looks[at].tobytes(), [looks[to].tobytes() for to in long if whole.words[to].text != whole.words[at].text])
        for at in long[:6]
    ]
    assert max(max(some) for some in others) < 0.9


def test_without_a_look_nothing_is_alike():
    assert likeness(b"", [bytes(LOOK_BYTES)]) == [0.0]
    assert likeness(bytes([1] * LOOK_BYTES), [b"", bytes(LOOK_BYTES)]) == [0.0, 0.0]
    assert likeness(bytes([1] * LOOK_BYTES), []) == []


@pytest.fixture(scope="module")
def lone() -> dict[str, Raster]:
    """Each figure alone on a strip of paper, as a page number stands at the foot."""
    font = ImageFont.truetype(str(FONTS / "OldStandardTT-Regular.ttf"), 46)
    made = {}
    for figure in "123456789":
        image = Image.new("L", (400, 120), 255)
        ImageDraw.Draw(image).text((180, 30), figure, fill=20, font=font)
        made[figure] = Raster(cv2.GaussianBlur(np.asarray(image), (0, 0), 0.8), (300.0, 300.0))
    return made


def place_of(strip: Raster) -> tuple[int, int, int, int]:
    rows, cols = np.nonzero(strip.pixels < 128)
    return (int(cols.min()), int(rows.min()), int(cols.max()) + 1, int(rows.max()) + 1)


def test_figures_that_stand_alone_are_read(lone):
    read = {one: read_figures(strip, [place_of(strip)], "eng") for one, strip in lone.items()}
    assert {one: line and line.text for one, (line,) in read.items()} == {one: one for one in lone}


def test_a_page_number_that_was_left_out_is_read_again(lone):
    strip = lone["7"]
    box = place_of(strip)
    above = Word(text="light", box=(20, 2, 90, 20), confidence=96.0)
    mark = Word(text="1", box=box, confidence=0.0)
    line = Line(words=[above], baseline=(20, 20, 90, 20))
    reading = Reading(language="eng", size_px=(400, 120), blocks=[block_of([line])], left_out=[mark])
    found = _with_numbers(reading, strip, "eng", [])
    assert [word.text for word in found.words] == ["light", "7"]
    assert found.left_out == []
    # What stands amid the text, or is no figure, stays as it is.
    for other in (mark.model_copy(update={"text": "~"}), mark.model_copy(update={"box": (200, 4, 210, 18)})):
        assert _with_numbers(reading.model_copy(update={"left_out": [other]}), strip, "eng", []).left_out == [other]
