"""Files and folders in, one document and a report out: the work behind ``hollowstack process``."""

import threading
import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path

from natsort import os_sorted

from hollowstack.core.bind import DEFAULT, BoundPage, Flavour, check_bindable
from hollowstack.core.decode import count_frames
from hollowstack.core.export import FORMS, ExportForm, ExportOrder, ExportPage, export
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import write_whole
from hollowstack.core.page.errors import BindError, HollowStackError
from hollowstack.core.page.file_names import readable
from hollowstack.core.plan.page_group import Leaf, PageGroup, find_page_groups
from hollowstack.core.plan.page_shape import leaf_of, page_shape
from hollowstack.core.read.languages import language_tag
from hollowstack.core.read.texts import SUFFIXES, TextForm, written
from hollowstack.core.run.binding import SOFTWARE, BindOrder, bind_order
from hollowstack.core.run.fellows import among_fellows
from hollowstack.core.run.pipeline import Known, PageResult, measure_page, process_pages
from hollowstack.core.run.report import DocumentReport, ExportReport, PageReport, Report, failed_report, page_report
from hollowstack.core.run.worker import PAGE_SECONDS, PageWorker
from hollowstack.core.settings.profile import Profile, packed_as
from hollowstack.core.settings.treatment import Treatment

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
    texts: tuple[TextForm, ...] = ()
    """Forms in which the text is written as well."""
    flavour: Flavour = DEFAULT
    profile: Profile = "compact"
    described: Mapping[str, str | list[str]] = field(default_factory=dict)
    """What is said of the document, as ``description_of`` takes it."""
    mark_headings: bool = False
    """Whether its headings are bookmarked."""
    exports: tuple[ExportForm, ...] = ()
    """Forms in which the document is given out as well."""


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
        bound = [(entry, page) for entry, page in done if page is not None]
        document = _bind(order, [page for _, page in bound], [entry.source_sha256 or "" for entry, _ in bound])
        masters = {item.source: item.path for item in items}
        exports = tuple(_export(order, form, bound, masters) for form in order.exports) if document else ()
    return Report(
        document=document, seconds=round(time.monotonic() - start, 3), workers=order.workers, pages=entries, exports=exports
    )


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
            yield from ((entry, readable(str(path / entry.name))) for entry in _in_order(inside))
        else:
            yield path, readable(str(path))


def _in_order(files: list[Path]) -> list[Path]:
    """In natural order by their names as they can be written down."""
    return os_sorted(files, key=lambda file: readable(file.name))


def _expand(inputs: Iterable[Path], workers: _Workers) -> Iterator[_Item]:
    def look(file: tuple[Path, str]) -> list[_Item]:
        path, source = file
        try:
            frames = workers.mine().run(PAGE_SECONDS, count_frames, path)
            sha256 = sha256_of(path)
        except HollowStackError as error:
            return [_Item(path, source, 0, _digest(path), str(error))]
        except OSError as error:
            reason = error.strerror or "it cannot be read"
            return [_Item(path, source, 0, _digest(path), f"The file cannot be opened ({reason}): check it and its folder.")]
        return [_Item(path, source, frame, sha256) for frame in range(frames)]

    for items in workers.pool.map(look, list(_files(inputs))):
        yield from items


def _process(
    items: list[_Item], order: Order, workers: _Workers, progress: Progress
) -> Iterator[tuple[PageReport, BoundPage | None]]:
    lock, finished = threading.Lock(), 0
    known = _measured(items, workers) if _treatment(order).page_size == "uniform" else {}
    page_group = _page_group(known, order)

    def work(place: int, item: _Item) -> list[tuple[PageReport, PageResult | None]]:
        nonlocal finished
        answer = _worked(item, order, workers.mine(), known.get(place), page_group.get(leaf_of(place)))
        with lock:
            finished += 1
            progress(finished, len(items), item.source)
        return answer

    done = [one for answer in workers.pool.map(work, range(len(items)), items) for one in answer]
    for entry, result in among_fellows(done, order.treatment.documents):
        yield entry, None if result is None else _bound(result)


def _bound(result: PageResult) -> BoundPage | None:
    """A page as it is bound; None for one that is aside."""
    image, plan = result.image, result.plan
    if image is None:
        return None
    return BoundPage(image, image.ppi_of(plan.size_px, plan.ppi), result.reading)


