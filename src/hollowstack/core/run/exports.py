"""Documents in other forms as the engine makes them: pages through files, a small result back."""

import time
from pathlib import Path
from typing import Any

from hollowstack.core.export import ExportOrder, ExportPage, export
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import make_folder
from hollowstack.core.page.errors import ExportError, fault_of
from hollowstack.core.run.binding import SOFTWARE
from hollowstack.core.run.steps import bound_page


def export_step(pages: list[dict[str, Any]], target: str, order: dict[str, Any]) -> dict[str, Any]:
    """Give out clean pages in another form: each as ``bind_step`` has it, with {label, master_path, master_name}.

    Raises:
        DamagedResultError: Files of a step are missing or not those that it wrote; none of them is given out.
        ExportError: The form has no room for them.
        WorkerError: The file cannot be written.
    """
    start = time.perf_counter()
    path = Path(target)
    make_folder(path.parent)
    told = ExportOrder.model_validate(order)
    try:
        made = export(map(_page, pages), path, told, SOFTWARE)
    except ExportError as error:
        if isinstance(error.__cause__, OSError):
            raise fault_of(error.__cause__) from None
        raise
    return {
        "pages": made.pages,
        "remarks": made.remarks,
        "page_bytes": [page["clean"]["bytes"] for page in pages],
        "bytes": path.stat().st_size,
        "sha256": sha256_of(path),
        "seconds": round(time.perf_counter() - start, 3),
    }


def _page(page: dict[str, Any]) -> ExportPage:
    bound = bound_page(page)
    return ExportPage(
        bound.image, bound.ppi, bound.reading, page["label"], Path(page["master_path"]), page["master_name"], page["master"]
    )
