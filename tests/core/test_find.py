"""Finding: how words are compared, what questions mean, what stands where."""

import sqlite3

import pytest

from hollowstack.core.find import NO_WORDS, QuestionError, answer_of, joined, nearly, question_of, tokens, written, years_of
from hollowstack.core.ocr.model import Line, Reading, Word, block_of


def reading(*lines: str, **of_words: dict) -> Reading:
    """Lines of words; what is told of a word by its text."""
    made = []
    for row, line in enumerate(lines):
        words = [
            Word(text=text, box=(100 * at, 50 * row, 100 * at + 90, 50 * row + 40), confidence=95, **of_words.get(text, {}))
            for at, text in enumerate(line.split())
        ]
        made.append(Line(words=words, baseline=(0, 50 * row + 40, 900, 50 * row + 40)))
    return Reading(language="eng", size_px=(1000, 1400), blocks=[block_of(made)])


# How words are compared


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("The Lamp-house, 1927.", ["the", "lamp", "house", "1927"]),
        ("Café Ærø Łódź", ["cafe", "aero", "lodz"]),
        ("Straße STRASSE ﬁre ſo", ["strasse", "strasse", "fire", "so"]),
        ("Ёлка й", ["елка", "и"]),
        ("Ἀθῆναι", ["αθηναι"]),
        ("हिन्दी में", ["हिन्दी", "में"]),
        ("灯台 とうだい", ["灯", "台", "と", "う", "だ", "い"]),
        ("שָׁלוֹם كِتَاب", ["שלום", "كتاب"]),
        ("27/114 SL_3 keeper’s", ["27", "114", "sl", "3", "keeper", "s"]),
        ("— … *", []),
    ],
)
def test_words_are_compared_without_what_keyboards_and_engines_lose(text, found):
    assert tokens(text) == found


def test_an_index_parts_words_as_they_are_compared():
    text = "The Lamp-house of Łódź, हिन्दी 灯台 in ½ Straße ﬁre, 27/114"
    index = sqlite3.connect(":memory:")
    index.execute(
        """CREATE VIRTUAL TABLE words USING fts5(t, tokenize="unicode61 remove_diacritics 0 categories 'L* N* Co M*'")"""
    )
    index.execute("INSERT INTO words VALUES (?)", [" ".join(tokens(text))])
    index.execute("CREATE VIRTUAL TABLE terms USING fts5vocab('words', 'row')")
    assert {row[0] for row in index.execute("SELECT term FROM terms")} == set(tokens(text))


# The words of a page


def test_a_word_that_was_parted_between_lines_is_whole_and_its_parts_are_found():
    given = written(reading("the light-", "house stood", "an oil-", "Lamp and a", "dash - here"))
    assert joined(given.words) == "the lighthouse stood an oil lamp and a dash here"
    assert [one.words for one in given.words if one.text == "lighthouse"] == [(1, 2)]
    assert joined(given.parts) == "light house"


@pytest.mark.parametrize("hyphen", ["-", "\u2010", "\u00ad", "\u00ac"])
def test_hyphens_of_any_kind_part_words(hyphen):
    assert joined(written(reading(f"light{hyphen}", "house")).words) == "lighthouse"


def test_a_dash_behind_figures_parts_no_word():
    assert joined(written(reading("from 1921-", "and after")).words) == "from 1921 and after"


def test_words_of_two_blocks_are_two():
    one, other = reading("the light-"), reading("house")
    both = one.model_copy(update={"blocks": [*one.blocks, *other.blocks]})
    assert joined(written(both).words) == "the light house"


def test_what_doubtful_words_may_be_stands_by_them_and_what_nobody_can_read_is_nothing():
    doubts = {"tbe": {"doubt": 0.6, "alternatives": ("the", "tie")}, "sure": {"alternatives": ("cure",)}}
    given = written(reading("tbe sure lost", **doubts, lost={"mark": "unreadable"}))
    assert (joined(given.words), joined(given.others)) == ("tbe sure", "the tie")
    put_right = written(reading("tbe", tbe={"doubt": 0.6, "alternatives": ("the",), "mark": "corrected"}))
    assert joined(put_right.others) == ""


