"""Checks of a page among its fellows: numbers that are missing, doubled or out of place, pages there twice, odd sizes.

What goes by order and size is told within documents: each has numbers and sizes of its own. Where nobody has said where
documents begin, pages that are numbered through are taken for one.
"""

from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

from hollowstack.core.check.finding import Check, Finding
from hollowstack.core.check.runs import numbered_runs
from hollowstack.core.check.sequence import check_sequence, printed_numbers
from hollowstack.core.check.sizes import odd_between, odd_sizes
from hollowstack.core.check.twice import Looks, find_twice
from hollowstack.core.page.paper_sizes import nearest_size


class Fellow(NamedTuple):
    """What is known of a page of the stack that is not held aside."""

    place: int
    """Its number in the stack, from 1."""
    looks: Looks
    numbers: Sequence[int]
    """What may be its printed number (``sequence.number_candidates``)."""
    size_mm: tuple[float, float] | None
    """Of the corrected page; None where it is not planned yet."""
    turn: int | None = None
    """Clockwise quarter turn by which it was made upright; None where nothing tells which way is up."""
    asks_turn: bool = False
    """Whether nothing tells that, and it is no page that has no way up."""
    starts: bool = False
    """Whether a document is known to begin with it."""


def check_stack(pages: Sequence[Fellow]) -> list[tuple[int, Finding]]:
    """All that is worth a look when pages are seen together, by the index of the page where it shows, in order."""
    numbers = printed_numbers([page.numbers for page in pages])
    found = [*_twice(pages), *_turns(pages, numbers), *_numbers_and_sizes(pages, numbers)]
    return sorted(found, key=lambda one: one[0])


def _twice(pages: Sequence[Fellow]) -> Iterator[tuple[int, Finding]]:
    for one in find_twice([page.looks for page in pages]):
        first = pages[one.first].place
        if one.kind == "same image":
            yield one.at, _review("same image", f"The same image is page {first}, too: hold one of them aside.")
        else:
            message = f"It looks like page {first}, recaptured: hold one of them aside."
            yield one.at, _review("recaptured", message, one.share)


_NEAR, _ENOUGH = 12, 4
"""So many fellows, so near, that were all captured upright say that a page was, too (chosen: captures come in runs)."""


def _turns(pages: Sequence[Fellow], numbers: Sequence[int | None]) -> Iterator[tuple[int, Finding]]:
    """Pages of which nothing tells which way is up, unless all those around them were captured upright.

    A number that goes on from its neighbour's was read upright.
    """
    for at, page in enumerate(pages):
        if not page.asks_turn or _goes_on(numbers, at):
            continue
        around = pages[max(0, at - _NEAR) : at + _NEAR + 1]
        turns = [one.turn for one in around if one.turn is not None]
        if len(turns) < _ENOUGH or any(turns):
            yield at, _review("orientation", "Too little text to tell which way is up: look whether it is upright.")


def _goes_on(numbers: Sequence[int | None], at: int) -> bool:
    own = numbers[at]
    if own is None:
        return False
    before, after = numbers[at - 1] if at else None, numbers[at + 1] if at + 1 < len(numbers) else None
    return before == own - 1 or after == own + 1


def _numbers_and_sizes(pages: Sequence[Fellow], numbers: Sequence[int | None]) -> Iterator[tuple[int, Finding]]:
    runs = numbered_runs(numbers, [page.starts for page in pages])
    for run in runs:
        places = [pages[at].place for at in run]
        for told in check_sequence(list(run.values()), places):
            yield list(run)[told.at], _review("sequence", told.message)
    odd_ones: set[int] = set()
    for document in _documents(pages, runs):
        sized = _sized(pages, document)
        for odd in odd_sizes([size for _, size in sized]):
            at, size = sized[odd.at]
            odd_ones.add(at)
            message = f"{_named(*size)}, where most pages of the document are {_named(*odd.usual)}."
            yield at, _review("odd size", message)
    if not _known(pages):
        sized = _sized(pages, range(len(pages)))
        for odd in odd_between([size for _, size in sized]):
            at, size = sized[odd.at]
            if at not in odd_ones and not _begins_anew(numbers, at):
                yield at, _review("odd size", f"{_named(*size)}, where the pages around it are {_named(*odd.usual)}.")


_BESIDE = 3


def _begins_anew(numbers: Sequence[int | None], at: int) -> bool:
    """Whether the numbers behind a page do not go on from those before it: it stands between two documents."""
    before = next((one for one in reversed(numbers[max(0, at - _BESIDE) : at]) if one is not None), None)
    after = next((one for one in numbers[at + 1 : at + 1 + _BESIDE] if one is not None), None)
    return before is not None and after is not None and not before < after <= before + 2 * _BESIDE + 1


def _sized(pages: Sequence[Fellow], places: Iterable[int]) -> list[tuple[int, tuple[float, float]]]:
    return [(at, size) for at in places if (size := pages[at].size_mm) is not None]


def _known(pages: Sequence[Fellow]) -> bool:
    """Whether it is known where documents begin, other than at the first page."""
    return sum(page.starts for page in pages) >= 2


def _documents(pages: Sequence[Fellow], runs: Sequence[Iterable[int]]) -> list[list[int]]:
    """Pages that sizes are compared among: of each document where its beginning is known, else of each run."""
    if not _known(pages):
        return [list(run) for run in runs] or [list(range(len(pages)))]
    made: list[list[int]] = []
    for at, page in enumerate(pages):
        if page.starts or not made:
            made.append([])
        made[-1].append(at)
    return made


def _named(width: float, height: float) -> str:
    size = nearest_size(width, height)
    return f"{width:.0f} × {height:.0f} mm" + (f" ({size.name})" if size else "")


def _review(check: Check, message: str, value: float | None = None) -> Finding:
    return Finding(check=check, verdict="review", value=value, limit=None, message=message)
