"""Text over HTTP: the words of a page, the doubtful ones of a stack, the same elsewhere, words found."""

from typing import Annotated

from django.http import HttpResponse
from ninja import Field, Query, Schema
from pydantic import BaseModel

from hollowstack.core.ocr.model import BlockKind, Box, Mark
from hollowstack.core.read.corrections import Kind, Laid
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.errors import Refused
from hollowstack.server.reading import alike, queue, searching
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.reading.suggesting import known_words
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results

router = Router(tags=["text"])
_MOST_DOUBTS = 200


class ExpectedOut(BaseModel):
    """Character errors in a hundred characters; the truth lies between ``low`` and ``high`` nineteen times in twenty."""

    rate: float
    low: float
    high: float


class TextFigures(Schema):
    """The text of a stack or a page in figures."""

    pages: int
    words: int
    doubtful: int
    """Words that nobody has decided yet."""
    expected: ExpectedOut | None
    """None where nothing was read."""


class DoubtOut(Schema):
    """A doubtful word."""

    page: int
    place: int
    """Its place among the words of the page, from 0."""
    text: str
    doubt: float
    box: Box
    """Left, top, right, bottom in pixels of the corrected page."""
    suggestions: list[str]


class WordOut(BaseModel):
    """A word of a page."""

    text: str
    box: Box
    doubt: float
    mark: Mark
    alternatives: list[str]


class LineOut(BaseModel):
    """A line of a page."""

    block: int
    words: list[WordOut]


class BlockOut(BaseModel):
    """A block of a page, in reading order."""

    kind: BlockKind
    box: Box


class LostOut(BaseModel):
    """Something put right that finds no place in the text as it was read last."""

    key: str
    kind: Kind
    before: str
    after: str


class PageText(Schema):
    """The text of a page as it stands now."""

    language: str
    size_px: tuple[int, int]
    blocks: list[BlockOut]
    lines: list[LineOut]
    left_out: list[Box]
    """What is no text, though it was read as some."""
    lost: list[LostOut]


class AlikeOut(Schema):
    """A word that was read as another one was, and looks like it."""

    page: int
    box: Box
    text: str


class ElsewhereOut(Schema):
    """The same elsewhere; ``more`` pages hold the word, too, and were not looked through."""

    words: list[AlikeOut]
    more: int


class FoundPage(Schema):
    """A page that holds what was looked for; unsure where it is only among what the words may be, too."""

    page: int
    unsure: bool


class FoundPlace(Schema):
    """A place on a page that holds a word that was looked for."""

    box: Box
    text: str
    unsure: bool


class After(Schema):
    """The doubtful word behind which to go on."""

    doubt: float | None = None
    from_page: int | None = None
    place: int | None = None


@router.get("/stacks/{int:stack_id}/reading", response={200: TextFigures, 404: Problem})
def get_text_figures(request: Request, stack_id: int, page: int | None = None) -> TextFigures:
    """The text of a stack, or of a page of it, in figures."""
    Stack.objects.get(pk=stack_id)
    found = queue.summary(stack_id, page)
    expected = ExpectedOut(**found.expected._asdict()) if found.expected else None
    return TextFigures(pages=found.pages, words=found.words, doubtful=found.doubtful, expected=expected)


@router.get("/stacks/{int:stack_id}/doubts", response={200: list[DoubtOut], 404: Problem})
def list_doubts(
    request: Request, stack_id: int, after: Query[After], page: int | None = None, most: Annotated[int, Field(ge=1)] = 40
) -> list[DoubtOut]:
    """The doubtful words of a stack, or of a page of it, worst first, behind one of them."""
    Stack.objects.get(pk=stack_id)
    place = None
    if after.doubt is not None and after.from_page is not None and after.place is not None:
        place = queue.Place(after.doubt, after.from_page, after.place)
    rows = queue.doubts(stack_id, page, place, min(most, _MOST_DOUBTS))
    known = known_words(stack_id) if rows else None
    return [
        DoubtOut(
            page=row.page_id,
            place=row.place,
            text=row.text,
            doubt=row.doubt,
            box=row.box,
            suggestions=known.suggestions(row) if known else [],
        )
        for row in rows
    ]


@router.get("/pages/{int:page_id}/words", response={200: PageText, 404: Problem})
def get_page_words(request: Request, page_id: int) -> HttpResponse:
    """The text of a page, word by word, with what hands have put right."""
    page = _page(page_id)
    made = _text(page, laid_text(page))
    # Hundreds of words: written down as they are, not checked against the schema a second time.
    return HttpResponse(made.model_dump_json(), content_type="application/json; charset=utf-8")


@router.get("/pages/{int:page_id}/alike", response={200: ElsewhereOut, 404: Problem})
def list_alike(request: Request, page_id: int, box: str) -> ElsewhereOut:
    """Other words of the stack that read and look like the one in a box, given as left,top,right,bottom."""
    found = alike.elsewhere(_page(page_id), _box(box))
    return ElsewhereOut(words=[AlikeOut(page=one.page, box=one.box, text=one.text) for one in found.words], more=found.more)


@router.get("/stacks/{int:stack_id}/found", response={200: list[FoundPage], 404: Problem})
def find_pages(request: Request, stack_id: int, words: str) -> list[FoundPage]:
    """Pages of a stack, in their order, that hold all of some words, or begin with them."""
    Stack.objects.get(pk=stack_id)
    return [FoundPage(page=hit.page, unsure=hit.unsure) for hit in searching.pages_with(stack_id, words)]


@router.get("/pages/{int:page_id}/found", response={200: list[FoundPlace], 404: Problem})
def find_places(request: Request, page_id: int, words: str) -> list[FoundPlace]:
    """Where some words stand on a page."""
    hits = searching.marked_on(_page(page_id), searching.asked_while_typing(words))
    return [FoundPlace(box=hit.box, text=hit.text, unsure=hit.unsure) for hit in hits]


@router.get("/stacks/{int:stack_id}/word-list", response={200: list[str], 404: Problem})
def get_word_list(request: Request, stack_id: int) -> list[str]:
    """The stack's own words, which are no doubts when they are read."""
    return list(Stack.objects.get(pk=stack_id).word_list)


def _page(page_id: int) -> Page:
    return with_results(Page.objects.filter(pk=page_id, removed=False, stack__deleted_at=None)).select_related("stack").get()


def _box(text: str) -> Box:
    try:
        left, top, right, bottom = (int(part) for part in text.split(","))
    except ValueError:
        raise Refused("A box is given as left,top,right,bottom in whole pixels.") from None
    return (left, top, right, bottom)


def _text(page: Page, laid: Laid) -> PageText:
    reading = laid.reading
    lines = [
        LineOut(
            block=at,
            words=[
                WordOut(text=w.text, box=w.box, doubt=w.doubt, mark=w.mark, alternatives=list(w.alternatives))
                for w in line.words
            ],
        )
        for at, block in enumerate(reading.blocks)
        for line in block.lines
    ]
    lost = [
        LostOut(key=key, kind=one.get("kind", "word"), before=one.get("before", ""), after=one.get("after", ""))
        for key in laid.lost
        if (one := page.words.get(key)) is not None
    ]
    return PageText(
        language=reading.language,
        size_px=reading.size_px,
        blocks=[BlockOut(kind=block.kind, box=block.box) for block in reading.blocks],
        lines=lines,
        left_out=[word.box for word in reading.left_out],
        lost=lost,
    )
