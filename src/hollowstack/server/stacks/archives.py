"""An archive that was sent as a file: its files come in its place."""

from hollowstack.core.decode.archive import entries, opened_entry
from hollowstack.core.errors import HollowStackError
from hollowstack.server import store
from hollowstack.server.stacks import loads
from hollowstack.server.stacks.models import Master, Page


def add_archive(load_id: int, index: int, sha256: str, *, again: bool) -> tuple[list[Page], list[str]]:
    """Take in what an archive holds; returns its pages, and one sentence for each file that was left out.

    The archive itself is not kept: the masters are the files in it. Raises DecodeError where it cannot be opened.
    """
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
