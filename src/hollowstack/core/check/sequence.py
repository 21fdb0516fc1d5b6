"""The numbers printed on pages, and what their sequence says: pages missing, twice there, or in the wrong place.

A page number stands near the upper or lower edge, alone in its line, at one end of a running head, or behind the word
"page"; front matter has small Roman numerals (common practice, no source). Where a page has more than one such number, the
one that goes on from its neighbours is taken. Roman numerals are kept as numbers below zero, which come before all others.
"""

import re
from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence
from typing import Literal, NamedTuple

from hollowstack.core.ocr.model import Line, Reading, Word

_MARGIN = 0.14
"""Share of the page's height, above and below, in which page numbers stand."""
_NUMBER = re.compile(r"^[\[(\-–—.]{0,2}(\d{1,4})[\])\-–—.]{0,2}$")
_ROMAN = re.compile(r"^[\[(\-–—.]{0,2}(x{0,3}(?:ix|iv|v?i{0,3})|xl|xlv?i{0,3}|l)[\])\-–—.]{0,2}$")
_BEFORE_ARABIC = 10_000
"""Taken off a Roman number."""
_PAGE_WORDS = {"page", "p.", "p", "seite", "s.", "pag.", "pagina"}
_MOST_HEAD_WORDS = 9
"""A line with more words than this is no running head."""
_DASHES = re.compile(r"^[\-–—.|]{1,2}$")
_NEAR = 3
"""How many neighbours on each side are asked."""
_SURE = 40.0
"""Word confidence from which a number is believed."""


class SequenceFinding(NamedTuple):
    """What the numbers say of the page ``at`` an index."""

    at: int
    kind: Literal["gap", "double", "swap"]
    message: str


def number_candidates(reading: Reading) -> list[int]:
    """Numbers near the upper or lower edge, the surest places first: alone at the bottom, at the top, in a running head."""
    height = reading.size_px[1]
    above: list[int] = []
    below: list[int] = []
    heads: list[int] = []
    lines = [line for line in reading.lines if line.words]
    for place, line in enumerate(lines):
        middle = (line.words[0].box[1] + line.words[0].box[3]) / 2 / height
        if _MARGIN <= middle <= 1 - _MARGIN:
            continue
        if (number := _alone(line)) is not None:
            (below if middle > 0.5 else above).append(number)
        elif place in (0, len(lines) - 1) and (number := _in_head(line)) is not None:
            heads.append(number)
    return [*below, *above, *heads]


def printed_numbers(candidates: Sequence[Sequence[int]]) -> list[int | None]:
    """One number a page, or None, from the candidates of all pages in their present order."""
    chosen: list[int | None] = []
    for index, own in enumerate(candidates):
        if len(own) < 2:
            chosen.append(own[0] if own else None)
            continue
        near = range(max(0, index - _NEAR), min(len(candidates), index + _NEAR + 1))
        votes = Counter(
            number for number in own for other in near if other != index and number + other - index in candidates[other]
        )
        chosen.append(max(own, key=lambda number: (votes[number], -own.index(number))))
    return _as_they_fit(chosen)


def _as_they_fit(numbers: list[int | None]) -> list[int | None]:
    """Numbers with those put right that were misread in one figure, where both neighbours say what stands between them."""
    fitting = list(numbers)
    for at in range(1, len(numbers) - 1):
        before, own, after = numbers[at - 1 : at + 2]
        if before is None or own is None or after is None or after - before != 2 or own == before + 1 or own <= 0:
            continue
        said, meant = str(own), str(before + 1)
        if len(said) == len(meant) and sum(a != b for a, b in zip(said, meant, strict=True)) == 1 and len(said) > 1:
            fitting[at] = before + 1
    return fitting


