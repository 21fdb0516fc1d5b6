"""Trying again: steps that failed are forgotten, so that they are wanting, and every page that named them is told."""

from django.db import transaction
from django.db.models import Exists, OuterRef, Q, QuerySet

from hollowstack.server.results.faults import forget_faults
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.services import next_change
from hollowstack.server.stacks.standing import NAMED, settle


def in_trouble(pages: QuerySet[Page]) -> QuerySet[Page]:
    """Those of some pages on which a step failed, for good or until it is tried again."""
    named = Q()
    for name in NAMED.values():
        named |= Q(key=OuterRef(name))
    return pages.filter(Exists(Result.objects.exclude(state=Result.State.MADE).filter(named)))


def try_again(pages: QuerySet[Page]) -> int:
    """Have the steps that failed on pages made at once; returns how many pages that are, other stacks' not counted."""
    with transaction.atomic():
        troubled = list(in_trouble(pages).values_list("pk", *NAMED.values()))
        tried = forget_faults({key for _, *keys in troubled for key in keys if key})
        if tried:
            _tell(tried)
        return len(troubled)


def _tell(keys: list[str]) -> None:
    """Bring every page up to date that names one of some results."""
    for name in NAMED.values():
        for first in range(0, len(keys), 10_000):
            pages = Page.objects.filter(**{f"{name}__in": keys[first : first + 10_000]})
            for stack_id in set(pages.order_by().values_list("stack_id", flat=True)):
                pages.filter(stack_id=stack_id).update(change=next_change(stack_id))
            settle(pages)
