"""What is still to be done, derived from the database: results that are named and not there."""

from collections.abc import Iterator
from itertools import islice

from django.db.models import Exists, F, OuterRef, QuerySet

from hollowstack.core.bind import language_tag
from hollowstack.server.documents.models import Document
from hollowstack.server.engine.scheduling import Task
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage import store


def wanted(limit: int, busy: frozenset[str]) -> list[Task]:
    """The most urgent tasks, not counting those in flight.

    Order: the open page, then the stack last opened, then the others; within a stack opening files before measuring,
    measuring before rendering, rendering before reading; a document that somebody waits for before all reading.
    """
    return list(islice(_in_order(limit + len(busy), busy), limit))


def _in_order(reach: int, busy: frozenset[str]) -> Iterator[Task]:
    seen = set(busy)
    for task in _all(reach):
        if task.key not in seen:
            seen.add(task.key)
            yield task


def _all(reach: int) -> Iterator[Task]:
    looked_at = Page.objects.filter(removed=False, stack__open_page=F("pk"))
    yield from _expands(looked_at, reach)
    yield from _measures(looked_at, reach)
    yield from _renders(looked_at, reach)
    yield from _binds(reach)
    for stack in Stack.objects.order_by(F("opened_at").desc(nulls_last=True), "pk").values_list("pk", flat=True):
        pages = Page.objects.filter(removed=False, stack_id=stack)
        yield from _expands(pages, reach)
        yield from _measures(pages, reach)
        yield from _renders(pages, reach)
        yield from _reads(pages, reach)


def _without(pages: QuerySet[Page], field: str) -> QuerySet[Page]:
    """Pages that name a result which is not there."""
    there = Result.objects.filter(key=OuterRef(f"{field}_id"))
    return (
        pages.filter(~Exists(there), **{f"{field}_id__isnull": False}).order_by("position").select_related("source", "stack")
    )


def _expands(pages: QuerySet[Page], reach: int) -> Iterator[Task]:
    for page in _without(pages.filter(measured_id__isnull=True), "opened")[:reach]:
        yield Task("expand", page.opened_id, (str(store.master_path(page.source.master_id)),))


def _measures(pages: QuerySet[Page], reach: int) -> Iterator[Task]:
    for page in _without(pages, "measured")[:reach]:
        folder = store.result_path("measure", page.measured_id)
        yield Task("measure", page.measured_id, (str(store.master_path(page.source.master_id)), page.frame, str(folder)))


def _renders(pages: QuerySet[Page], reach: int) -> Iterator[Task]:
    for page in _without(pages, "rendered")[:reach]:
        folder = store.result_path("render", page.rendered_id)
        arguments = (str(store.master_path(page.source.master_id)), page.frame, page.plan, str(folder))
        yield Task("render", page.rendered_id, arguments)


def _reads(pages: QuerySet[Page], reach: int) -> Iterator[Task]:
    for page in _without(pages.filter(rendered__body__isnull=False).select_related("rendered"), "reading")[:reach]:
        folder = store.result_path("read", page.reading_id)
        master = str(store.master_path(page.source.master_id))
        # The plan that the clean page was made by in the end: the guard may have taken a milder one.
        done = page.rendered.body.get("plan") or page.plan
        arguments = (master, page.frame, done, page.stack.language, str(folder))
        yield Task("read", page.reading_id, arguments)


def _binds(reach: int) -> Iterator[Task]:
    there = Result.objects.filter(key=OuterRef("key"))
    for document in Document.objects.filter(~Exists(there)).order_by("pk").select_related("stack")[:reach]:
        clean = Result.objects.in_bulk([page["rendered"] for page in document.pages])
        pages = [
            {
                "folder": str(store.result_path("render", page["rendered"])),
                "clean": clean[page["rendered"]].body,
                "ppi": page["ppi"],
                "reading": str(store.result_path("read", page["reading"])) if page["reading"] else None,
            }
            for page in document.pages
        ]
        target = str(store.document_path(document.key))
        language = language_tag(document.stack.language)
        yield Task("bind", document.key, (pages, target, document.title, language, document.created_at.isoformat()))
