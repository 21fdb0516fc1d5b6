"""What the pages of a document to come say of it themselves, offered with its place, and never taken unasked."""

import re
from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.core.find import IdentifierError, checked, pattern_of, written_dates, written_identifiers
from hollowstack.core.ocr.model import Box, Line, around
from hollowstack.server.documents.describing import to_describe
from hollowstack.server.documents.models import IdentifierPattern
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results

MOST = 8
"""Of each kind."""
_MOST_PAGES = 30
"""Of a document that are looked through: what is said of it stands near its beginning."""
_MOST_TRIED = 300
MOST_PATTERNS = 60


class Offer(NamedTuple):
    """Something that a page says, and where: in pixels of its clean page."""

    value: str
    """As it would be taken."""
    text: str
    """As it is written."""
    page: Page
    number: int
    """The place of the page in what was looked through, from 1."""
    box: Box
    line: Box


class Offered(NamedTuple):
    """What is offered of a document."""

    dates: list[Offer]
    identifiers: list[Offer]


class Tried(NamedTuple):
    """What a pattern finds in a stack."""

    pattern: str
    found: list[Offer]
    different: int
    pages: int
    """So many were looked through."""


Spans = Iterable[tuple[str, int, int]]


def offered(stack: Stack, first_page: int) -> Offered:
    """What the pages of a document to come say. Raises Refused where none begins with that page."""
    run = next((one.pages for one in to_describe(stack) if one.pages[0].pk == first_page), None)
    if run is None:
        raise Refused("No document begins with that page any more.")
    lines = list(_lines([page.pk for page in run[:_MOST_PAGES]]))
    patterns = [checked(one.pattern) for one in IdentifierPattern.objects.all()]
    # A whole day says more than a year.
    dates = sorted(_found(lines, _dates), key=lambda offer: -len(offer.value))
    return Offered(_different(dates)[:MOST], _different(_found(lines, _identifiers(patterns)))[:MOST])


def tried(stack: Stack, pattern: str) -> Tried:
    """What a pattern finds on the first pages of a stack. Raises Refused where it will not do."""
    way = _checked(pattern)
    ids = list(stack.pages.filter(removed=False, aside="").values_list("pk", flat=True)[:_MOST_TRIED])
    found = _different(_found(_lines(ids), _identifiers([way])))
    return Tried(pattern, found[:MOST], len(found), len(ids))


def pattern_for(example: str) -> str:
    """The pattern that an example makes. Raises Refused."""
    try:
        return pattern_of(example)
    except IdentifierError as error:
        raise Refused(str(error)) from None


def keep_pattern(pattern: str, user: User) -> IdentifierPattern:
    """Keep a pattern: what it finds is offered from now on. Raises Refused where it will not do, or there are too many."""
    pattern = " ".join(pattern.split())
    _checked(pattern)
    with transaction.atomic():
        kept, made = IdentifierPattern.objects.get_or_create(pattern=pattern, defaults={"by": user})
        if made and IdentifierPattern.objects.count() > MOST_PATTERNS:
            raise Refused(f"There are {MOST_PATTERNS} patterns, which is the most: delete one first.")
    return kept


def _checked(pattern: str) -> re.Pattern[str]:
    try:
        return checked(pattern)
    except IdentifierError as error:
        raise Refused(str(error)) from None


def _lines(ids: Sequence[int]) -> Iterable[tuple[Page, int, Line]]:
    """The lines of pages that can be read now, in their order."""
    pages = with_results(Page.objects.filter(pk__in=ids)).select_related("stack").in_bulk()
    for number, pk in enumerate(ids, 1):
        page = pages.get(pk)
        if page is None or page.reading is None or page.reading.body is None:
            continue
        try:
            reading = laid_text(page).reading
        except (Refused, ValueError):  # it is just being read again
            continue
        yield from ((page, number, line) for block in reading.blocks for line in block.lines)


def _found(lines: Iterable[tuple[Page, int, Line]], spans: Callable[[str], Spans]) -> list[Offer]:
    return [
        Offer(value, line.text[start:end], page, number, _around(line, start, end), line.box)
        for page, number, line in lines
        for value, start, end in spans(line.text)
    ]


def _dates(text: str) -> Spans:
    return [(one.date, one.start, one.end) for one in written_dates(text)]


def _identifiers(patterns: list[re.Pattern[str]]) -> Callable[[str], Spans]:
    return lambda text: [(" ".join(one.text.split()), one.start, one.end) for one in written_identifiers(text, patterns)]


def _around(line: Line, start: int, end: int) -> Box:
    """Around the words of a line that some of its characters are of."""
    boxes, at = [], 0
    for word in line.words:
        if at < end and at + len(word.text) > start:
            boxes.append(word.box)
        at += len(word.text) + 1
    return around(boxes)


def _different(offers: Iterable[Offer]) -> list[Offer]:
    """Each value once, where it stands first."""
    found: dict[str, Offer] = {}
    for offer in offers:
        found.setdefault(offer.value, offer)
    return list(found.values())
