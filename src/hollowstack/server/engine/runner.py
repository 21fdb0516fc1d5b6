"""The engine at work: asks the database what is wanting, hands it to the cluster, writes down what comes back."""

import logging
import os
import queue
import time
from collections.abc import Callable
from typing import Any

from distributed import Client, Future, LocalCluster
from django.conf import settings
from django.db import connection
from django.utils import timezone

from hollowstack.core.run.keys import versions
from hollowstack.server.engine import recording, remote, wanting
from hollowstack.server.engine.models import Heartbeat
from hollowstack.server.engine.scheduling import Offered, Resized, Schedule, Settled, Task
from hollowstack.server.stacks.renewal import renew

log = logging.getLogger("hollowstack.engine")
_IDLE_SECONDS = 0.3
_BEAT_SECONDS = 2.0
_ASK_SECONDS = 10.0
"""Asked again after so long, whether anything was written or not."""
_BIND_SECONDS = 3600.0
_LOST = "The page took its worker down several times: scan it at a lower resolution, or leave it out."


def connect() -> Client:
    """The scheduler named in the settings, or a cluster of processes on this machine."""
    if settings.SCHEDULER:
        return Client(settings.SCHEDULER, name="hollowstack-engine")
    cluster = LocalCluster(
        n_workers=settings.WORKERS or os.cpu_count() or 1,
        threads_per_worker=1,
        processes=True,
        dashboard_address="127.0.0.1:0",
        host="127.0.0.1",
        silence_logs=logging.ERROR,
    )
    return Client(cluster, name="hollowstack-engine")


def by_todays_versions() -> None:
    """Plan all pages anew where the last engine worked by other versions of the steps."""
    known = Heartbeat.objects.filter(pk=1).values_list("versions", flat=True).first()
    if known == versions():
        return
    log.info("planned %d pages anew", renew())
    Heartbeat.objects.update_or_create(pk=1, defaults={"beat_at": timezone.now(), "versions": versions()})


class Engine:
    """Runs until told to stop. The only writer of results."""

    def __init__(self, client: Client, alone: Callable[[], bool] = lambda: False) -> None:
        """``alone`` tells whether whoever started the engine is gone, so that it should go too."""
        self._client = client
        self._alone = alone
        self._schedule = Schedule()
        self._back: queue.Queue[tuple[Task, Future]] = queue.Queue()
        self._futures: dict[str, Future] = {}
        self._beat_at = 0.0
        self._asked_at, self._version = 0.0, -1
        self.stopping = False

    def run(self) -> None:
        """Work until ``stopping``."""
        by_todays_versions()
        while not self.stopping and not self._alone():
            self._beat()
            if self._schedule.room and self._is_news():
                tasks = wanting.wanted(self._schedule.room, self._schedule.in_flight)
                for instruction in self._schedule.handle(Offered(tasks)):
                    self._submit(instruction.task)
            self._collect()

    def _submit(self, task: Task) -> None:
        seconds = _BIND_SECONDS if task.step == "bind" else settings.PAGE_SECONDS
        future = self._client.submit(
            remote.work, task.step, task.arguments, seconds, key=f"{task.step}-{task.key}", pure=False
        )
        self._futures[task.key] = future
        future.add_done_callback(lambda done: self._back.put((task, done)))

    def _collect(self) -> None:
        """Wait a moment for something to come back, and write down all that did."""
        outcomes: list[recording.Outcome] = []
        wait = _IDLE_SECONDS
        while True:
            try:
                task, future = self._back.get(timeout=wait) if wait else self._back.get_nowait()
            except queue.Empty:
                break
            wait = 0.0
            outcome = self._outcome(task, future)
            if outcome:
                outcomes.append(outcome)
            self._futures.pop(task.key, None)
            self._schedule.handle(Settled(task.key))
            self._asked_at = 0.0
        recording.record(outcomes)

    def _is_news(self) -> bool:
        """Whether something may be wanting that was not before: asked of SQLite, which counts what others have written."""
        with connection.cursor() as cursor:
            version = cursor.execute("PRAGMA data_version").fetchone()[0]
        if version == self._version and time.monotonic() - self._asked_at < _ASK_SECONDS:
            return False
        self._version, self._asked_at = version, time.monotonic()
        return True

    @staticmethod
    def _outcome(task: Task, future: Future) -> recording.Outcome | None:
        """What came of a task; None where it was lost with its scheduler and is simply wanted again."""
        if future.status == "finished":
            body: dict[str, Any] | None
            body, error = future.result()
            if error:
                log.warning("%s %s: %s", task.step, task.key[:12], error)
            return task.step, task.key, body, error
        if future.status == "error":
            log.error("%s %s: %r", task.step, task.key[:12], future.exception())
            return task.step, task.key, None, _LOST
        return None

    def _beat(self) -> None:
        if time.monotonic() - self._beat_at < _BEAT_SECONDS:
            return
        self._beat_at = time.monotonic()
        workers = len(self._client.scheduler_info(n_workers=-1)["workers"])
        self._schedule.handle(Resized(workers))
        Heartbeat.objects.update_or_create(pk=1, defaults={"beat_at": timezone.now(), "workers": workers})
