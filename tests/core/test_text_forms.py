"""What is written of a text is read back the same, in every form that says where words stand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.ocr.choices import MOST, alternatives, margin
from hollowstack.core.ocr.model import ILLEGIBLE, Block, Line, Reading, Word, block_of
from hollowstack.core.page.errors import ReadError
from hollowstack.core.read.alto import from_alto, to_alto
from hollowstack.core.read.hocr import from_hocr, to_hocr
from hollowstack.core.read.texts import written

_TEXT = st.text(st.characters(blacklist_categories=("Cs", "Cc", "Zs", "Zl", "Zp", "Cn", "Co")), min_size=1, max_size=12)


@st.composite
def words(draw: st.DrawFn) -> Word:
    left, top = draw(st.integers(0, 1800)), draw(st.integers(0, 2800))
    return Word(
        text=draw(_TEXT),
        box=(left, top, left + draw(st.integers(1, 200)), top + draw(st.integers(1, 200))),
        confidence=draw(st.integers(0, 1000)) / 10,
        alternatives=tuple(draw(st.lists(_TEXT, max_size=3))),
        mark=draw(st.sampled_from(["", "", "corrected", "unreadable"])),
    )


@st.composite
def readings(draw: st.DrawFn) -> Reading:
    blocks = []
    for _ in range(draw(st.integers(0, 3))):
        kind = draw(st.sampled_from(["text", "table", "picture", "not read"]))
        if kind in ("picture", "not read"):
            blocks.append(Block(kind=kind, box=(1, 2, 300, 400)))
            continue
        made = draw(st.lists(st.lists(words(), min_size=1, max_size=3), min_size=1, max_size=3))
        blocks.append(block_of([_line(some, draw(st.integers(-30, 30))) for some in made], kind))
    return Reading(language=draw(st.sampled_from(["eng", "deu+eng", "frk"])), size_px=(2000, 3000), blocks=blocks)


def _line(some: list[Word], fall: int) -> Line:
    """Its baseline runs from one side of its box to the other, as the engine gives it."""
    line = Line(words=some, baseline=(0, 0, 0, 0))
    left, _, right, bottom = line.box
    return line.model_copy(update={"baseline": (float(left), float(bottom), float(right), float(bottom + fall))})


@given(st.lists(readings(), max_size=2))
def test_alto_is_read_back_as_it_was_written(pages):
    assert from_alto(to_alto(pages, "box 27.pdf")) == pages


@given(st.lists(readings(), max_size=2))
def test_hocr_is_read_back_as_it_was_written(pages):
    found = from_hocr(to_hocr(pages, "box 27.pdf"))
    assert [_level(page) for page in found] == [_level(page) for page in pages]
    for before, after in zip(
        (line for page in pages for line in page.lines), (line for page in found for line in page.lines), strict=True
    ):
        assert after.baseline == pytest.approx(before.baseline, abs=0.1)


@pytest.mark.parametrize(("write", "read"), [(to_alto, from_alto), (to_hocr, from_hocr)])
@pytest.mark.parametrize(
    ("text", "mark"), [(ILLEGIBLE, "corrected"), (ILLEGIBLE, "unreadable"), (ILLEGIBLE, ""), ("", "unreadable")]
)
def test_only_the_mark_says_whether_nobody_can_read_a_word(write, read, text, mark):
    """Somebody may have put a word right to just what stands for an unreadable one."""
    word = Word(text=text, box=(0, 0, 9, 9), confidence=9, mark=mark)
    [back] = read(write([Reading(language="eng", size_px=(9, 9), blocks=[block_of([_line([word], 0)])])], "x"))
    assert list(back.words) == [word]


def _level(page: Reading) -> Reading:
    """Without baselines, which hOCR keeps as a slope and a height."""
    blocks = [
        block.model_copy(update={"lines": [line.model_copy(update={"baseline": (0, 0, 0, 0)}) for line in block.lines]})
        for block in page.blocks
    ]
    return page.model_copy(update={"blocks": blocks})


@pytest.mark.parametrize("read", [from_alto, from_hocr])
@pytest.mark.parametrize("data", [b"", b"no xml", b"<!DOCTYPE html>\n<html", b"<a/>\n<b/>"])
def test_what_is_no_such_document_is_refused(read, data):
    with pytest.raises(ReadError, match="choose another file"):
        read(data)


def test_entities_that_would_fill_the_memory_are_refused():
    bomb = b'<?xml version="1.0"?>\n<!DOCTYPE a [<!ENTITY b "bbbb"><!ENTITY c "&b;&b;">]>\n<a>&c;</a>'
    with pytest.raises(ReadError):
        from_alto(bomb)


def test_pages_of_plain_text_have_a_form_feed_between_them():
    one = Reading(
        language="eng", size_px=(9, 9), blocks=[block_of([_line([Word(text="light", box=(0, 0, 9, 9), confidence=9)], 0)])]
    )
    assert written("txt", [one, one], "x") == b"light\flight"


# Other readings of a word, from what each of its characters may be.


def choices(*options: str) -> list[list[tuple[str, float]]]:
    """For each character what it may be, each two units dearer than the one before."""
    return [[(char, 2.0 * at + 1) for at, char in enumerate(one)] for one in options]


def test_the_cheapest_exchange_comes_first():
    given_choices = [[("c", 1.0)], [("b", 1.0), ("h", 7.0)], [("a", 2.0), ("s", 12.0)], [("i", 1.0)], [("r", 0.5)]]
    assert alternatives("cbair", given_choices) == ("chair", "cbsir", "chsir")


def test_a_character_that_the_word_list_chose_is_where_others_are_reckoned_from():
    """The engine took the second choice: the first is the likeliest other reading."""
    assert alternatives("Y", [[("y", 2.0), ("Y", 6.0), ("v", 9.0)]]) == ("y", "v")


def test_a_gap_before_a_word_is_none_of_its_characters():
    with_gap = [[(" ", 1.0), ("_", 20.0)], *choices("ab")]
    assert alternatives("a", with_gap) == alternatives("a", choices("ab")) == ("b",)


@pytest.mark.parametrize("given_choices", [[], choices("ab", "cd"), [[]]])
def test_nothing_is_told_where_characters_and_choices_do_not_belong_together(given_choices):
    assert alternatives("a", given_choices) == ()
    assert margin("a", given_choices) == 1.0


def test_never_more_than_are_wanted_and_never_the_word_itself():
    found = alternatives("aaaa", choices("abcdef", "abcdef", "abcdef", "abcdef"))
    assert len(found) == MOST == len(set(found))
    assert "aaaa" not in found


def test_what_costs_too_much_is_no_choice():
    assert alternatives("a", [[("a", 1.0), ("b", 41.0), ("c", 41.1)]]) == ("b",)


def test_a_sign_that_was_no_choice_stays_as_it_is():
    assert alternatives("“a", [[("|", 2.0), ("~", 3.0)], [("a", 1.0), ("o", 4.0)]]) == ("“o",)
    assert alternatives("“", [[("|", 2.0)]]) == ()


@pytest.mark.parametrize(("other", "wanted"), [(1.0, 0.0), (11.0, 0.5), (21.0, 1.0), (60.0, 1.0), (0.0, 0.0)])
def test_the_margin_is_that_of_the_least_sure_character(other, wanted):
    assert margin("ab", [[("a", 1.0), ("x", 99.0)], [("b", 1.0), ("h", other)]]) == wanted
