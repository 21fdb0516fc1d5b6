"""Stacks that were chosen on the shelf, for something that is done to all of them or to none."""

from collections.abc import Sequence

from django.db.models import QuerySet

from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Stack


def chosen(stack_ids: Sequence[int], undone: str) -> QuerySet[Stack]:
    """All of them. Raises Refused where one is no longer there, and says what was not done, as "nothing was filed"."""
    wanted = set(stack_ids)
    stacks = Stack.objects.filter(pk__in=wanted)
    if (gone := len(wanted) - stacks.count()) > 0:
        are = "1 of the stacks is" if gone == 1 else f"{gone} of the stacks are"
        raise Refused(f"{are} no longer on the shelf, so {undone}. Load the shelf again.")
    return stacks
