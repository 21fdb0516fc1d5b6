"""Links to documents over HTTP: given, seen and withdrawn by people here, used by people without an account."""

from datetime import date, datetime

from django.db.models import Count
from django.http import HttpResponse, HttpResponseBase
from ninja import Schema, Status
from pydantic import BaseModel, Field

from hollowstack.core.access.showing import NotShownError, page_count, page_picture
from hollowstack.server.api.v1.documents import document_response
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.images.pictures import WORKERS
from hollowstack.server.results.models import Result
from hollowstack.server.sharing import links
from hollowstack.server.sharing.models import Share, Use
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage import places

router = Router(tags=["shares"])
_USES_TOLD = 50


class ShareIn(Schema):
    """A link to be given."""

    right: Share.Lets
    """Look at the pages, or take the file, too."""
    last_day: date | None = None
    """On which it leads there; null for no end."""
    password: str = Field("", max_length=200)
    whom: str = Field("", max_length=200)


class UseOut(BaseModel):
    """That somebody used a link."""

    at: datetime
    what: Use.Done


class ShareOut(BaseModel):
    """A link that was given."""

    id: int
    document: int
    title: str
    address: str
    right: Share.Lets
    whom: str
    by: str
    made_at: datetime
    ends_at: datetime | None
    withdrawn_at: datetime | None
    has_password: bool
    ended: bool
    """Whether it leads nowhere any more."""
    opened: int
    taken: int
    uses: list[UseOut]
    """The last ones."""


class DoorOut(Schema):
    """What a link tells before it is opened."""

    asks_password: bool


class VisitIn(Schema):
    """What opens a link."""

    password: str = Field("", max_length=200)


class VisitOut(Schema):
    """A document, for somebody who has opened a link to it."""

    title: str
    by: str
    """Who gave the link."""
    pages: int
    """That can be shown; 0 where it is none to be shown in a browser."""
    may_take: bool
    bytes: int
    ends_at: datetime | None
    visit: str
    """What its pages and its file are asked for with."""


@router.get("/stacks/{int:stack_id}/shares", response={200: list[ShareOut], 404: Problem})
def list_shares(request: Request, stack_id: int) -> list[ShareOut]:
    """The links to documents of a stack, the newest first."""
    stack = Stack.objects.get(pk=stack_id)
    shares = Share.objects.filter(document__stack=stack, document__deleted_at=None)
    return [_share(request, one) for one in shares.select_related("document", "by").order_by("-pk")]


@router.post("/documents/{int:document_id}/shares", response={201: ShareOut, 404: Problem})
def create_share(request: Request, document_id: int, new: ShareIn) -> Status[ShareOut]:
    """Give a link to a document."""
    document = Document.objects.get(pk=document_id)
    share = links.make(document, request.user, new.right, last_day=new.last_day, password=new.password, whom=new.whom)
    return Status(201, _share(request, share))


@router.delete("/shares/{int:share_id}", response={204: None, 404: Problem})
def withdraw_share(request: Request, share_id: int) -> Status[None]:
    """Have a link lead nowhere from now on."""
    links.withdraw(share_id, request.user)
    return Status(204, None)


@router.get("/shared/{secret}", response={200: DoorOut, 404: Problem})
def get_shared(request: Request, secret: str) -> DoorOut:
    """Whether a link leads somewhere, and asks for a password."""
    return DoorOut(asks_password=bool(links.found(secret).password))


@router.post("/shared/{secret}/visits", response={201: VisitOut, 404: Problem})
def open_shared(request: Request, secret: str, said: VisitIn) -> Status[VisitOut]:
    """Open a link."""
    share = links.found(secret)
    document = share.document
    made = Result.objects.filter(key=document.key, body__isnull=False).first()
    if made is None:
        raise Refused("The document is not ready yet: try again in a moment.")
    visit = links.opened(share, said.password)
    return Status(
        201,
        VisitOut(
            title=document.title, by=share.by.get_username() if share.by else "", pages=_pages(document),
            may_take=share.right == Share.Lets.TAKE,  bytes=made.made["bytes"], ends_at=share.ends_at,
            visit=visit,
        ),
    )  # fmt: skip


@router.get("/shared/{secret}/pages/{int:number}", response={200: "image/webp", 404: Problem})
def get_shared_page(request: Request, secret: str, number: int, visit: str) -> HttpResponse:
    """A page of it, as a picture."""
    path = places.document_path(links.let_in(secret, visit).document.key)
    response = HttpResponse(WORKERS.run(path, page_picture, path, number), content_type="image/webp")
    response.headers["Cache-Control"] = "private, max-age=3600"
    return response


@router.get("/shared/{secret}/file", response={200: "application/pdf", 206: "application/pdf", 404: Problem, 416: Problem})
def get_shared_file(request: Request, secret: str, visit: str) -> HttpResponseBase:
    """Its file, where the link lets people take it."""
    share = links.let_in(secret, visit)
    links.taken(share)
    return document_response(request, share.document)


def _pages(document: Document) -> int:
    if document.kind == Document.Kind.EXPORT and document.order["form"] != "pdf":
        return 0
    path = places.document_path(document.key)
    try:
        return WORKERS.run(path, page_count, path)
    except NotShownError:
        return 0


def _share(request: Request, share: Share) -> ShareOut:
    counts = dict(share.uses.order_by().values_list("what").annotate(number=Count("pk")))
    return ShareOut(
        id=share.pk,
        document=share.document_id,
        title=share.document.title,
        address=request.build_absolute_uri(f"/shared/{links.secret_of(share)}"),
        right=Share.Lets(share.right),
        whom=share.whom,
        by=share.by.get_username() if share.by else "",
        made_at=share.made_at,
        ends_at=share.ends_at,
        withdrawn_at=share.withdrawn_at,
        has_password=bool(share.password),
        ended=share.ended,
        opened=counts.get(Use.Done.OPENED, 0),
        taken=counts.get(Use.Done.TAKEN, 0),
        uses=[UseOut(at=use.at, what=Use.Done(use.what)) for use in share.uses.all()[:_USES_TOLD]],
    )
