"""Telling all who look that what a result was made of pages is there, has gone, or is to be made again."""

from collections.abc import Sequence

from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.services import next_change
from hollowstack.server.stacks.standing import NAMED, settle

_AT_A_TIME = 10_000
"""SQLite takes so many values in one question."""


def tell(keys: Sequence[str]) -> None:
    """Bring every page up to date that names one of some results; in a transaction."""
    for name in NAMED.values():
        for first in range(0, len(keys), _AT_A_TIME):
            pages = Page.objects.filter(**{f"{name}__in": keys[first : first + _AT_A_TIME]}).order_by()
            for stack_id in set(pages.values_list("stack_id", flat=True)):
                pages.filter(stack_id=stack_id).update(change=next_change(stack_id))
            settle(pages)
