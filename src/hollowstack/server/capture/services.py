"""The rules of stations and captures, without HTTP and without carrying anything out."""

from dataclasses import asdict

from django.contrib.auth.models import User
from django.db import transaction
from pydantic import TypeAdapter

from hollowstack.server.capture.addresses import allowed
from hollowstack.server.capture.escl import Capabilities, EsclClient, StationError, Status
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.errors import Refused
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage.room import require_room

_LOOK_SECONDS = 4.0
_CAPABILITIES = TypeAdapter(Capabilities)
OPEN = (Run.State.WANTED, Run.State.RUNNING, Run.State.CANCELLING)
FEEDER_TROUBLE = {
    "ScannerAdfJam": "A sheet is jammed",
    "ScannerAdfMultipickDetected": "Two sheets went in at once",
    "ScannerAdfMispick": "The feeder could not take the sheet",
    "ScannerAdfHatchOpen": "The feeder is open",
}


def add_station(address: str, name: str = "") -> Station:
    """A station by its address. Raises Refused where nothing there speaks eSCL."""
    address = address.strip().rstrip("/")
    if not address.startswith(("http://", "https://")):
        address = f"http://{address}"
    address = address.removesuffix("/eSCL")
    if Station.objects.filter(address=address).exists():
        raise Refused("That station is on the list already.")
    try:
        with talk_to(address, _LOOK_SECONDS) as client:
            can = client.capabilities()
    except StationError:
        # One sentence whatever is there instead: an address that is tried tells nothing of what else it does.
        raise Refused("No station answers there: check its power, its cable and its address.") from None
    return Station.objects.create(name=name.strip()[:80] or can.name, address=address, capabilities=asdict(can))


def talk_to(address: str, patience: float) -> EsclClient:
    """A station at an address, if the server may go there. Raises Refused."""
    place = allowed(address)
    return EsclClient(place.root, host=place.host, patience=patience)


def forget_station(station_id: int) -> Station:
    """Take a station off the list; what was captured with it stays. Raises Refused while a capture needs it."""
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        _refuse_at_work(station)
        station.delete()
    return station


def _refuse_at_work(station: Station) -> None:
    if Run.objects.filter(station=station, state__in=[*OPEN, Run.State.STOPPED]).exists():
        raise Refused("This station has a capture that is not finished: finish or cancel that one first.")


def capabilities_of(station: Station) -> Capabilities:
    """What a station said it can do."""
    return _CAPABILITIES.validate_python(station.capabilities)


def standing(status: Status | StationError, run: Run | None) -> tuple[str, str]:
    """How a station stands, in a word or two, and what to do about it where there is something to be done."""
    if isinstance(status, StationError):
        return ("not a station" if status.kind == "nonsense" else "offline"), str(status)
    if status.feeder in FEEDER_TROUBLE:
        what = FEEDER_TROUBLE[status.feeder]
        return _trouble(status, run), f"{what}: clear the path, put the sheet back on top, and go on."
    if status.state == "Testing":
        return "warming up", "Wait until it is ready."
    if status.state == "Processing":
        return "capturing", ""
    if status.state in {"Stopped", "Down"}:
        return "stopped", "Look at the station: it waits for somebody."
    return ("ready, feeder empty" if status.feeder == "ScannerAdfEmpty" else "ready"), ""


def _trouble(status: Status, run: Run | None) -> str:
    words = {"ScannerAdfJam": "jam", "ScannerAdfMultipickDetected": "double feed"}.get(status.feeder, "feeder stopped")
    return f"{words} at sheet {sheet_of(run)}" if run else words


def sheet_of(run: Run) -> int:
    """The sheet, from 1, that a run has come to."""
    return run.received // (2 if run.settings.get("two_sided") else 1) + 1


def start(stack_id: int, station_id: int, wish: CaptureSettings, user: User | None) -> Run:
    """Ask for a capture; the capture process begins it at once.

    Raises:
        Refused: The station cannot do it, or is at work for somebody already.
        NoRoom: The disk is nearly full.
        OverQuota: The stack, or whoever captures, has all that they may have.
    """
    require_room()
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        stack = Stack.objects.get(pk=stack_id)
        require_quota(stack_id, user.pk if user else None, 1)
        jobs = jobs_for(wish, capabilities_of(station))
        _refuse_at_work(station)
        if wish.place != "end" and not (wish.page and stack.pages.filter(pk=wish.page, removed=False).exists()):
            raise Refused("The page that was chosen for it is no longer in the stack: choose another place.")
        if wish.place == "instead" and (wish.source == "feeder" or len(jobs) > 1):
            raise Refused("In the place of a page one image is captured: use the glass, with one frame.")
        return Run.objects.create(stack=stack, station=station, settings=wish.model_dump(), by=user)


def refuse_open_capture(stack_id: int) -> None:
    """Raises Refused where a capture into a stack is not finished."""
    if Run.objects.filter(stack_id=stack_id, state__in=[*OPEN, Run.State.STOPPED]).exists():
        raise Refused("A capture into this stack is not finished: finish or cancel it first.")


def go_on(run_id: int) -> Run:
    """Let a stopped run go on from the sheet where it stopped. Raises Refused where it has not stopped."""
    return _change(
        run_id, (Run.State.STOPPED,), Run.State.WANTED, "The capture has not stopped: there is nothing to go on with."
    )


def finish(run_id: int) -> Run:
    """Keep what a stopped run has brought, and be done."""
    return _change(run_id, (Run.State.STOPPED,), Run.State.DONE, "The capture has not stopped: wait for it, or cancel it.")


def cancel(run_id: int) -> Run:
    """Give a run up: nothing of it is kept."""
    here = (*OPEN, Run.State.STOPPED)
    return _change(run_id, here, Run.State.CANCELLING, "The capture is over: undo it in the history instead.")


def _change(run_id: int, states: tuple[str, ...], to: str, sentence: str) -> Run:
    with transaction.atomic():
        if not Run.objects.filter(pk=run_id, state__in=states).update(state=to, problem=""):
            Run.objects.get(pk=run_id)
            raise Refused(sentence)
        return Run.objects.get(pk=run_id)
