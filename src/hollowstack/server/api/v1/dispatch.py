"""Destinations, deliveries and receipts over HTTP."""

import mimetypes
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

from django.db.models import Count, Q, QuerySet
from django.http import FileResponse, HttpResponse, HttpResponseBase
from django.utils import timezone
from ninja import Schema, Status
from pydantic import Field

from hollowstack.core.page.name_patterns import PLACEHOLDERS, PatternError, check_pattern
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.dispatch import course, deliveries, destinations, receipts
from hollowstack.server.dispatch.deliveries import DispatchAsked, MessageAsked
from hollowstack.server.dispatch.destinations import DestinationAsked, Kind
from hollowstack.server.dispatch.fetching import fetched
from hollowstack.server.dispatch.models import LOST, STUCK, Delivery, Destination
from hollowstack.server.dispatch.papers import papers_of
from hollowstack.server.dispatch.places import Place, SftpPlace, place_of
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.ids import Id
from hollowstack.server.stacks.models import Stack

router = Router(tags=["dispatch"])
_MOST = 200
_MOST_ADDRESSES = 40
_MOST_TRIED = 6
_SHOWN_INLINE = {"application/pdf", "image/png", "image/jpeg"}
"""What a browser shows by itself, and runs nothing of."""


class DestinationOut(Schema):
    """A destination; its secret is never told, only whether there is one."""

    id: int
    name: str
    place: Place
    has_secret: bool
    fingerprint: str
    """Of the machine's key, as people compare it; empty where there is none."""
    pattern: str
    counter: int
    """How many have been named for it."""
    clash: Literal["number", "ask"]
    takes: list[Kind]
    tried_at: datetime | None
    tried_said: str
    """What came of the last try; empty where it was proven, or never tried."""
    open: int
    """Deliveries on their way there."""
    stuck: int
    """Such as wait for a person."""


class PapersOut(Schema):
    """Whether the papers of a stack may go."""

    may: bool | None
    """Null where nobody has said what becomes of them."""
    said: str


class Placeholder(Schema):
    """What a pattern of names may fill in."""

    name: str
    purpose: str


class NamePatternIn(Schema):
    """A pattern of names to be tried."""

    pattern: str = Field(max_length=300)
    counter: int = Field(0, ge=0, lt=2**31)
    """How many have been named by it."""


class NameTried(Schema):
    """The name that a document would have; ``twice`` where another one would have the same."""

    title: str
    name: str
    twice: bool


class NamesTried(Schema):
    """The names that a pattern makes of what was bound last."""

    names: list[NameTried]
    zone: str
    """The time zone that dates and times in them are of."""


class GoingIn(Schema):
    """Documents that might be sent, and where to; a pattern and a message to look at in the place of those kept there."""

    documents: list[Id]
    destination: int
    pattern: str | None = None
    message: MessageAsked | None = None


class GoingRow(Schema):
    """What one document would be there."""

    document: int
    name: str
    bytes: int | None
    subject: str = ""
    text: str = ""
    problem: str
    """Why it cannot go there as it is; empty where it can."""


class GoingOut(Schema):
    """What would be sent, to be seen once more before it goes."""

    recipients: list[str]
    rows: list[GoingRow]


class DeliveryOut(Schema):
    """A document on its way, or the receipt of it."""

    id: int
    document: int | None
    stack: int | None
    title: str
    stack_name: str
    destination: int
    destination_name: str
    kind: str
    name: str
    recipients: list[str]
    state: course.State
    held: bool
    tries: int
    next_try_at: datetime | None
    """Of one that did not succeed: when it is tried again."""
    said: str
    bytes: int
    sha256: str
    where: str
    proof: str
    answer: str
    asked_at: datetime
    asked_by: str
    arrived_at: datetime | None
    checked_at: datetime | None
    check_said: str
    missing: str
    looking: bool
    """Whether it is about to be looked at again where it lies."""


class DeliveriesOut(Schema):
    """Some of the deliveries, the newest first, and how many there are of each kind."""

    deliveries: list[DeliveryOut]
    more: bool
    counts: dict[str, int]


class SteerIn(Schema):
    """What is to become of a delivery."""

    do: Literal["hold", "release", "cancel", "again"]


class ReceiptsIn(Schema):
    """Receipts to be looked at where they lie: these, those of a stack, or all of them where nothing is named."""

    deliveries: list[Id] = []
    stack: int | None = None


class ReceiptsOut(Schema):
    """How many are looked at."""

    asked: int


_EVENTS: dict[str, course.Event] = {
    "hold": course.Held(), "release": course.Released(), "cancel": course.Cancelled(), "again": course.Again(),
}  # fmt: skip


@router.get("/destinations", response=list[DestinationOut])
def list_destinations(request: Request) -> list[DestinationOut]:
    """Where documents can be sent."""
    return [_destination(one) for one in _counted(destinations.present())]


@router.post("/destinations", response={201: DestinationOut})
def create_destination(request: Request, new: DestinationAsked) -> Status[DestinationOut]:
    """A new destination; it is tried by another call."""
    return Status(201, _shown(destinations.keep(new, request.user)))


