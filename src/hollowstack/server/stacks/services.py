"""The rules of stacks, without HTTP.

Every change is counted, so that a browser can ask for what is new.
"""

from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from hollowstack.core.settings.original import Original
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.names import checked_name
from hollowstack.server.stacks.models import Master, Page, Stack
from hollowstack.server.treatments import versions

NOT_MEASURED = "The page has not been measured yet: wait a moment."


class DuplicateFile(Conflict):
    """The same file is in the stack already; nothing was changed, and it can be taken in all the same."""


def refuse_closed(stack: Stack) -> None:
    """Raise Refused where a stack is closed to changes until it is reopened: somebody has signed for it, or closed it."""
    if stack.signed_at is not None:
        raise Refused(
            f"{stack.signed_by} signed for this stack on {_day(stack.signed_at)}, and it is closed: reopen it under Sample, "
            "with the reason."
        )
    if stack.closed_at is not None:
        raise Refused(f"{stack.closed_by} closed this stack on {_day(stack.closed_at)}: reopen it first.")


def _day(when: datetime) -> str:
    return f"{when.day} {when:%B %Y}"


def create_stack(name: str, user: User | None, treatment: str = "everyday") -> Stack:
    """A new, empty stack with the latest version of a treatment. Raises Refused without a name."""
    return Stack.objects.create(
        name=_named(name),
        created_by=user,
        treatment=treatment_json(versions.latest(treatment)),
        opened_at=timezone.now(),
    )


def rename_stack(stack_id: int, name: str) -> None:
    """Give a stack another name. Raises Refused where it will not do or the stack is signed for, Stack.DoesNotExist."""
    name = _named(name)
    with transaction.atomic():
        refuse_closed(Stack.objects.get(pk=stack_id))
        Stack.objects.filter(pk=stack_id).update(name=name)
        next_change(stack_id)


def describe_original(stack_id: int, original: Original) -> None:
    """Say where the papers of a stack are, and what becomes of them. Raises Stack.DoesNotExist."""
    with transaction.atomic():
        Stack.objects.get(pk=stack_id)
        Stack.objects.filter(pk=stack_id).update(original=original.model_dump(mode="json", exclude_defaults=True))
        next_change(stack_id)


def _named(name: str) -> str:
    return checked_name(name, "A stack")


def treatment_json(treatment: Treatment) -> dict[str, Any]:
    """A treatment as a stack keeps it."""
    return treatment.model_dump(mode="json", by_alias=True)


def treatment_of(stack: Stack) -> Treatment:
    """The stack's treatment as settings."""
    return Treatment.model_validate(stack.treatment)


def next_change(stack_id: int, *, order: bool = False) -> int:
    """Count one more change of a stack, in a transaction; returns its number. ``order``: pages came, went or moved."""
    Stack.everything.filter(pk=stack_id).update(change=F("change") + 1)
    count = Stack.everything.values_list("change", flat=True).get(pk=stack_id)
    if order:
        Stack.everything.filter(pk=stack_id).update(order_change=count)
    return count


def say_of_master(sha256: str, *, damaged: bool) -> None:
    """Keep whether a file is damaged; where that is news, its pages have changed, and are checked again."""
    with transaction.atomic():
        news = Master.objects.filter(pk=sha256, damaged_at__isnull=damaged)
        if not news.update(damaged_at=timezone.now() if damaged else None):
            return
        pages = Page.objects.filter(source__master_id=sha256).order_by()
        for stack_id in set(pages.values_list("stack_id", flat=True)):
            pages.filter(stack_id=stack_id).update(change=next_change(stack_id))


def order_of(stack_id: int) -> list[int]:
    """The pages of a stack by id, in order."""
    return list(Page.objects.filter(stack_id=stack_id, removed=False).values_list("pk", flat=True))


def shift_behind(stack_id: int, position: int, room: int) -> None:
    """Make room behind a position, for pages and for batches that are still coming in."""
    Page.objects.filter(stack_id=stack_id, position__gt=position).update(position=F("position") + room)
    Stack.objects.get(pk=stack_id).batches.filter(base__gt=position).update(base=F("base") + room)
