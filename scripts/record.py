"""``make record``: writes down what today's steps make of the pages in ``tests/core/recorded``, a page a line."""

import json
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

from tests.core.recorded.figures import VERSIONS, figures_of
from tests.core.recorded.pages import PAGES

TARGET = Path(__file__).resolve().parents[1] / "tests" / "core" / "recorded" / "figures.json"


def _figures(name: str) -> Any:
    return figures_of(PAGES[name]())


def main() -> None:
    """Command line."""
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        found = dict(zip(PAGES, pool.map(_figures, PAGES), strict=True))
    lines = [f"  {json.dumps(name)}: {json.dumps(figures, separators=(',', ':'))}" for name, figures in found.items()]
    TARGET.write_text(
        f'{{"versions": {json.dumps(VERSIONS)}, "pages": {{\n' + ",\n".join(lines) + "\n}}\n", encoding="utf-8"
    )


if __name__ == "__main__":
    main()
