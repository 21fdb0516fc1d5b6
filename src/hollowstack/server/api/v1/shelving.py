"""The shelf over HTTP: which stacks lie on it, in which order, and the views of it that people keep."""

from datetime import date
from typing import Annotated

from ninja import Query, Schema, Status
from pydantic import Field

from hollowstack.server.api.v1 import shelf
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.api.v1.schemas import StackIn, StackOut
from hollowstack.server.ids import Id
from hollowstack.server.shelf import asking, closing, keeping
from hollowstack.server.shelf.models import SavedView
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Stack

router = Router(tags=["shelf"])


class StacksAsked(Schema):
    """Which stacks, in which order, and which of them."""

    at: asking.At = "everything"
    """Those that something needs mending in, with findings to judge, worked on, ready to bind, with a delivery to decide on,
    bound, signed for, closed."""
    named: str = Field("", max_length=200)
    """Those with a name that holds it."""
    collection: Annotated[int, Field(ge=0, lt=2**63)] | None = None
    """Filed there or anywhere under it; 0 for those that are filed nowhere."""
    by: str = Field("", max_length=150)
    """Begun by whoever signs in so."""
    since: date | None = None
    """Begun on that day or later."""
    sort: asking.Sort = "opened"
    """What you opened last, what was last worked on, the newest, by name, the most pages: these first."""
    start: int = Field(0, ge=0, le=1_000_000)
    """Behind so many."""
    limit: int = Field(60, ge=1, le=200)


class StacksOut(Schema):
    """Stacks on the shelf, some of them, and how many there are."""

    count: int
    stacks: list[StackOut]


class AtCounts(Schema):
    """How many stacks there are, by what they are at."""

    everything: int
    waiting: int
    inspect: int
    working: int
    unbound: int
    undelivered: int
    bound: int
    signed: int
    closed: int


class ShelfOut(Schema):
    """The shelf as a whole."""

    at: AtCounts
    people: list[str]
    """Who began stacks, as they sign in."""


class ClosingIn(Schema):
    """Stacks that are to be closed, or opened again."""

    stacks: list[Id] = Field(min_length=1, max_length=5000)
    closed: bool


class ClosedCount(Schema):
    """How many stacks were closed, or opened; those that were so already are not counted."""

    changed: int


class ViewIn(Schema):
    """A view of the shelf, to be kept."""

    name: str = Field(max_length=60)
    asked: str = Field(max_length=1000)
    """Its filters and order, as the address of the shelf has them behind the question mark."""


class ViewOut(ViewIn):
    """A view of the shelf that is kept."""

    id: int


@router.get("/stacks", response={200: StacksOut, 404: Problem})
def list_stacks(request: Request, asked: Query[StacksAsked]) -> StacksOut:
    """Stacks on the shelf."""
    wish = asking.Wish(asked.at, asked.named, asked.collection, asked.by, asked.since, asked.sort)
    ids = asking.in_order(wish, request.user)
    some = ids[asked.start : asked.start + asked.limit]
    there = Stack.objects.select_related("created_by", "collection").in_bulk(some)
    return StacksOut(count=len(ids), stacks=shelf.stacks_out([there[pk] for pk in some if pk in there]))


@router.post("/stacks", response={201: StackOut})
def create_stack(request: Request, new: StackIn) -> Status[StackOut]:
    """Start a stack."""
    return Status(201, shelf.stack_out(services.create_stack(new.name, request.user)))


@router.post("/closings", response={200: ClosedCount, 404: Problem})
def close_stacks(request: Request, closing_in: ClosingIn) -> ClosedCount:
    """Close stacks to changes, or open them again: all of them, or none where one cannot be."""
    do = closing.close if closing_in.closed else closing.reopen
    return ClosedCount(changed=do(closing_in.stacks, request.user))


@router.get("/shelf", response=ShelfOut)
def get_shelf(request: Request) -> ShelfOut:
    """How many stacks there are, by what they are at, and whose they are."""
    return ShelfOut(at=AtCounts(**asking.counted()), people=asking.people())


@router.get("/shelf/views", response=list[ViewOut])
def list_shelf_views(request: Request) -> list[SavedView]:
    """Your own views of the shelf, by name."""
    return keeping.views_of(request.user)


@router.post("/shelf/views", response={201: ViewOut})
def keep_shelf_view(request: Request, view: ViewIn) -> Status[SavedView]:
    """Keep a view of the shelf; one that you kept under the name is replaced."""
    return Status(201, keeping.keep(request.user, view.name, view.asked))


@router.delete("/shelf/views/{int:view_id}", response={204: None, 404: Problem})
def forget_shelf_view(request: Request, view_id: int) -> Status[None]:
    """Keep a view no longer."""
    keeping.forget(request.user, view_id)
    return Status(204, None)
