"""The doubtful words of a stack or a page, worst first, and how many errors there may be."""

import math
from itertools import islice
from typing import NamedTuple

from django.db.models import Count

from hollowstack.server.reading.models import Doubt, PageWords
from hollowstack.server.stacks.models import Page


class Place(NamedTuple):
    """Where a doubtful word stands in the queue: whoever asks for what follows says this."""

    doubt: float
    page: int
    place: int


class Expected(NamedTuple):
    """Character errors in a hundred characters, with the interval in which the truth lies nineteen times in twenty."""

    rate: float
    low: float
    high: float


class Summary(NamedTuple):
    """A text in figures; ``expected`` is None where nothing was read."""

    pages: int
    words: int
    doubtful: int
    expected: Expected | None


_TWO_SIDED_95 = 1.96
"""Deviations of a normal distribution that hold nineteen of twenty values (common tables)."""


def doubts(stack_id: int, page_id: int | None, after: Place | None, most: int) -> list[Doubt]:
    """The next doubtful words of a stack, or of a page of it, that nobody has decided."""
    found = Doubt.objects.filter(stack_id=stack_id, known=False).order_by("-doubt", "page_id", "place")
    if page_id is not None:
        found = found.filter(page_id=page_id)
    if after is not None:
        found = found.filter(doubt__lte=after.doubt)
    # Walked along the index in order, and not joined with the pages: that would sort all of them each time.
    there = shown_pages(stack_id)
    behind = (row for row in found.iterator(chunk_size=200) if after is None or _is_behind(row, after))
    return list(islice((row for row in behind if row.page_id in there), most))


def shown_pages(stack_id: int) -> dict[int, int]:
    """The pages of a stack that are not held out, each with its place among them."""
    pages = Page.objects.filter(stack_id=stack_id, removed=False, aside="").order_by("position", "pk")
    return {pk: place for place, pk in enumerate(pages.values_list("pk", flat=True))}


def _is_behind(row: Doubt, after: Place) -> bool:
    return row.doubt < after.doubt or (row.page_id, row.place) > (after.page, after.place)


def summary(stack_id: int, page_id: int | None = None) -> Summary:
    """How much text there is, how much of it is doubtful, and how many errors are expected."""
    texts = PageWords.objects.filter(page__stack_id=stack_id, page__removed=False, page__aside="")
    if page_id is not None:
        texts = texts.filter(page_id=page_id)
    rows = list(texts.values_list("words", "characters", "errors", "spread"))
    found = expected(sum(row[1] for row in rows), sum(row[2] for row in rows), [row[3] for row in rows])
    return Summary(len(rows), sum(row[0] for row in rows), _open(stack_id, page_id), found)


def expected(characters: int, errors: float, spreads: list[float]) -> Expected | None:
    """The expected rate of errors of pages together, whose errors have nothing to do with each other."""
    if not characters:
        return None
    spread = math.sqrt(sum(one * one for one in spreads)) * _TWO_SIDED_95
    rate, low, high = (100 * value / characters for value in (errors, errors - spread, errors + spread))
    return Expected(round(rate, 2), round(max(0.0, low), 2), round(min(100.0, high), 2))


def _open(stack_id: int, page_id: int | None) -> int:
    """How many doubtful words nobody has decided."""
    found = Doubt.objects.filter(stack_id=stack_id, known=False)
    if page_id is not None:
        return found.filter(page_id=page_id).count()
    counted = found.order_by().values_list("page").annotate(number=Count("pk"))
    there = shown_pages(stack_id)
    return sum(number for page, number in counted if page in there)
