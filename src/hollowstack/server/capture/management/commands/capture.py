"""``manage.py capture``: the capture process. Takes up every run that is wanted, or that another one left under way,
looks into watched folders, and lets bind what is to be bound once it is ready."""

import logging
import os
import signal
import threading
import time
from types import FrameType
from typing import Any

from django.conf import settings
from django.core.exceptions import ObjectDoesNotExist
from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError

from hollowstack.server.capture.executor import Carrier
from hollowstack.server.capture.models import Run
from hollowstack.server.capture.services import OPEN
from hollowstack.server.capture.slips import bind_what_is_ready
from hollowstack.server.capture.watching import Watcher

_LOOK_SECONDS = 0.25
_FOLLOW_SECONDS = 0.75
log = logging.getLogger("hollowstack.capture")


class Command(BaseCommand):
    """Run until told to stop."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The process that started it, with which it ends."""
        parser.add_argument("--parent", type=int, default=0)

    def handle(self, *args: Any, **options: Any) -> None:
        """One thread a run, so that one station never waits for another."""
        stopping = threading.Event()

        def stop(number: int, frame: FrameType | None) -> None:
            stopping.set()

        signal.signal(signal.SIGTERM, stop)
        signal.signal(signal.SIGINT, stop)
        at_work: dict[int, tuple[Carrier, threading.Thread]] = {}
        watcher, looked = Watcher(), 0.0
        while not stopping.is_set() and not (options["parent"] and os.getppid() != options["parent"]):
            at_work = {run: pair for run, pair in at_work.items() if pair[1].is_alive()}
            for run in Run.objects.filter(state__in=OPEN).values_list("pk", flat=True):
                if run not in at_work:
                    carrier = Carrier(run, settings.STATION_SECONDS)
                    thread = threading.Thread(target=carrier.work, name=f"run {run}", daemon=True)
                    at_work[run] = (carrier, thread)
                    thread.start()
            if time.monotonic() - looked > _FOLLOW_SECONDS:
                looked = time.monotonic()
                self._follow(watcher)
            time.sleep(_LOOK_SECONDS)
        watcher.close()
        for carrier, _ in at_work.values():
            carrier.halt()
        for _, thread in at_work.values():
            thread.join(3)

    @staticmethod
    def _follow(watcher: Watcher) -> None:
        """What needs no station; a stack removed in the middle of it is no reason to stop."""
        try:
            watcher.look()
            bind_what_is_ready()
        except (ObjectDoesNotExist, DatabaseError):
            log.warning("watched folders and order slips were passed over this time", exc_info=True)