# Questions


@pytest.mark.parametrize(
    ("asked", "match"),
    [
        ("lamp keeper", '"lamp" AND "keeper"'),
        ('"oil lamp" room', '"oil lamp" AND "room"'),
        ("“oil lamp”", '"oil lamp"'),
        ('"oil lamp', '"oil lamp"'),
        ("lam*", '"lam" *'),
        ("lamp OR lantern oil", '("lamp" OR "lantern") AND "oil"'),
        ("lamp | lantern|light", '("lamp" OR "lantern" OR "light")'),
        ("lamp -oil", '("lamp") NOT "oil"'),
        ("lamp NOT oil -\"fog bell\"", '("lamp") NOT ("oil" OR "fog bell")'),
        ("lamp NEAR oil", 'NEAR("lamp" "oil", 10)'),
        ("lamp NEAR/3 oil NEAR/3 room", 'NEAR("lamp" "oil" "room", 3)'),
        ("lamp AND oil", '"lamp" AND "oil"'),
        ("SL/27/114", '"sl 27 114"'),
        ("1921-1934", '"1921 1934"'),
        ("or near and", '"or" AND "near" AND "and"'),
        ('near" ) OR (x', None),
    ],
)  # fmt: skip
def test_what_a_question_means(asked, match):
    question = question_of(asked)
    assert match is None or question.match == match
    index = sqlite3.connect(":memory:")
    index.execute("CREATE VIRTUAL TABLE words USING fts5(t)")
    index.execute("SELECT * FROM words WHERE words MATCH ?", [f"{{t}} : ({question.match})"])  # and FTS5 understands it


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ("", NO_WORDS),
        ("* - …", NO_WORDS),
        ("-oil", "Say a word that is to be there, too: what is not there cannot be found by itself."),
        ("OR lamp", "OR stands between two words: put one before it and one behind."),
        ("lamp OR", "OR stands between two words: put one behind it."),
        ("lamp NEAR/4 OR oil", "OR stands between two words: put one before it and one behind."),
        ("lamp OR -oil", "OR stands between two words that are to be there."),
        ("a" * 201, "The question is too long: ask for up to 200 characters."),
    ],
)
def test_what_cannot_be_asked_is_said(asked, said):
    with pytest.raises(QuestionError) as told:
        question_of(asked)
    assert str(told.value) == said


def test_the_longest_question_can_be_asked():
    assert question_of("a" * 200).terms[0].words == ("a" * 200,)


@pytest.mark.parametrize(
    ("asked", "typed"),
    [
        ('"oil lamp" -room', '"oil lamp"'),
        ("SL/27* bell", '"sl 27"* bell'),
        ("lamp OR bell NEAR/3 fog", "lamp OR bell NEAR/3 fog"),
        ("lamps", "lamps OR lamp OR lumps"),
    ],
)
def test_what_is_wanted_can_be_asked_of_a_page(asked, typed):
    question = question_of(asked).forgiving(lambda words: {"lamp", "lumps"} & set(words))
    assert question.typed == typed
    assert question_of(question.typed).terms != ()


def test_what_is_asked_of_a_page_is_never_too_long():
    question = question_of("lamp " + "oil " * 38).forgiving(lambda words: set(sorted(words)[:40]))
    assert len(question.typed) <= 200
    assert question_of(question.typed).terms[0].words == ("lamp",)


def test_while_it_is_typed_every_word_may_be_a_beginning():
    assert question_of('lam "oil" -ro', beginnings=True).match == '("lam" * AND "oil") NOT "ro"'


def test_words_one_slip_away_are_looked_for_where_they_stand_anywhere():
    known = {"lamb", "lamps", "damp", "lump", "oil"}
    forgiving = question_of('lamp oil lamp* "lamp"').forgiving(lambda words: known & set(words))
    assert forgiving.terms[0].others == ("damp", "lamb", "lamps", "lump")
    assert forgiving.terms[1].others == ()  # too short
    assert forgiving.terms[2].others == ()  # a beginning
    assert '("lamp" OR "damp" OR "lamb" OR "lamps" OR "lump")' in forgiving.match


