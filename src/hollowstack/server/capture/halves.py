"""Two-sided sheets captured with a one-sided feeder: fronts whose backs are waited for, by whomever and whenever."""

from collections.abc import Iterable, Sequence

from django.db import transaction

from hollowstack.server.capture.models import Run
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Batch, Page


def awaited(stack_ids: Iterable[int]) -> dict[int, Run]:
    """By stack, the last load of fronts that has backs still to come: no backs came after it, and some of it is there."""
    halves = Run.objects.filter(stack_id__in=stack_ids, state=Run.State.DONE, settings__half__in=["fronts", "backs"])
    last = {run.stack_id: run for run in halves.order_by("pk")}
    fronts = {pk: run for pk, run in last.items() if run.settings["half"] == "fronts" and backs_of(run)}
    there = set(
        Page.objects.filter(source__batch__in=[run.batch_id for run in fronts.values()], removed=False)
        .order_by()
        .values_list("source__batch_id", flat=True)
    )
    return {pk: run for pk, run in fronts.items() if run.batch_id in there}


def backs_of(fronts: Run) -> int:
    """How many backs a load of fronts has."""
    return fronts.received - len(fronts.single)


def together(batch: Batch) -> list[Batch]:
    """A load with those whose pages lie among its own: itself, and where it is fronts or backs, the other half.

    Empty while the other half is still to come, or has not been brought together with it.
    """
    pair = _pair(batch)
    if len(pair) == 1:
        return pair
    if not pair:
        return []
    pages = Page.objects.filter(source__batch__in=pair, removed=False).order_by("position")
    order = list(pages.values_list("source__batch_id", flat=True))
    fronts = order.count(pair[0].pk)
    return pair if fronts == 1 or pair[1].pk in order[:fronts] else []


def _pair(batch: Batch) -> list[Batch]:
    """Fronts and their backs, of which this is one; it alone where it is neither, or none is to come; else nothing."""
    halves = Run.objects.filter(stack_id=batch.stack_id, settings__half__in=["fronts", "backs"])
    runs = list(halves.exclude(state=Run.State.CANCELLED).order_by("pk").select_related("batch"))
    at = next((place for place, run in enumerate(runs) if run.batch_id == batch.pk), None)
    if at is None or (runs[at].settings["half"] == "fronts" and not backs_of(runs[at])):
        return [batch]
    first = at if runs[at].settings["half"] == "fronts" else at - 1
    pair = runs[max(0, first) : first + 2]
    if [run.settings["half"] for run in pair] != ["fronts", "backs"] or any(run.state != Run.State.DONE for run in pair):
        return []
    return [run.batch for run in pair if run.batch is not None]


def mark_single(run_id: int, sheets: Sequence[int]) -> Run:
    """Say which sheets of a load of fronts, from 0, have no back. Raises Refused where it is no such load or sheet."""
    with transaction.atomic():
        run = Run.objects.get(pk=run_id)
        if run.settings.get("half") != "fronts":
            raise Refused("Sheets without a back are marked on a load of fronts: this is none.")
        if any(not 0 <= sheet < run.received for sheet in sheets):
            raise Refused(f"That load has {run.received} sheets: mark some of them.")
        run.single = sorted(set(sheets))
        run.save(update_fields=["single"])
    return run
