"""A process beside the server that looks again and again whether there is something to do: one for each data folder."""

import logging
import os
import signal
import sys
import threading
import time
from abc import abstractmethod
from collections.abc import Callable
from types import FrameType
from typing import Any, ClassVar

from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection

from hollowstack.server.storage.locks import AlreadyRunning, only_one

_LOOK_SECONDS = 0.25
_PATIENCE, _MOST_WAIT = 30.0, 60.0
"""Seconds for which a process that is ending is waited for; and after which the database is tried again at the latest."""


class LoneProcess(BaseCommand):
    """A command that works until it is told to stop (SIGTERM, Ctrl-C), or whoever started it is gone."""

    what: ClassVar[str]
    """A word for it, part of its lock's name."""
    # Those of the web application would read all of its code first.
    requires_system_checks = ()

    @abstractmethod
    def work(self, done: Callable[[], bool]) -> None:
        """Do so until ``done``."""

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
            with only_one(self.what, _PATIENCE, done):
                self.work(done)
        except AlreadyRunning as error:
            self.stderr.write(str(error))
            sys.exit(2)


def keep_looking(look: Callable[[], None], done: Callable[[], bool], log: logging.Logger) -> None:
    """Look four times a second until ``done``; while the database cannot be used, after growing waits."""
    wait = 1.0
    while not done():
        try:
            look()
            wait = 1.0
            time.sleep(_LOOK_SECONDS)
        except DatabaseError as error:
            log.warning("the database cannot be used now (%s): tried again in %.0f s", error, wait)
            connection.close_if_unusable_or_obsolete()
            time.sleep(wait)
            wait = min(_MOST_WAIT, wait * 2)
