"""Verdicts: that something worth a look is fine as it is. Each is a change of the stack's history."""

from collections.abc import Sequence
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.core.check import Finding as Found
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.inspection.checking import count_open
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Change, Page, Stack, Verdict


class Judged(NamedTuple):
    """A finding that a verdict is given on, as it was before somebody's eyes."""

    page: int | None
    kind: str
    judged: str


def judge(stack_id: int, user: User | None, seen: int, findings: Sequence[Judged], *, fine: bool) -> Change:
    """Say that findings are fine as they are, or take that back.

    Raises:
        Conflict: One of them is no longer there, or is another one by now.
        Refused: None is named, all have that verdict already, or it is that a page failed.
    """
    if not findings:
        raise Refused("Nothing is chosen: choose a finding first.")
    if any(one.kind == "failed" for one in findings):
        raise Refused("A page that failed is in no document: try again, capture it again, or delete it.")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        rows = {Judged(*row) for row in stack.findings.values_list("page_id", "kind", "judged")}
        if not set(findings) <= rows:
            raise Conflict("What was found here has changed in the meantime: look at it again, it is up to date now.")
        given = {Judged(*row) for row in stack.verdicts.values_list("page_id", "kind", "judged")}
        meant = [one for one in dict.fromkeys(findings) if (one in given) != fine]
        if not meant:
            raise Refused("That was said already." if fine else "Nobody has said that yet.")
        told = _told(stack, meant, fine=fine)
        change = history.record(stack, user, told, seen=seen, verdicts=dict.fromkeys(meant, fine))
        count_open([one.page for one in meant if one.page is not None])
        return change


def follow(change: Change) -> None:
    """Count what is open anew after a change was undone or made again."""
    with transaction.atomic():
        count_open([one["page"] for one in change.after.get("verdicts", []) if one["page"] is not None])


def _told(stack: Stack, meant: Sequence[Judged], *, fine: bool) -> str:
    """What is done, for the history."""
    if len(meant) > 1:
        what = f"{len(meant):,} findings"
    else:
        (one,) = meant
        named = stack.findings.filter(kind=one.kind, judged=one.judged)
        what = f"“{next(row.message for row in named if row.page_id == one.page)}”"
    return (f"Found fine as it is: {what}" if fine else f"Took back that it is fine: {what}")[:200]


def verdicts_of(stack: Stack) -> dict[Judged, Verdict]:
    """The verdicts that were given in a stack, by what they were given on."""
    rows = stack.verdicts.select_related("by")
    return {Judged(row.page_id, row.kind, row.judged): row for row in rows}


def waiting_on(page: Page) -> list[Found]:
    """What is worth a look on a page, and nobody has found fine."""
    given = set(page.verdicts.values_list("kind", "judged"))
    return [
        Found(check=row.kind, verdict=row.verdict, value=row.value, limit=row.limit, message=row.message, spot=row.spot)
        for row in page.findings.order_by("together", "pk")
        if (row.kind, row.judged) not in given
    ]