def check_sequence(numbers: Sequence[int | None], places: Sequence[int] | None = None) -> list[SequenceFinding]:
    """Gaps, doubles and pages out of place, by index of the page at which each shows.

    Pages without a number are taken for one each of the sequence, as plates and blank backs are. ``places`` are the
    1-based places of these pages in the stack, where they are not all of it; they stand in sentences alone.
    """
    findings: list[SequenceFinding] = []
    seen: dict[int, int] = {}
    known: list[tuple[int, int]] = []
    for index, number in enumerate(numbers):
        if number is None:
            continue
        if number in seen:
            message = f"Page number {number_words(number)} is on page {_place(places, seen[number])} of the stack too."
            findings.append(SequenceFinding(index, "double", message))
        else:
            seen[number] = index
            known.append((index, number))
    out_of_place = _out_of_place(known)
    strayed = [number for index, number in known if index in out_of_place]
    last: tuple[int, int] | None = None
    for index, number in known:
        if index in out_of_place:
            findings.append(SequenceFinding(index, "swap", f"Page number {number_words(number)} stands out of its place."))
            continue
        if last is not None and (last[1] > 0) == (number > 0):
            # Those that stand elsewhere are not missing.
            elsewhere = sum(last[1] < other < number for other in strayed)
            if (missing := number - last[1] - (index - last[0]) - elsewhere) > 0:
                findings.append(SequenceFinding(index, "gap", _gap(last[1], number, missing)))
        last = (index, number)
    return sorted(findings)


def _place(places: Sequence[int] | None, index: int) -> int:
    return places[index] if places is not None else index + 1


def _gap(before: int, after: int, missing: int) -> str:
    what = "1 page seems" if missing == 1 else f"{missing} pages seem"
    return f"{what} to be missing between numbers {number_words(before)} and {number_words(after)}."


def _alone(line: Line) -> int | None:
    """The number that is all of a line, but for dashes around it and the word "page"."""
    words = [word for word in line.words if not _DASHES.match(word.text)]
    if len(words) == 2 and words[0].text.lower() in _PAGE_WORDS:
        words = words[1:]
    return _number(words[0]) if len(words) == 1 else None


def _in_head(line: Line) -> int | None:
    """The number at one end of a running head; none where there is one at both ends, as in a table."""
    words = [word for word in line.words if not _DASHES.match(word.text)]
    if not 2 <= len(words) <= _MOST_HEAD_WORDS:
        return None
    first, last = _number(words[0], roman=False), _number(words[-1], roman=False)
    inner = words[1:] if first is not None else words[:-1]
    if (first is None) == (last is None) or not all(any(c.isalpha() for c in word.text) for word in inner):
        return None
    return first if first is not None else last


def _number(word: Word, *, roman: bool = True) -> int | None:
    if word.confidence < _SURE:
        return None
    if found := _NUMBER.match(word.text):
        return int(found[1])
    found = _ROMAN.match(word.text) if roman else None
    return _from_roman(found[1]) - _BEFORE_ARABIC if found and found[1] else None


_LETTERS = {"i": 1, "v": 5, "x": 10, "l": 50}


def _from_roman(text: str) -> int:
    values = [_LETTERS[char] for char in text]
    return sum(-one if one < after else one for one, after in zip(values, [*values[1:], 0], strict=True))


def number_words(number: int) -> str:
    """A number of ``number_candidates`` as it is printed: Roman ones are kept as numbers below zero."""
    if number > 0:
        return str(number)
    left, text = number + _BEFORE_ARABIC, ""
    for value, letters in ((50, "l"), (40, "xl"), (10, "x"), (9, "ix"), (5, "v"), (4, "iv"), (1, "i")):
        text += letters * (left // value)
        left %= value
    return text


def _out_of_place(known: Sequence[tuple[int, int]]) -> set[int]:
    """Pages that are not in the longest rising run of numbers (Fredman 1975), by index."""
    lasts: list[int] = []
    ends: list[int] = []  # of the best run of each length: its last place in ``known``
    before: list[int | None] = []
    for place, (_, number) in enumerate(known):
        length = bisect_left(lasts, number)
        lasts[length : length + 1] = [number]
        ends[length : length + 1] = [place]
        before.append(ends[length - 1] if length else None)
    rising = set()
    at = ends[-1] if ends else None
    while at is not None:
        rising.add(known[at][0])
        at = before[at]
    return {index for index, _ in known} - rising
