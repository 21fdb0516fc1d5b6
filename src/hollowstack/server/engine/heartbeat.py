"""The engine's sign of life: given from a thread of its own, so that a long piece of work is not taken for death."""

import logging
import threading
import time

from django.db import DatabaseError, connection
from django.utils import timezone

from hollowstack.server.engine.models import Heartbeat

log = logging.getLogger("hollowstack.engine")
_BEAT_SECONDS = 5.0
_MOST_SILENCE = 120.0
"""An engine that has not come round for so long has stuck, and is not said to live."""


class Heart:
    """Beats while its engine comes round; a context manager."""

    def __init__(self) -> None:
        self._turned_at, self._workers = time.monotonic(), 0
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._beat, name="heart", daemon=True)
        self.began = False
        """Whether the engine has come round once."""

    def __enter__(self) -> "Heart":
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._stopped.set()
        self._thread.join(5)

    def turned(self, workers: int) -> None:
        """The engine has come round, and has so many workers."""
        self._turned_at, self._workers, self.began = time.monotonic(), workers, True

    def _beat(self) -> None:
        while not self._stopped.wait(0.2 if not self.began else _BEAT_SECONDS):
            if not self.began or time.monotonic() - self._turned_at > _MOST_SILENCE:
                continue
            try:
                given = {"beat_at": timezone.now(), "workers": self._workers}
                Heartbeat.objects.update_or_create(pk=1, defaults=given)
            except DatabaseError as error:
                log.warning("no sign of life could be given: %s", error)
                connection.close()
        connection.close()
