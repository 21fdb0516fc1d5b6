"""What is still to be done, derived from the database: results that are named and not there."""

import json
from collections.abc import Iterator
from datetime import datetime
from itertools import islice
from typing import Any

from django.db.models import Case, Exists, F, OuterRef, Q, QuerySet, Value, When
from django.utils import timezone

from hollowstack.core.read.languages import language_tag
from hollowstack.server.documents.forecasting import sampled_keys, wanted_samples
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.engine.scheduling import Task
from hollowstack.server.errors import Refused
from hollowstack.server.results import faults
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.languages import language_of
from hollowstack.server.stacks.models import Page, Viewing
from hollowstack.server.stacks.standing import NAMED, STEP_OF, WAITING
from hollowstack.server.stacks.viewing import FRESH
from hollowstack.server.storage import places
from hollowstack.server.storage.sealed import unseal


def wanted(limit: int, busy: frozenset[str]) -> list[Task]:
    """The most urgent tasks, not counting those in flight nor those whose next try is still to come.

    Order: pages that somebody looks at, then documents, for somebody waits for them, then the stack last opened, then the
    others; within a stack opening files before measuring, measuring before rendering. Reading, the slowest, comes behind
    all that, of the stack last opened first.
    """
    return list(islice(_in_order(limit + len(busy), busy), limit))


def _in_order(reach: int, busy: frozenset[str]) -> Iterator[Task]:
    seen = set(busy)
    for task in _all(reach):
        if task.key not in seen:
            seen.add(task.key)
            yield task


def _all(reach: int) -> Iterator[Task]:
    now = timezone.now()
    pages = list(_pages(now)[:reach])
    looked_at = sum(vars(page)["looked_at"] for page in pages)  # the first ones are those
    yield from map(_task, pages[:looked_at])
    yield from _binds(now, reach)
    yield from _samples(now)
    yield from map(_task, pages[looked_at:])


def _pages(now: datetime) -> QuerySet[Page]:
    """Pages that wait for a step, the most urgent first, each with the ``wanted_key`` of its result."""
    key = Case(*(When(state=state, then=F(NAMED[step])) for state, step in STEP_OF.items()))
    rank = Case(*(When(state=state, then=Value(place)) for place, state in enumerate(WAITING)))
    looked_at = Exists(Viewing.objects.filter(page=OuterRef("pk"), at__gt=now - FRESH))
    later = Exists(Result.objects.filter(key=OuterRef("wanted_key"), state=Result.State.WAITING, next_try_at__gt=now))
    there = Page.objects.filter(removed=False, stack__deleted_at=None)
    waiting = there.filter(state__in=WAITING, to_plan=False)
    return (
        waiting.annotate(wanted_key=key, looked_at=looked_at)
        .filter(~later)
        .annotate(reads=Q(state=Page.State.READ))
        .order_by(F("looked_at").desc(), "reads", F("stack__opened_at").desc(nulls_last=True), "stack_id", rank, "position")
        .select_related("source", "stack", "rendered")
    )


def _task(page: Page) -> Task:
    """The step that a page waits for."""
    step = STEP_OF[Page.State(page.state)]
    key = getattr(page, NAMED[step])
    master = str(places.master_path(page.source.master_id))
    if step == "expand":
        return Task(step, key, (master,))
    folder = str(places.result_path(step, key))
    if step == "measure":
        return Task(step, key, (master, page.frame, folder))
    if step == "render":
        return Task(step, key, (master, page.frame, page.plan, folder))
    # The plan that the clean page was made by in the end: the guard may have taken a milder one.
    done = page.rendered.body.get("plan") or page.plan
    return Task(step, key, (master, page.frame, done, language_of(page, page.stack), folder))


