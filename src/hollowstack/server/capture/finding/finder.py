"""Keeps the list of stations that were found: asks each what it can do, and writes down what has changed."""

import json
import logging
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from dataclasses import asdict, dataclass
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection, transaction

from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.capture.finding.announcements import Announcement
from hollowstack.server.capture.finding.listening import Listening, interfaces_in
from hollowstack.server.capture.models import FoundStation
from hollowstack.server.capture.station_list import talk_to
from hollowstack.server.errors import Refused

log = logging.getLogger("hollowstack.capture")
_FIRST_SECONDS = 2.0
"""Answers to the first question come within so long; before that nobody is missed."""
_LOOK_SECONDS = 15.0
"""So often those that are there are asked whether they still are: a pulled cable says no goodbye."""
_ANSWER_SECONDS = 3.0
_AT_ONCE = 8
SILENT = "It announces itself, and does not answer: check its power and its cable."


@dataclass(frozen=True, slots=True)
class Seen:
    """A found station as it is written down."""

    name: str
    place: str
    uuid: str
    address: str
    capabilities: dict[str, Any] | None
    problem: str


class Finder:
    """Listens in a thread of its own until closed; where there is no network to listen on, it does nothing."""

    def __init__(self) -> None:
        self._closing, self._changed = threading.Event(), threading.Event()
        self._thread = threading.Thread(target=self._work, name="finding stations", daemon=True)
        if settings.FIND_STATIONS:
            self._thread.start()

    def close(self) -> None:
        """Listen no longer."""
        self._closing.set()
        self._changed.set()
        if self._thread.is_alive():
            self._thread.join(2 * _ANSWER_SECONDS)

    def _work(self) -> None:
        interfaces = interfaces_in(settings.STATION_NETWORKS)
        try:
            with ExitStack() as until_closed:
                until_closed.callback(connection.close)
                listening = until_closed.enter_context(Listening(interfaces, self._changed.set)) if interfaces else None
                self._closing.wait(_FIRST_SECONDS)
                while not self._closing.is_set():
                    self._changed.clear()
                    self._write(look(listening.there() if listening else []))
                    self._changed.wait(_LOOK_SECONDS if listening else None)
        except OSError as error:
            log.warning("stations do not appear by themselves: this machine cannot listen for them (%s)", error)

    def _write(self, seen: dict[str, Seen]) -> None:
        try:
            write(seen)
        except DatabaseError as error:
            log.warning("found stations could not be written down, and are again in a moment: %s", error)
            time.sleep(1)
            self._changed.set()


def look(announced: list[Announcement]) -> dict[str, Seen]:
    """Each announced station with what it can do, by its service; one that does not answer holds no other up."""
    if not announced:
        return {}
    with ThreadPoolExecutor(min(_AT_ONCE, len(announced))) as pool:
        return {one.service: seen for one, seen in zip(announced, pool.map(_look, announced), strict=True)}


def _look(one: Announcement) -> Seen:
    can, problem, uuid = None, "", one.uuid
    try:
        with talk_to(one.address, _ANSWER_SECONDS) as client:
            found = client.capabilities()
        can, uuid = json.loads(json.dumps(asdict(found))), uuid or found.uuid  # as it is read back
    except Refused as error:
        problem = str(error)
    except HollowStackError:
        problem = SILENT
    return Seen(one.name, one.place, uuid, one.address, can, problem)


def write(seen: dict[str, Seen]) -> None:
    """Make the list that which was seen; where it is that already, nothing is written."""
    known = {row.service: row for row in FoundStation.objects.all()}
    gone = known.keys() - seen.keys()
    news = {service: one for service, one in seen.items() if service not in known or _of(known[service]) != one}
    if not gone and not news:
        return
    with transaction.atomic():
        FoundStation.objects.filter(service__in=gone).delete()
        for service, one in news.items():
            FoundStation.objects.update_or_create(service=service, defaults=asdict(one))


def _of(row: FoundStation) -> Seen:
    return Seen(row.name, row.place, row.uuid, row.address, row.capabilities, row.problem)
