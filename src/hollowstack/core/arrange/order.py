"""The order of pages: moving runs of them, and fronts and backs captured apart brought together.

Pages are any hashable things, mostly numbers. Every function returns a new list and loses or doubles none. Interleaving
follows common practice (no source): with a one-sided feeder all fronts come first, then, the bundle turned over, the
backs from the last sheet to the first.
"""

import math
from collections.abc import Collection, Hashable, Iterable, Sequence
from itertools import chain, zip_longest
from typing import Literal, NamedTuple, TypeVar

from hollowstack.core.page.aside import COVER_SHEET, SEPARATOR_SHEET
from hollowstack.core.page.errors import OrderError

P = TypeVar("P", bound=Hashable)
DocumentsAfter = Literal["separator sheets", "blank pages", "blank sheets", "number of pages"]
"""What begins a new document besides a break set by hand; separator sheets always do."""
_BETWEEN = (SEPARATOR_SHEET, COVER_SHEET)
"""Why pages are aside that lie between papers."""


class DocumentRule(NamedTuple):
    """Where documents begin: after what, and after how many pages where those are counted."""

    after: DocumentsAfter
    pages: int = 1

    @property
    def words(self) -> str:
        """What a new document begins after, in words."""
        if self.after != "number of pages":
            return self.after
        return "every page" if self.pages == 1 else f"every {self.pages} pages"


class Leaf(NamedTuple):
    """A sheet as places in the runs captured: its front, and its back or None; both 0-based."""

    front: int
    back: int | None


def moved(order: Sequence[P], chosen: Iterable[P], after: P | None) -> list[P]:
    """The chosen pages together, in the order they had, behind a page; None puts them first.

    A page that is itself chosen stands for the nearest one before it that is not.

    Raises:
        OrderError: ``after`` is not among the pages.
    """
    picked = set(chosen)
    if after is not None and after not in order:
        raise OrderError("The page to put them after is no longer there: choose another place.")
    start = 0 if after is None else order.index(after) + 1
    before = [page for page in order[:start] if page not in picked]
    behind = [page for page in order[start:] if page not in picked]
    return [*before, *(page for page in order if page in picked), *behind]


def refilled(order: Sequence[P], arrangement: Sequence[P]) -> list[P]:
    """The places that some of the pages hold, filled with them in another sequence; all others stay where they are."""
    slots = set(arrangement)
    coming = iter(arrangement)
    return [next(coming) if page in slots else page for page in order]


def difference(before: Sequence[P], after: Sequence[P]) -> tuple[list[P], list[P]]:
    """The run of pages from the first place that differs to the last, in both orders; empty where none does."""
    start, end = 0, len(before)
    while start < end and before[start] == after[start]:
        start += 1
    while end > start and before[end - 1] == after[end - 1]:
        end -= 1
    return list(before[start:end]), list(after[start:end])


def leaves(fronts: int, backs: int, *, single: Collection[int] = (), reverse: bool = True) -> list[Leaf]:
    """Which back belongs to which front.

    Args:
        fronts: How many fronts were captured, in the order of the sheets.
        backs: How many backs.
        single: 0-based sheets that have no back.
        reverse: Whether the backs came from the last sheet to the first, as from a bundle that was turned over.

    Raises:
        OrderError: The counts do not fit; the sentence says what would.
    """
    with_back = [sheet for sheet in range(fronts) if sheet not in single]
    if backs != len(with_back):
        raise OrderError(_misfit(fronts, backs, len(with_back)))
    arrived = range(backs - 1, -1, -1) if reverse else range(backs)
    back_of = dict(zip(with_back, arrived, strict=True))
    return [Leaf(sheet, back_of.get(sheet)) for sheet in range(fronts)]


def _misfit(fronts: int, backs: int, expected: int) -> str:
    counted = f"There are {fronts} fronts and {backs} backs"
    if expected != fronts:
        counted += f", and {fronts - expected} sheets marked as having no back"
    if backs < expected:
        missing = expected - backs
        which = "the sheet that has no back" if missing == 1 else f"the {missing} sheets that have no back"
        return f"{counted}: mark {which}, or capture the backs again."
    extra = backs - expected
    if expected < fronts:
        return f"{counted}: take the mark off {min(extra, fronts - expected)} of them, or capture the backs again."
    return f"{counted}: {extra} too many, so two sheets may have gone through as one; capture the fronts again."


def interleaved(fronts: Sequence[P], backs: Sequence[P], sheets: Sequence[Leaf]) -> list[P]:
    """Fronts and backs as pages, leaf by leaf."""
    pairs = ((fronts[leaf.front], None if leaf.back is None else (backs[leaf.back],)) for leaf in sheets)
    return list(chain.from_iterable((front, *(back or ())) for front, back in pairs))


def halves(pages: Sequence[P]) -> tuple[list[P], list[P]]:
    """A run of fronts followed by as many backs; of an odd number, the fronts are one more."""
    middle = (len(pages) + 1) // 2
    return list(pages[:middle]), list(pages[middle:])


def document_starts(pages: Sequence[tuple[bool, str]], rule: DocumentRule) -> list[int]:
    """At which places a document begins, 0-based: never at a page that is aside.

    Args:
        pages: Of each page, in order, whether a break was set before it by hand, and why it is aside (empty: it is not).
        rule: What makes a break besides: separator and cover sheets always do; one blank page, or two of them in a row;
            or so many pages that are not aside, counted from the last beginning.
    """
    enough = {"blank pages": 1, "blank sheets": 2}.get(rule.after, math.inf)
    most = rule.pages if rule.after == "number of pages" else math.inf
    starts: list[int] = []
    due, blanks, held = True, 0, 0
    for place, (by_hand, aside) in enumerate(pages):
        blanks = blanks + 1 if aside == "blank" else 0
        due = due or by_hand or aside in _BETWEEN or blanks >= enough or held >= most
        if not aside and due:
            starts.append(place)
            due, held = False, 0
        held += not aside
    return starts


def deinterleaved(pages: Sequence[P]) -> list[P]:
    """All at odd places first, then all at even ones: what interleaving in the same order takes back."""
    return [*pages[::2], *pages[1::2]]


def interleaved_halves(pages: Sequence[P], *, reverse: bool) -> list[P]:
    """A run of fronts and then backs made into leaves; with an odd number, the sheet that has no back is the last."""
    fronts, backs = halves(pages)
    coming = [*backs[::-1]] if reverse else backs
    return [page for pair in zip_longest(fronts, coming, fillvalue=None) for page in pair if page is not None]


def by_number(pages: Sequence[P], numbers: dict[P, int | None]) -> list[P]:
    """Sorted by their printed numbers; a page without one stays behind the page it follows."""
    groups: list[tuple[float, list[P]]] = []
    for page in pages:
        number = numbers.get(page)
        if number is None and groups:
            groups[-1][1].append(page)
        else:
            groups.append((float("-inf") if number is None else number, [page]))
    return [page for _, group in sorted(groups, key=lambda one: one[0]) for page in group]
