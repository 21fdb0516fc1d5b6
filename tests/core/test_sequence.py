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


def test_an_unsure_number_is_not_believed():
    assert number_candidates(reading(("17", 0.95), sure=20)) == []


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
