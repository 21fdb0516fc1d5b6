"""One thread a process looks for changes, however many browsers watch; without any it ends."""

import asyncio
import logging
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from django.db import DatabaseError, connection

from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage.news import News

log = logging.getLogger("hollowstack.events")
_LOOK_SECONDS = 0.35
_AT_LEAST_SECONDS = 15.0
GONE = -1
"""Told in the place of a count when a stack is no longer there."""


class Watcher:
    """What somebody watching a stack is told: its latest count, whichever came between."""

    def __init__(self, stack_id: int) -> None:
        self.stack_id = stack_id
        self._loop, self._rung = asyncio.get_running_loop(), asyncio.Event()
        self._latest: int | None = None

    def tell(self, change: int) -> None:
        """From any thread."""
        if change != self._latest:
            self._latest = change
            try:
                self._loop.call_soon_threadsafe(self._rung.set)
            except RuntimeError:  # its loop has ended, and it with it
                log.debug("a watcher of stack %d is gone", self.stack_id)

    async def next(self, patience: float) -> int | None:
        """The count when it has changed; None where it has not for so many seconds."""
        try:
            await asyncio.wait_for(self._rung.wait(), patience)
        except TimeoutError:
            return None
        self._rung.clear()
        return self._latest


class Broadcaster:
    """Tells everybody who watches a stack that it has changed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._watchers: set[Watcher] = set()
        self._thread: threading.Thread | None = None
        self._hurry = threading.Event()

    @asynccontextmanager
    async def watching(self, stack_id: int) -> AsyncIterator[Watcher]:
        """Watch a stack; its count is told at once, and whenever it has changed."""
        watcher = Watcher(stack_id)
        with self._lock:
            self._watchers.add(watcher)
            if self._thread is None:
                self._thread = threading.Thread(target=self._look, name="broadcast", daemon=True)
                self._thread.start()
        self._hurry.set()
        try:
            yield watcher
        finally:
            with self._lock:
                self._watchers.discard(watcher)

    def _look(self) -> None:
        news = News(_AT_LEAST_SECONDS)
        try:
            while True:
                hurry = self._hurry.is_set()
                self._hurry.clear()  # before it is asked who watches: whoever comes later is told next time
                if not (watchers := self._awake()):
                    return
                try:
                    if news.is_there() or hurry:
                        _tell(watchers)
                except DatabaseError as error:
                    log.warning("changes cannot be looked for now: %s", error)
                    connection.close_if_unusable_or_obsolete()
                    news.expect()
                self._hurry.wait(_LOOK_SECONDS)
        finally:
            connection.close()

    def _awake(self) -> list[Watcher]:
        """Who watches; with nobody left the thread ends, and the next one to watch starts another."""
        with self._lock:
            if not self._watchers:
                self._thread = None
            return list(self._watchers)


def _tell(watchers: list[Watcher]) -> None:
    watched = {watcher.stack_id for watcher in watchers}
    changes = dict(Stack.objects.filter(pk__in=watched).values_list("pk", "change"))
    for watcher in watchers:
        watcher.tell(changes.get(watcher.stack_id, GONE))


broadcaster = Broadcaster()
