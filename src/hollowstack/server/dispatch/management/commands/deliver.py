"""``manage.py deliver``: the delivery process. Sends what is to be sent, proves that it arrived, looks at receipts again.

It may be killed at any moment: what is open is in the database, and is taken up by the next one.
"""

import logging
import threading
import time
from collections.abc import Callable

from django.db import connection

from hollowstack.server.dispatch.courier import carry, due_ones, look_again, receipts_due
from hollowstack.server.storage.news import News
from hollowstack.server.storage.processes import LoneProcess, keep_looking

_LEAST_SECONDS = 1.0
"""After so long is looked whether anything is due, written or not."""
_AT_ONCE = 4
"""Destinations that are gone to at the same time; one place is gone to by one delivery at a time."""
log = logging.getLogger("hollowstack.dispatch")


class Command(LoneProcess):
    """Deliver until told to stop."""

    help = __doc__
    what = "deliver"

    def work(self, done: Callable[[], bool]) -> None:
        """What is being sent when it begins was left so by a process before it: there is only one."""
        Deliverer(done).run()


class Deliverer:
    """A thread for each destination that something is due for."""

    def __init__(self, done: Callable[[], bool]) -> None:
        self._done = done
        self._at_work: dict[int, threading.Thread] = {}
        self._news = News(_LEAST_SECONDS)

    def run(self) -> None:
        """Work until ``done``."""
        keep_looking(self._look, self._done, log)
        for thread in self._at_work.values():
            thread.join(3)

    def _look(self) -> None:
        self._at_work = {place: one for place, one in self._at_work.items() if one.is_alive()}
        if not self._news.is_there() and not self._at_work:
            return
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
