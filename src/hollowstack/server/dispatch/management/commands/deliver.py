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

from hollowstack.server.dispatch.courier import carry, is_ready, look_again
from hollowstack.server.dispatch.course import OPEN, is_due
from hollowstack.server.dispatch.models import Delivery
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
        wanted = Delivery.objects.filter(state__in=OPEN, held=False, due__lte=now).order_by("due", "pk")
        for delivery in wanted.exclude(destination__in=self._at_work).select_related("document__stack"):
            if len(self._at_work) >= _AT_ONCE:
                return
            if delivery.destination_id not in self._at_work and is_due(delivery.standing, now) and is_ready(delivery):
                self._begin(delivery.destination_id, carry, delivery.pk)
        again = Delivery.objects.filter(state="arrived", proof="read", check_due__gt=0, check_due__lte=now).order_by(
            "check_due"
        )
        for pk, place in again.exclude(destination__in=self._at_work).values_list("pk", "destination_id")[:_AT_ONCE]:
            if len(self._at_work) < _AT_ONCE and place not in self._at_work:
                self._begin(place, look_again, pk)

    def _begin(self, place: int, work: Callable[[int], None], delivery_id: int) -> None:
        thread = threading.Thread(target=_alone, args=(work, delivery_id), name=f"delivery {delivery_id}", daemon=True)
        self._at_work[place] = thread
        thread.start()


def _alone(work: Callable[[int], None], delivery_id: int) -> None:
    """In a thread of its own, which has its own connection to the database."""
    try:
        work(delivery_id)
    except Exception:
        log.exception("delivery %d", delivery_id)
    finally:
        connection.close()
