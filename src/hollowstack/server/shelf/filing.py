"""Filing stacks under collections."""

from collections.abc import Sequence

from django.db import transaction
from django.db.models import Count, F

from hollowstack.server.collections import tree
from hollowstack.server.collections.models import Collection
from hollowstack.server.errors import Refused
from hollowstack.server.shelf.chosen import chosen
from hollowstack.server.stacks.models import Stack

MOST_AT_ONCE = 5000


def file_under(stack_ids: Sequence[int], collection_id: int | None) -> int:
    """File stacks under a collection, or under none; returns how many.

    Where their papers belong is no change of their pages, so that signed ones are filed, too.

    Raises Collection.DoesNotExist; Refused where one of the stacks is no longer there: none is filed then.
    """
    with transaction.atomic():
        collection = None if collection_id is None else Collection.objects.get(pk=collection_id)
        # Counted as a change, so that it is told, and found by what it is filed under.
        return chosen(stack_ids, "nothing was filed").update(collection=collection, change=F("change") + 1)


def change_collection(collection_id: int, told: tree.Told) -> Collection:
    """Say a collection anew; stacks under it are found by that. Raises as ``collections.tree.change``."""
    with transaction.atomic():
        one = tree.change(collection_id, told)
        ids = list(Collection.objects.filter(path__startswith=one.path).values_list("pk", flat=True))
        Stack.everything.filter(collection__in=ids).update(change=F("change") + 1)
    return one


def remove_collection(collection_id: int) -> None:
    """Take an empty collection out of the tree. Raises Refused where something is in it, Collection.DoesNotExist."""
    with transaction.atomic():
        one = Collection.objects.get(pk=collection_id)
        filed = Stack.everything.filter(collection=one)
        if (number := filed.count()) > 0:
            binned = filed.exclude(deleted_at=None).count()
            kept = f", {binned} of them in the bin" if binned else ""
            stacks = "1 stack is" if number == 1 else f"{number} stacks are"
            raise Refused(f"{stacks} filed under {one.name}{kept}: file them elsewhere first.")
        tree.remove(collection_id)


def filed() -> dict[int, int]:
    """How many stacks on the shelf are filed in each collection itself."""
    rows = Stack.objects.exclude(collection=None).order_by().values_list("collection_id").annotate(number=Count("pk"))
    return dict(rows)
