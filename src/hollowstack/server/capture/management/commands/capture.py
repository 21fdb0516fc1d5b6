"""``manage.py capture``: the capture process. Takes up every run that is wanted, or that another one left under way,
looks into watched folders, listens for stations, starts slips that wait at one, and binds what is to be bound."""

import logging
import threading
import time
import uuid
from collections.abc import Callable

from django.conf import settings
from django.core.exceptions import ObjectDoesNotExist

from hollowstack.server.capture import prescan
from hollowstack.server.capture.executor import Carrier
from hollowstack.server.capture.finding.finder import Finder
from hollowstack.server.capture.models import Run, Watch
from hollowstack.server.capture.slips import bind_what_is_ready
from hollowstack.server.capture.waiting import Porter
from hollowstack.server.capture.watching import Watcher
from hollowstack.server.storage.news import News
from hollowstack.server.storage.processes import LoneProcess, keep_looking

_FOLLOW_SECONDS = 0.75
_LEAST_SECONDS = 5.0
"""After so long is looked whether anything was written or not: a run whose thread has died is taken up again."""
log = logging.getLogger("hollowstack.capture")


class Command(LoneProcess):
    """Capture until told to stop."""

    help = __doc__
    what = "capture"

    def work(self, done: Callable[[], bool]) -> None:
        """What is claimed by a process before this one was left by it: there is only one."""
        Captures(done).run()


class Captures:
    """One thread a run, so that one station never waits for another."""

    def __init__(self, done: Callable[[], bool]) -> None:
        self._done = done
        self._me = uuid.uuid4().hex
        self._at_work: dict[int, tuple[Carrier, threading.Thread]] = {}
        self._watcher, self._followed = Watcher(), 0.0
        self._finder, self._porter = Finder(), Porter()
        self._news, self._new, self._watching = News(_LEAST_SECONDS), True, True

    def run(self) -> None:
        """Work until ``done``."""
        keep_looking(self._look, self._done, log)
        self._watcher.close()
        self._finder.close()
        self._porter.close()
        for carrier, _ in self._at_work.values():
            carrier.halt()
        for _, thread in self._at_work.values():
            thread.join(3)

    def _look(self) -> None:
        news = self._news.is_there()
        if news or self._at_work:
            self._take_up()
        self._follow(news)

    def _take_up(self) -> None:
        self._at_work = {run: pair for run, pair in self._at_work.items() if pair[1].is_alive()}
        for run in Run.objects.filter(state__in=Run.OPEN).values_list("pk", flat=True):
            if run in self._at_work or not claim(run, self._me):
                continue
            carrier = Carrier(run, settings.STATION_SECONDS)
            thread = threading.Thread(target=carrier.work, name=f"run {run}", daemon=True)
            self._at_work[run] = (carrier, thread)
            thread.start()

    def _follow(self, news: bool) -> None:
        """What needs no station; a stack removed in the middle of it is no reason to stop."""
        self._new |= news
        if time.monotonic() - self._followed < _FOLLOW_SECONDS:
            return
        self._followed = time.monotonic()
        try:
            if self._new:
                bind_what_is_ready()
                self._watching = Watch.objects.filter(on=True, stack__deleted_at=None).exists()
                self._new = False
            if self._watching:
                self._watcher.look()
            prescan.let_go()
        except ObjectDoesNotExist:
            log.warning("watched folders and order slips were passed over this time", exc_info=True)


def claim(run_id: int, me: str) -> bool:
    """Take a run on in the database, so that no thread nor process carries it out beside this one."""
    return bool(Run.objects.filter(pk=run_id, state__in=Run.OPEN).update(claimed_by=me))
