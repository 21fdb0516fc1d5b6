"""The text of 2,000 pages with 60,000 doubtful words: how long each question takes that the view of the text asks.

Pages and readings are made up and lie where the engine would have put them; server and database are the real ones. Gathering the
words is timed too: that is the engine's work, and done once a reading.
"""

import argparse
import random
import time
from collections.abc import Callable
from typing import Any

from benchmarks.arrange import DATA, made_up
from benchmarks.asking import asked_for
from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.read.looks import LOOK_BYTES
from hollowstack.core.run.steps import LOOKS, READING
from hollowstack.server.reading import gathering
from hollowstack.server.reading.models import Doubt
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage import places
from hollowstack.standins.skerry.readable import name, some
from tests.live import Live

WORDS, DOUBTFUL = 250, 30
LIMIT_MS = 150.0


def written(stack: Stack) -> None:
    """A reading of each page: running text and names, some of it doubtful."""
    rng = random.Random(1)
    names = [name(rng) for _ in range(400)]
    for page in stack.pages.order_by("position"):
        words = (some(rng, 90) * 3)[:WORDS]
        doubtful = set(rng.sample(range(WORDS), DOUBTFUL))
        lines = []
        for row in range(0, WORDS, 10):
            made = []
            for at, text in enumerate(words[row : row + 10]):
                box = (40 + 90 * at, 60 + 50 * (row // 10), 120 + 90 * at, 90 + 50 * (row // 10))
                doubt = rng.uniform(0.25, 1) if row + at in doubtful else rng.uniform(0, 0.05)
                read = rng.choice(names) if row + at in doubtful else text
                made.append(Word(text=read, box=box, confidence=90, doubt=round(doubt, 3), alternatives=(read[::-1], text)))
            lines.append(Line(words=made, baseline=(40, 90 + 50 * (row // 10), 940, 90 + 50 * (row // 10))))
        reading = Reading(language="eng", size_px=(1000, 1400), blocks=[block_of(lines)])
        assert page.reading_id is not None
        folder = places.result_path("read", page.reading_id)
        folder.mkdir(parents=True, exist_ok=True)
        (folder / READING).write_text(reading.model_dump_json(exclude_defaults=True))
        (folder / LOOKS).write_bytes(rng.randbytes(LOOK_BYTES * WORDS))


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=2000)
    parser.add_argument("--questions", type=int, default=60)
    given = parser.parse_args()
    stack = made_up(given.pages)
    written(stack)
    start = time.perf_counter()
    while gathering.gather_some():
        pass
    spent = time.perf_counter() - start
    print(f"words of {given.pages} pages gathered in {spent:.1f} s, {1000 * spent / given.pages:.1f} ms a page")
    print(f"{Doubt.objects.count():,} doubtful words, {Doubt.objects.filter(known=False).count():,} to be asked for")
    live = Live(DATA)
    try:
        _timed(live, stack.pk, given.questions)
    finally:
        live.stop()


def _timed(live: Live, stack: int, count: int) -> None:
    rng = random.Random(2)
    pages = [page["id"] for page in live.pages(stack)]
    rows: list[dict[str, Any]] = live.call("GET", f"/api/v1/stacks/{stack}/doubts?most=200")

    def behind(number: int) -> Any:
        row = rows[number % len(rows)]
        after = f"doubt={row['doubt']}&from_page={row['page']}&place={row['place']}"
        return live.call("GET", f"/api/v1/stacks/{stack}/doubts?{after}")

    def put_right(number: int) -> Any:
        row = rows[number]
        edit = {"page": row["page"], "box": row["box"], "kind": "word", "before": row["text"], "after": "Merriwether"}
        doing = {"do": "put right", "edits": [edit]}
        return live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 1 << 40, "doing": doing})

    def alike(number: int) -> Any:
        row = rows[100 + number]
        return live.call("GET", f"/api/v1/pages/{row['page']}/alike?box={','.join(map(str, row['box']))}")

    words = ["lamp", "keeper", "oil", "renewed", "carriage", "fog", "bell", "tremor"]
    asked: dict[str, Callable[[int], Any]] = {
        "the worst doubtful words": lambda _: live.call("GET", f"/api/v1/stacks/{stack}/doubts"),
        "those behind one": behind,
        "the text in figures": lambda _: live.call("GET", f"/api/v1/stacks/{stack}/reading"),
        "the words of a page": lambda _: live.call("GET", f"/api/v1/pages/{rng.choice(pages)}/words"),
        "pages that hold a word": lambda n: live.call("GET", f"/api/v1/stacks/{stack}/found?words={words[n % len(words)]}"),
        "the same elsewhere": alike,
        "a word put right": put_right,
    }
    reached = asked_for(asked, count, LIMIT_MS)
    print(f"{reached} of {len(asked)} reached")


if __name__ == "__main__":
    main()
