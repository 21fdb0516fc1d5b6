"""Writing results down, and what follows from each for the pages that wait for it."""

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils import timezone

from hollowstack.core.measure import Measurements
from hollowstack.server.documents.forgetting import forget, give_up_for
from hollowstack.server.documents.models import Document
from hollowstack.server.intake import batches
from hollowstack.server.results import faults
from hollowstack.server.results.models import DOCUMENT_STEPS, Result
from hollowstack.server.stacks import grouping, planning, services, splitting
from hollowstack.server.stacks.models import Page, Source
from hollowstack.server.stacks.standing import NAMED, settle


@dataclass(frozen=True, slots=True)
class Outcome:
    """What came of a task: a result, or one sentence that says why there is none."""

    step: str
    key: str
    body: dict[str, Any] | None
    error: str = ""
    kind: str = ""
    """Where the fault lies (``Result.Kind``)."""
    damaged: str = ""
    """A result that was to be used, and is not what was written: it is made again."""


def record(outcomes: list[Outcome]) -> None:
    """Write down what came back, all in one transaction."""
    if not outcomes:
        return
    with transaction.atomic():
        for outcome in outcomes:
            _record(outcome)


def _record(outcome: Outcome) -> None:
    if outcome.damaged:
        forget(outcome.damaged)
        if Result.objects.filter(key=outcome.key, state=Result.State.FAILED).exists():
            return
    if outcome.body is None:
        faults.fail(outcome.key, outcome.step, outcome.kind, outcome.error, timezone.now())
    else:
        faults.made(outcome.key, outcome.step, outcome.body)
    if outcome.step in DOCUMENT_STEPS:
        for stack_id in Document.everything.filter(key=outcome.key).values_list("stack_id", flat=True):
            services.next_change(stack_id)
        return
    if outcome.step == "expand" and outcome.body is not None:
        for source in Source.objects.filter(pages__opened_id=outcome.key, pages__frame=0).select_related("stack"):
            batches.open_source(source, outcome.body["frames"])
        return
    if outcome.step == "render" and outcome.body is None:
        give_up_for(outcome.key)
    found = Measurements.model_validate(outcome.body["measurements"]) if outcome.step == "measure" and outcome.body else None
    _settle(outcome.step, outcome.key, found)


def _settle(step: str, key: str, found: Measurements | None) -> None:
    """Bring the pages up to date that name a result, and plan those that have now been measured."""
    changes: dict[int, int] = {}
    measured: dict[int, list[Page]] = {}
    named = Page.objects.filter(**{NAMED[step]: key})
    for page in named.select_related("stack", "source__batch"):
        if page.stack_id not in changes:
            changes[page.stack_id] = services.next_change(page.stack_id)
        page.change = changes[page.stack_id]
        if found is not None:
            planning.plan(page, services.treatment_of(page.stack), found)
            page.to_plan = False
            measured.setdefault(page.stack_id, []).append(page)
        page.save(update_fields=["change", *planning.PLANNED])
    if step == "read":
        named.update(indexed="")  # made again, perhaps, because it was damaged
    settle(named)
    for stack_id, pages in measured.items():
        splitting.split_facing(stack_id, pages)
    if step == "measure":
        for stack_id in changes:
            grouping.ask_to_regroup(stack_id, "measured")
