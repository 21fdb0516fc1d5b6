"""Files that come piece by piece: a broken upload goes on where it stopped, whenever that is."""

import fcntl
import os
from collections.abc import Sequence
from datetime import datetime
from io import FileIO
from pathlib import Path
from typing import NamedTuple

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet

from hollowstack.core.decode import MAX_BYTES
from hollowstack.core.page.durable import sync
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.intake import archives
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.models import Batch, Page, Stack, Upload
from hollowstack.server.storage.room import require_room
from hollowstack.server.storage.spools import Readable, shared

_CHUNK = 1 << 20


class Announced(NamedTuple):
    """A file about to come."""

    name: str
    bytes: int
    modified_at: datetime | None = None
    at_once: bool = False
    """Take it in as soon as it has come whole."""


def announce(batch: Batch, files: Sequence[Announced]) -> list[Upload]:
    """Expect files, in their order, behind those that the batch has already.

    Raises:
        NoRoom: The disk has none for them.
        OverQuota: They are more than the stack, or whoever sends them, may have.
    """
    # What is too large to be taken in is told when it comes, and keeps the others from nothing.
    require_room(sum(file.bytes for file in files if file.bytes <= MAX_BYTES))
    with transaction.atomic():
        require_quota(batch.stack_id, batch.by_id, sum(file.bytes for file in files))
        last = max([-1, *batch.sources.values_list("index", flat=True), *batch.uploads.values_list("index", flat=True)])
        rows = [
            Upload(batch=batch, index=index, **{**file._asdict(), "name": file.name[:255]})
            for index, file in enumerate(files, last + 1)
        ]
        announced = Upload.objects.bulk_create(rows)
    for upload in announced:
        _part(upload).unlink(missing_ok=True)  # a database put back from a copy gives the same numbers again
    return announced


def received(upload: Upload) -> int:
    """How many bytes have come."""
    try:
        return _part(upload).stat().st_size
    except FileNotFoundError:
        return 0


def append(upload: Upload, offset: int, stream: Readable) -> int:
    """Add the bytes that belong at an offset; returns how many there are now.

    Raises:
        Conflict: The file has another number of bytes by now: ask for it and go on from there.
        Refused: More would come than was announced.
        OSError: There is no room for them; those that had come before stay.
    """
    if upload.bytes > MAX_BYTES:
        raise Refused("The file has over 2 GB, the most that can be added: split it first.")
    path = _part(upload)
    path.parent.mkdir(parents=True, exist_ok=True)
    # Without a buffer: what a full disk has not taken would else be written later, at another place.
    with path.open("ab", buffering=0) as part:
        # A client that has lost patience may send a piece again while the first is still being written.
        fcntl.flock(part, fcntl.LOCK_EX)
        if part.seek(0, os.SEEK_END) != offset:
            raise Conflict("The upload stands at another place by now: it goes on from there.")
        try:
            while chunk := stream.read(_CHUNK):
                if part.tell() + len(chunk) > upload.bytes:
                    raise Refused("The file has grown since it was chosen: choose it again.")
                _write(part, chunk)
            os.fsync(part.fileno())
            if not offset:
                sync(path.parent)  # its name is as new as its bytes
        except (Refused, OSError):
            # What has not been synced has not come: it is sent again.
            part.truncate(offset)
            raise
        return part.tell()


def _write(part: FileIO, chunk: bytes) -> None:
    """All of it; an unbuffered file may take less than it is given."""
    rest = memoryview(chunk)
    while rest:
        rest = rest[part.write(rest) :]


def take_in(upload: Upload, *, again: bool) -> tuple[list[Page], list[str]]:
    """A file that has come whole into its batch; returns its pages, and why files of an archive were left out.

    Raises:
        Refused: It has not come whole.
        DuplicateFile: The stack has it already, and ``again`` does not say that it is meant: take it in, or leave it out.
        DecodeError: It is empty, or an archive that cannot be opened.
        OSError: There is no room for it; what has come stays.
    """
    if received(upload) != upload.bytes:
        raise Refused("The file has not come whole: choose it again and it goes on where it stopped.")
    path = _part(upload)
    if not upload.bytes:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.touch()
    with shared(path) as spool:
        taken = archives.take_in(
            upload.batch_id, upload.index, upload.name, spool, again=again, modified_at=upload.modified_at
        )
    leave_out(upload)
    return taken


def leave_out(upload: Upload) -> None:
    """Forget an announced file and what has come of it."""
    path = _part(upload)
    upload.delete()
    path.unlink(missing_ok=True)


def unfinished(stack: Stack) -> QuerySet[Upload]:
    """Files that were announced for a stack and are not in it, in their order."""
    return Upload.objects.filter(batch__stack=stack).order_by("batch_id", "index")


def _part(upload: Upload) -> Path:
    return Path(settings.DATA) / "uploads" / f"upload-{upload.pk}.part"
