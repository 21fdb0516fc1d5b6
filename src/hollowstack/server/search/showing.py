"""What is shown of a page that answers: its place, the line that answers best, the words in it that were meant."""

import logging
from collections.abc import Sequence
from typing import NamedTuple

from django.db.models import Count, OuterRef, Q, Subquery

from hollowstack.core.find import Question, answer_of
from hollowstack.core.ocr.model import Box
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results

log = logging.getLogger("hollowstack.search")


class ShownWord(NamedTuple):
    """A word of the line; ``meant`` where it answers, ``unsure`` where it reads otherwise and may be meant."""

    text: str
    meant: bool
    unsure: bool


class ShownLine(NamedTuple):
    """A line of a page, in pixels of the clean page, with the places of the words that answer."""

    box: Box
    words: list[ShownWord]
    marks: list[Box]


class ShownPage(NamedTuple):
    """A page that answers; ``line`` is None where only the name of its file does, or it is not ``readable`` now."""

    page: Page
    number: int
    """Its place in the stack, from 1."""
    line: ShownLine | None
    marked: int
    """Words on the page that answer."""
    readable: bool
    """Whether its text is there; it may be being made again."""
    document: Document | None
    """The last one that was bound with it."""
    place: int
    """Its place in that, from 1; 0 where there is none."""


def shown_pages(found: Sequence[int], question: Question) -> list[ShownPage]:
    """Pages that answer a question, as they are shown; those that are gone meanwhile are left out."""
    pages = _pages(found)
    bound, numbers = _bound(found), _numbers(found)
    shown = []
    for page in (pages[pk] for pk in found if pk in pages):
        line, marked, readable = _line(page, question)
        document, place = bound.get(page.pk, (None, 0))
        shown.append(ShownPage(page, numbers.get(page.pk, 0), line, marked, readable, document, place))
    return shown


def _pages(found: Sequence[int]) -> dict[int, Page]:
    """With all that laying corrections takes where there are some; with little more than names where there are none."""
    few = Page.objects.filter(pk__in=found)
    names = ("words", "reading_id", "rendered__body", "source__name", "stack__name")
    light = few.filter(words={}).select_related("rendered", "source", "stack").only(*names)
    return light.in_bulk() | with_results(few.exclude(words={})).select_related("stack").in_bulk()


def _numbers(found: Sequence[int]) -> dict[int, int]:
    """The place of each page among those of its stack, from 1."""
    mine = Q(stack=OuterRef("stack"), removed=False)
    before = Q(position__lt=OuterRef("position")) | Q(position=OuterRef("position"), pk__lte=OuterRef("pk"))
    counted = Page.objects.filter(mine & before).order_by().values("stack").annotate(number=Count("pk")).values("number")
    return dict(Page.objects.filter(pk__in=found).values_list("pk", Subquery(counted)))


def _bound(found: Sequence[int]) -> dict[int, tuple[Document, int]]:
    """The last document that was bound with each page, and its place in that."""
    rows = DocumentPage.objects.filter(
        page__in=found, document__kind=Document.Kind.ARCHIVE, document__deleted_at=None
    ).select_related("document")
    # The last one stays.
    return {row.page_id: (row.document, row.number) for row in rows.order_by("document_id") if row.page_id is not None}


def _line(page: Page, question: Question) -> tuple[ShownLine | None, int, bool]:
    try:
        reading = laid_text(page).reading
    except (Refused, ValueError) as error:
        log.warning("page %d: its words cannot be shown (%s)", page.pk, error)
        return None, 0, False
    answer = answer_of(reading, question)
    if answer.line is None:
        return None, len(answer.marked), True
    by_place = {one.box: one for one in answer.marked}
    words = [
        ShownWord(word.shown, word.box in by_place, word.box in by_place and by_place[word.box].unsure)
        for word in answer.line.words
    ]
    marks = [word.box for word in answer.line.words if word.box in by_place]
    return ShownLine(answer.line.box, words, marks), len(answer.marked), True