@router.put("/destinations/{int:destination_id}", response={200: DestinationOut, 404: Problem})
def put_destination(request: Request, destination_id: int, new: DestinationAsked) -> DestinationOut:
    """Say something else of a destination; a secret that is not given stays as it is."""
    return _shown(destinations.keep(new, request.user, destination_id))


@router.delete("/destinations/{int:destination_id}", response={204: None, 404: Problem})
def delete_destination(request: Request, destination_id: int) -> Status[None]:
    """Take a destination away; receipts of it stay, and what is on its way still goes."""
    destinations.remove(destination_id, request.user)
    return Status(204, None)


@router.post("/destinations/{int:destination_id}/try", response={200: DestinationOut, 404: Problem})
def try_destination(request: Request, destination_id: int) -> DestinationOut:
    """Prove a destination by writing, reading back, removing; of mail, by signing in."""
    return _shown(destinations.try_out(destination_id))


@router.get("/name-placeholders", response=list[Placeholder])
def list_placeholders(request: Request) -> list[Placeholder]:
    """What patterns of names may fill in."""
    return [Placeholder(name=name, purpose=purpose) for name, purpose in PLACEHOLDERS.items()]


@router.post("/name-placeholders/try", response={200: NamesTried, 404: Problem})
def try_name_pattern(request: Request, asked: NamePatternIn) -> NamesTried:
    """The names that a pattern makes of what was bound last."""
    last = list(Document.objects.filter(kind=Document.Kind.ARCHIVE).select_related("stack").order_by("-pk")[:_MOST_TRIED])
    try:
        check_pattern(asked.pattern)
        names = deliveries.names_of(asked.pattern, last, asked.counter)
    except PatternError as error:
        raise Refused(str(error)) from None
    rows = [NameTried(title=of.title, name=name, twice=names.count(name) > 1) for of, name in zip(last, names, strict=True)]
    return NamesTried(names=rows, zone=timezone.get_current_timezone_name())


@router.post("/dispatches/preview", response={200: GoingOut, 404: Problem})
def preview_dispatch(request: Request, asked: GoingIn) -> GoingOut:
    """What would be sent: names, and of mail the messages as they would go."""
    to = destinations.present().get(pk=asked.destination)
    try:
        check_pattern(pattern := asked.pattern if asked.pattern is not None else to.pattern)
    except PatternError as error:
        raise Refused(str(error)) from None
    there = Document.objects.select_related("stack").in_bulk(asked.documents)
    chosen = [there[one] for one in asked.documents if one in there]
    names = deliveries.names_of(pattern, chosen, to.counter)
    message = asked.message or deliveries.own_message(to)
    linked = message is not None and message.link
    ends = deliveries.link_words(timezone.localdate() + timedelta(days=deliveries.LINK_DAYS))
    rows = []
    for at, (of, name) in enumerate(zip(chosen, names, strict=True), 1):
        size, twice = deliveries.bytes_of(of), names.count(name) > 1
        row = GoingRow(
            document=of.pk, name=name, bytes=size, problem=deliveries.problem_of(to, of, size, twice=twice, linked=linked)
        )
        if message is not None:
            mail = deliveries.written(message, of, at, to.counter + at)
            # What is attached lies in no folder.
            row.name, row.subject, row.text = name.rpartition("/")[2], mail.subject, mail.text
            if linked:
                row.text += f"\n\n(here the link stands)\n{ends}"
        rows.append(row)
    return GoingOut(recipients=list(message.recipients) if message else [], rows=rows)


@router.post("/dispatches", response={201: list[DeliveryOut]})
def dispatch_documents(request: Request, asked: DispatchAsked) -> Status[list[DeliveryOut]]:
    """Send documents to one or several destinations in one step."""
    return Status(201, [_delivery(one) for one in deliveries.dispatch(asked, request.user, request.build_absolute_uri("/"))])


@router.get("/deliveries", response=DeliveriesOut)
def list_deliveries(
    request: Request, stack: int | None = None, destination: int | None = None,
    show: Literal["all", "open", "stuck", "arrived", "missing"] = "all", before: int | None = None,
) -> DeliveriesOut:  # fmt: skip
    """Deliveries and receipts, the newest first."""
    among = _among(stack, destination)
    counts = among.aggregate(**{name: Count("pk", filter=which) for name, which in _SHOWN.items()})
    chosen = among.filter(_SHOWN[show])
    if before is not None:
        chosen = chosen.filter(pk__lt=before)
    found = list(chosen.select_related("destination", "asked_by", "document")[: _MOST + 1])
    return DeliveriesOut(deliveries=[_delivery(one) for one in found[:_MOST]], more=len(found) > _MOST, counts=counts)


@router.post("/deliveries/{int:delivery_id}/steer", response={200: DeliveryOut, 404: Problem})
def steer_delivery(request: Request, delivery_id: int, asked: SteerIn) -> DeliveryOut:
    """Hold a delivery, let it go on, give it up, or try it again."""
    return _delivery(deliveries.steer(delivery_id, _EVENTS[asked.do]))


