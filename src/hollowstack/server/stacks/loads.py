"""Files and captured sheets coming into a stack, one load at a time; the same twice changes nothing."""

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max

from hollowstack.core.pipeline import expand_key
from hollowstack.server.engine.models import Result
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Change, Load, Master, Page, Source, Stack
from hollowstack.server.stacks.services import PLANNED, Refused, next_change, plan_anew, shift_behind, treatment_of

_FILE_ROOM = 1 << 20
"""Positions left for the pages of one file."""
_LOAD_ROOM = 1 << 40
"""Positions left for a load."""


def open_load(
    stack_id: int, user: AbstractBaseUser | None, *, after: int | None = None, record: dict[str, Any] | None = None
) -> Load:
    """A load whose pages will come behind a page, or at the end of the stack.

    Raises:
        Stack.DoesNotExist, Page.DoesNotExist: There is no such stack, or no such page in it.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if after is None:
            last = stack.loads.aggregate(last=Max("base"))["last"]
            base = 0 if last is None else last + _LOAD_ROOM
        else:
            position = stack.pages.get(pk=after, removed=False).position
            shift_behind(stack_id, position, _LOAD_ROOM)
            base = position + 1
        load = Load.objects.create(stack=stack, base=base, by=user, record=record or {})
        Change.objects.filter(stack=stack, state=Change.State.UNDONE).update(state=Change.State.DROPPED)
        Change.objects.create(stack=stack, what="Took in", by=user, load=load)
    return load


def add_file(load_id: int, index: int, name: str, sha256: str, size: int) -> Page:
    """A stored master as a load's file; its first page stands for it until it is opened.

    Raises:
        Refused: Another file has that place in the load.
    """
    with transaction.atomic():
        load = Load.objects.select_related("stack").get(pk=load_id)
        master, _ = Master.objects.get_or_create(sha256=sha256, defaults={"bytes": size})
        source, new = Source.objects.get_or_create(
            load=load, index=index, defaults={"stack": load.stack, "master": master, "name": name[:255] or "without a name"}
        )
        if not new:
            if source.master_id != sha256:
                raise Refused(f"Place {index + 1} of these files holds “{source.name}” already: add the file at the end.")
            return source.pages.get(frame=0)
        page = Page(
            stack=load.stack,
            source=source,
            position=load.base + index * _FILE_ROOM,
            opened_id=expand_key(sha256),
            removed=load.taken_back,
        )
        page.change = next_change(load.stack_id, order=True)
        page.save()
        known = Result.objects.filter(key=page.opened_id).first()
        if known and known.body:
            open_source(source, known.body["frames"])
        return page


def open_source(source: Source, frames: int) -> None:
    """A file turned out to hold a number of pages: give each its place and let it be measured."""
    pages = list(source.pages.select_related("source", "stack"))
    first = next(page for page in pages if page.frame == 0)
    have = {page.frame for page in pages}
    more = [
        Page(stack_id=source.stack_id, source=source, frame=frame, position=first.position + frame, removed=first.removed)
        for frame in range(min(frames, _FILE_ROOM))
        if frame not in have
    ]
    change = next_change(source.stack_id, order=bool(more))
    if more:
        behind = source.stack.pages.filter(position__gt=first.position, position__lt=first.position + frames)
        if behind.exists():  # the first page was moved to where there is no room for the others
            shift_behind(source.stack_id, first.position, _LOAD_ROOM)
    pages += more
    plan_anew(pages, treatment_of(source.stack))
    for page in pages:
        page.change = change
    Page.objects.bulk_create(more)
    save_pages(pages, [*PLANNED, "change"])
