"""Each night a share of everything is read, and what nothing wants is removed."""

import logging
import threading
from datetime import datetime, timedelta

from django.db import DatabaseError, connection
from django.utils import timezone

from hollowstack.server.upkeep.collecting import collect
from hollowstack.server.upkeep.models import Round
from hollowstack.server.upkeep.verifying import SHARES, verify

log = logging.getLogger("hollowstack.upkeep")
_LOOK_SECONDS = 300.0
_EARLIEST_HOUR, _LATEST_HOUR = 1, 5
_REST_SECONDS = 0.02
"""Between two files, so that others get to the disk."""
_OVERDUE = timedelta(days=2)
"""A machine that is switched off at night does its round by day."""


def is_due(now: datetime, last: Round | None) -> bool:
    """Whether a round is to be made: once a night, by local time, or whenever one is overdue."""
    if last is None:
        return _EARLIEST_HOUR <= now.hour < _LATEST_HOUR
    since = now - last.ended_at
    return since > _OVERDUE or (since > timedelta(hours=12) and _EARLIEST_HOUR <= now.hour < _LATEST_HOUR)


def make_round(stopping: threading.Event) -> Round | None:
    """Read the next share, then collect; returns what was found, or None where it was stopped."""
    last = Round.objects.filter(pk=1).first()
    share = (last.share + 1) % SHARES if last else 0
    read = damaged = 0
    for look in verify(share):
        read += 1
        if look.damage:
            damaged += 1
            log.warning("%s", look.damage)
        if stopping.wait(_REST_SECONDS):
            return None
    freed = collect().bytes
    given = {"ended_at": timezone.now(), "share": share, "read": read, "damaged": damaged, "freed": freed}
    log.info("nightly round: %d files read, %d damaged, %d bytes freed", read, damaged, freed)
    return Round.objects.update_or_create(pk=1, defaults=given)[0]


class Nights(threading.Thread):
    """Makes a round each night until it is stopped."""

    def __init__(self) -> None:
        super().__init__(name="nights", daemon=True)
        self._stopping = threading.Event()

    def stop(self) -> None:
        """End soon."""
        self._stopping.set()

    def run(self) -> None:
        """Wait for nights."""
        while not self._stopping.wait(_LOOK_SECONDS):
            try:
                if is_due(timezone.localtime(), Round.objects.filter(pk=1).first()):
                    make_round(self._stopping)
            except (DatabaseError, OSError):
                log.warning("the nightly round broke off; it is made again", exc_info=True)
            finally:
                connection.close()
