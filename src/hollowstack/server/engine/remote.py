"""What runs on a worker of the cluster: one page worker of its own, so that a page is stopped alone. Knows no Django."""

import threading
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from typing import Any, Literal, NamedTuple

from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.errors import DamagedResultError, FaultKind, HollowStackError, WorkerError, fault_of
from hollowstack.core.run import copies, exports, steps
from hollowstack.core.run.worker import PageWorker

FUNCTIONS: dict[str, Callable[..., dict[str, Any]]] = {
    "expand": steps.expand,
    "measure": steps.measure_step,
    "render": steps.render_step,
    "read": steps.read_step,
    "bind": steps.bind_step,
    "copy": copies.copy_step,
    "export": exports.export_step,
}
_OF_A_MASTER = frozenset(FUNCTIONS) - {"bind", "copy", "export"}
"""Steps whose first argument is the path of a master, which is named by its digest."""
_DAMAGED = "The file as it came is damaged on the disk: add the same file again, and it is put right."
_worker: PageWorker | None = None
_one_at_a_time = threading.Lock()
"""A worker of the cluster may have several threads, and its page worker one pipe."""


class Answer(NamedTuple):
    """What came of a step: a result, or a sentence that says why there is none and where the fault lies."""

    key: str
    """Of what was asked for, so that no answer is taken for another's."""
    body: dict[str, Any] | None
    error: str = ""
    kind: FaultKind | Literal["", "page"] = ""
    damaged: str = ""
    """The result that was to be used and is to be made again first."""


def work(step: str, key: str, arguments: tuple[Any, ...], seconds: float) -> Answer:
    """Run a step, of a master only if it is still the file that it is named after."""
    global _worker
    with _one_at_a_time:
        _worker = _worker or PageWorker()
        try:
            if step in _OF_A_MASTER:
                _require_sound(Path(arguments[0]))
            return Answer(key, _worker.run(seconds, FUNCTIONS[step], *arguments))
        except DamagedResultError as error:
            return Answer(key, None, str(error), error.kind, error.key)
        except WorkerError as error:
            return Answer(key, None, str(error), error.kind)
        except HollowStackError as error:
            return Answer(key, None, str(error), "page")
        except OSError as error:
            fault = fault_of(error)
            return Answer(key, None, str(fault), fault.kind)


def _require_sound(master: Path) -> None:
    about = master.stat()
    if _digest(master, about.st_ino, about.st_size, about.st_mtime_ns) != master.name:
        raise WorkerError(_DAMAGED, "storage")


@lru_cache(maxsize=4096)
def _digest(path: Path, *_as_it_is: int) -> str:
    """Of a file as it is now: the pages of one file are many, and it is read for this once."""
    return sha256_of(path)
