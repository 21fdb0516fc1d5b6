"""Order slips that wait at a station: paper that is laid in, or the device's own key, starts them without a browser."""

import logging
import threading
from concurrent.futures import ThreadPoolExecutor

from django.contrib.auth.models import User
from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError, connection, transaction

from hollowstack.core.page.errors import HollowStackError
from hollowstack.core.settings.original import Original
from hollowstack.server.capture import slips, station_list
from hollowstack.server.capture.answers import NOTHING_SAID, Answers, require_answers
from hollowstack.server.capture.ending import LOADED
from hollowstack.server.capture.escl import Status
from hollowstack.server.capture.models import OrderSlip, Run, WaitingSlip
from hollowstack.server.errors import Refused

log = logging.getLogger("hollowstack.capture")
_LOOK_SECONDS = 1.5
_ANSWER_SECONDS = 2.0
_AT_ONCE = 8


def wait(slip_id: int, user: User | None, answers: Answers = NOTHING_SAID) -> WaitingSlip:
    """Let a slip wait at its station, in the place of the one that waited there.

    Raises:
        Refused: The station is gone, or something that the slip asks for was not said: nobody is asked at the device.
    """
    with transaction.atomic():
        slip = OrderSlip.objects.select_related("station").get(pk=slip_id)
        if slip.station is None:
            raise Refused(slips.GONE)
        require_answers(slip, answers)
        said = {"title": answers.title, "original": answers.original.model_dump(mode="json")}
        waiting, _ = WaitingSlip.objects.update_or_create(
            station=slip.station,
            defaults={"slip": slip, "by": user, "answers": said, "seen": "", "keys": None, "problem": ""},
        )
    return waiting


def no_longer(slip_id: int) -> None:
    """Take a waiting slip back; what it has started goes on."""
    WaitingSlip.objects.filter(slip_id=slip_id).delete()


class Porter:
    """Looks at the stations at which slips wait, in a thread of its own, and starts what is due."""

    def __init__(self) -> None:
        self._closing = threading.Event()
        self._thread = threading.Thread(target=self._work, name="waiting slips", daemon=True)
        self._thread.start()

    def close(self) -> None:
        """Start nothing more."""
        self._closing.set()
        self._thread.join(2 * _ANSWER_SECONDS)

    def _work(self) -> None:
        while not self._closing.wait(_LOOK_SECONDS):
            try:
                look()
            except DatabaseError as error:
                log.warning("slips that wait cannot be looked after now: %s", error)
                connection.close_if_unusable_or_obsolete()
        connection.close()


def look() -> None:
    """Ask every station at which a slip waits how it stands, and start the slips whose time has come."""
    busy = Run.objects.filter(state__in=Run.UNFINISHED, station__isnull=False).values("station")
    waiting = list(WaitingSlip.objects.exclude(station__in=busy).select_related("station", "slip", "by"))
    if not waiting:
        return
    with ThreadPoolExecutor(min(_AT_ONCE, len(waiting))) as pool:
        told = list(pool.map(_status, [one.station.address for one in waiting]))
    for one, status in zip(waiting, told, strict=True):
        if status is not None:
            _look_at(one, status)


def _status(address: str) -> Status | None:
    try:
        with station_list.talk_to(address, _ANSWER_SECONDS) as client:
            return client.status()
    except HollowStackError:  # a station that is away is no reason to stop waiting for it
        return None


def _look_at(one: WaitingSlip, status: Status) -> None:
    """Start it where its key was pressed, or paper lies there at a second look: whoever lays a pile in needs a moment."""
    pressed = one.keys is not None and status.keys > one.keys
    lies = status.feeder == LOADED and one.slip.settings.get("source") == "feeder"
    seen = "" if one.seen == WaitingSlip.Seen.STARTED and _is_through(one) else one.seen
    due = pressed or (lies and seen == WaitingSlip.Seen.PAPER)
    if due and status.state != "Idle":
        return  # somebody else is at it: it is due as soon as they are done
    problem = _start(one) if due else one.problem if lies else ""
    if due:
        seen = WaitingSlip.Seen.STARTED
    elif not lies:
        # Seen to be empty once, a feeder may be wrong: paper that was left in would be taken for another load.
        seen = WaitingSlip.Seen.LEAVING if seen == WaitingSlip.Seen.STARTED else ""
    elif seen == WaitingSlip.Seen.LEAVING:
        seen = WaitingSlip.Seen.STARTED
    elif not seen:
        seen = WaitingSlip.Seen.PAPER
    if (seen, status.keys, problem) != (one.seen, one.keys, one.problem):
        WaitingSlip.objects.filter(pk=one.pk).update(seen=seen, keys=status.keys, problem=problem)


def _is_through(one: WaitingSlip) -> bool:
    """Whether all paper of the load before has gone through, so that what lies there now was laid in since."""
    last = Run.objects.filter(station=one.station_id).order_by("-pk").first()
    return last is not None and last.state == Run.State.DONE and not last.outcome


def _answers(one: WaitingSlip) -> Answers:
    return Answers(one.answers.get("title", ""), Original.model_validate(one.answers.get("original", {})))


def _start(one: WaitingSlip) -> str:
    """Returns why it could not be started; empty where it was."""
    try:
        slips.start(one.slip_id, one.by, _answers(one))
    except HollowStackError as error:
        return str(error)
    except ObjectDoesNotExist:  # the slip was deleted in this moment, and what waits goes with it
        return ""
    return ""
