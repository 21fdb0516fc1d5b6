"""Access copies as the engine makes them: pages through files, a small result back."""

import time
from dataclasses import asdict
from pathlib import Path
from typing import Any

from hollowstack.core.access import AccessOrder, AccessPage, Mark, Passwords, make_access_copy
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import make_folder
from hollowstack.core.page.errors import BindError, fault_of
from hollowstack.core.run.steps import bound_page


def copy_step(pages: list[dict[str, Any]], target: str, order: dict[str, Any], passwords: dict[str, str]) -> dict[str, Any]:
    """Make an access copy of clean pages: each as ``bind_step`` has it, with its ``marks``.

    Raises:
        DamagedResultError: Files of a step are missing or not those that it wrote; none of them is copied.
        BindError: The copy cannot be made.
        WorkerError: It cannot be written.
    """
    start = time.perf_counter()
    path = Path(target)
    make_folder(path.parent)
    told = AccessOrder.model_validate(order)
    marked = (AccessPage(bound_page(page), tuple(map(Mark.model_validate, page["marks"]))) for page in pages)
    try:
        made = make_access_copy(marked, path, told, Passwords(**passwords))
    except BindError as error:
        if isinstance(error.__cause__, OSError):
            raise fault_of(error.__cause__) from None
        raise
    return {
        **asdict(made),
        "checked": [one.model_dump(mode="json") for one in made.checked],
        "bytes": path.stat().st_size,
        "sha256": sha256_of(path),
        "seconds": round(time.perf_counter() - start, 3),
    }
