"""What an engine reads in pictures is left out; what stands on paper stays, however doubtful it is."""

import numpy as np
import pytest

from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.read.in_pictures import clear_around, without_pictures

SIZE = (1000, 1400)


def ground() -> np.ndarray:
    """A half-tone on the upper half, paper below."""
    page = np.full((SIZE[1], SIZE[0]), 240, np.uint8)
    y, x = np.mgrid[0:700, 0:1000]
    page[:700] = np.where((x // 3 + y // 3) % 2, 40, 225)
    return page


def word(x: int, y: int, confidence: float = 30.0, text: str = "ee") -> Word:
    return Word(text=text, box=(x, y, x + 60, y + 24), confidence=confidence)


def reading(*words: Word) -> Reading:
    lines = [Line(words=[one], baseline=(one.box[0], one.box[3], one.box[2], one.box[3])) for one in words]
    return Reading(language="eng", size_px=SIZE, blocks=[block_of(lines), Block(kind="picture", box=(0, 0, 9, 9))])


def kept(*words: Word) -> list[Word]:
    made = without_pictures(reading(*words), ground())
    assert sorted(one.box for one in [*made.words, *made.left_out]) == sorted(one.box for one in words)
    assert [block.kind for block in made.blocks][-1] == "picture"
    return made.words


IN_PICTURE = (word(100, 100), word(300, 200), word(500, 300))


def test_letters_in_dots_are_left_out_and_the_caption_stays():
    caption = word(200, 1000, 95.0, "Plate")
    assert kept(*IN_PICTURE, caption) == [caption]


def test_doubtful_words_on_paper_stay():
    doubtful = [word(200, 900 + 60 * at) for at in range(5)]
    assert kept(*IN_PICTURE, *doubtful) == doubtful


@pytest.mark.parametrize(("count", "left"), [(2, 2), (3, 0)])
def test_one_or_two_of_them_are_doubts(count, left):
    assert len(kept(*IN_PICTURE[:count])) == left


@pytest.mark.parametrize(("confidence", "stays"), [(79.9, False), (80.0, True)])
def test_a_sure_word_stays_wherever_it_stands(confidence, stays):
    title = word(700, 600, confidence, "Title")
    assert (title in kept(*IN_PICTURE, title)) == stays


@pytest.mark.parametrize(("confidence", "stays"), [(87.9, False), (88.0, True)])
def test_among_them_a_word_must_be_surer(confidence, stays):
    page = ground()
    page[194:238, 300:420] = 240  # something light in the picture
    among = word(330, 204, confidence, "oo")
    assert 0.7 <= clear_around(page, among.box) < 0.93
    noise = word(330, 240), word(100, 100), word(500, 300)
    made = without_pictures(reading(*noise, among), page)
    assert len(made.left_out) == (3 if stays else 4)
    assert (among in made.words) == stays


def test_paper_around_a_word_is_told_whatever_its_tone():
    page = np.full((200, 400), 150, np.uint8)
    page[90:110, 100:180] = 30
    assert clear_around(page, (100, 90, 180, 110)) == 1.0
    assert clear_around(ground(), (100, 100, 160, 124)) == pytest.approx(0.5, abs=0.06)


def test_a_word_at_the_page_s_end_is_looked_at_as_far_as_there_is_page():
    page = np.full((20, 20), 240, np.uint8)
    assert clear_around(page, (0, 0, 20, 20)) == 1.0


def lines_of_text(suspects: int) -> list[Word]:
    """Three close lines of five words, smeared so that hardly any paper is seen around them; some of them are unsure."""
    words = [word(100 + 70 * (at % 5), 100 + 34 * (at // 5), 85.0, "word") for at in range(15)]
    for at in range(suspects):
        words[at * 2] = word(*words[at * 2].box[:2], 30.0, "wrrd")
    return words


@pytest.mark.parametrize(("suspects", "left"), [(4, 0), (8, 8)])
def test_smeared_lines_of_text_keep_their_doubtful_words(suspects, left):
    """Where most near them are words, they are words, too; among their like they are part of a picture."""
    made = without_pictures(reading(*lines_of_text(suspects)), ground())
    assert sum(one.confidence == 30.0 for one in made.left_out) == left
