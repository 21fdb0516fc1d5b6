"""Files and folders in, one document and a report out: the work behind ``hollowstack process``."""

import hashlib
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from natsort import os_sorted

from hollowstack.core.bind import CONFORMANCE, BoundPage, Description, bind, language_tag
from hollowstack.core.decode import count_frames
from hollowstack.core.errors import HollowStackError
from hollowstack.core.fellows import Fellows, Leaf, find_fellows
from hollowstack.core.pipeline import Known, PageResult, measure_page, process_page
from hollowstack.core.report import DocumentReport, PageReport, Report, failed_report, page_report
from hollowstack.core.treatment import Treatment
from hollowstack.core.uniform import leaf_of, page_shape
from hollowstack.core.worker import PAGE_SECONDS, PageWorker

Progress = Callable[[int, int, str], None]
"""Told of pages done, pages in all, and the source of the page just done."""


@dataclass(frozen=True, slots=True)
class Order:
    """What is to be done with the inputs."""

    inputs: tuple[Path, ...]
    out: Path
    name: str
    treatment: Treatment
    language: str | None
    workers: int
    created: datetime


@dataclass(frozen=True, slots=True)
class _Item:
    path: Path
    source: str
    frame: int
    sha256: str | None
    error: str | None = None


def run(order: Order, progress: Progress) -> Report:
    """Work through all inputs and bind what can be bound; one failing page never stops the others.

    Raises:
        BindError: The document cannot be written.
    """
    start = time.monotonic()
    with _Workers(order.workers) as workers:
        items = list(_expand(order.inputs, workers))
        done = list(_process(items, order, workers, progress))
        entries = [entry for entry, _ in done]
        document = _bind(order, (page for _, page in done if page is not None))
    return Report(document=document, seconds=round(time.monotonic() - start, 3), workers=order.workers, pages=entries)


class _Workers:
    """A page worker for each of a number of threads."""

    def __init__(self, count: int) -> None:
        self._local = threading.local()
        self._all: list[PageWorker] = []
        self._stopped = False
        self.pool = ThreadPoolExecutor(count, thread_name_prefix="page")

    def __enter__(self) -> "_Workers":
        return self

    def __exit__(self, *_: object) -> None:
        # Workers before threads: on Ctrl-C nobody waits for the pages in hand.
        self.pool.shutdown(wait=False, cancel_futures=True)
        self._stopped = True
        for worker in self._all:
            worker.stop()
        self.pool.shutdown()
        for worker in self._all:
            worker.close()

    def mine(self) -> PageWorker:
        """The calling thread's worker."""
        if not hasattr(self._local, "worker"):
            self._local.worker = PageWorker()
            self._all.append(self._local.worker)
            if self._stopped:
                self._local.worker.stop()
        worker: PageWorker = self._local.worker
        return worker


def _files(inputs: Iterable[Path]) -> Iterator[tuple[Path, str]]:
    for path in inputs:
        if path.is_dir():
            inside = [entry for entry in path.iterdir() if not entry.name.startswith(".")]
            yield from ((entry, str(path / entry.name)) for entry in os_sorted(inside))
        else:
            yield path, str(path)


def _expand(inputs: Iterable[Path], workers: _Workers) -> Iterator[_Item]:
    def look(file: tuple[Path, str]) -> list[_Item]:
        path, source = file
        try:
            frames = workers.mine().run(PAGE_SECONDS, count_frames, path)
            sha256 = sha256_of(path)
        except (HollowStackError, OSError) as error:
            digest = sha256_of(path) if path.is_file() else None
            return [_Item(path, source, 0, digest, str(error))]
        return [_Item(path, source, frame, sha256) for frame in range(frames)]

    for items in workers.pool.map(look, list(_files(inputs))):
        yield from items


def _process(
    items: list[_Item], order: Order, workers: _Workers, progress: Progress
) -> Iterator[tuple[PageReport, BoundPage | None]]:
    lock, finished = threading.Lock(), 0
    known = _measured(items, workers) if order.treatment.page_size == "uniform" else {}
    fellows = _fellows(known, order)

    def work(place: int, item: _Item) -> tuple[PageReport, PageResult | None]:
        nonlocal finished
        answer: tuple[PageReport, PageResult | None]
        if item.error or item.sha256 is None:
            answer = failed_report(item.source, item.frame, item.sha256, item.error or "The file cannot be read."), None
        else:
            try:
                result = workers.mine().run(
                    PAGE_SECONDS, process_page, item.path, item.frame, order.treatment, order.language, None,
                    known.get(place), fellows.get(leaf_of(place)),
                )  # fmt: skip
                answer = page_report(item.source, item.frame, item.sha256, result), result
            except HollowStackError as error:
                answer = failed_report(item.source, item.frame, item.sha256, error), None
        with lock:
            finished += 1
            progress(finished, len(items), item.source)
        return answer

    number = 0
    for entry, result in workers.pool.map(work, range(len(items)), items):
        page = None
        if result is not None and result.image is not None:
            number += 1
            page = BoundPage(result.image, result.plan.ppi, result.reading, str(number))
        yield entry, page


def _measured(items: list[_Item], workers: _Workers) -> dict[int, Known]:
    """Measurements by place; pages that cannot be measured are left out, and fail when they are worked on."""

    def work(item: _Item) -> Known | None:
        try:
            return None if item.error else workers.mine().run(PAGE_SECONDS, measure_page, item.path, item.frame)
        except HollowStackError:
            return None

    return {place: found for place, found in enumerate(workers.pool.map(work, items)) if found is not None}


def _fellows(known: dict[int, Known], order: Order) -> dict[Leaf, Fellows]:
    """The common shape of the pages; empty where they need not be uniform."""
    shapes = [page_shape(known[place].found, order.treatment, None, leaf_of(place)) for place in sorted(known)]
    return find_fellows([shape for shape in shapes if shape is not None])


def _bind(order: Order, pages: Iterable[BoundPage]) -> DocumentReport | None:
    order.out.mkdir(parents=True, exist_ok=True)
    path = order.out / f"{order.name}.pdf"
    about = Description(title=order.name, created=order.created, language=language_tag(order.language or "eng"))
    bound = list(pages)
    if not bound:
        return None
    count = bind(bound, path, about)
    return DocumentReport(
        path=str(path), bytes=path.stat().st_size, sha256=sha256_of(path), conformance=CONFORMANCE, pages=count
    )


def sha256_of(path: Path) -> str:
    """SHA-256 of a file's bytes, in hex."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
