"""What hands have put right lies over every later reading of the page, by its place on the image as captured."""

import numpy as np
import pytest

from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.read.corrections import Correction, laid_again, lay_over

IMAGE = "master:0"
SAME = Transform(np.eye(3))
SIZE = (1000, 600)


def reading(*lines: str, size: tuple[int, int] = SIZE, top: int = 100) -> Reading:
    """Words of a hundred pixels, fifty apart, a line every eighty."""
    made = []
    for row, text in enumerate(lines):
        y = top + 80 * row
        words = [
            Word(
                text=part, box=(50 + 150 * at, y, 150 + 150 * at, y + 40), confidence=60, doubt=0.7, alternatives=("other",)
            )
            for at, part in enumerate(text.split())
        ]
        made.append(Line(words=words, baseline=(50, y + 40, 900, y + 40)))
    return Reading(language="eng", size_px=size, blocks=[block_of(made)] if made else [])


def correction(box: tuple[int, int, int, int], before: str = "", after: str = "", **more: object) -> Correction:
    left, top, right, bottom = box
    given = {"image": IMAGE, "at": ((left + right) / 2 / SIZE[0], (top + bottom) / 2 / SIZE[1]), **more}
    return Correction(place=Quad.rectangle(*box), before=before, after=after, **given)  # type: ignore[arg-type]


def laid(what: Reading, *corrections: Correction, onto: Transform = SAME, image: str = IMAGE):
    return lay_over(what, {str(at): one for at, one in enumerate(corrections)}, onto, image)


SECOND = (200, 100, 300, 140)


def test_a_word_is_exchanged_where_it_stands():
    found = laid(reading("on 2gth inst."), correction(SECOND, "2gth", "29th"))
    assert found.reading.text == "on 29th inst."
    word = found.reading.words[1]
    assert (word.mark, word.doubt, word.box) == ("corrected", 0.0, SECOND)
    assert word.alternatives == ("2gth", "other")
    assert found.keys == {SECOND: "0"}
    assert found.lost == ()


def test_it_holds_whatever_is_read_there_later():
    one = correction(SECOND, "2gth", "29th")
    for text in ("on 29th inst.", "on Zqlh inst."):
        assert laid(reading(text), one).reading.text == "on 29th inst."


def test_a_word_that_falls_into_two_is_one_again():
    words = [("on", (50, 100, 150, 140)), ("2g", (200, 100, 245, 140)), ("th", (255, 100, 300, 140))]
    line = Line(words=[Word(text=t, box=b, confidence=50) for t, b in words], baseline=(50, 140, 300, 140))
    found = laid(Reading(language="eng", size_px=SIZE, blocks=[block_of([line])]), correction(SECOND, "2gth", "29th"))
    assert found.reading.text == "on 29th"
    assert found.reading.words[1].alternatives == ("2g th",)


def test_a_word_that_ran_into_its_neighbour_is_put_right_within():
    long = Word(text="on2gth", box=(50, 100, 300, 140), confidence=50)
    run = Reading(language="eng", size_px=SIZE, blocks=[block_of([Line(words=[long], baseline=(50, 140, 300, 140))])])
    assert laid(run, correction(SECOND, "2gth", "29th")).reading.text == "on29th"
    otherwise = laid(run, correction(SECOND, "Zgth", "29th"))
    assert (otherwise.reading.text, otherwise.lost) == ("on2gth", ("0",))


def test_a_word_that_was_not_found_this_time_is_put_into_its_line():
    found = laid(reading("on"), correction(SECOND, "2gth", "29th"))
    assert (found.reading.text, found.lost) == ("on 29th", ())


def test_the_page_may_be_levelled_cropped_and_scaled_meanwhile():
    onto = Transform.rotation(4.0, Point(500, 300)).then(Transform(np.diag([2.0, 2.0, 1.0])))
    moved = reading("on 2gth inst.").moved(onto, (2000, 1200))
    found = laid(moved, correction(SECOND, "2gth", "29th"), onto=onto)
    assert found.reading.text == "on 29th inst."


