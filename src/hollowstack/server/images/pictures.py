"""Pictures of pages for whoever looks: cut and tried out in page workers, so that no picture is decoded in this process."""

import atexit
import threading
from collections.abc import Callable
from pathlib import Path
from typing import ParamSpec, TypeVar

from hollowstack.core.run.steps import VIEW
from hollowstack.core.run.worker import PageWorker

P = ParamSpec("P")
R = TypeVar("R")
_SECONDS = 60.0
_WORKERS = 2


class PictureWorkers:
    """A few page workers; a picture goes to the same one each time, which has it decoded already."""

    def __init__(self, count: int = _WORKERS) -> None:
        self._workers = [(PageWorker(), threading.Lock()) for _ in range(count)]

    def run(self, picture: Path, function: Callable[P, R], /, *args: P.args, **kwargs: P.kwargs) -> R:
        """The result of something done to a picture.

        Raises:
            HollowStackError: What it raised.
            WorkerError: It took too long, or the picture cannot be read.
        """
        worker, lock = self._workers[hash(picture) % len(self._workers)]
        with lock:
            return worker.run(_SECONDS, function, *args, **kwargs)

    def close(self) -> None:
        """Stop them."""
        for worker, lock in self._workers:
            with lock:
                worker.close()


WORKERS = PictureWorkers()
"""Of this process; each is started when it is first wanted."""
atexit.register(WORKERS.close)


def view_path(folder: Path) -> Path | None:
    """The picture that a step left in its folder."""
    return next((path for suffix in ("jpg", "png") if (path := folder / f"{VIEW}.{suffix}").exists()), None)
