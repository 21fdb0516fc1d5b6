"""A file into a batch: as itself, or, where it is an archive, as the files in it."""

from datetime import datetime
from pathlib import Path

from hollowstack.core.decode.archive import entries, is_zip, opened_entry
from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.intake import batches
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import store


def take_in(
    batch_id: int, index: int, name: str, file: Path, *, again: bool, modified_at: datetime | None = None
) -> tuple[list[Page], list[str]]:
    """Take in a file that nobody else changes; returns its pages, and one sentence for each file of an archive left out.

    The archive itself is not kept: the masters are the files in it. Taken in again at its place in the batch, as after a
    full disk, what is there already stays as it is and the rest comes.

    Raises:
        DecodeError: It is empty, or an archive that cannot be opened.
        DuplicateFile: The stack has the same bytes already, and ``again`` does not allow that.
        OSError: There is no room for it, or for a file in it.
    """
    with file.open("rb") as stream:
        if is_zip(stream.read(4)):
            return _take_in_archive(batch_id, index, file, again=again)
        stream.seek(0)
        sha256, size = store.keep_master(stream)
    return [batches.add_file(batch_id, index, name, sha256, size, again=again, modified_at=modified_at)], []


def _take_in_archive(batch_id: int, index: int, path: Path, *, again: bool) -> tuple[list[Page], list[str]]:
    pages: list[Page] = []
    left_out: list[str] = []
    for part, entry in enumerate(entries(path)):
        if entry.left_out:
            left_out.append(entry.left_out)
            continue
        try:
            with opened_entry(path, entry.name) as stream:
                inside, size = store.keep_master(stream)
            pages.append(batches.add_file(batch_id, index, entry.name, inside, size, part=part, again=again))
        except HollowStackError as error:
            left_out.append(f"“{entry.name}”: {error}")
    return pages, left_out
