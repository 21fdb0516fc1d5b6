"""Links to documents over HTTP: given, seen and withdrawn by people here, used by people without an account."""

from datetime import date, datetime

from django.db.models import Count
from django.http import HttpResponse, HttpResponseBase
from ninja import Schema, Status
from pydantic import BaseModel, Field

from hollowstack.core.access.showing import NotShownError, page_count, page_picture
from hollowstack.core.bind.description import Described
from hollowstack.core.read.doubts import DOUBTFUL
from hollowstack.server.api.v1.documents import document_response
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.images.pictures import WORKERS
from hollowstack.server.results.models import Result
from hollowstack.server.sharing import links, mending
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
    mended: int
    """How often something was put right."""
    uses: list[UseOut]
    """The last ones."""


class DoorOut(Schema):
    """What a link tells before it is opened."""

    asks_password: bool


class SharedWord(BaseModel):
    """A word of a page; ``unsure`` where the reading is in doubt of it."""

    text: str
    box: tuple[int, int, int, int]
    """Left, top, right, bottom in pixels of the clean page."""
    unsure: bool


class SharedWords(Schema):
    """The words of a page, line by line."""

    size_px: tuple[int, int]
    lines: list[list[SharedWord]]


class WordMended(Schema):
    """A word put right: where it stands, what stood there, what it is."""

    box: tuple[int, int, int, int]
    before: str = Field(max_length=400)
    after: str = Field(min_length=1, max_length=400)


class SharedDescription(Schema):
    """What is said of a document, as far as it is put right through links."""

    title: str = Field(max_length=200)
    described: Described


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
    may_mend: bool
    """Its words, and what is said of it."""
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
            may_take=share.right != Share.Lets.LOOK,
            may_mend=share.right == Share.Lets.MEND, bytes=made.made["bytes"], ends_at=share.ends_at,
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


@router.get("/shared/{secret}/pages/{int:number}/words", response={200: SharedWords, 404: Problem})
def get_shared_words(request: Request, secret: str, number: int, visit: str) -> SharedWords:
    """The words of a page as they stand now, where the link lets people put them right."""
    reading = mending.reading_of_page(links.let_in(secret, visit), number)
    lines = [
        [SharedWord(text=word.text, box=word.box, unsure=word.doubt >= DOUBTFUL and not word.mark) for word in line.words]
        for line in reading.lines
    ]
    return SharedWords(size_px=reading.size_px, lines=[line for line in lines if line])


@router.post("/shared/{secret}/pages/{int:number}/words", response={204: None, 404: Problem, 409: Problem})
def mend_shared_word(request: Request, secret: str, number: int, visit: str, word: WordMended) -> Status[None]:
    """Put a word of a page right."""
    mending.mend_word(links.let_in(secret, visit), number, word.box, word.before, word.after)
    return Status(204, None)


@router.get("/shared/{secret}/description", response={200: SharedDescription, 404: Problem})
def get_shared_description(request: Request, secret: str, visit: str) -> SharedDescription:
    """What is said of the document, where the link lets people put it right."""
    return SharedDescription(**mending.told(links.let_in(secret, visit))._asdict())


@router.put("/shared/{secret}/description", response={204: None, 404: Problem})
def put_shared_description(request: Request, secret: str, visit: str, said: SharedDescription) -> Status[None]:
    """Say something else of the document."""
    mending.describe(links.let_in(secret, visit), said.title, said.described)
    return Status(204, None)


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
        mended=counts.get(Use.Done.MENDED, 0),
        uses=[UseOut(at=use.at, what=Use.Done(use.what)) for use in share.uses.all()[:_USES_TOLD]],
    )
