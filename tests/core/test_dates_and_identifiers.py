"""Dates and identifiers as they stand in a line of text."""

import calendar
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.find import IdentifierError, checked, pattern_of, written_dates, written_identifiers


def dates(text: str) -> list[str]:
    return [one.date for one in written_dates(text)]


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("Rock of Skerry, 14th February, 1927.", ["1927-02-14"]),
        ("on the 2nd of May 1921 and Feb. 14, 1927", ["1921-05-02", "1927-02-14"]),
        ("14. März 1927", ["1927-03-14"]),
        ("le 1er mai 1921", ["1921-05-01"]),
        ("14 de febrero de 1927", ["1927-02-14"]),
        ("14 stycznia 1927", ["1927-01-14"]),
        ("14 января 1927 г.", ["1927-01-14"]),
        ("14 Φεβρουαρίου 1927", ["1927-02-14"]),
        ("FEBRUARY 1927", ["1927-02"]),
        ("1927-02-14", ["1927-02-14"]),
        ("14.2.1927 or 14. 2. 1927", ["1927-02-14", "1927-02-14"]),
        ("in 1927, not 1926.", ["1927", "1926"]),
        ("14/2/1927, 2/14/1927, 2/2/1927", ["1927-02-14", "1927-02-14", "1927-02-02"]),
        # Either may be the day: the year alone is sure.
        ("5/6/1927 5/12/1927", ["1927", "1927"]),
        ("12/12/1927 12/11/1927", ["1927-12-12", "1927"]),
        ("13/12/1927 12/13/1927", ["1927-12-13", "1927-12-13"]),
    ],
)
def test_dates_are_what_they_mean(text: str, meant: list[str]):
    assert dates(text) == meant


@pytest.mark.parametrize(
    "text",
    [
        "1499 and 2100", "page 12345", "no. 1927/4", "SL/1927/12", "0.1927", "1927%", "A1927", "30.2.1927", "1927-02-30",
        "14 lamp 1927x", "13.13.1927", "14 sept", "",
    ],
)  # fmt: skip
def test_what_is_no_date(text: str):
    assert dates(text) == []


@pytest.mark.parametrize("year", [1500, 2099])
def test_the_first_and_the_last_year(year: int):
    assert dates(f"in {year}") == [str(year)]
    assert dates(f"1 May {year}") == [f"{year}-05-01"]


def test_a_month_shortened_needs_its_day():
    assert dates("mar 1927") == ["1927"]
    assert dates("3 mar 1927") == ["1927-03-03"]
    assert dates("31 April 1927") == ["1927-04"]  # no such day: its month is sure


@given(st.dates(date(1500, 1, 1), date(2099, 12, 31)))
def test_every_day_is_read_as_it_is_written(day: date):
    month = calendar.month_name[day.month]
    for text in (
        f"{day.day} {month} {day.year}", f"{month} {day.day}, {day.year}", day.isoformat(), f"{day.day}.{day.month}.{day.year}",
    ):  # fmt: skip
        assert dates(f"dated {text}, here") == [day.isoformat()]


def test_places_are_those_of_the_characters():
    text = "dated 3 May 1921 here"
    (one,) = written_dates(text)
    assert text[one.start : one.end] == "3 May 1921"


def found(text: str, *patterns: str) -> list[str]:
    return [one.text for one in written_identifiers(text, [checked(one) for one in patterns])]


@pytest.mark.parametrize(
    ("example", "pattern", "text", "all_found"),
    [
        ("SL/27/114", "SL/#/#", "see SL/27/114, SL/3/2.", ["SL/27/114", "SL/3/2"]),
        ("MS 12", "MS #", "MS  12 and MS 7; MSS 9", ["MS  12", "MS 7"]),
        ("D.4-1927", "D.#-#", "D.12-1930, Dx12-1930", ["D.12-1930"]),
        ("№ 7", "№ #", "№ 12", ["№ 12"]),
    ],
)
def test_an_example_makes_a_pattern(example: str, pattern: str, text: str, all_found: list[str]):
    assert pattern_of(example) == pattern
    assert found(text, pattern) == all_found


def test_part_of_a_longer_one_is_another_one():
    assert found("SL/1/2/3 XSL/1/2 SL/1/2x SL/1/2.5 /SL/1/2", "SL/#/#") == []
    assert found("(SL/1/2), SL/3/4. SL/5/6/", "SL/#/#") == ["SL/1/2", "SL/3/4", "SL/5/6/"[:-1]]


def test_letters_may_be_any_and_nothing_is_found_twice():
    assert found("KB-7 QR-8", "@-#") == ["KB-7", "QR-8"]
    assert found("SL/1/2", "SL/#/#", "@/#/#") == ["SL/1/2"]


@pytest.mark.parametrize(
    ("pattern", "why"),
    [("SL/27", "one text alone"), ("#", "every number"), ("# @", "every number"), ("x#" * 41, "82 characters")],
)
def test_patterns_that_will_not_do(pattern: str, why: str):
    with pytest.raises(IdentifierError, match=why):
        checked(pattern)


@pytest.mark.parametrize(("example", "why"), [("Letters", "no figures"), ("1927", "every number"), ("", "no figures")])
def test_examples_that_tell_nothing(example: str, why: str):
    with pytest.raises(IdentifierError, match=why):
        pattern_of(example)


@given(st.integers(0, 10**9), st.integers(0, 10**9))
def test_any_figures_of_its_kind_are_found(first: int, second: int):
    assert found(f"file {'SL'}/{first}/{second} here", pattern_of("SL/27/114")) == [f"SL/{first}/{second}"]


def test_a_week_of_days_in_one_line():
    days = [date(1927, 2, 14) + timedelta(days=at) for at in range(7)]
    assert dates("; ".join(day.isoformat() for day in days)) == [day.isoformat() for day in days]
