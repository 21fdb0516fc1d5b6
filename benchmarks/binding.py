"""How fast and in how much memory a document is bound and checked: ``make bench`` runs it.

Two thousand pages in layers, three hundred words on each, from encoded pages; and as many large ones, which do not fit in memory
together. Limits are the project's own.
"""

import pickle
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind import document as document_module
from hollowstack.core.bind.conformance import check_conformance
from hollowstack.core.bind.lossy import encode_jpeg
from hollowstack.core.ocr.model import Block, Line, Reading, Word
from tests.reference.documents import layered

PAGES, LARGE_BYTES = 2000, 2_000_000
FASTEST, MOST_MB = 40, 400


def reading() -> Reading:
    """Forty-two lines of seven words."""
    lines = []
    for row in range(42):
        top, words, at = 40 + 17 * row, [], 40
        for text in ["the", "keeper", "wrote", "down", "wind", "and", "weather"]:
            words.append(Word(text=text, box=(at, top, at + 10 * len(text), top + 14), confidence=90.0))
            at += 10 * len(text) + 10
        lines.append(Line(words=words, baseline=(40, top + 11, at, top + 11)))
    return Reading(language="eng", size_px=(600, 800), blocks=[Block(kind="text", box=(0, 0, 600, 800), lines=lines)])


def pages(kind: str) -> Iterator[BoundPage]:
    # Made in another process: what it takes to encode a page is not what it takes to bind one.
    page = subprocess.run([sys.executable, __file__, "page"], capture_output=True, check=True).stdout
    image, words, rng = pickle.loads(page), reading(), np.random.default_rng(1)
    large = encode_jpeg(np.full((3508, 2480, 3), 240, np.uint8), 50)
    for _ in range(PAGES):
        if kind == "large":
            # An even page, and behind its end bytes that no two pages share.
            data = large.data + rng.integers(0, 256, LARGE_BYTES, np.uint8).tobytes()
            yield BoundPage(replace(large, data=data), (300, 300), words)
        else:
            yield BoundPage(image, (150, 150), words)


def measure(kind: str) -> None:
    """In a process of its own, whose memory is its own."""
    with tempfile.TemporaryDirectory(dir=Path.home()) as folder:
        file = Path(folder) / "a.pdf"
        spent = 0.0

        def timed(*given: object) -> object:
            nonlocal spent
            start = time.perf_counter()
            found = check_conformance(*given)  # type: ignore[arg-type]
            spent += time.perf_counter() - start
            return found

        document_module.check_conformance = timed  # type: ignore[assignment]
        start = time.perf_counter()
        bind(pages(kind), file, Binding(Description("A volume", datetime(2026, 3, 1, tzinfo=UTC))))
        took = time.perf_counter() - start
        memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        print(f"{took - spent} {spent} {memory} {file.stat().st_size / 1e6}")


def main() -> None:
    """Print a row a kind."""
    if sys.argv[1:] == ["page"]:
        sys.stdout.buffer.write(pickle.dumps(layered()))
        return
    if len(sys.argv) > 1:
        measure(sys.argv[1])
        return
    print(f"{'':28} {'bound/s':>8} {'checked/s':>9} {'memory':>8} {'file':>9}")
    for kind in ("compact", "large"):
        done = subprocess.run([sys.executable, __file__, kind], capture_output=True, text=True, check=True)
        took, spent, memory, size = (float(value) for value in done.stdout.split())
        rate = PAGES / took
        verdict = "reached" if rate >= FASTEST and memory <= MOST_MB else "NOT YET"
        print(f"{PAGES} pages, {kind:16} {rate:8.1f} {PAGES / spent:9.1f} {memory:5.0f} MB {size:6.0f} MB  {verdict}")
    print(f"limits: {FASTEST} pages a second bound, {MOST_MB} MB")


if __name__ == "__main__":
    main()
