"""The numbers printed on pages, and what their sequence says: pages missing, twice there, or in the wrong place.

A page number stands alone in its line near the upper or lower edge (common practice, no source). Where a page has more
than one such number, the one that goes on from its neighbours is taken.
"""

import re
from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence
from typing import Literal, NamedTuple

from hollowstack.core.read.model import Line, Reading

_MARGIN = 0.14
"""Share of the page's height, above and below, in which page numbers stand."""
_NUMBER = re.compile(r"^[\[(\-–—.]{0,2}(\d{1,4})[\])\-–—.]{0,2}$")
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
    """Numbers that stand alone in a line near the upper or lower edge; the surest place, at the bottom, first."""
    height = reading.size_px[1]
    above, below = [], []
    for line in reading.lines:
        if (number := _alone(line)) is None:
            continue
        middle = (line.words[0].box[1] + line.words[0].box[3]) / 2 / height
        if middle > 1 - _MARGIN:
            below.append(number)
        elif middle < _MARGIN:
            above.append(number)
    return [*below, *above]


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
    return chosen


def check_sequence(numbers: Sequence[int | None]) -> list[SequenceFinding]:
    """Gaps, doubles and pages out of place, by index of the page at which each shows.

    Pages without a number are taken for one each of the sequence, as plates and blank backs are.
    """
    findings: list[SequenceFinding] = []
    seen: dict[int, int] = {}
    known: list[tuple[int, int]] = []
    for index, number in enumerate(numbers):
        if number is None:
            continue
        if number in seen:
            message = f"Page number {number} is on page {seen[number] + 1} of the stack too."
            findings.append(SequenceFinding(index, "double", message))
        else:
            seen[number] = index
            known.append((index, number))
    out_of_place = _out_of_place(known)
    last: tuple[int, int] | None = None
    for index, number in known:
        if index in out_of_place:
            findings.append(SequenceFinding(index, "swap", f"Page number {number} stands out of its place."))
            continue
        if last is not None and (missing := number - last[1] - (index - last[0])) > 0:
            findings.append(SequenceFinding(index, "gap", _gap(last[1], number, missing)))
        last = (index, number)
    return sorted(findings)


def _gap(before: int, after: int, missing: int) -> str:
    what = "1 page seems" if missing == 1 else f"{missing} pages seem"
    return f"{what} to be missing between numbers {before} and {after}."


def _alone(line: Line) -> int | None:
    words = [word for word in line.words if not _DASHES.match(word.text)]
    if len(words) != 1 or words[0].confidence < _SURE:
        return None
    found = _NUMBER.match(words[0].text)
    return int(found[1]) if found else None


def _out_of_place(known: Sequence[tuple[int, int]]) -> set[int]:
    """Pages that are not in the longest rising run of numbers (Fredman 1975), by index."""
    tails: list[int] = []
    ends: list[int] = []  # of the best run of each length: its last place in ``known``
    before: list[int | None] = []
    for place, (_, number) in enumerate(known):
        length = bisect_left(tails, number)
        tails[length : length + 1] = [number]
        ends[length : length + 1] = [place]
        before.append(ends[length - 1] if length else None)
    rising = set()
    at = ends[-1] if ends else None
    while at is not None:
        rising.add(known[at][0])
        at = before[at]
    return {index for index, _ in known} - rising
