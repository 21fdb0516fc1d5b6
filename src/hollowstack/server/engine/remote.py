"""What runs on a worker of the cluster: one page worker of its own, so that a page is stopped alone. Knows no Django."""

import threading
from typing import Any

from hollowstack.core.page.errors import HollowStackError
from hollowstack.core.run import steps
from hollowstack.core.run.worker import PageWorker

FUNCTIONS = {
    "expand": steps.expand,
    "measure": steps.measure_step,
    "render": steps.render_step,
    "read": steps.read_step,
    "bind": steps.bind_step,
}
_worker: PageWorker | None = None
_one_at_a_time = threading.Lock()
"""A worker of the cluster may have several threads, and its page worker one pipe."""


def work(step: str, arguments: tuple[Any, ...], seconds: float) -> tuple[dict[str, Any] | None, str]:
    """Run a step; returns its result and an empty string, or None and one sentence that says why not."""
    global _worker
    with _one_at_a_time:
        _worker = _worker or PageWorker()
        try:
            return _worker.run(seconds, FUNCTIONS[step], *arguments), ""
        except HollowStackError as error:
            return None, str(error)
