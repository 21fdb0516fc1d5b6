"""Dates as they are written on papers, and what they are in ISO 8601."""

import re
from datetime import date
from functools import lru_cache
from typing import Final, NamedTuple

from hollowstack.core.find.tokens import tokens

_FIRST, _LAST = 1500, 2099
_MONTHS: Final = (
    "enero gennaio januar januari january janvier styczen stycznia ιανουαριος ιανουαριου январь января",
    "febbraio febrero februar februari february fevrier lutego luty φεβρουαριος φεβρουαριου февраль февраля",
    "maart marca march mars marz marzec marzo μαρτιος μαρτιου март марта",
    "abril april aprile avril kwiecien kwietnia απριλιος απριλιου апрель апреля",
    "maggio mai maj maja may mayo mei μαιος μαιου маи мая",
    "czerwca czerwiec giugno juin june juni junio ιουνιος ιουνιου июнь июня",
    "juillet juli julio july lipca lipiec luglio ιουλιος ιουλιου июль июля",
    "agosto aout august augustus sierpien sierpnia αυγουστος αυγουστου август августа",
    "september septembre septiembre settembre wrzesien wrzesnia σεπτεμβριος σεπτεμβριου сентябрь сентября",
    "october octobre octubre oktober ottobre pazdziernik pazdziernika οκτωβριος οκτωβριου октябрь октября",
    "listopad listopada november novembre noviembre νοεμβριος νοεμβριου ноябрь ноября",
    "december decembre dezember dicembre diciembre grudnia grudzien δεκεμβριος δεκεμβριου декабрь декабря",
)
"""Names of the months in the languages that text is read in, without accents."""
_SHORT: Final = (
    "ene gen jan janv ιαν янв",
    "feb fevr φεβ февр",
    "mar mrt μαρ мар",
    "abr apr avr απρ апр",
    "mag μαι",
    "giu jun ιουν июн",
    "juil jul lug ιουλ июл",
    "ago aug αυγ авг",
    "sep sept set σεπ сент",
    "oct okt ott οκτ окт",
    "nov νοε нояб",
    "dec dez dic δεκ дек",
)  # fmt: skip
"""How they are shortened."""
_MONTH = r"([^\W\d_]+)"
_DAY = r"(?<![\d.,/-])(\d{1,2})"
_YEAR = r"(\d{4})(?![\d/])"
_OF = r"(?:(?:of|de|del)\s+)?"
_WAYS: Final[tuple[tuple[re.Pattern[str], str], ...]] = (
    (re.compile(r"(?<![\d-])(\d{4})-(\d\d)-(\d\d)(?![\d-])"), "ymd"),
    (re.compile(rf"{_DAY}(?:st|nd|rd|th|er|[.º])?,?\s+{_OF}{_MONTH}\.?,?\s+{_OF}{_YEAR}"), "dny"),
    (re.compile(rf"(?<!\w){_MONTH}\.?\s+(\d{{1,2}})(?:st|nd|rd|th)?,?\s+{_YEAR}"), "ndy"),
    (re.compile(rf"{_DAY}\.\s?(\d{{1,2}})\.\s?{_YEAR}"), "dmy"),
    (re.compile(rf"{_DAY}/(\d{{1,2}})/{_YEAR}"), "??y"),
    (re.compile(rf"(?<!\w){_MONTH},?\s+{_OF}{_YEAR}"), "Ny"),
    (re.compile(r"(?<![\w/.,-])(\d{4})(?![\w/%]|[.,-]\d)"), "y"),
)
"""How dates are written, the fullest first. A letter a group: year, month, day, the name of a month (N: not shortened); of
two with a slash it cannot be told which is the day."""


class WrittenDate(NamedTuple):
    """A date in a text, from one character to another."""

    date: str
    """As ISO 8601 has it: 1927-02-14, 1927-02, or 1927."""
    start: int
    end: int


def written_dates(text: str) -> list[WrittenDate]:
    """The dates in a line of text, in its order; no place is told twice.

    A day and a month in figures with a slash are a day and a month only where they can be told apart: else their year is
    told alone. Years from 1500 to 2099, of the Gregorian calendar.

    Source:
        ISO 8601-1:2019 for what is told; names of months of the Unicode CLDR, in the languages that text is read in; that
        figures with full stops have the day first is common practice, no source.
    """
    found: list[WrittenDate] = []
    for way, order in _WAYS:
        for match in way.finditer(text):
            apart = all(match.end() <= one.start or match.start() >= one.end for one in found)
            if apart and (meant := _meant(order, match.groups())):
                found.append(WrittenDate(meant, match.start(), match.end()))
    return sorted(found, key=lambda one: one.start)


def _meant(order: str, groups: tuple[str, ...]) -> str:
    """What is written, as ISO 8601 has it; empty where it is no date."""
    parts = dict(zip(order, groups, strict=True)) if "?" not in order else _sorted_out(*groups)
    year = int(parts["y"])
    if not _FIRST <= year <= _LAST:
        return ""
    month = int(parts["m"]) if "m" in parts else 0
    if "n" in parts or "N" in parts:
        month = _month_named(parts.get("n") or parts["N"], shortened="n" in parts)
        if not month:
            return ""
    if "d" not in parts:
        return f"{year}-{month:02}" if month else f"{year}"
    try:
        return date(year, month, int(parts["d"])).isoformat()
    except ValueError:
        return ""


def _sorted_out(first: str, second: str, year: str) -> dict[str, str]:
    if int(first) > 12 or first == second:
        return {"d": first, "m": second, "y": year}
    if int(second) > 12:
        return {"d": second, "m": first, "y": year}
    return {"y": year}


def _month_named(word: str, *, shortened: bool) -> int:
    """The number of a month by its name; 0 where it is none."""
    name = "".join(tokens(word))
    return _names()[0].get(name, 0) or (_names()[1].get(name, 0) if shortened else 0)


@lru_cache(maxsize=1)
def _names() -> tuple[dict[str, int], dict[str, int]]:
    whole, short = (
        {name: number for number, names in enumerate(table, 1) for name in names.split()} for table in (_MONTHS, _SHORT)
    )
    return whole, short
