"""The engine at work: asks the database what is wanting, hands it to the cluster, writes down what comes back."""

import logging
import os
import queue
import time
from collections.abc import Callable

import dask
from distributed import Client, Future, LocalCluster, scheduler
from django.conf import settings
from django.db import DatabaseError, connection
from django.utils import timezone

from hollowstack.core.run.keys import versions
from hollowstack.server.engine import recording, remote, wanting
from hollowstack.server.engine.heartbeat import Heart
from hollowstack.server.engine.models import Heartbeat
from hollowstack.server.engine.recording import Outcome
from hollowstack.server.engine.scheduling import Offered, Resized, Schedule, Settled, Task
from hollowstack.server.engine.tls import security
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.reading import gathering
from hollowstack.server.results import faults
from hollowstack.server.results.models import DOCUMENT_STEPS, Result
from hollowstack.server.search import things
from hollowstack.server.shelf import cover_sheets
from hollowstack.server.stacks import grouping, planning
from hollowstack.server.storage.news import News
from hollowstack.server.storage.room import is_room

log = logging.getLogger("hollowstack.engine")
_IDLE_SECONDS = 0.4
_LOOK_SECONDS = 4.0
"""How often the cluster is counted, and room looked for where some is wanting."""
_ASK_SECONDS = 10.0
"""Asked again after so long, whether anything was written or not."""
_FILE_SECONDS = 1.0
"""Cover sheets are looked for no more often: papers are filed seconds after the last of them has come."""
_BIND_SECONDS = 3600.0
_WORKER_SECONDS = 5.0
_LOST = "The machines working on the page were lost several times: see that they run, then try again."
_MIXED_UP = "The answer for another page came back: try again; if it happens again, report it."
_MOST_WAIT = 10.0


_QUIET = {
    "distributed.admin.tick.interval": "1s",
    "distributed.client.scheduler-info-interval": "30s",
    "distributed.admin.system-monitor.interval": "30s",
    "distributed.worker.profile.enabled": False,
    "distributed.scheduler.work-stealing": False,
    "distributed.scheduler.active-memory-manager.start": False,
    # Pages are worked on in processes of their own, whose memory the cluster does not see.
    "distributed.worker.memory.target": False,
    "distributed.worker.memory.spill": False,
    "distributed.worker.memory.pause": False,
    "distributed.worker.memory.terminate": False,
}
"""What the cluster measures of itself, and nobody reads, takes a seventh of a core while nothing is to be done."""


def connect() -> Client:
    """The scheduler named in the settings, or a cluster of processes on this machine; both over TLS with keys of our own."""
    keys = security()
    dask.config.set(_QUIET)
    # Not a setting: how often a worker says that it lives. One that is lost is known by its broken connection.
    scheduler.heartbeat_interval = lambda workers: _WORKER_SECONDS
    if settings.SCHEDULER:
        return Client(settings.SCHEDULER, name="hollowstack-engine", security=keys)
    cluster = LocalCluster(
        n_workers=settings.WORKERS or os.cpu_count() or 1,
        threads_per_worker=1,
        processes=True,
        dashboard_address="127.0.0.1:0",
        host="tls://127.0.0.1",
        security=keys,
        silence_logs=logging.ERROR,
    )
    return Client(cluster, name="hollowstack-engine", security=keys)


def by_todays_versions() -> None:
    """Have all pages planned anew where the last engine worked by other versions of the steps."""
    known = Heartbeat.objects.filter(pk=1).values_list("versions", flat=True).first()
    if known == versions():
        return
    log.info("%d pages are planned anew", planning.mark_all())
    Heartbeat.objects.update_or_create(pk=1, defaults={"beat_at": timezone.now(), "versions": versions()})


