"""Files and captured sheets coming into a stack, one batch at a time; the same twice changes nothing."""

from collections.abc import Sequence
from dataclasses import dataclass
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
from hollowstack.server.stacks.services import DuplicateFile, next_change, refuse_closed, shift_behind
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
        Refused: The stack is signed for.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        refuse_closed(stack)
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
            Change.objects.create(stack=stack, what="Added", by=user, batch=batch)
    return batch


@dataclass(frozen=True, slots=True)
class Coming:
    """A stored master that comes as a file of a batch: its place there, its name, its digest and size."""

    index: int
    name: str
    sha256: str
    bytes: int
    part: int = 0
    modified_at: datetime | None = None

    @property
    def place(self) -> tuple[int, int]:
        """Its place in the batch, and in the archive that stood there."""
        return self.index, self.part


def add_file(batch_id: int, file: Coming, *, again: bool = True) -> Page:
    """A stored master as a batch's file; its first page stands for it until it is opened.

    The first file of a batch that was opened instead of a page takes that page's place.

    Raises:
        Refused: Another file has that place in the batch.
        DuplicateFile: The stack has the same bytes already, and ``again`` does not allow that.
    """
    (page,) = add_files(batch_id, [file], again=again)
    if isinstance(page, Refused | DuplicateFile):
        raise page
    return page


def add_files(batch_id: int, files: Sequence[Coming], *, again: bool) -> list[Page | Refused | DuplicateFile]:
    """Stored masters as a batch's files, all in one transaction: for each its first page, or why it is not added."""
    with transaction.atomic():
        batch = Batch.objects.select_related("stack").get(pk=batch_id)
        refuse_closed(batch.stack)
        refused = {} if again else _duplicates(batch, files)
        sources = _sources(batch, [file for file in files if file.place not in refused])
        for file in files:
            if (there := sources.get(file.place)) is not None and there.master_id != file.sha256:
                refused[file.place] = _taken(there)
        added = {place: source for place, source in sources.items() if place not in refused}
        pages: dict[tuple[int, int], Page] = {}
        if (instead := batch.record.get("instead")) is not None and (first := added.pop((0, 0), None)) is not None:
            pages[0, 0] = replace_page(batch, first, instead)
        pages |= _first_pages(batch, added)
        return [refused[file.place] if file.place in refused else pages[file.place] for file in files]


def _duplicates(batch: Batch, files: Sequence[Coming]) -> dict[tuple[int, int], Refused | DuplicateFile]:
    """Files whose bytes the stack has at another place, not taken back, or that come twice here."""
    there = Source.objects.filter(stack=batch.stack, master__in=[file.sha256 for file in files], pages__removed=False)
    known: dict[str, list[tuple[tuple[int, int] | None, str]]] = {}
    for source in there.order_by("pk").distinct():
        place = (source.index, source.part) if source.batch_id == batch.pk else None
        known.setdefault(source.master_id, []).append((place, source.name))
    found: dict[tuple[int, int], Refused | DuplicateFile] = {}
    for file in files:
        held = known.setdefault(file.sha256, [])
        other = next((name for place, name in held if place != file.place), None)
        if other is not None:
            found[file.place] = DuplicateFile(
                f"The same file is in the stack already, as “{other}”: skip it, or add it anyway."
            )
        else:
            held.append((file.place, file.name))
    return found


def _sources(batch: Batch, files: Sequence[Coming]) -> dict[tuple[int, int], Source]:
    """The files' rows by their places: those that are there, as after a break, and new ones."""
    Master.objects.bulk_create([Master(sha256=file.sha256, bytes=file.bytes) for file in files], ignore_conflicts=True)
    there = {
        (source.index, source.part): source for source in batch.sources.filter(index__in={file.index for file in files})
    }
    new = [
        Source(
            batch=batch,
            stack=batch.stack,
            index=file.index,
            part=file.part,
            master_id=file.sha256,
            name=file.name[:255] or "without a name",
            modified_at=file.modified_at,
        )
        for file in files
        if file.place not in there
    ]
    made = {(source.index, source.part): source for source in Source.objects.bulk_create(new)}
    return {file.place: there.get(file.place) or made[file.place] for file in files}


def _first_pages(batch: Batch, sources: dict[tuple[int, int], Source]) -> dict[tuple[int, int], Page]:
    """The page that stands for each file; what is known of one already is told of its pages at once."""
    there = {page.source_id: page for page in Page.objects.filter(source__in=sources.values(), frame=0)}
    known = Result.objects.in_bulk({expand_key(source.master_id) for source in sources.values()})
    missing = {place: source for place, source in sources.items() if source.pk not in there}
    change = next_change(batch.stack_id, order=True) if missing else 0
    new = [
        Page(
            stack=batch.stack,
            source=source,
            position=batch.base + index * _FILE_ROOM + part * _PART_ROOM,
            opened_id=expand_key(source.master_id),
            removed=batch.taken_back,
            change=change,
        )
        for (index, part), source in missing.items()
    ]
    there |= {page.source_id: page for page in Page.objects.bulk_create(new)}
    settle(Page.objects.filter(pk__in=[page.pk for page in new]))
    for page in new:
        opened = known.get(page.opened_id or "")
        if opened is not None and opened.body:
            open_source(page.source, opened.body["frames"])
    return {place: there[source.pk] for place, source in sources.items()}


def replace_page(batch: Batch, source: Source, page_id: int, override: dict[str, Any] | None = None) -> Page:
    """Let a file's first image take a page's place; the former one stays on record, and undoing brings it back.

    Raises Page.DoesNotExist where the page has gone. Call it in a transaction.
    """
    stack = Stack.objects.get(pk=batch.stack_id)
    page = stack.pages.get(pk=page_id, removed=False)
    if page.source_id != source.pk:
        fields = {"source_id": source.pk, "frame": 0, "rescan": "", "override": override or {}}
        history.record(stack, batch.by, "Recaptured a page", seen=stack.change, pages={page_id: fields})
    return stack.pages.get(pk=page_id)


def add_source(batch: Batch, file: Coming) -> Source:
    """A stored master as a batch's file, without a page of its own yet; call it in a transaction. Raises Refused."""
    source = _sources(batch, [file])[file.place]
    if source.master_id != file.sha256:
        raise _taken(source)
    return source


def _taken(source: Source) -> Refused:
    return Refused(f"Place {source.index + 1} of these files holds “{source.name}” already: add the file at the end.")


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