def _worked(
    item: _Item, order: Order, worker: PageWorker, known: Known | None, page_group: PageGroup | None
) -> list[tuple[PageReport, PageResult | None]]:
    """What came of one input page: an entry, or two where it shows two pages."""
    if item.error or item.sha256 is None:
        return [(failed_report(item.source, item.frame, item.sha256, item.error or "The file cannot be read."), None)]
    try:
        results = worker.run(
            PAGE_SECONDS, process_pages, item.path, item.frame, _treatment(order), order.language, known, page_group
        )
    except HollowStackError as error:
        return [(failed_report(item.source, item.frame, item.sha256, error), None)]
    return [_bindable(item, item.sha256, result) for result in results]


def _treatment(order: Order) -> Treatment:
    return packed_as(order.treatment, order.profile)


def _bindable(item: _Item, sha256: str, result: PageResult) -> tuple[PageReport, PageResult | None]:
    try:
        if result.image is not None:
            check_bindable(result.image.size_px, result.plan.ppi)
    except BindError as error:
        entry = failed_report(item.source, item.frame, sha256, error)
        return entry.model_copy(update={"source_size_px": result.measurements.size_px}), None
    return page_report(item.source, item.frame, sha256, result), result


def _measured(items: list[_Item], workers: _Workers) -> dict[int, Known]:
    """Measurements by place; pages that cannot be measured are left out, and fail when they are worked on."""

    def work(item: _Item) -> Known | None:
        try:
            return None if item.error else workers.mine().run(PAGE_SECONDS, measure_page, item.path, item.frame)
        except HollowStackError:
            return None

    return {place: found for place, found in enumerate(workers.pool.map(work, items)) if found is not None}


def _page_group(known: dict[int, Known], order: Order) -> dict[Leaf, PageGroup]:
    """The common shape of the pages; empty where they need not be uniform."""
    shapes = [page_shape(known[place].found, _treatment(order), None, leaf_of(place)) for place in sorted(known)]
    return find_page_groups([shape for shape in shapes if shape is not None])


def _bind(order: Order, pages: Sequence[BoundPage], masters: Sequence[str]) -> DocumentReport | None:
    order.out.mkdir(parents=True, exist_ok=True)
    path = order.out / f"{order.name}.pdf"
    if not pages:
        return None
    wanted = BindOrder(
        title=readable(order.name), created=order.created, language=language_tag(order.language or "eng"),
        flavour=order.flavour, profile=order.profile, described=dict(order.described), mark_headings=order.mark_headings,
        treatment=order.treatment.model_dump(mode="json", by_alias=True),
    )  # fmt: skip
    made = bind_order(pages, masters, path, wanted)
    for form in order.texts:
        readings = [page.reading for page in pages if page.reading is not None]
        write_whole(order.out / (order.name + SUFFIXES[form]), written(form, readings, path.name))
    return DocumentReport(
        path=readable(str(path)),
        bytes=path.stat().st_size,
        sha256=sha256_of(path),
        conformance=order.flavour,
        pages=made.pages,
    )


def _export(
    order: Order, form: ExportForm, bound: Sequence[tuple[PageReport, BoundPage]], masters: Mapping[str, Path]
) -> ExportReport:
    """The document in another form; one that has no room for it stops nothing."""
    pages = (
        ExportPage(
            page.image,
            page.ppi,
            page.reading,
            str(number),
            masters[entry.source],
            readable(masters[entry.source].name),
            entry.source_sha256 or "",
            entry.frame,
        )
        for number, (entry, page) in enumerate(bound, 1)
    )
    path = order.out / (order.name + FORMS[form].suffix)
    language = language_tag(order.language or "eng")
    wanted = ExportOrder(
        form=form, title=readable(order.name), created=order.created, language=language, described=dict(order.described)
    )
    try:
        made = export(pages, path, wanted, SOFTWARE)
    except HollowStackError as error:
        return ExportReport(form=form, path=None, bytes=0, error=str(error))
    return ExportReport(form=form, path=readable(str(path)), bytes=path.stat().st_size, remarks=made.remarks)


def _digest(path: Path) -> str | None:
    try:
        return sha256_of(path) if path.is_file() else None
    except OSError:
        return None
