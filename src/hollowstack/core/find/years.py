"""Which years a date means, as people and rules write dates: 1927, about 1930, 3 May 1921, 1921–1934, 192X, the 1920s."""

import re
from typing import NamedTuple

_YEARS = re.compile(r"(?<!\d)(1\d|20)(\d\d|\dX|XX)(?:(?<=0)(s)\b)?(?!\d)", re.IGNORECASE)
"""Years from 1000 to 2099, figures of them left open (EDTF), and decades."""


class Years(NamedTuple):
    """From one year to another, both meant."""

    first: int
    last: int


def years_of(date: str) -> Years | None:
    """The years that a date names, from the first to the last of them; None where it names none.

    Source:
        Figures left open as X: Extended Date/Time Format (ISO 8601-2:2019, annex A). A decade as "1920s": common practice,
        no source. Calendars other than the Gregorian one are not known.
    """
    found = [_years(*match.groups()) for match in _YEARS.finditer(date)]
    return Years(min(one.first for one in found), max(one.last for one in found)) if found else None


def _years(century: str, rest: str, decade: str | None) -> Years:
    first, last = int(century + rest.upper().replace("X", "0")), int(century + rest.upper().replace("X", "9"))
    return Years(first, first + 9) if decade else Years(first, last)
