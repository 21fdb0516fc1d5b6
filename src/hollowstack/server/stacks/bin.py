"""The bin: stacks and pages that were deleted, and can be taken back for thirty days."""

from datetime import timedelta

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from hollowstack.server.accounts.record import note
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import next_change, refuse_closed

KEPT = timedelta(days=30)
"""For so long what was deleted can be taken back."""


def delete_stack(stack_id: int, user: User | None) -> Stack:
    """Throw a stack into the bin, with all that is in it. Raises Stack.DoesNotExist, and Refused where it is signed for."""
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        refuse_closed(stack)
        stack.deleted_at, stack.deleted_by = timezone.now(), user
        stack.save(update_fields=["deleted_at", "deleted_by"])
        next_change(stack_id)
        note(user.get_username() if user else "", "stack deleted", stack.name)
    return stack


def restore_stack(stack_id: int) -> Stack:
    """Take a stack back as it was. Raises Stack.DoesNotExist where it is not in the bin."""
    with transaction.atomic():
        stack = deleted_stacks().get(pk=stack_id)
        stack.deleted_at, stack.deleted_by = None, None
        stack.save(update_fields=["deleted_at", "deleted_by"])
        next_change(stack_id)
    return stack


def deleted_stacks() -> QuerySet[Stack]:
    """Stacks in the bin, the last one first."""
    return Stack.everything.exclude(deleted_at=None).order_by("-deleted_at")


def deleted_pages() -> QuerySet[Page]:
    """Single pages in the bin, the last ones first; those of deleted stacks come back with these."""
    return Page.objects.filter(removed=True, stack__deleted_at=None).exclude(deleted_at=None).order_by("-deleted_at", "pk")


def empty() -> tuple[int, int]:
    """Remove for good what has been in the bin too long; returns how many stacks and how many pages that were.

    One at a time, so that nobody waits for it. Their masters are left to the collection, which knows who else wants them.
    """
    before = timezone.now() - KEPT
    stacks = list(deleted_stacks().filter(deleted_at__lt=before).values_list("pk", flat=True))
    for stack_id in stacks:
        _remove(Page.objects.filter(stack_id=stack_id))
        Stack.everything.filter(pk=stack_id).delete()
    pages = Page.objects.filter(removed=True, deleted_at__lt=before)
    return len(stacks), _remove(pages)


def _remove(pages: QuerySet[Page]) -> int:
    ids = list(pages.values_list("pk", flat=True))
    for first in range(0, len(ids), 500):
        Page.objects.filter(pk__in=ids[first : first + 500]).delete()
    return len(ids)