def _binds(now: datetime, reach: int) -> Iterator[Task]:
    settled = Result.objects.filter(key=OuterRef("key")).exclude(state=Result.State.WAITING, next_try_at__lte=now)
    for document in Document.objects.filter(~Exists(settled)).order_by("pk").select_related("stack")[:reach]:
        keys = document.results()
        there = Result.objects.filter(state=Result.State.MADE).in_bulk(keys)
        if len(there) < len(keys):
            # Pages of a profile are made for the document; others have been damaged, and are being made again.
            yield from _renders(document, set(there), now, reach)
            continue
        pages = [_bound(page, there) for page in document.pages.select_related("page__source")]
        target = str(places.document_path(document.key))
        if document.kind == Document.Kind.ACCESS:
            yield from _copies(document, pages, target)
            continue
        if document.kind == Document.Kind.EXPORT:
            yield Task("export", document.key, (pages, target, document.order))
            continue
        yield Task("bind", document.key, (pages, target, document.order or _former(document)))


def _bound(page: DocumentPage, there: dict[str, Result]) -> dict[str, Any]:
    """A page of a document as ``core.run.steps.bound_page`` takes it."""
    source = page.page.source.name if page.page else ""
    return {
        "folder": str(places.result_path("render", page.rendered)),
        "clean": there[page.rendered].body,
        "ppi": (page.x_ppi, page.y_ppi),
        "reading": str(places.result_path("read", page.reading)) if page.reading else None,
        "read": there[page.reading].body if page.reading else None,
        "words": page.words or None,
        "master": page.master,
        "read_on": page.read_on or None,
        "quad": (there[page.rendered].made.get("plan") or page.plan or {}).get("quad"),
        "marks": page.marks,
        "label": page.label,
        "master_path": str(places.master_path(page.master)) if page.master else "",
        "master_name": source,
    }


def _copies(document: Document, pages: list[dict[str, Any]], target: str) -> Iterator[Task]:
    """An access copy; one whose passwords nobody can read any more ends, with a sentence."""
    try:
        passwords = json.loads(unseal(document.passwords)) if document.passwords else {}
    except Refused as error:
        faults.fail(document.key, document.step, Result.Kind.PROGRAM, f"{error} Make the copy again.", timezone.now())
        return
    yield Task("copy", document.key, (pages, target, document.order, passwords))


def _renders(document: Document, there: set[str], now: datetime, reach: int) -> Iterator[Task]:
    """The pages of a document that are still to be made for it alone."""
    waiting = Result.objects.filter(state=Result.State.WAITING, next_try_at__gt=now, key__in=document.results() - there)
    later = set(waiting.values_list("key", flat=True))
    pages = document.pages.filter(plan__isnull=False).exclude(rendered__in=there | later)
    for page in pages[:reach]:
        master, folder = str(places.master_path(page.master)), str(places.result_path("render", page.rendered))
        yield Task("render", page.rendered, (master, page.frame, page.plan, folder))


def _samples(now: datetime) -> Iterator[Task]:
    """Pages by which the size of documents to come is told, for somebody chooses by it."""
    for one in wanted_samples(now):
        master, folder = str(places.master_path(one["master"])), str(places.result_path("render", one["rendered"]))
        yield Task("render", one["rendered"], (master, one["frame"], one["plan"], folder))


def _former(document: Document) -> dict[str, Any]:
    """The order of a document that was asked for before there were orders."""
    language = language_tag(document.language or document.stack.language)
    return {"title": document.title, "created": document.created_at.isoformat(), "language": language}


def still_wanted(keys: list[str]) -> set[str]:
    """The keys among those of tasks in flight that some page or document still wants."""
    found = set(Document.objects.filter(key__in=keys).values_list("key", flat=True))
    settled = Result.objects.filter(key=OuterRef("document__key")).exclude(state=Result.State.WAITING)
    of_documents = DocumentPage.objects.filter(~Exists(settled), rendered__in=keys, document__deleted_at=None)
    found.update(of_documents.values_list("rendered", flat=True))
    found.update(sampled_keys() & set(keys))
    for name in NAMED.values():
        named = Page.objects.filter(removed=False, to_plan=False, stack__deleted_at=None, **{f"{name}__in": keys})
        found.update(named.values_list(name, flat=True))
    return found
