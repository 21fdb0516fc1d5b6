"""Files and captured sheets coming into a stack, one batch at a time; the same twice changes nothing."""

from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Max

from hollowstack.core.run.keys import expand_key
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import history, splitting
from hollowstack.server.stacks.models import Batch, Change, Master, Page, Source, Stack
from hollowstack.server.stacks.planning import plan_or_mark
from hollowstack.server.stacks.services import DuplicateFile, next_change, shift_behind
from hollowstack.server.stacks.standing import settle

_FILE_ROOM = 1 << 20
"""Positions left for the pages of one file."""
_PART_ROOM = 1 << 6
"""Positions left for a file of an archive; where that is too little, more is made when the file is opened."""
_BATCH_ROOM = 1 << 40
"""Positions left for a batch."""


def open_batch(
    stack_id: int,
    user: User | None,
    *,
    after: int | None = None,
    record: dict[str, Any] | None = None,
    silent: bool = False,
) -> Batch:
    """A batch whose pages will come behind a page, or at the end of the stack.

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
            last = stack.batches.aggregate(last=Max("base"))["last"]
            base = 0 if last is None else last + _BATCH_ROOM
        else:
            position = stack.pages.get(pk=after, removed=False).position
            shift_behind(stack_id, position, _BATCH_ROOM)
            base = position + 1
        batch = Batch.objects.create(stack=stack, base=base, by=user, record=record or {})
        if not silent:
            Change.objects.filter(stack=stack, state=Change.State.UNDONE).update(state=Change.State.DROPPED)
            Change.objects.create(stack=stack, what="Took in", by=user, batch=batch)
    return batch


def add_file(
    batch_id: int,
    index: int,
    name: str,
    sha256: str,
    size: int,
    *,
    part: int = 0,
    again: bool = True,
    modified_at: datetime | None = None,
) -> Page:
    """A stored master as a batch's file; its first page stands for it until it is opened.

    The first file of a batch that was opened instead of a page takes that page's place.

    Raises:
        Refused: Another file has that place in the batch.
        DuplicateFile: The stack has the same bytes already, and ``again`` does not allow that.
    """
    with transaction.atomic():
        batch = Batch.objects.select_related("stack").get(pk=batch_id)
        if not again and (there := _same(batch, index, part, sha256)) is not None:
            raise DuplicateFile(
                f"The same file is in the stack already, as “{there.name}”: leave it out, or take it in all the same."
            )
        source = add_source(batch, index, name, sha256, size, part=part, modified_at=modified_at)
        if (instead := batch.record.get("instead")) is not None and (index, part) == (0, 0):
            return replace_page(batch, source, instead)
        if (first := source.pages.filter(frame=0).first()) is not None:
            return first
        page = Page(
            stack=batch.stack,
            source=source,
            position=batch.base + index * _FILE_ROOM + part * _PART_ROOM,
            opened_id=expand_key(sha256),
            removed=batch.taken_back,
        )
        page.change = next_change(batch.stack_id, order=True)
        page.save()
        settle(Page.objects.filter(pk=page.pk))
        known = Result.objects.filter(key=page.opened_id).first()
        if known and known.body:
            open_source(source, known.body["frames"])
        return page


def _same(batch: Batch, index: int, part: int, sha256: str) -> Source | None:
    """A file of the stack with the same bytes, at another place and not taken back."""
    sources = Source.objects.filter(stack=batch.stack, master_id=sha256, pages__removed=False)
    return sources.exclude(batch=batch, index=index, part=part).first()


def replace_page(batch: Batch, source: Source, page_id: int, override: dict[str, Any] | None = None) -> Page:
    """Let a file's first image take a page's place; the former one stays on record, and undoing brings it back.

    Raises Page.DoesNotExist where the page has gone. Call it in a transaction.
    """
    stack = Stack.objects.get(pk=batch.stack_id)
    page = stack.pages.get(pk=page_id, removed=False)
    if page.source_id != source.pk:
        fields = {"source_id": source.pk, "frame": 0, "rescan": "", "override": override or {}}
        history.record(stack, batch.by, "Captured a page again", seen=stack.change, pages={page_id: fields})
    return stack.pages.get(pk=page_id)


def add_source(
    batch: Batch, index: int, name: str, sha256: str, size: int, *, part: int = 0, modified_at: datetime | None = None
) -> Source:
    """A stored master as a batch's file, without a page of its own yet; call it in a transaction. Raises Refused."""
    master, _ = Master.objects.get_or_create(sha256=sha256, defaults={"bytes": size})
    source, new = Source.objects.get_or_create(
        batch=batch,
        index=index,
        part=part,
        defaults={
            "stack": batch.stack,
            "master": master,
            "name": name[:255] or "without a name",
            "modified_at": modified_at,
        },
    )
    if not new and source.master_id != sha256:
        raise Refused(f"Place {index + 1} of these files holds “{source.name}” already: add the file at the end.")
    return source


def drop_file(batch_id: int, index: int) -> None:
    """Take a batch's file out as if it had never come."""
    with transaction.atomic():
        batch = Batch.objects.get(pk=batch_id)
        batch.sources.filter(index=index).delete()
        next_change(batch.stack_id, order=True)


def drop(batch_id: int) -> None:
    """Take a batch out as if it had never come: the capture was cancelled."""
    with transaction.atomic():
        batch = Batch.objects.get(pk=batch_id)
        batch.delete()
        next_change(batch.stack_id, order=True)


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
            shift_behind(source.stack_id, first.position, _BATCH_ROOM)
    pages += more
    for page in pages:
        page.change = change
    Page.objects.bulk_create(more)
    plan_or_mark(source.stack, pages, ["change"])
    # Measured before, as the same file in another stack.
    splitting.split_facing(source.stack_id, list(source.pages.select_related("source", "measured")))
