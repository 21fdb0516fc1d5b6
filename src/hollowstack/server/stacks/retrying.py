"""Trying again: steps that failed are forgotten, so that they are wanting, and every page that named them is told."""

from django.db import transaction
from django.db.models import Exists, OuterRef, Q, QuerySet

from hollowstack.server.results.faults import forget_faults
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.standing import NAMED
from hollowstack.server.stacks.telling import tell


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
            tell(tried)
        return len(troubled)
