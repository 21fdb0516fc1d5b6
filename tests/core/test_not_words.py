"""What the engine takes for words and is none is left out of the text, and kept; words that are only doubtful stay."""

import pytest

from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.read.not_words import without_marks

PROSE = ["the", "lamp", "was", "lit", "at", "seven", "and", "burned", "clear", "until"]


def word(text: str, left: int, top: int = 100, width: int | None = None, height: int = 30, confidence: float = 95.0) -> Word:
    wide = 18 * len(text) if width is None else width
    return Word(text=text, box=(left, top, left + wide, top + height), confidence=confidence)


def prose() -> list[Word]:
    return [word(text, 100 + 130 * at) for at, text in enumerate(PROSE)]


def read(*lines: list[Word]) -> Reading:
    made = [Line(words=words, baseline=(0, 130, 900, 130)) for words in lines if words]
    return Reading(language="eng", size_px=(2000, 2000), blocks=[block_of(made)] if made else [])


def left_out(*lines: list[Word]) -> list[str]:
    found = without_marks(read(*lines))
    assert sorted(one.text for one in (*found.words, *found.left_out)) == sorted(one.text for line in lines for one in line)
    return [one.text for one in found.left_out]


@pytest.mark.parametrize(
    "mark",
    [
        word("|", 300, 400, width=5, height=40, confidence=96),
        word("a", 300, 400, width=6, height=6, confidence=60),
        word("eee", 300, 400, width=600, height=5, confidence=30),
        word("~*", 300, 400, confidence=20),
        word("J", 300, 400, confidence=40),
        word("freer", 300, 400, width=80, height=8, confidence=90).model_copy(update={"known": True}),
        word("WW", 300, 400, width=300, height=160, confidence=12),
    ],
    ids=[
        "a rule, read for sure",
        "a speck",
        "a rule across",
        "signs",
        "a letter alone in doubt",
        "a row of dots",
        "a stamp",
    ],
)
def test_what_is_no_text(mark):
    assert left_out(prose(), [mark]) == [mark.text]


@pytest.mark.parametrize(
    "real",
    [
        word("lantern", 300, 400, confidence=10).model_copy(update={"known": True}),
        word("2gth", 300, 400, confidence=35),
        word("a", 300, 400, confidence=90),
        word("7", 300, 400, confidence=79),
        word("—", 300, 400, confidence=85),
        word("freer", 300, 400, width=80, height=9, confidence=10).model_copy(update={"known": True}),
    ],
    ids=[
        "a doubtful word",
        "a doubtful figure",
        "a letter read for sure",
        "a figure nearly so",
        "a dash in its cell",
        "letters as low as letters get",
    ],
)
def test_what_is_text_stays_however_doubtful(real):
    assert left_out(prose(), [real]) == []


def test_a_sign_amid_its_line_stays():
    line = prose()
    line[4] = word("|", line[4].box[0] + 10, width=5)
    near = [
        one.model_copy(update={"box": (one.box[0] + (-50 if at > 4 else 50 if at < 4 else 0), *one.box[1:])})
        for at, one in enumerate(line)
    ]
    assert left_out(near) == []


@pytest.mark.parametrize("at", [0, -1])
def test_a_rule_at_the_end_of_a_line_is_the_edge_of_a_cell(at):
    line = prose()[:3]
    box = line[at].box
    rule = word("|", box[0] - 12 if at == 0 else box[2] + 8, width=4, height=50, confidence=85)
    assert left_out(prose(), [rule, *line] if at == 0 else [*line, rule]) == ["|"]


def test_a_rule_beside_a_word_is_none_of_its_letters():
    found = without_marks(read(prose(), [word("|1015", 300, 400), word("up|", 600, 400)]))
    assert [one.text for one in found.words[-2:]] == ["1015", "up"]
    assert "|1015" in found.words[-2].alternatives


def test_with_few_words_a_page_tells_nothing_of_its_letters():
    assert left_out([word("No.", 100, confidence=60), word("7", 900, confidence=70)]) == []


def test_a_page_without_words_and_blocks_without_lines():
    picture = Block(kind="picture", box=(0, 0, 9, 9))
    empty = Reading(language="eng", size_px=(9, 9), blocks=[picture])
    assert without_marks(empty) == empty
