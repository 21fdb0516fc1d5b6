"""Order slips and watched folders over HTTP, and the paper sizes that can be asked for."""

from typing import cast

from ninja import Schema, Status

from hollowstack.core.arrange.order import DocumentsAfter
from hollowstack.core.page.paper_sizes import PAPER_SIZES
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture import slips, waiting, watching
from hollowstack.server.capture.models import OrderSlip, Run, Watch
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.stacks.models import Stack

router = Router(tags=["capture"])


class SlipIn(Schema):
    """A capture job to keep under a name; the one that had that name is written over."""

    name: str
    station: int
    settings: CaptureSettings
    treatment: str = "everyday"
    new_document_after: DocumentsAfter = "separator sheets"
    naming: str = ""
    """Of stacks and documents; {date} and {number} are filled in."""


class SlipOut(Schema):
    """A saved capture job."""

    id: int
    name: str
    station: int | None
    station_name: str
    settings: CaptureSettings
    treatment: str
    new_document_after: DocumentsAfter
    naming: str
    waiting: bool
    """Whether it waits at its station: paper laid in, or the device's key, starts it."""
    waiting_problem: str
    """Why what was due could not be started."""


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
    """All order slips, by name."""
    return [_slip(slip) for slip in OrderSlip.objects.select_related("station").prefetch_related("waiting")]


@router.post("/order-slips", response={201: SlipOut, 404: Problem})
def create_order_slip(request: Request, new: SlipIn) -> Status[SlipOut]:
    """Save a capture job."""
    saved = slips.save(new.name, new.station, new.settings, new.treatment, new.new_document_after, new.naming, request.user)
    return Status(201, _slip(saved))


@router.delete("/order-slips/{int:slip_id}", response={204: None, 404: Problem})
def delete_order_slip(request: Request, slip_id: int) -> Status[None]:
    """Throw an order slip away; what was captured by it stays."""
    OrderSlip.objects.get(pk=slip_id).delete()
    return Status(204, None)


@router.post("/order-slips/{int:slip_id}/start", response={201: Started, 404: Problem})
def start_order_slip(request: Request, slip_id: int) -> Status[Started]:
    """Capture into a new stack, correct, read and bind it."""
    run: Run = slips.start(slip_id, request.user)
    return Status(201, Started(run=run.pk, stack=run.stack_id))


@router.put("/order-slips/{int:slip_id}/waiting", response={200: SlipOut, 404: Problem})
def put_waiting_slip(request: Request, slip_id: int) -> SlipOut:
    """Let it wait at its station, in the place of the one that waited there."""
    return _slip(waiting.wait(slip_id, request.user).slip)


@router.delete("/order-slips/{int:slip_id}/waiting", response={204: None, 404: Problem})
def delete_waiting_slip(request: Request, slip_id: int) -> Status[None]:
    """Take a waiting slip back; what it has started goes on."""
    OrderSlip.objects.get(pk=slip_id)
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
        naming=slip.naming,
    )


def _watch(watch: Watch) -> WatchOut:
    return WatchOut(on=watch.on, folder=str(watching.folder_of(watch.stack_id)), taken=watch.taken, notes=watch.notes)
