"""A file into a batch: as itself, or, where it is an archive, as the files in it."""

from collections.abc import Sequence
from datetime import datetime

from hollowstack.core.decode.archive import is_zip, opened
from hollowstack.core.decode.sniff import sniff
from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.errors import NoRoom
from hollowstack.server.intake import batches
from hollowstack.server.intake.batches import Coming
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.models import Batch, Master, Page
from hollowstack.server.stacks.retrying import try_again
from hollowstack.server.stacks.services import say_of_master
from hollowstack.server.storage.masters import Kept, keep_master
from hollowstack.server.storage.spools import Spool, spooled

_AT_ONCE = 100
"""Files of an archive that are written down together: their bytes are safe by then, and nobody waits long."""


def take_in(
    batch_id: int, index: int, name: str, spool: Spool, *, again: bool, modified_at: datetime | None = None
) -> tuple[list[Page], list[str]]:
    """Take in what has come whole; returns its pages, and one sentence for each file of an archive left out.

    The archive itself is not kept: the masters are the files in it. Taken in again at its place in the batch, as after a
    full disk, what is there already stays as it is and the rest comes.

    Raises:
        DecodeError: It is empty, none of the formats taken in, or an archive that cannot be opened.
        OverQuota: There is more in the archive than the stack, or whoever sends it, may have; what is in stays.
        DuplicateFile: The stack has the same bytes already, and ``again`` does not allow that.
        OSError: There is no room for it, or for a file in it.
    """
    with spool.path.open("rb") as stream:
        packed = is_zip(stream.read(4))
    if packed:
        return _take_in_archive(batch_id, index, spool, again=again)
    sniff(spool.path)
    kept = keep(spool)
    file = Coming(index, name, kept.sha256, kept.bytes, modified_at=modified_at)
    return [batches.add_file(batch_id, file, again=again)], []


def keep(spool: Spool) -> Kept:
    """Store a master; where its file had been damaged or was gone, what failed for that is tried again."""
    kept = keep_master(spool)
    _put_right([kept.sha256] if kept.written else [])
    return kept


def _put_right(written: Sequence[str]) -> None:
    """Masters whose files were not there, or damaged, and are now as they came: those known before are whole again."""
    known = Master.objects.filter(sha256__in=written)
    if healed := list(known.values_list("sha256", flat=True)):
        for sha256 in healed:
            say_of_master(sha256, damaged=False)
        try_again(Page.objects.filter(source__master_id__in=healed))


def _take_in_archive(batch_id: int, index: int, spool: Spool, *, again: bool) -> tuple[list[Page], list[str]]:
    pages: list[Page] = []
    left_out: list[str] = []
    coming: list[Coming] = []
    written: list[str] = []

    batch = Batch.objects.get(pk=batch_id)
    there = set(batch.sources.filter(index=index).values_list("part", flat=True))
    announced = sum(batch.uploads.filter(index=index).values_list("bytes", flat=True))

    def add() -> None:
        new = sum(file.bytes for file in coming if file.part not in there)
        require_quota(batch.stack_id, batch.by_id, max(0, new - announced))  # that much is counted for it already
        _put_right(written)
        written.clear()
        for file, added in zip(coming, batches.add_files(batch_id, coming, again=again), strict=True):
            if isinstance(added, Page):
                pages.append(added)
            else:
                left_out.append(f"“{file.name}”: {added}")
        coming.clear()

    with opened(spool.path) as archive:
        for part, entry in enumerate(archive.entries):
            if entry.left_out:
                left_out.append(entry.left_out)
                continue
            try:
                with archive.bytes_of(entry) as stream, spooled(stream) as inside:
                    sniff(inside.path)
                    kept = keep_master(inside)
            except NoRoom:
                raise
            except HollowStackError as error:
                left_out.append(f"“{entry.name}”: {error}")
                continue
            if kept.written:
                written.append(kept.sha256)
            coming.append(Coming(index, entry.name, kept.sha256, kept.bytes, part))
            if len(coming) == _AT_ONCE:
                add()
    add()
    return pages, left_out
