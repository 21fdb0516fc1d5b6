"""Search over 100,000 pages (25 million words): how long questions take, how fast the index is built, how large it is.

Words are made up: as many of them, and as often, as in a language (the n-th most frequent about 1/n as often as the first, Zipf).
Pages and readings lie where the engine would have put them; server and database are the real ones.
"""

import argparse
import json
import os
import random
import resource
import statistics
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
DATA = Path(tempfile.mkdtemp(prefix="hollowstack-search-"))
os.environ.update(HOLLOWSTACK_DATA=str(DATA), DJANGO_SETTINGS_MODULE="hollowstack.server.config.settings")

import django

django.setup()

import numpy as np
from django.core.management import call_command
from django.db import connection, transaction
from django.utils import timezone

from benchmarks.asking import asked_for
from benchmarks.checked import all_checked
from hollowstack.core.find.written import Token, Written
from hollowstack.core.measure import Measurements
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.keys import versions
from hollowstack.core.run.steps import READING
from hollowstack.core.settings.override import Override
from hollowstack.server.engine.models import Heartbeat
from hollowstack.server.reading import index
from hollowstack.server.results.models import Result
from hollowstack.server.search import things
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Batch, Master, Page, Source, Stack
from hollowstack.server.storage import places
from hollowstack.standins.skerry.readable import name
from tests.live import Live
from tests.server.conftest import CLEAN, MEASURED, READ

WORDS, A_STACK, A_LINE = 250, 50, 10
_MEASURED = "d" * 64
VOCABULARY = 120_000
LIMIT_MS = 200.0
LEAST_A_SECOND, MOST_OF_TEXT = 2000.0, 0.6