def test_what_lies_beyond_the_page_now_is_lost():
    onto = Transform(np.array([[1.0, 0, -400], [0, 1, 0], [0, 0, 1]]))
    found = laid(reading("keeper"), correction(SECOND, "2gth", "29th"), onto=onto)
    assert (found.reading.text, found.lost) == ("keeper", ("0",))


def test_on_another_image_the_word_is_looked_for_near_its_place():
    one = correction(SECOND, "2gth", "29th", image="former:0")
    assert laid(reading("on 2gth inst."), one).reading.text == "on 29th inst."
    there = laid(reading("on 29th inst."), one)
    assert (there.reading.words[1].mark, there.lost) == ("corrected", ())
    gone = laid(reading("on Zqth inst."), one)
    assert (gone.reading.text, gone.lost) == ("on Zqth inst.", ("0",))


@pytest.mark.parametrize(("away", "found"), [(110, True), (130, False)])
def test_how_near_that_must_be(away, found):
    one = correction((200 + away, 100, 300 + away, 140), "2gth", "29th", image="former:0")
    assert (laid(reading("on 2gth inst."), one).lost == ()) == found


def test_what_cannot_be_read_is_kept_as_a_guess_and_told_as_such():
    found = laid(reading("on 2gth inst."), correction(SECOND, "2gth", kind="unreadable"))
    assert found.reading.text == "on [illegible] inst."
    assert found.reading.words[1].text == "2gth"


def test_what_is_no_text_is_out_of_it_and_kept():
    found = laid(reading("on |~ inst."), correction(SECOND, "|~", kind="not text"))
    assert (found.reading.text, [word.text for word in found.reading.left_out]) == ("on inst.", ["|~"])
    # Where nothing is read there any more, nothing is to be left out, and nobody need be told.
    assert laid(reading("on"), correction((500, 500, 600, 540), "|~", kind="not text")).lost == ()


def test_nothing_is_read_in_an_area_that_is_left_out():
    found = laid(reading("on the rock", "of the light"), correction((0, 80, 1000, 150), kind="area"))
    assert found.reading.text == "of the light"
    assert [block.kind for block in found.reading.blocks] == ["text", "not read"]
    elsewhere = laid(reading("on the rock"), correction((0, 80, 1000, 150), kind="area", image="former:0"))
    assert (elsewhere.reading.text, elsewhere.lost) == ("on the rock", ("0",))


def test_words_put_right_go_with_the_area_that_they_lie_in():
    area = correction((0, 80, 1000, 150), kind="area")
    found = laid(reading("on 2gth", "of the light"), correction(SECOND, "2gth", "29th"), area)
    assert (found.reading.text, found.lost) == ("of the light", ())


def test_the_later_of_two_corrections_of_a_place_counts():
    found = laid(reading("on 2gth"), correction(SECOND, "2gth", "20th"), correction(SECOND, "20th", "29th"))
    assert found.reading.text == "on 29th"


def test_an_order_holds_for_the_blocks_of_every_reading():
    blocks = [block_of(reading(text, top=top).lines) for text, top in (("first", 100), ("second", 300))]
    both = Reading(language="eng", size_px=SIZE, blocks=blocks)
    order = correction((0, 0, 1000, 600), kind="order", order=((100.0, 320.0), (100.0, 120.0)))
    assert laid(both, order).reading.text == "second\n\nfirst"


def test_what_is_put_down_for_later_is_laid_the_same():
    one = correction(SECOND, "2gth", "29th")
    fixed = {"image": IMAGE, "onto": SAME.matrix.tolist(), "corrections": {"a": one.model_dump(mode="json")}}
    assert laid_again(reading("on 2gth inst."), fixed) == laid(reading("on 2gth inst."), one).reading


def test_pictures_and_blocks_without_words_stay():
    picture = Block(kind="picture", box=(0, 300, 900, 500))
    with_picture = reading("on 2gth").model_copy(update={"blocks": [*reading("on 2gth").blocks, picture]})
    assert laid(with_picture, correction(SECOND, "2gth", "29th")).reading.blocks[-1] == picture
