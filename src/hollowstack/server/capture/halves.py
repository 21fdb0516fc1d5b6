"""Two-sided sheets captured with a one-sided feeder: fronts whose backs are waited for, by whomever and whenever."""

from collections.abc import Iterable, Sequence

from django.db import transaction

from hollowstack.server.capture.models import Run
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page


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
