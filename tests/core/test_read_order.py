"""Text in the order in which a person reads it: columns, headings, tables by their rows, notes in the margin."""

import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.read.order import by_hand, in_reading_order

SIZE = (2000, 2800)


def line(text: str, left: int, top: int, *, char: int = 20, height: int = 30, gap: int = 20) -> Line:
    """Words one after the other, each letter so wide."""
    words, at = [], left
    for part in text.split():
        words.append(Word(text=part, box=(at, top, at + char * len(part), top + height), confidence=95))
        at += char * len(part) + gap
    return Line(words=words, baseline=(left, top + height, at, top + height))


def column(texts: list[str], left: int, top: int, pitch: int = 50) -> Block:
    return block_of([line(text, left, top + at * pitch) for at, text in enumerate(texts)])


def ordered(*blocks: Block) -> list[str]:
    return in_reading_order(Reading(language="eng", size_px=SIZE, blocks=list(blocks))).text.split("\n")


PROSE = [
    "the lamp was lit at seven and",
    "burned clear until the morning",
    "when the fog came in again and",
    "the bell was rung by hand",
]
MORE = [
    "nobody had seen the boat since",
    "the keepers put out the light",
    "and went down to the landing",
    "to see what had become of it",
]


def test_columns_are_read_one_after_the_other_whatever_came_first():
    left, right = column(PROSE, 100, 300), column(MORE, 1100, 300)
    for blocks in ((left, right), (right, left)):
        assert [text for text in ordered(*blocks) if text] == [*PROSE, *MORE]


def test_a_heading_across_columns_comes_before_both_and_behind_those_above_it():
    above = column(PROSE, 100, 100), column(MORE, 1100, 100)
    heading = block_of([line("OF THE LANTERN AND ITS KEEPERS IN THE YEAR OF THE FOG", 200, 500)])
    below = column(MORE, 100, 700), column(PROSE, 1100, 700)
    read = [text for text in ordered(above[0], below[0], heading, below[1], above[1]) if text]
    assert read == [*PROSE, *MORE, heading.lines[0].text, *MORE, *PROSE]


def test_the_end_of_a_column_comes_before_the_next_one_though_nothing_stands_beside_it():
    left, right = column(PROSE, 100, 300), column(MORE[:2], 1100, 300)
    end = column(MORE[2:], 100, 500)
    assert [text for text in ordered(right, end, left) if text] == [*PROSE, *MORE[2:], *MORE[:2]]


def test_what_stands_higher_and_to_the_right_comes_first_where_there_are_no_columns():
    """The head of a letter: a line set in the middle, the address, and beside it the date."""
    head, address = column(["Harbour Office"], 900, 100), column(["Mr. E. Harrow", "Principal Keeper"], 100, 250)
    date, greeting = column(["11th February", "RECEIVED"], 1400, 250), column(["Dear Mr. Harrow"], 100, 500)
    body = column([f"{text} {text}" for text in PROSE], 100, 700)
    read = [text for text in ordered(address, greeting, head, date, body) if text]
    assert read[:5] == ["Harbour Office", "Mr. E. Harrow", "Principal Keeper", "11th February", "RECEIVED"]
    assert read[5] == "Dear Mr. Harrow"


def test_a_table_is_read_by_its_rows():
    names = column(["oil, best", "wicks", "glass chimneys", "biscuit"], 100, 300)
    first, second = (
        column(["14.20", "3.75", "11.00", "8.30"], 900, 302),
        column(["15.00", "4.00", "9.50", "8.80"], 1300, 298),
    )
    assert ordered(second, names, first) == [
        "oil, best 14.20 15.00", "wicks 3.75 4.00", "glass chimneys 11.00 9.50", "biscuit 8.30 8.80",
    ]  # fmt: skip


def test_a_cell_that_is_missing_leaves_the_others_in_their_rows():
    names = column(["oil", "wicks", "glass", "biscuit"], 100, 300)
    figures = block_of([line("14.20", 900, 300), line("11.00", 900, 400), line("8.30", 900, 450)])
    assert ordered(names, figures) == ["oil 14.20", "wicks", "glass 11.00", "biscuit 8.30"]


def test_what_stands_alone_in_the_last_row_of_a_table_is_part_of_it():
    names, figures = column(["oil", "wicks", "glass"], 100, 300), column(["14.20", "3.75", "11.00"], 900, 300)
    last = block_of([line("tar", 100, 450)]), block_of([line("2.50", 900, 450)])
    assert ordered(names, last[0], figures, last[1])[-1] == "tar 2.50"


def test_a_paragraph_below_a_table_is_none_of_its_rows():
    names, figures = column(["oil", "wicks", "glass"], 100, 300), column(["14.20", "3.75", "11.00"], 900, 300)
    assert ordered(column(["counted by the keeper"], 100, 450), names, figures)[-2:] == ["", "counted by the keeper"]


