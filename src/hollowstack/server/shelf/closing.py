"""Closing stacks that are done with, and opening them again."""

from collections.abc import Sequence

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F, QuerySet
from django.utils import timezone

from hollowstack.server.accounts.record import note
from hollowstack.server.capture.models import Run
from hollowstack.server.errors import Refused
from hollowstack.server.shelf.chosen import chosen
from hollowstack.server.stacks.models import Page, Stack, Upload
from hollowstack.server.stacks.standing import WAITING


def close(stack_ids: Sequence[int], user: User) -> int:
    """Close stacks to changes; those that are closed stay so. All of them, or none; returns how many were open.

    What is bound of them is bound, sent and found as ever.

    Raises Refused where something is still coming into one of them or being worked on in it, or one is gone.
    """
    with transaction.atomic():
        stacks = chosen(stack_ids, "nothing was closed").filter(closed_at=None)
        for stack in stacks:
            if _is_busy(stack):
                raise Refused(f"“{stack.name}” is still being worked on, so nothing was closed: wait until it has settled.")
        return _say(stacks, user, "stack closed", closed_at=timezone.now(), closed_by=user.get_username())


def reopen(stack_ids: Sequence[int], user: User) -> int:
    """Open closed stacks again, all of them or none; returns how many were closed.

    Raises Refused where somebody has signed for one of them, which takes a reason to be undone, or one is gone.
    """
    with transaction.atomic():
        stacks = chosen(stack_ids, "nothing was reopened")
        if signed := stacks.exclude(signed_at=None).first():
            raise Refused(
                f"{signed.signed_by} signed for “{signed.name}”, so nothing was reopened: reopen it in the stack under "
                "Sample, with the reason."
            )
        return _say(stacks.exclude(closed_at=None), user, "stack opened", closed_at=None, closed_by="")


def _is_busy(stack: Stack) -> bool:
    return (
        Page.objects.filter(stack=stack, removed=False, state__in=WAITING).exists()
        or Upload.objects.filter(batch__stack=stack, batch__taken_back=False).exists()
        or Run.objects.filter(stack=stack, state__in=Run.UNFINISHED).exists()
    )


def _say(stacks: QuerySet[Stack], user: User, what: str, **said: object) -> int:
    rows = list(stacks.values_list("pk", "name"))
    for _, name in rows:
        note(user.get_username(), what, name)
    Stack.objects.filter(pk__in=[pk for pk, _ in rows]).update(change=F("change") + 1, **said)
    return len(rows)
