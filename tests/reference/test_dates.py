"""Dates against the Extended Date/Time Format: the years that they mean, and that what is offered of a page is such a date.

Source:
    Extended Date/Time Format, ISO 8601-2:2019, as the package edtf (its grammar is that of the Library of Congress) reads it.
"""

import pytest
from edtf import parse_edtf
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.bind.description import is_calendar_date
from hollowstack.core.find import written_dates, years_of

YEAR = st.integers(1000, 2099)


def meant(text: str) -> tuple[int, int]:
    """The first and the last year that the package finds in a date."""
    date = parse_edtf(text)
    return date.lower_strict().tm_year, date.upper_strict().tm_year


@pytest.mark.parametrize(
    "text",
    # Examples of the standard's levels 0 to 2, as the Library of Congress gives them (from memory), within our years.
    [
        "1985-04-12", "1985-04", "1985", "1964/2008", "2004-06/2006-08", "2004-02-01/2005-02-08", "2004-02-01/2005-02",
        "2004-02-01/2005", "2005/2006-02", "1984?", "2004-06~", "2004-06-11%", "201X", "20XX", "1560-XX", "1984~/2004-06",
        "1984/2004-06~", "2001-21",
    ],
)  # fmt: skip
def test_examples_of_the_standard(text):
    assert years_of(text) == meant(text)


@given(YEAR, YEAR, st.sampled_from(["", "?", "~", "%"]))
def test_spans(first, last, unsure):
    first, last = sorted((first, last))
    text = f"{first}{unsure}/{last}"
    assert years_of(text) == meant(text)


@given(st.integers(10, 20), st.integers(0, 9), st.booleans())
def test_figures_left_open(century, decade, whole):
    text = f"{century}XX" if whole else f"{century}{decade}X"
    assert years_of(text) == meant(text)


@pytest.mark.parametrize(
    "line",
    [
        "19th August 1927", "11. Februar 1927", "le 3 mai 1921", "February 1927", "03.05.1921", "1927-02-11", "31/12/1926",
        "Founded 1847 for the keeping of one light",
    ],
)  # fmt: skip
def test_what_is_offered_is_a_date_of_the_standard(line):
    (found,) = written_dates(line)
    assert is_calendar_date(found.date)
    assert str(parse_edtf(found.date)) == found.date
    assert years_of(found.date) == meant(found.date)
