"""The rules of captures, without carrying anything out."""

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.paper import path_of
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.capture.station_list import capabilities_of, refuse_at_work
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage.room import require_room


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
    if Run.objects.filter(stack_id=stack_id, state__in=Run.UNFINISHED).exists():
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
    here = Run.UNFINISHED
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


def sheet_of(run: Run) -> int:
    """The sheet, from 1, that a run has come to."""
    return run.received // (2 if run.settings.get("two_sided") else 1) + 1


def _change(run_id: int, states: tuple[str, ...], to: str, sentence: str) -> Run:
    with transaction.atomic():
        if not Run.objects.filter(pk=run_id, state__in=states).update(state=to, problem=""):
            Run.objects.get(pk=run_id)
            raise Refused(sentence)
        return Run.objects.get(pk=run_id)
