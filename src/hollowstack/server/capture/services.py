"""The rules of stations and captures, without HTTP and without carrying anything out."""

from dataclasses import asdict
from itertools import chain, count
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from pydantic import TypeAdapter

from hollowstack.server.capture.addresses import allowed
from hollowstack.server.capture.escl import Capabilities, EsclClient, StationError, Status
from hollowstack.server.capture.models import FoundStation, Run, Station
from hollowstack.server.capture.paper import path_of
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage.room import require_room

_LOOK_SECONDS = 4.0
MOST_NAME = 80
"""Letters of a station's name, and of its place."""
_CAPABILITIES = TypeAdapter(Capabilities)
OPEN = (Run.State.WANTED, Run.State.RUNNING, Run.State.PAUSING, Run.State.FINISHING, Run.State.CANCELLING)
FEEDER_TROUBLE = {
    "ScannerAdfJam": "A sheet is jammed",
    "ScannerAdfMultipickDetected": "Two sheets went in at once",
    "ScannerAdfMispick": "The feeder could not take the sheet",
    "ScannerAdfHatchOpen": "The feeder is open",
}


def add_station(address: str, name: str = "", place: str = "") -> Station:
    """A station by its address. Raises Refused where nothing there speaks eSCL.

    No two go by one name: a second one is told by its place, or by a number.
    """
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
    place = " ".join(place.split())[:MOST_NAME]
    with transaction.atomic():
        return Station.objects.create(
            name=free_name(name.strip()[:MOST_NAME] or can.name, place),
            place=place,
            uuid=can.uuid,
            address=address,
            capabilities=asdict(can),
        )


def free_name(name: str, place: str = "") -> str:
    """The name, or one made of it that no station has yet."""
    taken = {one.casefold() for one in Station.objects.values_list("name", flat=True)}
    numbered = (f"{name[: MOST_NAME - 4]} {number}" for number in count(2))
    named = [name, *([f"{name}, {place}"[:MOST_NAME]] if place else [])]
    return next(one for one in chain(named, numbered) if one.casefold() not in taken)


def add_found(found_id: int) -> Station:
    """A station that was found, onto the list; one that is on it already is spoken to at its new address from now on.

    Raises:
        Refused: It cannot be spoken to, or is on the list as it is.
    """
    found = FoundStation.objects.get(pk=found_id)
    if found.problem:
        raise Refused(found.problem)
    known = known_as(found)
    if known is None:
        return add_station(found.address, found.name, found.place)
    if known.address == found.address:
        raise Refused("That station is on the list already.")
    with transaction.atomic():
        refuse_at_work(known)
        Station.objects.filter(pk=known.pk).update(address=found.address)
    return Station.objects.get(pk=known.pk)


def known_as(found: FoundStation) -> Station | None:
    """The station on the list that a found one is: by its address, or by what tells it from all others."""
    same = Q(address=found.address) | (Q(uuid=found.uuid) if found.uuid else Q())
    return Station.objects.filter(same).order_by("pk").first()


def identify(station_id: int) -> bool:
    """Have a device show which one it is; False where it knows no way. Raises Refused where it may not be spoken to."""
    station = Station.objects.get(pk=station_id)
    message = f"{station.name}: this one"
    with talk_to(station.address, _LOOK_SECONDS) as client:
        return client.identify(message)


def describe_station(station_id: int, name: str | None, place: str | None) -> Station:
    """Give a station a name and a place of one's own. Raises Refused where the name is empty, or another has it."""
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        if name is not None:
            station.name = " ".join(name.split())[:MOST_NAME]
            if not station.name:
                raise Refused("A station needs a name: give it one.")
            if Station.objects.exclude(pk=station_id).filter(name__iexact=station.name).exists():
                raise Refused(f"Another station is called {station.name}: give this one a name of its own.")
        if place is not None:
            station.place = " ".join(place.split())[:MOST_NAME]
        station.save(update_fields=["name", "place"])
    return station


def talk_to(address: str, patience: float) -> EsclClient:
    """A station at an address, if the server may go there. Raises Refused."""
    place = allowed(address)
    return EsclClient(place.root, host=place.host, patience=patience)