@pytest.mark.parametrize(("rows", "is_table"), [(2, False), (3, True)])
def test_two_rows_alone_may_be_chance(rows, is_table):
    names, figures = column(["oil", "wicks", "glass"][:rows], 100, 300), column(["14.20", "3.75", "11.00"][:rows], 900, 300)
    found = in_reading_order(Reading(language="eng", size_px=SIZE, blocks=[names, figures]))
    assert (found.blocks[0].kind == "table") == is_table


def test_columns_of_prose_that_stand_line_by_line_are_no_table():
    found = in_reading_order(
        Reading(language="eng", size_px=SIZE, blocks=[column(PROSE, 100, 300), column(MORE, 1100, 300)])
    )
    assert [block.kind for block in found.blocks] == ["text", "text"]


def test_prose_that_the_engine_calls_a_table_is_none():
    left, right = column(PROSE, 100, 300), column(MORE, 1100, 300)
    called = left.model_copy(update={"kind": "table"})
    assert [text for text in ordered(called, right) if text] == [*PROSE, *MORE]


@pytest.mark.parametrize(("gap", "joined"), [(20, True), (60, False)])
def test_the_beginning_of_a_line_that_came_by_itself_is_put_before_it(gap, joined):
    body = column(PROSE, 300, 300)
    width = 60
    piece = block_of([line("was", 300 - gap - width, 350)])
    assert (f"was {PROSE[1]}" in ordered(piece, body)) == joined


def test_a_word_amid_a_line_that_came_by_itself_is_put_into_it():
    words = [word for word in line(PROSE[0], 100, 300).words if word.text != "lit"]
    body = block_of([Line(words=words, baseline=(100, 330, 700, 330)), line(PROSE[1], 100, 350)])
    single = block_of(
        [
            next(
                line(PROSE[0], 100, 300).model_copy(update={"words": [word]})
                for word in line(PROSE[0], 100, 300).words
                if word.text == "lit"
            )
        ]
    )
    assert ordered(single, body)[0] == PROSE[0]


@pytest.mark.parametrize("left", [900, 60], ids=["outer right", "outer left"])
def test_a_note_in_the_margin_comes_behind_what_it_stands_beside(left):
    body = column([*PROSE, *MORE, *PROSE], 300 if left < 300 else 100, 300)
    note = block_of([line("see p. 4", left, 500, char=14, height=24)])
    after = block_of([line("signed by the keeper of the watch", 300 if left < 300 else 100, 1100)])
    assert [text for text in ordered(note, body, after) if text][-2:] == ["see p. 4", after.lines[0].text]


def test_a_note_that_the_engine_took_into_the_lines_is_taken_out_of_them():
    body = [line(text, 100, 300 + 50 * at) for at, text in enumerate([*PROSE, *MORE])]
    for at, text in ((2, "cf. the log"), (3, "of 1921")):
        added = line(text, 1300, body[at].words[0].box[1], char=14, height=26)
        body[at] = body[at].model_copy(update={"words": [*body[at].words, *added.words]})
    assert ordered(block_of(body)) == [*PROSE, *MORE, "", "cf. the log", "of 1921"]


def test_a_single_wide_gap_takes_no_line_apart():
    body = [line(text, 100, 300 + 50 * at) for at, text in enumerate(PROSE)]
    signed = line("fog", 1300, body[-1].words[0].box[1])
    body[-1] = body[-1].model_copy(update={"words": [*body[-1].words, *signed.words]})
    assert ordered(block_of(body)) == [*PROSE[:-1], f"{PROSE[-1]} fog"]


@given(st.integers(0, 2**32 - 1))
def test_nothing_is_lost_and_nothing_twice(seed):
    rng = random.Random(seed)
    words = [f"w{at}" for at in range(rng.randint(0, 30))]
    blocks, at = [], 0
    while at < len(words):
        count = rng.randint(1, 6)
        left, top = rng.randint(0, 1500), rng.randint(0, 2500)
        blocks.append(column(words[at : at + count], left, top))
        at += count
    found = in_reading_order(Reading(language="eng", size_px=SIZE, blocks=blocks))
    assert sorted(word.text for word in found.words) == sorted(words)


def test_pictures_stay_where_they_are_among_the_text():
    picture = Block(kind="picture", box=(100, 550, 1900, 900))
    found = in_reading_order(
        Reading(language="eng", size_px=SIZE, blocks=[column(MORE, 100, 1000), picture, column(PROSE, 100, 300)])
    )
    assert [block.kind for block in found.blocks] == ["text", "picture", "text"]
    assert found.blocks[0].lines[0].text == PROSE[0]


def test_an_order_by_hand_holds_for_the_blocks_that_are_named():
    a, b, c, d = (column([text], 100, 300 * at) for at, text in enumerate("abcd"))
    middle = [tuple(np.add(block.box[:2], block.box[2:]) / 2) for block in (a, b, c, d)]
    named = [(float(x), float(y)) for x, y in (middle[2], middle[0])]
    assert [block.lines[0].text for block in by_hand([a, b, c, d], named)] == ["c", "d", "a", "b"]
    assert by_hand([a, b], [(1999.0, 2799.0)]) == [a, b]
    assert by_hand([], named) == []
