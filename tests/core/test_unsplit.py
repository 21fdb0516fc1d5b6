"""Halves of a paragraph are put together; columns, cells and notes are left apart."""

import pytest

from hollowstack.core.ocr.model import Block, Line, Word, block_of
from hollowstack.core.read.unsplit import unsplit

TALL, PITCH, SPACE, WIDE = 30, 50, 24, 80


def line(x: int, row: int, count: int, text: str = "night") -> Line:
    words = [
        Word(text=text, box=(left, row * PITCH, left + WIDE, row * PITCH + TALL), confidence=95.0)
        for left in range(x, x + count * (WIDE + SPACE), WIDE + SPACE)
    ]
    end = words[-1].box[2]
    return Line(words=words, baseline=(float(x), row * PITCH + TALL, float(end), row * PITCH + TALL))


def block(x: int, rows: range, count: int, text: str = "night") -> Block:
    return block_of([line(x, row, count, text) for row in rows])


HALF = 5 * (WIDE + SPACE)


def halves(gap: int = SPACE, rows: range = range(2, 6)) -> tuple[Block, Block]:
    return block(0, rows, 5), block(HALF - SPACE + gap, rows, 5)


ABOVE = block(0, range(2), 10)


def test_halves_of_a_paragraph_are_one_again():
    left, right = halves()
    joined = unsplit([ABOVE, left, right])
    assert [len(one.lines) for one in joined] == [2, 4]
    assert [len(one.words) for one in joined[1].lines] == [10] * 4
    assert joined[1].lines[0].baseline == (0.0, 130.0, float(right.box[2]), 130.0)
    assert [word.box[0] for word in joined[1].lines[0].words] == sorted(word.box[0] for word in joined[1].lines[0].words)


@pytest.mark.parametrize(("gap", "whole"), [(30, True), (31, False), (60, False)])
def test_columns_stand_farther_apart_than_a_line_is_high(gap, whole):
    assert (len(unsplit([ABOVE, *halves(gap)])) == 2) == whole


def test_a_page_of_columns_alone_stays_as_it_is():
    """Nothing above or below goes on over both."""
    assert len(unsplit([*halves()])) == 2
    assert len(unsplit([block(0, range(2), 5), *halves()])) == 3
    far = block(0, range(12, 14), 10)
    assert len(unsplit([far, *halves()])) == 3


def test_lines_that_are_not_level_are_none_of_each_other_s():
    left, _ = halves()
    lower = block_of([one.model_copy(update={"words": [
        word.model_copy(update={"box": (word.box[0] + HALF, word.box[1] + 20, word.box[2] + HALF, word.box[3] + 20)})
        for word in one.words]}) for one in left.lines])  # fmt: skip
    assert len(unsplit([ABOVE, left, lower])) == 3


@pytest.mark.parametrize(("rows", "whole"), [(4, True), (2, False)])
def test_four_of_five_lines_must_go_on(rows, whole):
    left, right = block(0, range(2, 7), 5), block(HALF, range(2, 2 + rows), 5)
    made = unsplit([ABOVE, left, right])
    assert (len(made) == 2) == whole
    assert sum(len(one.words) for each in made for one in each.lines) == 20 + 25 + 5 * rows


def test_cells_of_a_table_are_left_to_it():
    left, right = (block(x, range(2, 6), 1, "144.7") for x in (0, WIDE + SPACE))
    assert len(unsplit([block(0, range(2), 2), left, right])) == 3