class Engine:
    """Runs until told to stop. The only writer of results."""

    def __init__(self, client: Client, alone: Callable[[], bool] = lambda: False) -> None:
        """``alone`` tells whether whoever started the engine is gone, so that it should go too."""
        self._client = client
        self._alone = alone
        self._schedule = Schedule()
        self._back: queue.Queue[tuple[Task, Future]] = queue.Queue()
        self._flying: dict[str, tuple[Task, Future]] = {}
        self._unwritten: list[Outcome] = []
        self._heart = Heart()
        self._looked_at = 0.0
        self._filed_at = 0.0
        self._news = News(_ASK_SECONDS)
        self._full = False
        """Whether the disk of the data is full: nothing is begun then until it is not."""
        self.stopping = False

    def run(self) -> None:
        """Work until ``stopping``. What the database cannot take now is kept, and written once it can."""
        wait = 1.0
        with self._heart:
            while not self.stopping and not self._alone():
                try:
                    self._turn()
                    wait = 1.0
                except DatabaseError as error:
                    log.warning("the database cannot be used now (%s): tried again in %.0f s", error, wait)
                    connection.close_if_unusable_or_obsolete()
                    self._sleep(wait)
                    wait = min(_MOST_WAIT, wait * 2)

    def _turn(self) -> None:
        self._look_around()
        if not self._heart.began:
            by_todays_versions()
        self._heart.turned(self._schedule.workers)
        if self._news.is_there():
            if self._plan():
                self._news.expect()
            self._drop_unwanted()
            if self._schedule.room and not self._full:
                tasks = wanting.wanted(self._schedule.room, self._schedule.in_flight)
                for instruction in self._schedule.handle(Offered(tasks)):
                    self._submit(instruction.task)
        self._collect()

    def _submit(self, task: Task) -> None:
        seconds = _BIND_SECONDS if task.step in DOCUMENT_STEPS else settings.PAGE_SECONDS
        future = self._client.submit(
            remote.work, task.step, task.key, task.arguments, seconds, key=f"{task.step}-{task.key}", pure=False
        )
        self._flying[task.key] = task, future
        future.add_done_callback(lambda done: self._back.put((task, done)))

    def _collect(self) -> None:
        """Wait a moment for something to come back, and write down all that did."""
        wait = 0.0 if self._news.expected else _IDLE_SECONDS
        while True:
            try:
                task, future = self._back.get(timeout=wait) if wait else self._back.get_nowait()
            except queue.Empty:
                break
            wait = 0.0
            self._flying.pop(task.key, None)
            if outcome := _outcome(task, future):
                self._unwritten.append(outcome)
            else:
                self._schedule.handle(Settled(task.key))
            self._news.expect()
        if self._unwritten:
            self._write()

    def _write(self) -> None:
        """What cannot be written now stays in flight, so that it is not made twice."""
        recording.record(self._unwritten)
        for outcome in self._unwritten:
            self._schedule.handle(Settled(outcome.key))
        full = any(outcome.kind == Result.Kind.ROOM for outcome in self._unwritten)
        self._unwritten = []
        if full and not is_room():
            self._full = True

    def _plan(self) -> bool:
        """One slice of what is to be planned, filed, gathered as words, checked, found; whether there was any."""
        if (stack_id := planning.stack_with_marked_pages()) is not None:
            return bool(planning.plan_marked(stack_id))
        if (stack_id := grouping.stack_to_regroup()) is not None:
            return grouping.regroup(stack_id)
        if time.monotonic() - self._filed_at >= _FILE_SECONDS:
            self._filed_at = time.monotonic()
            if cover_sheets.file_some():
                return True
        return bool(gathering.gather_some()) or check_some() or bool(things.refresh_some())

    def _drop_unwanted(self) -> None:
        """Take back what nobody wants any more, if no worker has begun it; what is under way ends and is kept."""
        if not self._flying:
            return
        wanted = wanting.still_wanted([*self._flying])
        for key, (_, future) in self._flying.items():
            if key not in wanted and future.status == "pending":
                future.cancel()

    def _look_around(self) -> None:
        """How many workers there are, and whether there is room again where none was left."""
        if time.monotonic() - self._looked_at < _LOOK_SECONDS:
            return
        self._looked_at = time.monotonic()
        self._schedule.handle(Resized(len(self._client.scheduler_info(n_workers=-1)["workers"])))
        if (self._full or not self._heart.began) and is_room():
            self._full = False
            if faults.room_is_back(timezone.now()):
                self._news.expect()

    def _sleep(self, seconds: float) -> None:
        until = time.monotonic() + seconds
        while time.monotonic() < until and not self.stopping and not self._alone():
            time.sleep(0.1)


def _outcome(task: Task, future: Future) -> Outcome | None:
    """What came of a task; None where it was lost with its scheduler, or taken back, and is simply wanted again."""
    if future.status == "finished":
        answer: remote.Answer = future.result()
        if answer.key != task.key:
            log.error("%s %s: the answer is for %s", task.step, task.key[:12], answer.key[:12])
            return Outcome(task.step, task.key, None, _MIXED_UP, Result.Kind.LOST)
        if answer.error:
            log.warning("%s %s: %s", task.step, task.key[:12], answer.error)
        return Outcome(task.step, task.key, answer.body, answer.error, answer.kind, answer.damaged)
    if future.status == "error":
        log.error("%s %s: %r", task.step, task.key[:12], future.exception())
        return Outcome(task.step, task.key, None, _LOST, Result.Kind.LOST)
    return None
