"""Order slips and watched folders over HTTP, and the paper sizes that can be asked for."""

from typing import cast

from django.utils import timezone
from ninja import Schema, Status
from pydantic import Field

from hollowstack.core.arrange.order import DocumentRule, DocumentsAfter
from hollowstack.core.page.paper_sizes import PAPER_SIZES
from hollowstack.core.settings.original import Original
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture import dry_run, slips, waiting, watching
from hollowstack.server.capture.answers import NOTHING_SAID, Answers, Asked
from hollowstack.server.capture.models import OrderSlip, Run, Watch
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.capture.slip_names import next_names
from hollowstack.server.dispatch.destinations import present
from hollowstack.server.ids import Id
from hollowstack.server.stacks.models import Stack

router = Router(tags=["capture"])


class SlipIn(Schema):
    """A capture job to keep under a name that no other slip has."""

    name: str
    station: int
    settings: CaptureSettings
    treatment: str = "everyday"
    new_document_after: DocumentsAfter = "separator sheets"
    pages_a_document: int = Field(1, ge=1, le=10_000)
    """Where that is a number of pages."""
    naming: str = ""
    """Of stacks and documents: a pattern of names, of what is known before there is a page."""
    asks: list[Asked] = []
    """What is asked before the first sheet."""
    original: Original = Original()
    """Where the papers are, and what becomes of them, where that is always the same."""
    shared: bool = True
    """Whether others see it."""
    send_to: list[Id] = Field([], max_length=50)
    """Destinations that what is bound is sent to."""


class SlipNamingIn(Schema):
    """What a slip would name its stacks by, while it is being written."""

    name: str = Field("", max_length=slips.MOST_SLIP_NAME)
    naming: str = Field("", max_length=slips.MOST_NAMING)
    asks: list[Asked] = Field([], max_length=20)
    original: Original = Original()
    slip: Id | None = None
    """The kept slip that is being changed: its counter goes on."""


class NextNames(Schema):
    """What the next stacks of a slip would be called; what it asks for stands in ‹marks›."""

    names: list[str]
    zone: str
    """The time zone that dates and times in them are of."""


class SlipOut(Schema):
    """A saved capture job."""

    id: int
    name: str
    station: int | None
    station_name: str
    settings: CaptureSettings
    treatment: str
    new_document_after: DocumentsAfter
    pages_a_document: int
    naming: str
    asks: list[Asked]
    original: Original
    shared: bool
    send_to: list[int]
    """Destinations that what is bound is sent to; those that are gone are not told."""
    gone: int
    """How many of its destinations are."""
    by: str
    """Whoever made it; empty where they are no longer here."""
    waiting: bool
    """Whether it waits at its station: paper laid in, or the device's key, starts it."""
    waiting_problem: str
    """Why what was due could not be started."""


class AnswersIn(Schema):
    """What was said when a slip asked before the first sheet; what it does not ask for is not listened to."""

    title: str = Field("", max_length=200)
    original: Original = Original()


class DryFinding(Schema):
    """One thing that a dry try has looked at: whether it is well, and a sentence."""

    well: bool
    sentence: str


class SlipOrder(Schema):
    """Slips in the order in which they are to stand."""

    slips: list[int] = Field(max_length=1000)


class Started(Schema):
    """A capture that a slip has started, and the new stack that it goes into."""

    run: int
    stack: int


class WatchNote(Schema):
    """A file of a watched folder that is not taken in, and why; ``gone`` where it was moved out of the way."""

    name: str
    sentence: str
    gone: bool


class WatchOut(Schema):
    """A stack's watched folder."""

    on: bool
    folder: str
    taken: int
    notes: list[WatchNote]


class WatchIn(Schema):
    """Whether the folder is watched."""

    on: bool


class PaperOut(Schema):
    """A paper size, upright."""

    name: str
    width_mm: float
    height_mm: float
    standard: str


@router.get("/paper-sizes", response=list[PaperOut])
def list_paper_sizes(request: Request) -> list[PaperOut]:
    """Paper sizes by name, series by series."""
    return [PaperOut(**size._asdict()) for size in PAPER_SIZES]


@router.get("/order-slips", response=list[SlipOut])
def list_order_slips(request: Request) -> list[SlipOut]:
    """All order slips that are shared, and one's own, in their order."""
    return [_slip(slip) for slip in slips.seen_by(request.user).select_related("station", "by").prefetch_related("waiting")]


@router.post("/order-slips", response={201: SlipOut, 404: Problem})
def create_order_slip(request: Request, new: SlipIn) -> Status[SlipOut]:
    """Save a capture job."""
    return Status(201, _slip(slips.save(_job(new), request.user)))


@router.post("/order-slips/names", response={200: NextNames, 404: Problem})
def try_slip_naming(request: Request, told: SlipNamingIn) -> NextNames:
    """What the next stacks of a slip would be called."""
    used = slips.seen_by(request.user).get(pk=told.slip).used if told.slip is not None else 0
    naming, name = " ".join(told.naming.split()), " ".join(told.name.split())
    names = next_names(naming, name, told.asks, told.original, used)
    return NextNames(names=names, zone=timezone.get_current_timezone_name())