@router.post("/receipts/check", response=ReceiptsOut)
def check_receipts(request: Request, asked: ReceiptsIn) -> ReceiptsOut:
    """Have what was delivered looked at again where it lies; those by mail cannot be."""
    return ReceiptsOut(asked=deliveries.ask_for_check(asked.deliveries, asked.stack))


@router.get("/receipts.json", response=list[dict[str, Any]])
def get_receipts_json(request: Request, stack: int | None = None, destination: int | None = None) -> list[dict[str, Any]]:
    """Receipts of what has arrived."""
    return [receipts.told(one) for one in _receipts(stack, destination)]


@router.get("/receipts.csv", response={200: "text/csv"})
def get_receipts_csv(request: Request, stack: int | None = None, destination: int | None = None) -> HttpResponse:
    """Receipts of what has arrived, for a spreadsheet."""
    response = HttpResponse(receipts.as_csv(_receipts(stack, destination)), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="receipts.csv"'
    return response


@router.get("/stacks/{int:stack_id}/papers", response={200: PapersOut, 404: Problem})
def get_papers(request: Request, stack_id: int) -> PapersOut:
    """Whether the papers of a stack may go, by what was said of them, who signed, and what has been proven to arrive."""
    fate = papers_of(Stack.objects.get(pk=stack_id))
    return PapersOut(may=fate.may, said=fate.said)


@router.get("/recipients", response=list[str])
def list_recipients(request: Request) -> list[str]:
    """Addresses that mail was sent to, whoever was written to last first."""
    return deliveries.addresses_used(_MOST_ADDRESSES)


@router.get("/deliveries/{int:delivery_id}/file", response={200: "application/octet-stream", 404: Problem})
def get_delivered(request: Request, delivery_id: int) -> HttpResponseBase:
    """What lies there now under the delivery's name, fetched from there: the delivered object itself."""
    delivery = Delivery.objects.select_related("destination").get(pk=delivery_id)
    kind = mimetypes.guess_type(delivery.file_name)[0] or "application/octet-stream"
    return FileResponse(
        fetched(delivery), content_type=kind, filename=delivery.file_name, as_attachment=kind not in _SHOWN_INLINE
    )


_SHOWN: dict[str, Q] = {
    "all": Q(),
    "open": Q(state__in=course.OPEN),
    "stuck": STUCK,
    "arrived": Q(state="arrived"),
    "missing": LOST,
}


def _among(stack: int | None, destination: int | None) -> QuerySet[Delivery]:
    among = Delivery.objects.all()
    if stack is not None:
        among = among.filter(document__stack=stack)
    if destination is not None:
        among = among.filter(destination=destination)
    return among


def _receipts(stack: int | None, destination: int | None) -> QuerySet[Delivery]:
    return _among(stack, destination).filter(state="arrived").select_related("destination", "asked_by")


def _counted(among: QuerySet[Destination]) -> QuerySet[Destination]:
    return among.annotate(
        waiting=Count("deliveries", filter=Q(deliveries__state__in=course.OPEN)),
        asking=Count("deliveries", filter=Q(deliveries__state="stuck")),
    )


def _shown(destination: Destination) -> DestinationOut:
    return _destination(_counted(Destination.objects.all()).get(pk=destination.pk))


def _destination(one: Any) -> DestinationOut:
    place = place_of(one.place)
    fingerprint = ""
    if isinstance(place, SftpPlace) and place.host_key:
        from hollowstack.server.dispatch.carriers.sftp import fingerprint_of

        fingerprint = fingerprint_of(place.host_key)
    return DestinationOut(
        id=one.pk, name=one.name, place=place, has_secret=bool(one.secret), fingerprint=fingerprint, pattern=one.pattern,
        counter=one.counter, clash=one.clash, takes=one.takes, tried_at=one.tried_at, tried_said=one.tried_said,
        open=one.waiting, stuck=one.asking,
    )  # fmt: skip


def _delivery(one: Delivery) -> DeliveryOut:
    waits = one.state in {"waiting", "proving"} and one.tries > 0 and not one.held
    return DeliveryOut(
        id=one.pk, document=one.document_id, stack=one.document.stack_id if one.document else None, title=one.title,
        stack_name=one.stack_name, destination=one.destination_id, destination_name=one.destination.name,
        kind=one.destination.kind, name=one.name, recipients=one.message.get("recipients", []), state=one.standing.state,
        held=one.held, tries=one.tries, next_try_at=datetime.fromtimestamp(one.due, UTC) if waits else None, said=one.said,
        bytes=one.bytes, sha256=one.sha256, where=one.where, proof=one.proof, answer=one.answer, asked_at=one.asked_at,
        asked_by=one.asked_by.get_username() if one.asked_by else "", arrived_at=one.arrived_at,
        checked_at=one.checked_at, check_said=one.check_said, missing=one.missing, looking=one.is_looked_at,
    )  # fmt: skip
