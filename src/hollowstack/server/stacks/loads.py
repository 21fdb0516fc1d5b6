"""Files and captured sheets coming into a stack, one load at a time; the same twice changes nothing."""

from datetime import datetime
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max

from hollowstack.core.run.keys import expand_key
from hollowstack.server.engine.models import Result
from hollowstack.server.stacks import history, splitting
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Change, Load, Master, Page, Source, Stack
from hollowstack.server.stacks.services import PLANNED, Refused, Twice, next_change, plan_anew, shift_behind, treatment_of

_FILE_ROOM = 1 << 20
"""Positions left for the pages of one file."""
_PART_ROOM = 1 << 6
"""Positions left for a file of an archive; where that is too little, more is made when the file is opened."""
_LOAD_ROOM = 1 << 40
"""Positions left for a load."""


def open_load(
    stack_id: int,
    user: AbstractBaseUser | None,
    *,
    after: int | None = None,
    record: dict[str, Any] | None = None,
    silent: bool = False,
) -> Load:
    """A load whose pages will come behind a page, or at the end of the stack.

    Args:
        stack_id: The stack.
        user: Who takes them in.
        after: The page; None for the end.
        record: With which station and settings they are captured.
        silent: Leave the history to whoever replaces pages by them.

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
        if not silent:
            Change.objects.filter(stack=stack, state=Change.State.UNDONE).update(state=Change.State.DROPPED)
            Change.objects.create(stack=stack, what="Took in", by=user, load=load)
    return load


def add_file(
    load_id: int,
    index: int,
    name: str,
    sha256: str,
    size: int,
    *,
    part: int = 0,
    again: bool = True,
    modified_at: datetime | None = None,
) -> Page:
    """A stored master as a load's file; its first page stands for it until it is opened.

    The first file of a load that was opened instead of a page takes that page's place.

    Raises:
        Refused: Another file has that place in the load.
        Twice: The stack has the same bytes already, and ``again`` does not allow that.
    """
    with transaction.atomic():
        load = Load.objects.select_related("stack").get(pk=load_id)
        if not again and (there := _same(load, index, part, sha256)) is not None:
            raise Twice(
                f"The same file is in the stack already, as “{there.name}”: leave it out, or take it in all the same."
            )
        source = add_source(load, index, name, sha256, size, part=part, modified_at=modified_at)
        if (instead := load.record.get("instead")) is not None and (index, part) == (0, 0):
            return replace_page(load, source, instead)
        if (there := source.pages.filter(frame=0).first()) is not None:
            return there
        page = Page(
            stack=load.stack,
            source=source,
            position=load.base + index * _FILE_ROOM + part * _PART_ROOM,
            opened_id=expand_key(sha256),
            removed=load.taken_back,
        )
        page.change = next_change(load.stack_id, order=True)
        page.save()
        known = Result.objects.filter(key=page.opened_id).first()
        if known and known.body:
            open_source(source, known.body["frames"])
        return page


def _same(load: Load, index: int, part: int, sha256: str) -> Source | None:
    """A file of the stack with the same bytes, at another place and not taken back."""
    sources = Source.objects.filter(stack=load.stack, master_id=sha256, pages__removed=False)
    return sources.exclude(load=load, index=index, part=part).first()


def replace_page(load: Load, source: Source, page_id: int, override: dict[str, Any] | None = None) -> Page:
    """Let a file's first image take a page's place; the former one stays on record, and undoing brings it back.

    Raises Page.DoesNotExist where the page has gone. Call it in a transaction.
    """
    stack = Stack.objects.get(pk=load.stack_id)
    page = stack.pages.get(pk=page_id, removed=False)
    if page.source_id != source.pk:
        fields = {"source_id": source.pk, "frame": 0, "rescan": "", "override": override or {}}
        history.record(stack, load.by, "Captured a page again", seen=stack.change, pages={page_id: fields})
    return stack.pages.get(pk=page_id)


def add_source(
    load: Load, index: int, name: str, sha256: str, size: int, *, part: int = 0, modified_at: datetime | None = None
) -> Source:
    """A stored master as a load's file, without a page of its own yet; call it in a transaction. Raises Refused."""
    master, _ = Master.objects.get_or_create(sha256=sha256, defaults={"bytes": size})
    source, new = Source.objects.get_or_create(
        load=load,
        index=index,
        part=part,
        defaults={
            "stack": load.stack,
            "master": master,
            "name": name[:255] or "without a name",
            "modified_at": modified_at,
        },
    )
    if not new and source.master_id != sha256:
        raise Refused(f"Place {index + 1} of these files holds “{source.name}” already: add the file at the end.")
    return source


def drop_file(load_id: int, index: int) -> None:
    """Take a load's file out as if it had never come."""
    with transaction.atomic():
        load = Load.objects.get(pk=load_id)
        load.sources.filter(index=index).delete()
        next_change(load.stack_id, order=True)


def drop(load_id: int) -> None:
    """Take a load out as if it had never come: the capture was cancelled."""
    with transaction.atomic():
        load = Load.objects.get(pk=load_id)
        load.delete()
        next_change(load.stack_id, order=True)


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
    # Measured before, as the same file in another stack.
    splitting.split_facing(source.stack_id, list(source.pages.select_related("source", "measured")))
