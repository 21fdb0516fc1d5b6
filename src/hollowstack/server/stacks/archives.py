"""A stored file into a load: as itself, or, where it is an archive, as the files in it."""

from datetime import datetime

from hollowstack.core.decode.archive import entries, is_zip, opened_entry
from hollowstack.core.page.errors import HollowStackError
from hollowstack.server import store
from hollowstack.server.stacks import loads
from hollowstack.server.stacks.models import Master, Page


def take_in(
    load_id: int, index: int, name: str, sha256: str, size: int, *, again: bool, modified_at: datetime | None = None
) -> tuple[list[Page], list[str]]:
    """Take in a stored file; returns its pages, and one sentence for each file of an archive that was left out.

    Raises:
        DecodeError: It is an archive that cannot be opened.
        Twice: The stack has the same bytes already, and ``again`` does not allow that.
    """
    with store.master_path(sha256).open("rb") as file:
        packed = is_zip(file.read(4))
    if packed:
        return _take_in_archive(load_id, index, sha256, again=again)
    return [loads.add_file(load_id, index, name, sha256, size, again=again, modified_at=modified_at)], []


def _take_in_archive(load_id: int, index: int, sha256: str, *, again: bool) -> tuple[list[Page], list[str]]:
    """The archive itself is not kept: the masters are the files in it."""
    path = store.master_path(sha256)
    pages: list[Page] = []
    left_out: list[str] = []
    try:
        for part, entry in enumerate(entries(path)):
            if entry.left_out:
                left_out.append(entry.left_out)
                continue
            try:
                with opened_entry(path, entry.name) as stream:
                    inside, size = store.keep_master(stream)
                pages.append(loads.add_file(load_id, index, entry.name, inside, size, part=part, again=again))
            except HollowStackError as error:
                left_out.append(f"“{entry.name}”: {error}")
    finally:
        if not Master.objects.filter(pk=sha256).exists():
            path.unlink(missing_ok=True)
    return pages, left_out