class Language:
    """Words, and how often each is written."""

    def __init__(self) -> None:
        rng = random.Random(1)
        found = {name(rng).lower() for _ in range(VOCABULARY * 4)}
        while len(found) < VOCABULARY:
            found.add(name(rng).lower() + name(rng).lower())
        # What is written often is short in any language (Zipf, 1935).
        self.words = np.array(sorted(sorted(found)[:: max(1, len(found) // VOCABULARY)][:VOCABULARY], key=len))
        weights = 1 / (np.arange(len(self.words)) + 2.7) ** 1.05  # Mandelbrot's two figures, as usual for English
        self._sums = np.cumsum(weights / weights.sum())

    def page(self, number: int) -> list[str]:
        """The words of a page, always the same."""
        rng = np.random.default_rng(number)
        return [str(word) for word in self.words[np.searchsorted(self._sums, rng.random(WORDS))]]


def made_up(language: Language, count: int) -> None:
    """Stacks of read pages."""
    call_command("migrate", verbosity=0)
    treatment = services.treatment_json(services.versions.latest("everyday"))
    plan = plan_page(Measurements.model_validate(MEASURED), services.versions.latest("everyday"), Override())
    # Measured alike, all of them: what is looked at here is their words.
    Result.objects.create(key=_MEASURED, step="measure", body={"measurements": MEASURED})
    for first in range(0, count, A_STACK):
        number = first // A_STACK
        with transaction.atomic():
            original = {"year": str(1900 + number % 50), "box": f"SL/{number}"}
            stack = Stack.objects.create(name=f"Box {number}", treatment=treatment, original=original)
            batch = Batch.objects.create(stack=stack, base=0, record={"station": f"Glass {number % 4}"})
            keys = [f"{first + at:064x}" for at in range(A_STACK)]
            Master.objects.bulk_create(Master(sha256=key, bytes=1) for key in keys)
            sources = Source.objects.bulk_create(
                Source(stack=stack, batch=batch, index=at, master_id=key, name=f"{number}-{at:03}.jpg")
                for at, key in enumerate(keys)
            )
            Result.objects.bulk_create(
                Result(key=prefix + key[1:], step=step, body=body)
                for key in keys
                for prefix, step, body in (("e", "render", CLEAN), ("f", "read", READ))
            )
            Page.objects.bulk_create(
                Page(
                    stack=stack, source=source, position=at << 20, plan=plan.model_dump(mode="json"), state="ready", passed=4,
                    measured_id=_MEASURED, change=1,
                    rendered_id="e" + key[1:], reading_id="f" + key[1:], indexed="f" + key[1:],
                )
                for at, (key, source) in enumerate(zip(keys, sources, strict=True))
            )  # fmt: skip
        for at, key in enumerate(keys):
            _write(language.page(first + at), "f" + key[1:])


def _write(words: list[str], key: str) -> None:
    lines = []
    for row in range(0, WORDS, A_LINE):
        top = 40 + 5 * row
        line = [
            {"text": word, "box": [40 + 90 * at, top, 120 + 90 * at, top + 30], "confidence": 95}
            for at, word in enumerate(words[row : row + A_LINE])
        ]
        lines.append({"words": line, "baseline": [40, top + 30, 940, top + 30]})
    reading = {"language": "eng", "size_px": [1000, 1400], "blocks": [{"box": [40, 40, 940, 1320], "lines": lines}]}
    folder = places.result_path("read", key)
    folder.mkdir(parents=True)
    (folder / READING).write_text(json.dumps(reading))


def indexed(language: Language, count: int) -> tuple[float, int]:
    """Put all pages into the index; returns how many a second, and the bytes of their text."""
    pages = list(Page.objects.order_by("pk").values_list("pk", flat=True))
    spent, text = 0.0, 0
    for first in range(0, count, 500):
        given = [language.page(first + at) for at in range(min(500, count - first))]
        text += sum(len(" ".join(words)) for words in given)
        made = [Written(tuple(Token(word, ()) for word in words), (), ()) for words in given]
        start = time.perf_counter()
        with transaction.atomic():
            for page, one in zip(pages[first : first + 500], made, strict=True):
                index.put(page, one, "scan.jpg")
        spent += time.perf_counter() - start
    return count / spent, text


def _sizes() -> tuple[int, int]:
    """Bytes of the index, and of the words kept beside it."""
    with connection.cursor() as cursor:
        found = []
        for what in (
            "(SELECT coalesce(sum(length(block)), 0) FROM reading_search_data) "
            "+ (SELECT coalesce(sum(length(sz) + 4), 0) FROM reading_search_docsize)",
            "(SELECT sum(length(packed)) FROM reading_indexedtext)",
        ):
            cursor.execute(f"SELECT {what}")
            found.append(int(cursor.fetchone()[0]))
    return found[0], found[1]


def questions(language: Language, pages: int, count: int) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """What is asked, of each kind so many: what kind, the question, among what."""
    rng = random.Random(3)

    def word() -> str:
        # As likely among the ten most frequent ones as among the next ninety, the next nine hundred …
        return str(language.words[int(len(language.words) ** rng.random()) - 1])

    def phrase() -> str:
        words = language.page(rng.randrange(pages))
        at = rng.randrange(WORDS - 3)
        return '"' + " ".join(words[at : at + rng.choice((2, 3))]) + '"'

    among = ({"first_year": 1920, "last_year": 1929}, {"station": "Glass 1"}, {"at": "unbound", "stack": 7})
    for number in range(count):
        yield "one word", word(), {}
        yield "two words", f"{word()} {word()}", {}
        yield "a phrase", phrase(), {}
        yield "a beginning", word()[: rng.choice((3, 4, 5))] + "*", {}
        yield "with filters", word(), among[number % 3]
        yield "a slip forgiven", word(), {"forgiving": True}


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=100_000)
    parser.add_argument("--questions", type=int, default=100)
    given = parser.parse_args()
    language = Language()
    made_up(language, given.pages)
    built, text = indexed(language, given.pages)
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    start = time.perf_counter()
    index.build_anew()
    anew = given.pages / (time.perf_counter() - start)
    memory = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
    size, kept = _sizes()
    print(
        f"{given.pages:,} pages, {given.pages * WORDS:,} words, {text / 1e6:.0f} MB of text; put in: {built:.0f} pages a second"
    )
    _said(
        anew >= LEAST_A_SECOND, f"built anew: {anew:.0f} pages a second, {memory:.0f} MB more memory   limit: 2,000 a second"
    )
    _said(size / text <= MOST_OF_TEXT, f"index: {size / text:.2f} of the text's bytes   limit: {MOST_OF_TEXT}")
    print(f"words kept packed beside it: {kept / text:.2f} of the text's bytes")
    while things.refresh_some():
        pass
    # Or the engine would check all of it, or plan it anew, while it is asked.
    all_checked()
    Heartbeat.objects.update_or_create(pk=1, defaults={"beat_at": timezone.now(), "versions": versions()})
    live = Live(DATA)
    try:
        _timed(live, language, given.pages, given.questions)
    finally:
        live.stop()


def _timed(live: Live, language: Language, pages: int, count: int) -> None:
    by_kind: dict[str, list[str]] = {}
    for what, asked, among in questions(language, pages, count + 1):
        by_kind.setdefault(what, []).append(f"/api/v1/search?{urlencode({'q': asked, **among})}")
    found: dict[str, list[int]] = {what: [] for what in by_kind}

    def asking(what: str) -> Any:
        return lambda number: found[what].append(live.call("GET", by_kind[what][number])["count"])

    reached = asked_for({what: asking(what) for what in by_kind}, count, LIMIT_MS)
    print(f"{reached} of {len(by_kind)} reached")
    for what, counts in found.items():
        print(f"  {what}: {statistics.median(counts):.0f} pages in the median, {max(counts):,} at most")


def _said(reached: bool, what: str) -> None:
    print(f"{'reached' if reached else 'NOT YET':8} {what}")


if __name__ == "__main__":
    main()
