"""``manage.py engine``: the process that does the page work."""

import os
import signal
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from hollowstack.server.engine.runner import Engine, connect
from hollowstack.server.storage.locks import AlreadyRunning, only_one
from hollowstack.server.upkeep.nightly import Nights

_PATIENCE = 30.0
"""For so long an engine that is ending is waited for."""


class Command(BaseCommand):
    """Run the engine until it is told to stop."""

    help = __doc__
    # Those of the web application would read all of its code first.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """Whom to follow."""
        parser.add_argument("--parent", type=int, default=0, help="end when this process is no longer the parent")

    def handle(self, *args: Any, **options: Any) -> None:
        """Start, work, and end cleanly on SIGTERM or Ctrl-C."""

        def alone() -> bool:
            return bool(options["parent"]) and os.getppid() != options["parent"]

        try:
            with only_one("engine", _PATIENCE, alone):
                self._work(alone)
        except AlreadyRunning as error:
            self.stderr.write(str(error))
            sys.exit(2)

    @staticmethod
    def _work(alone: Any) -> None:
        client, nights = connect(), Nights()
        engine = Engine(client, alone)

        def stop(*_: object) -> None:
            engine.stopping = True

        signal.signal(signal.SIGTERM, stop)
        signal.signal(signal.SIGINT, stop)
        nights.start()
        try:
            engine.run()
        finally:
            nights.stop()
            client.close()
            if client.cluster is not None:
                client.cluster.close()
