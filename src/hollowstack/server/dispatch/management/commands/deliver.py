"""``manage.py deliver``: the delivery process. Sends what is to be sent, proves that it arrived, looks at receipts again.

It may be killed at any moment: what is open is in the database, and is taken up by the next one.
"""

import logging
import os
import signal
import sys
import threading
import time
from collections.abc import Callable
from types import FrameType
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection

from hollowstack.server.dispatch.courier import carry, due_ones, look_again, receipts_due
from hollowstack.server.storage.locks import AlreadyRunning, only_one
from hollowstack.server.storage.news import News

_LOOK_SECONDS = 0.25
_LEAST_SECONDS = 1.0
"""After so long is looked whether anything is due, written or not."""
_AT_ONCE, _PATIENCE, _MOST_WAIT = 4, 30.0, 60.0
"""Destinations that are gone to at the same time; one place is gone to by one delivery at a time."""
log = logging.getLogger("hollowstack.dispatch")


class Command(BaseCommand):
    """Run until told to stop."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The process that started it, with which it ends."""
        parser.add_argument("--parent", type=int, default=0)

    def handle(self, *args: Any, **options: Any) -> None:
        """Be the only one, and work."""
        stopping = threading.Event()

        def stop(number: int, frame: FrameType | None) -> None:
            stopping.set()

        def done() -> bool:
            return stopping.is_set() or bool(options["parent"] and os.getppid() != options["parent"])

        signal.signal(signal.SIGTERM, stop)
        signal.signal(signal.SIGINT, stop)
        try:
            with only_one("deliver", _PATIENCE, done):
                Deliverer(done).run()
        except AlreadyRunning as error:
            self.stderr.write(str(error))
            sys.exit(2)


class Deliverer:
    """A thread for each destination that something is due for."""

    def __init__(self, done: Callable[[], bool]) -> None:
        self._done = done
        self._at_work: dict[int, threading.Thread] = {}
        self._news = News(_LEAST_SECONDS)

    def run(self) -> None:
        """Work until ``done``. What is being sent when it begins was left so by a process before it: there is only one."""
        wait = 1.0
        while not self._done():
            try:
                self._at_work = {place: one for place, one in self._at_work.items() if one.is_alive()}
                if self._news.is_there() or self._at_work:
                    self._take_up()
                wait = 1.0
                time.sleep(_LOOK_SECONDS)
            except DatabaseError as error:
                log.warning("the database cannot be used now (%s): tried again in %.0f s", error, wait)
                connection.close_if_unusable_or_obsolete()
                time.sleep(wait)
                wait = min(_MOST_WAIT, wait * 2)
        for thread in self._at_work.values():
            thread.join(3)

    def _take_up(self) -> None:
        now = time.time()
        for wanted in (due_ones(now), receipts_due(now)):
            for place in wanted.exclude(destination__in=self._at_work).values_list("destination", flat=True).distinct():
                if len(self._at_work) >= _AT_ONCE:
                    return
                if place not in self._at_work:
                    thread = threading.Thread(target=self._serve, args=(place,), name=f"destination {place}", daemon=True)
                    self._at_work[place] = thread
                    thread.start()

    def _serve(self, place: int) -> None:
        """All that is due for a destination, one after the other; the thread has its own connection to the database."""
        try:
            while not self._done():
                now = time.time()
                if delivery := due_ones(now).filter(destination=place).first():
                    carry(delivery.pk)
                elif receipt := receipts_due(now).filter(destination=place).first():
                    look_again(receipt.pk)
                else:
                    return
        except Exception:
            log.exception("destination %d", place)
        finally:
            connection.close()
