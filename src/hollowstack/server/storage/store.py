"""Masters and results as files, each under a name made from its content or from what it was made of.

Names from outside never become paths: every path is built from hexadecimal digests.
"""

import hashlib
import os
import re
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO, NamedTuple

from django.conf import settings

from hollowstack.core.decode import MAX_BYTES
from hollowstack.core.page.errors import DecodeError
from hollowstack.server.errors import NoRoom

_HEX = re.compile(r"[0-9a-f]{64}")
_CHUNK = 1 << 20


def master_path(sha256: str) -> Path:
    """Where a master's bytes are kept for ever."""
    return _place("masters", sha256)


def result_path(step: str, key: str) -> Path:
    """The folder of a result's files."""
    return _place(f"results/{step}", key)


def document_path(sha256: str) -> Path:
    """Where a bound document is kept."""
    return _place("documents", sha256)


def require_room(size: int = 0) -> None:
    """Raises NoRoom where so many bytes more would leave less free than there must always be."""
    settings.DATA.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(settings.DATA).free
    if free - size < settings.LEAST_FREE_MB * 1_000_000:
        raise NoRoom(f"Only {free // 1_000_000:,} MB are free on the disk of the server: make room first, then go on.")


def keep_master(stream: BinaryIO) -> tuple[str, int]:
    """Store a stream's bytes once; returns their SHA-256 and how many there were.

    A file that was stored before and has been damaged since is put right by the bytes that have come again.

    Raises:
        DecodeError: There are none, or over 2 GB of them.
        OSError: They cannot be written, as where the disk is full; nothing is left behind then.
    """
    with spooled(stream) as spool:
        if spool.size == 0:
            raise DecodeError("The file is empty: copy or scan it again.")
        target = master_path(spool.sha256)
        if not target.exists() or _digest(target) != spool.sha256:
            target.parent.mkdir(parents=True, exist_ok=True)
            spool.path.chmod(0o444)
            os.replace(spool.path, target)
            _sync_folder(target.parent)
        return spool.sha256, spool.size


class Spool(NamedTuple):
    """Bytes that have come and belong to nothing yet."""

    path: Path
    sha256: str
    size: int


@contextmanager
def spooled(stream: BinaryIO) -> Iterator[Spool]:
    """A stream's bytes in a file of one's own, synced; it is gone afterwards, unless it was moved away.

    Raises:
        DecodeError: There are over 2 GB of them.
    """
    folder = settings.DATA / "uploads"
    folder.mkdir(parents=True, exist_ok=True)
    digest, size = hashlib.sha256(), 0
    with tempfile.NamedTemporaryFile(dir=folder, prefix="master-", delete=False) as part:
        try:
            while chunk := stream.read(_CHUNK):
                size += len(chunk)
                if size > MAX_BYTES:
                    raise DecodeError("The file has over 2 GB, the most that is taken in: split it first.")
                digest.update(chunk)
                part.write(chunk)
            part.flush()
            os.fsync(part.fileno())
            yield Spool(Path(part.name), digest.hexdigest(), size)
        finally:
            Path(part.name).unlink(missing_ok=True)


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _sync_folder(folder: Path) -> None:
    """Until its folder is synced a new name may be gone after a power cut."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _place(kind: str, digest: str) -> Path:
    if not _HEX.fullmatch(digest):
        raise ValueError(f"not a SHA-256 digest: {digest!r}")
    return Path(settings.DATA) / kind / digest[:2] / digest