@router.put("/order-slips/order", response={204: None})
def put_slip_order(request: Request, order: SlipOrder) -> Status[None]:
    """Put the slips into an order; those that are not named come behind."""
    slips.arrange(order.slips, request.user)
    return Status(204, None)


@router.put("/order-slips/{int:slip_id}", response={200: SlipOut, 404: Problem})
def put_order_slip(request: Request, slip_id: int, job: SlipIn) -> SlipOut:
    """Say something else on a slip, or name it otherwise."""
    return _slip(slips.change(slip_id, _job(job), request.user))


@router.post("/order-slips/{int:slip_id}/copy", response={201: SlipOut, 404: Problem})
def copy_order_slip(request: Request, slip_id: int) -> Status[SlipOut]:
    """Another slip that says the same, behind it."""
    return Status(201, _slip(slips.copy(slip_id, request.user)))


@router.post("/order-slips/{int:slip_id}/dry-run", response={200: list[DryFinding], 404: Problem})
def try_order_slip(request: Request, slip_id: int, answers: AnswersIn) -> list[DryFinding]:
    """What it would do, and what stands against it, without a sheet moved."""
    slip = slips.seen_by(request.user).select_related("station").get(pk=slip_id)
    found = dry_run.try_dry(slip, _answers(answers))
    return [DryFinding(well=one.well, sentence=one.sentence) for one in found]


@router.delete("/order-slips/{int:slip_id}", response={204: None, 404: Problem})
def delete_order_slip(request: Request, slip_id: int) -> Status[None]:
    """Throw an order slip away; what was captured by it stays."""
    slips.seen_by(request.user).get(pk=slip_id).delete()
    return Status(204, None)


@router.post("/order-slips/{int:slip_id}/start", response={201: Started, 404: Problem})
def start_order_slip(request: Request, slip_id: int, answers: AnswersIn | None = None) -> Status[Started]:
    """Capture into a new stack, correct, read and bind it."""
    slips.seen_by(request.user).get(pk=slip_id)
    run: Run = slips.start(slip_id, request.user, _answers(answers))
    return Status(201, Started(run=run.pk, stack=run.stack_id))


@router.put("/order-slips/{int:slip_id}/waiting", response={200: SlipOut, 404: Problem})
def put_waiting_slip(request: Request, slip_id: int, answers: AnswersIn | None = None) -> SlipOut:
    """Let it wait at its station, in the place of the one that waited there."""
    slips.seen_by(request.user).get(pk=slip_id)
    return _slip(waiting.wait(slip_id, request.user, _answers(answers)).slip)


@router.delete("/order-slips/{int:slip_id}/waiting", response={204: None, 404: Problem})
def delete_waiting_slip(request: Request, slip_id: int) -> Status[None]:
    """Take a waiting slip back; what it has started goes on."""
    slips.seen_by(request.user).get(pk=slip_id)
    waiting.no_longer(slip_id)
    return Status(204, None)


@router.get("/stacks/{int:stack_id}/watch", response={200: WatchOut, 404: Problem})
def get_watch(request: Request, stack_id: int) -> WatchOut:
    """The stack's watched folder."""
    stack = Stack.objects.get(pk=stack_id)
    return _watch(Watch.objects.filter(stack=stack).first() or Watch(stack=stack))


@router.put("/stacks/{int:stack_id}/watch", response={200: WatchOut, 404: Problem})
def put_watch(request: Request, stack_id: int, watch: WatchIn) -> WatchOut:
    """Watch the stack's folder, or no longer."""
    return _watch(watching.switch(stack_id, request.user, on=watch.on))


def _slip(slip: OrderSlip) -> SlipOut:
    known = set(present().filter(pk__in=slip.send_to).values_list("pk", flat=True)) if slip.send_to else set()
    waits = list(slip.waiting.all())
    return SlipOut(
        waiting=bool(waits),
        waiting_problem=waits[0].problem if waits else "",
        id=slip.pk,
        name=slip.name,
        station=slip.station_id,
        station_name=slip.station.name if slip.station else "a station no longer here",
        settings=CaptureSettings.model_validate(slip.settings),
        treatment=slip.treatment,
        new_document_after=cast("DocumentsAfter", slip.new_document_after),
        pages_a_document=slip.pages_a_document,
        naming=slip.naming,
        asks=slip.asks,
        original=Original.model_validate(slip.original),
        shared=slip.shared,
        send_to=(there := [one for one in slip.send_to if one in known]),
        gone=len(slip.send_to) - len(there),
        by=slip.by.get_username() if slip.by else "",
    )


def _job(told: SlipIn) -> slips.Job:
    return slips.Job(
        told.name,
        told.station,
        told.settings,
        told.treatment,
        DocumentRule(told.new_document_after, told.pages_a_document),
        told.naming,
        tuple(told.asks),
        told.original,
        told.shared,
        tuple(told.send_to),
    )


def _answers(told: AnswersIn | None) -> Answers:
    return Answers(told.title, told.original) if told else NOTHING_SAID


def _watch(watch: Watch) -> WatchOut:
    return WatchOut(on=watch.on, folder=str(watching.folder_of(watch.stack_id)), taken=watch.taken, notes=watch.notes)
