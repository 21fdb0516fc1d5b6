"""Writing results down, and what follows from each for the pages that wait for it."""

from typing import Any

from django.db import transaction

from hollowstack.core.measure import Measurements
from hollowstack.server.documents.models import Document
from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import grouping, services, splitting
from hollowstack.server.stacks.models import Page, Source

_FIELDS = {"expand": "opened_id", "measure": "measured_id", "render": "rendered_id", "read": "reading_id"}
Outcome = tuple[str, str, dict[str, Any] | None, str]
"""Step, key, result or None, and the sentence that says why it failed."""


def record(outcomes: list[Outcome]) -> None:
    """Write down what came back, all in one transaction."""
    if not outcomes:
        return
    with transaction.atomic():
        for step, key, body, error in outcomes:
            Result.objects.update_or_create(key=key, defaults={"step": step, "body": body, "error": error})
            _follow(step, key, body)


def _follow(step: str, key: str, body: dict[str, Any] | None) -> None:
    if step == "expand" and body is not None:
        for source in Source.objects.filter(pages__opened_id=key, pages__frame=0).select_related("stack"):
            batches.open_source(source, body["frames"])
    elif step == "bind":
        for stack_id in Document.objects.filter(key=key).values_list("stack_id", flat=True):
            services.next_change(stack_id)
    else:
        _pages(step, key, body)


def _pages(step: str, key: str, body: dict[str, Any] | None) -> None:
    found = Measurements.model_validate(body["measurements"]) if step == "measure" and body else None
    changes: dict[int, int] = {}
    measured: dict[int, list[Page]] = {}
    for page in Page.objects.filter(**{_FIELDS[step]: key}).select_related("stack", "source__batch"):
        if page.stack_id not in changes:
            changes[page.stack_id] = services.next_change(page.stack_id)
        page.change = changes[page.stack_id]
        if found is not None:
            services.plan(page, services.treatment_of(page.stack), found)
            measured.setdefault(page.stack_id, []).append(page)
        page.save(update_fields=["change", "plan", "aside", "rendered", "reading"])
    for stack_id, pages in measured.items():
        splitting.split_facing(stack_id, pages)
    if step == "measure":
        for stack_id in changes:
            grouping.settle_page_groups(stack_id)
