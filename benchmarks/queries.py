"""What the database is asked: planning, lists, the shelf, a treatment for ten thousand pages. ``make bench`` prints it.

Limits are those of the issue that asked for them; the machine that prints them is named by its own floor (a plain statement).
"""

import io
import os
import sys
import tempfile
import threading
import time
import zipfile
from collections.abc import Callable
from pathlib import Path

DATA = Path(tempfile.mkdtemp(prefix="hollowstack-queries-"))
os.environ["HOLLOWSTACK_DATA"] = str(DATA)
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")

import django

django.setup()

from django.core.management import call_command
from django.db import connection, transaction

from hollowstack.core.decode.archive import opened
from hollowstack.core.measure import Measurements
from hollowstack.core.run.keys import expand_key, measure_key
from hollowstack.server.api.v1 import shelf, views
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.intake import archives, batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import history, planning, services
from hollowstack.server.stacks.models import Master, Page, Source, Stack
from hollowstack.server.stacks.standing import settle
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.spools import shared, spooled
from tests.server.conftest import CLEAN, MEASURED, READ

FOUND = Measurements.model_validate(MEASURED)


def fill(stacks: int, pages: int, *, worked: bool) -> list[Stack]:
    """Stacks of so many pages each, worked through or only measured."""
    made = []
    for _ in range(stacks):
        with transaction.atomic():
            made.append(_stack(pages, worked=worked))
    return made


def _stack(count: int, *, worked: bool) -> Stack:
    stack = services.create_stack("Made up", None)
    batch = batches.open_batch(stack.pk, None)
    treatment = services.treatment_of(stack)
    names = [f"{stack.pk:032x}{number:032x}" for number in range(count)]
    Master.objects.bulk_create(Master(sha256=name, bytes=1000) for name in names)
    sources = Source.objects.bulk_create(
        Source(stack=stack, batch=batch, index=n, master_id=name, name=f"page {n}.jpg") for n, name in enumerate(names)
    )
    rows, results = [], []
    for source in sources:
        page = Page(stack=stack, source=source, position=source.index << 20, change=1)
        page.opened_id, page.measured_id = expand_key(source.master_id), measure_key(source.master_id, 0)
        planning.plan(page, treatment, FOUND)
        steps = {"expand": (page.opened_id, {"frames": 1}), "measure": (page.measured_id, {"measurements": MEASURED})}
        if worked:
            steps |= {"render": (page.rendered_id, CLEAN), "read": (page.reading_id, READ)}
        results += [Result(key=key, step=step, body=body) for step, (key, body) in steps.items()]
        rows.append(page)
    Page.objects.bulk_create(rows)
    Result.objects.bulk_create(results)
    Stack.objects.filter(pk=stack.pk).update(change=1, order_change=1)
    settle(stack.pages.all())
    return stack


def best(what: Callable[[], object], times: int = 5) -> float:
    """Milliseconds, the quickest of some."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        what()
        taken.append((time.perf_counter() - start) * 1000)
    return min(taken)


class Others:
    """Another writer, who wants the database every 20 ms while something goes on; ``longest`` is how long it waited."""

    def __init__(self) -> None:
        self.longest, self._stop = 0.0, threading.Event()
        self._thread = threading.Thread(target=self._write)

    def __enter__(self) -> "Others":
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._stop.set()
        self._thread.join()

    def _write(self) -> None:
        other = Stack.objects.order_by("pk").values_list("pk", flat=True)[0]
        while not self._stop.wait(0.02):
            start = time.perf_counter()
            Stack.objects.filter(pk=other).update(opened_at=None)
            self.longest = max(self.longest, (time.perf_counter() - start) * 1000)
        connection.close()


def treat(stack: Stack) -> tuple[float, float]:
    """Another treatment for a stack, and the engine's planning of it: CPU seconds, longest wait of another writer in ms."""
    began = time.process_time()
    with Others() as others:
        with transaction.atomic():
            now = Stack.objects.get(pk=stack.pk)
            treatment = services.treatment_of(now).model_copy(update={"bitonal_from": 91.0, "version": 1})
            history.record(now, None, "Treated", seen=now.change, treatment=treatment)
        while (marked := planning.stack_with_marked_pages()) is not None:
            planning.plan_marked(marked)
    return time.process_time() - began, others.longest


def unpack(count: int) -> float:
    """A ZIP of so many small files into a stack: CPU seconds."""
    path = DATA / "uploads" / "scans.zip"
    path.parent.mkdir(exist_ok=True)
    with zipfile.ZipFile(path, "w") as archive:
        for number in range(count):
            archive.writestr(f"page {number}.jpg", b"\xff\xd8\xff" + number.to_bytes(4) * 100)
    batch = batches.open_batch(services.create_stack("Packed", None).pk, None)
    began = time.process_time()
    with opened(path) as archive:  # what their bytes take alone: other ones, of the same length
        for entry in archive.entries:
            with archive.bytes_of(entry) as stream:
                data = bytes(reversed(stream.read(1 << 20)))
            with spooled(io.BytesIO(data)) as inside:
                keep_master(inside)
    floor = time.process_time() - began
    began = time.process_time()
    with shared(path) as spool:
        pages, left_out = archives.take_in(batch.pk, 0, path.name, spool, again=False)
    assert (len(pages), left_out) == (count, [])
    return time.process_time() - began - floor


def main() -> int:
    call_command("migrate", verbosity=0)
    missed = 0

    def row(what: str, value: float, unit: str, limit: float) -> None:
        nonlocal missed
        missed += value > limit
        print(
            f"{what:<58}{value:>9.1f} {unit:<3} limit {limit:>7.0f}  {'' if value <= limit else 'NOT REACHED'}", flush=True
        )

    row("floor: one question of the database", best(lambda: Stack.objects.count()), "ms", 5)
    (large,) = fill(1, 10_000, worked=True)
    fill(2_000, 5, worked=True)
    row("planning over 20,000 pages, nothing to do", best(lambda: wanted(4, frozenset())), "ms", 200)
    stack = Stack.objects.get(pk=large.pk)
    views.pages_out(stack, 0)
    row("list of 10,000 unchanged pages", best(lambda: views.pages_out(stack, stack.change)), "ms", 50)
    Result.objects.filter(step="read", key__in=stack.pages.values("reading_id")).delete()
    settle(stack.pages.all())
    row("planning over 20,000 pages, 10,000 to be read", best(lambda: wanted(4, frozenset())), "ms", 200)
    seconds, longest = treat(stack)
    row("another treatment for 10,000 pages, CPU", seconds, "s", 20)
    row("and the longest that anybody waited meanwhile", longest, "ms", 300)
    row("files of a ZIP of 5,000, CPU besides their bytes", unpack(5_000), "s", 10)
    fill(3_000, 2, worked=True)
    shelf._known.clear()
    start = time.perf_counter()
    shelf.stacks_out(list(Stack.objects.order_by("-pk")[:60]))
    row("shelf of 5,000 stacks: its first 60, first time", (time.perf_counter() - start) * 1000, "ms", 1000)
    again = best(lambda: shelf.stacks_out(list(Stack.objects.order_by("-pk")[:60])), 3)
    row("and again", again, "ms", 1000)
    return 1 if missed else 0


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
    sys.exit(main())