@pytest.mark.parametrize(
    ("word", "near", "far"),
    [
        ("lamp", {"lam", "amp", "lampe", "lump", "lmap", "clamp"}, {"lamp", "limbs", "lapm2"}),
        ("маяк", {"маяки", "маак"}, {"маяк"}),
        ("1927", set(), {"1921"}),
        ("oil", set(), {"oils"}),
        ("l927", set(), {"1927"}),
    ],
)
def test_one_slip(word, near, far):
    found = nearly(word)
    assert near <= found
    assert not far & found


@pytest.mark.parametrize("word", ["1927", "l927", "oil", "sl27x"])
def test_figures_and_short_words_are_no_slips(word):
    assert nearly(word) == frozenset()


# Where they stand


def test_the_words_that_answer_are_marked_and_the_line_that_answers_best_is_shown():
    page = reading("the lamp was lit", "by the keeper of the lamp", "a keeper slept")
    answer = answer_of(page, question_of("lamp keeper"))
    assert [one.text for one in answer.marked] == ["lamp", "keeper", "lamp", "keeper"]
    assert answer.line is page.lines[1]


def test_words_of_a_phrase_are_marked_where_they_follow_each_other():
    page = reading("oil for the lamp", "the oil", "lamp and oil lamps")
    assert [one.box[:2] for one in answer_of(page, question_of('"oil lamp"')).marked] == [(100, 50), (0, 100)]
    assert [one.text for one in answer_of(page, question_of('"oil lamp*"')).marked] == ["oil", "lamp", "oil", "lamps"]


def test_both_halves_of_a_parted_word_are_marked():
    page = reading("the light-", "house stood")
    assert [one.text for one in answer_of(page, question_of("lighthouse")).marked] == ["light-", "house"]
    assert [one.text for one in answer_of(page, question_of("light")).marked] == ["light-"]


def test_what_may_be_meant_is_marked_as_unsure():
    page = reading("tbe lump", tbe={"doubt": 0.6, "alternatives": ("the",)})
    question = question_of("the lamp").forgiving(lambda words: {"lump"} & set(words))
    assert [(one.text, one.unsure) for one in answer_of(page, question).marked] == [("tbe", True), ("lump", True)]
    twice = question_of("thee").forgiving(lambda words: {"the"} & set(words))
    assert [one.text for one in answer_of(page, twice).marked] == ["tbe"]


def test_a_word_that_answers_surely_is_sure_whatever_else_it_answers():
    question = question_of("lamp lamb").forgiving(lambda words: {"lamb"} & set(words))
    assert [one.unsure for one in answer_of(reading("lamb"), question).marked] == [False]


def test_of_lines_that_answer_alike_the_first_is_shown():
    page = reading("the lamp", "a lamp")
    assert answer_of(page, question_of("lamp")).line is page.lines[0]


def test_other_readings_of_a_word_are_no_phrase():
    page = reading("tbe", tbe={"doubt": 0.6, "alternatives": ("the", "tie")})
    assert answer_of(page, question_of('"the tie"')).marked == ()


def test_where_nothing_answers_there_is_no_line():
    assert answer_of(reading("the lamp"), question_of("bell")) == ((), None)


# Years


@pytest.mark.parametrize(
    ("date", "years"),
    [
        ("1927", (1927, 1927)),
        ("about 1930", (1930, 1930)),
        ("1921-05-03", (1921, 1921)),
        ("1921–1934", (1921, 1934)),
        ("3 May 1921 to 4 June 1919", (1919, 1921)),
        ("192X", (1920, 1929)),
        ("19xx", (1900, 1999)),
        ("the 1920s", (1920, 1929)),
        ("1925s", (1925, 1925)),
        ("12345", None),
        ("0999", None),
        ("1000 2099", (1000, 2099)),
        ("undated", None),
    ],
)
def test_which_years_a_date_means(date, years):
    assert years_of(date) == years
