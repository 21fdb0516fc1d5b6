"""Search over HTTP: one question to all stacks, documents and pages."""

from typing import Annotated, Literal

from ninja import Query, Schema
from pydantic import BaseModel, Field

from hollowstack.core.find import Question, is_answered_in
from hollowstack.core.ocr.model import Box
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.ids import Id
from hollowstack.server.search import asking
from hollowstack.server.search.models import Thing
from hollowstack.server.search.showing import ShownLine, ShownPage, shown_pages
from hollowstack.server.shelf.asking import At, Wish, stacks_for
from hollowstack.server.stacks.models import Batch

router = Router(tags=["search"])
_MOST_STATIONS = 200
Kind = Literal["everything", "pages", "documents", "stacks"]
Year = Annotated[int, Field(ge=1000, le=2099)]


class Asked(Schema):
    """A question, and among what it is asked."""

    q: str
    """Words that are all to be there; "in quotes" in this order; lamp* begins so; OR, NEAR, -not."""
    forgiving: bool = False
    """Whether words one slip away count, and what doubtful words may be."""
    kind: Kind = "everything"
    at: At = "everything"
    """What the stacks are at, as on the shelf."""
    collection: Annotated[int, Field(ge=0, lt=2**63)] | None = None
    """Stacks filed there or anywhere under it; 0 for those that are filed nowhere."""
    stack: Id | None = None
    station: str = Field("", max_length=200)
    first_year: Year | None = None
    last_year: Year | None = None
    start: int = Field(0, ge=0, lt=asking.MOST_SHOWN)
    """Behind so many pages."""
    most: int = Field(12, ge=1, le=60)


class Statement(BaseModel):
    """Something that is said of a stack or a document."""

    name: str
    """An element of Dublin Core, where its papers are (box, shelf, position), or the ``name`` it was delivered under."""
    words: str


class ThingOut(BaseModel):
    """A stack, a document, or one that is described and not bound yet."""

    kind: Literal["stack", "document", "planned"]
    title: str
    stack: int
    stack_name: str
    document: int | None
    page: int | None
    """The page that it begins with."""
    answers: list[Statement]
    """What of that which is said of it holds a word of the question."""
    place: list[Statement]
    """Where its papers are."""


class LineWord(BaseModel):
    """A word of a line."""

    text: str
    meant: bool
    """Whether it answers the question."""
    unsure: bool
    """Whether it reads otherwise, and may be meant."""


class LineFound(BaseModel):
    """The line of a page that answers best, in pixels of the clean page."""

    box: Box
    words: list[LineWord]
    marks: list[Box]


class PageFound(BaseModel):
    """A page that answers."""

    page: int
    number: int
    """Its place in the stack, from 1."""
    source: str
    """The name of the file that it came in."""
    stack: int
    stack_name: str
    document: str
    """The title of the last document that was bound with it; empty where there is none."""
    place: int
    """Its place in that, from 1; 0 where there is none."""
    clean: str | None
    """Key of the clean page."""
    size_px: tuple[int, int] | None
    line: LineFound | None
    marked: int
    """Words on the page that answer."""
    readable: bool
    """Whether its text is there; it may be being made again."""


class SearchOut(BaseModel):
    """What answers: stacks and documents with the first pages alone."""

    things: list[ThingOut]
    things_count: int
    """Stacks and documents that answer, of which ``things`` are the first."""
    pages: list[PageFound]
    count: int
    """Pages that answer; ``more`` where there are more than are counted: those come newest first."""
    more: bool
    most: int
    """So many pages can be gone through."""
    also: list[str]
    """Words that were looked for, too, because they are one slip away."""
    find: str
    """The question to be asked of a page that answers, so that it is found there."""


class FiltersOut(BaseModel):
    """Among what can be looked."""

    stations: list[str]


@router.get("/search", response={200: SearchOut, 404: Problem})
def search_everything(request: Request, asked: Query[Asked]) -> SearchOut:
    """Ask across all stacks, documents and pages."""
    question = asking.asked(asked.q, forgiving=asked.forgiving)
    stacks = stacks_for(Wish(at=asked.at, collection=asked.collection))
    if asked.stack is not None:
        stacks = stacks.filter(pk=asked.stack)
    among = asking.Among(stacks, asked.station, asked.first_year, asked.last_year)
    hits = asking.PageHits([], 0, more=False)
    if asked.kind in {"everything", "pages"}:
        hits = asking.pages_that_answer(question, among, meant=asked.forgiving, start=asked.start, most=asked.most)
    things = asking.ThingHits([], 0)
    if asked.kind != "pages" and not asked.start:
        only: dict[Kind, Literal["", "stack", "document"]] = {"stacks": "stack", "documents": "document"}
        things = asking.things_that_answer(question, among, only.get(asked.kind, ""))
    return SearchOut(
        things=[_thing(thing, question) for thing in things.shown],
        things_count=things.total,
        pages=[_page(shown) for shown in shown_pages(hits.pages, question)],
        count=hits.total,
        more=hits.more,
        most=asking.MOST_SHOWN,
        also=sorted({other for term in question.terms for other in term.others}),
        find=question.typed,
    )


@router.get("/search-filters", response=FiltersOut)
def list_search_filters(request: Request) -> FiltersOut:
    """Stations that pages came from, to be looked among."""
    named = Batch.objects.exclude(record__station=None).order_by().values_list("record__station", flat=True).distinct()
    return FiltersOut(stations=sorted({str(name) for name in named[:_MOST_STATIONS]}))


_PLACE = ("collection", "box", "shelf", "position")


def _thing(thing: Thing, question: Question) -> ThingOut:
    said = [Statement(name=name, words=words) for name, words in thing.said]
    return ThingOut(
        kind=thing.kind,
        title=thing.title,
        stack=thing.stack_id,
        stack_name=thing.stack.name,
        document=thing.document_id,
        page=thing.page_id,
        answers=[one for one in said if one.name not in _PLACE and is_answered_in(one.words, question)],
        place=[one for one in said if one.name in _PLACE],
    )


def _page(shown: ShownPage) -> PageFound:
    page = shown.page
    clean = page.rendered if page.rendered is not None and page.rendered.body is not None else None
    return PageFound(
        page=page.pk,
        number=shown.number,
        source=page.source.name,
        stack=page.stack_id,
        stack_name=page.stack.name,
        document=shown.document.title if shown.document else "",
        place=shown.place,
        clean=clean.key if clean else None,
        size_px=clean.body["size_px"] if clean else None,
        line=_line(shown.line) if shown.line else None,
        marked=shown.marked,
        readable=shown.readable,
    )


def _line(line: ShownLine) -> LineFound:
    words = [LineWord(text=word.text, meant=word.meant, unsure=word.unsure) for word in line.words]
    return LineFound(box=line.box, words=words, marks=line.marks)
