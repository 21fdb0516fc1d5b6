"""One of each: a data folder is worked on by one engine and one capture process, whoever starts them."""

import fcntl
import os
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings

from hollowstack.server.errors import Refused

_LOOK_SECONDS = 0.2


class AlreadyRunning(Refused):
    """Another process does that for this data folder."""


@contextmanager
def only_one(what: str, patience: float, given_up: Callable[[], bool] = lambda: False) -> Iterator[None]:
    """Be the one process that is ``what`` for this data folder; the lock ends with the process, however it ends.

    One that is just ending is waited for.

    Args:
        what: A word, part of the lock's file name.
        patience: For how many seconds.
        given_up: Asked meanwhile whether to stop waiting.

    Raises:
        AlreadyRunning: There is one, and it does not end.
    """
    path = Path(settings.DATA) / f"{what}.lock"
    until = time.monotonic() + patience
    with path.open("a+") as file:
        while not _locked(file.fileno()):
            if time.monotonic() >= until or given_up():
                file.seek(0)
                who = file.read(20).strip()
                raise AlreadyRunning(
                    f"Another {what} process ({who or 'unknown'}) works on this data folder: end it, or set another folder."
                )
            time.sleep(_LOOK_SECONDS)
        file.truncate(0)
        file.write(f"{os.getpid()}\n")
        file.flush()
        yield


def _locked(handle: int) -> bool:
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True
