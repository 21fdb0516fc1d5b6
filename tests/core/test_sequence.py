"""Printed page numbers and what their sequence says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.check.sequence import check_sequence, number_candidates, printed_numbers
from hollowstack.core.ocr.model import Line, Reading, Word


def reading(*lines: tuple[str, float], sure: float = 90.0) -> Reading:
    """Lines of text at shares of the page's height."""
    made = []
    for text, at in lines:
        words = [
            Word(text=word, box=(100 + 60 * n, round(at * 1000), 150 + 60 * n, round(at * 1000) + 12), confidence=sure)
            for n, word in enumerate(text.split())
        ]
        made.append(Line(words=words, baseline=(0, at * 1000, 500, at * 1000)))
    return Reading(language="eng", size_px=(700, 1000), lines=made)


@pytest.mark.parametrize(
    ("lines", "expected"),
    [
        ([("THE REGISTER", 0.05), ("some text", 0.4), ("17", 0.95)], [17]),
        ([("— 3 —", 0.95)], [3]),
        ([("[12]", 0.06)], [12]),
        ([("1927", 0.5), ("5 June 1927", 0.05)], []),
        ([("7", 0.05), ("8", 0.94)], [8, 7]),
        ([], []),
        ([("Page 7", 0.05)], [7]),
        ([("12 CHAPTER ONE", 0.05), ("some text", 0.4)], [12]),
        ([("CHAPTER ONE 13", 0.05), ("some text", 0.4)], [13]),
        ([("1950 1951 1952", 0.05)], []),
        ([("xiv", 0.95)], [14 - 10_000]),
        ([("xxxix", 0.95)], [39 - 10_000]),
        ([("mix", 0.95)], []),
    ],
)
def test_a_number_alone_near_an_edge(lines, expected):
    assert number_candidates(reading(*lines)) == expected


@pytest.mark.parametrize(("sure", "expected"), [(39.9, []), (40.0, [17])])
def test_an_unsure_number_is_not_believed(sure, expected):
    assert number_candidates(reading(("17", 0.95), sure=sure)) == expected


@pytest.mark.parametrize(("at", "expected"), [(0.133, [17]), (0.134, []), (0.5, []), (0.853, []), (0.855, [17])])
def test_numbers_stand_in_the_margins(at, expected):
    """A seventh of the page, above and below, to the middle of the line."""
    assert number_candidates(reading(("17", at))) == expected


@pytest.mark.parametrize(
    ("head", "expected"),
    [
        ("12 of the lamp and of the keeper at", [12]),
        ("12 of the lamp and of the keeper at the", []),
        ("of the lamp 12", [12]),
        ("of 12 lamp", []),
        ("12 of the 13", []),
        ("12", [12]),
        ("12 1927 lamp", []),
    ],
)
def test_a_running_head_has_few_words_and_one_number_at_an_end(head, expected):
    assert number_candidates(reading((head, 0.05), ("some text", 0.4), ("more of it", 0.6))) == expected


def test_a_running_head_is_the_first_line_or_the_last():
    inner = ("12 of the lamp", 0.08)
    assert number_candidates(reading(("above all", 0.03), inner, ("some text", 0.4))) == []
    assert number_candidates(reading(("above all", 0.03), ("some text", 0.4), ("of the lamp 12", 0.95))) == [12]


@pytest.mark.parametrize(("distance", "chosen"), [(3, 6), (4, 41)])
def test_three_neighbours_on_each_side_are_asked(distance, chosen):
    pages: list[list[int]] = [[41, 6], *([] for _ in range(distance - 1)), [6 + distance]]
    assert printed_numbers(pages)[0] == chosen
    assert printed_numbers([[6 - distance], *pages[1:-1], [41, 6]])[-1] == chosen


@pytest.mark.parametrize(
    ("numbers", "message"),
    [
        ([1, 3], "1 page seems to be missing between numbers 1 and 3."),
        ([1, 5], "3 pages seem to be missing between numbers 1 and 5."),
        ([4, 4], "Page number 4 is on page 1 of the stack too."),
        ([1, 2, 9, 3, 4], "Page number 9 stands out of its place."),
    ],
)
def test_what_is_said_of_it(numbers, message):
    assert [found.message for found in check_sequence(numbers)] == [message]


@pytest.mark.parametrize("number", range(1, 60))
def test_roman_numerals_are_read_as_they_are_named(number):
    """Up to the fiftieth, as front matter goes; what is beyond is no number of a page."""
    tens = ("", "x", "xx", "xxx", "xl", "l")[number // 10]
    text = tens + ("", "i", "ii", "iii", "iv", "v", "vi", "vii", "viii", "ix")[number % 10]
    known = number <= 39 or number in {*range(40, 44), *range(45, 49), 50}
    read = number_candidates(reading((text, 0.95)))
    assert read == ([number - 10_000] if known else [])
    if known:
        assert f"number {text} is" in check_sequence([*read, *read])[0].message


def test_of_two_the_one_that_goes_on_from_its_neighbours():
    assert printed_numbers([[5], [41, 6], [41, 7], [8]]) == [5, 6, 7, 8]


@pytest.mark.parametrize(
    ("numbers", "expected"),
    [
        ([1, 2, 3, 4], []),
        ([1, 2, 5, 6], [(2, "gap")]),
        ([1, None, 3, 4], []),
        ([1, 2, 2, 3], [(2, "double")]),
        ([1, 2, 9, 3, 4, 5], [(2, "swap")]),
        ([None, None], []),
        ([], []),
    ],
)
def test_what_the_sequence_says(numbers, expected):
    assert [(found.at, found.kind) for found in check_sequence(numbers)] == expected


@given(st.integers(1, 300), st.integers(2, 40), st.data())
def test_a_page_taken_out_is_a_gap_where_it_was(first, count, data):
    numbers = list(range(first, first + count))
    gone = data.draw(st.integers(1, count - 1))
    if gone == count - 1:
        return  # nothing tells of a page missing at the end
    del numbers[gone]
    assert [(found.at, found.kind) for found in check_sequence(numbers)] == [(gone, "gap")]


def test_roman_pages_come_first_and_are_named_as_printed():
    numbers = printed_numbers([number_candidates(reading((text, 0.95))) for text in ("xiii", "xiv", "xvi", "1", "2", "4")])
    assert [(found.at, found.kind) for found in check_sequence(numbers)] == [(2, "gap"), (5, "gap")]
    assert "between numbers xiv and xvi" in check_sequence(numbers)[0].message