def forget_station(station_id: int) -> Station:
    """Take a station off the list; what was captured with it stays. Raises Refused while a capture needs it."""
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        refuse_at_work(station)
        station.delete()
    return station


def refuse_at_work(station: Station) -> None:
    """Raises Refused where a capture at a station is not finished."""
    if Run.objects.filter(station=station, state__in=[*OPEN, Run.State.STOPPED]).exists():
        raise Refused("This station has a capture that is not finished: finish or cancel that one first.")


def capabilities_of(station: Station) -> Capabilities:
    """What a station said it can do."""
    return capabilities_in(station.capabilities)


def capabilities_in(told: Any) -> Capabilities:
    """Capabilities as they are kept."""
    return _CAPABILITIES.validate_python(told)


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
        jobs = jobs_for(wish, capabilities_of(station), path_of(station, wish.source))
        refuse_at_work(station)
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


def pause(run_id: int) -> Run:
    """Ask for no more sheets for now: what is on its way comes in. Raises Refused where nothing is under way."""
    under_way = (Run.State.WANTED, Run.State.RUNNING)
    return _change(run_id, under_way, Run.State.PAUSING, "The capture is not under way: there is nothing to pause.")


def finish(run_id: int) -> Run:
    """End a run where it is, and keep what it has brought. Raises Refused where it is over."""
    with transaction.atomic():
        under_way = Run.objects.filter(pk=run_id, state__in=(Run.State.WANTED, Run.State.RUNNING, Run.State.PAUSING))
        if under_way.update(state=Run.State.FINISHING):
            return Run.objects.get(pk=run_id)
        run = _change(run_id, (Run.State.STOPPED,), Run.State.DONE, "The capture is over: there is nothing to finish.")
        run.outcome, run.ended_at = said_of(run), timezone.now()
        run.save(update_fields=["outcome", "ended_at"])
        return run


def said_of(run: Run) -> str:
    """What is said of a run that ends now, where it is; empty where all that was laid in has come."""
    expected, sheet = expected_images(run), sheet_of(run)
    if expected is not None and run.received == expected:
        return ""
    received, where = run.received, f" at sheet {sheet}" if run.settings.get("source") == "feeder" else ""
    came = f"{received} of {expected} images" if expected else "1 image" if received == 1 else f"{received} images"
    return f"Ended early{where}: {came} came, and what came is in the stack."


def expected_images(run: Run) -> int | None:
    """How many images a run is to bring, where that is known: from the glass, or where sheets were counted."""
    if run.settings.get("source") == "platen":
        return len(run.settings.get("frames") or []) or 1
    sheets = run.settings.get("sheets")
    return sheets * (2 if run.settings.get("two_sided") else 1) if sheets else None


def cancel(run_id: int) -> Run:
    """Give a run up: what it brought goes to the bin, from which it can be taken back."""
    here = (*OPEN, Run.State.STOPPED)
    return _change(run_id, here, Run.State.CANCELLING, "The capture is over: undo it in the history instead.")


def discard(run: Run) -> str:
    """Put what a run brought into the bin; returns what is said of it. Call it in a transaction."""
    pages = list(Page.objects.filter(source__batch=run.batch_id, removed=False).values_list("pk", flat=True))
    if run.batch_id is None or not pages:
        if run.batch_id is not None:
            batches.drop(run.batch_id)
        return "Discarded: nothing had come."
    seen = Stack.objects.get(pk=run.stack_id).change  # by now: the run was looked up before its pages came
    Arranging(run.stack_id, run.by, seen).discard(pages)
    return f"Discarded: {len(pages)} {'page lies' if len(pages) == 1 else 'pages lie'} in the bin for 30 days."


def _change(run_id: int, states: tuple[str, ...], to: str, sentence: str) -> Run:
    with transaction.atomic():
        if not Run.objects.filter(pk=run_id, state__in=states).update(state=to, problem=""):
            Run.objects.get(pk=run_id)
            raise Refused(sentence)
        return Run.objects.get(pk=run_id)
