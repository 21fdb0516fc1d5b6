"""``manage.py engine``: the process that does the page work."""

import os
import signal
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from hollowstack.server.engine.runner import Engine, connect


class Command(BaseCommand):
    """Run the engine until it is told to stop."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Whom to follow."""
        parser.add_argument("--parent", type=int, default=0, help="end when this process is no longer the parent")

    def handle(self, *args: Any, **options: Any) -> None:
        """Start, work, and end cleanly on SIGTERM or Ctrl-C."""
        client = connect()
        engine = Engine(client, alone=lambda: bool(options["parent"]) and os.getppid() != options["parent"])

        def stop(*_: object) -> None:
            engine.stopping = True

        signal.signal(signal.SIGTERM, stop)
        signal.signal(signal.SIGINT, stop)
        try:
            engine.run()
        finally:
            client.close()
            if client.cluster is not None:
                client.cluster.close()
