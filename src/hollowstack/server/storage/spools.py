"""Spools: bytes that have come, whole and synced, in a file of their own until they are kept or dropped."""

import hashlib
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple, Protocol

from hollowstack.core.decode import MAX_BYTES
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.errors import DecodeError
from hollowstack.server.storage.places import spools

_CHUNK = 1 << 20
PREFIX = "spool-"


class Readable(Protocol):
    """Whatever bytes can be read from, piece by piece."""

    def read(self, size: int, /) -> bytes:
        """So many bytes, or fewer at the end, where there are none."""
        ...


class Spool(NamedTuple):
    """Bytes that have come and belong to nothing yet."""

    path: Path
    sha256: str
    size: int


@contextmanager
def spooled(stream: Readable) -> Iterator[Spool]:
    """A stream's bytes in a file of one's own, synced; it is gone afterwards, unless it was moved away.

    Raises:
        DecodeError: There are over 2 GB of them.
        OSError: They cannot be written, as where the disk is full; nothing is left behind then.
    """
    digest, size = hashlib.sha256(), 0
    with tempfile.NamedTemporaryFile(dir=spools(), prefix=PREFIX, delete=False) as part:
        try:
            while chunk := stream.read(_CHUNK):
                size += len(chunk)
                if size > MAX_BYTES:
                    raise DecodeError("The file has over 2 GB, the most that can be added: split it first.")
                digest.update(chunk)
                part.write(chunk)
            part.flush()
            os.fsync(part.fileno())
            yield Spool(Path(part.name), digest.hexdigest(), size)
        finally:
            Path(part.name).unlink(missing_ok=True)


@contextmanager
def shared(path: Path) -> Iterator[Spool]:
    """A file of this data folder that has come whole and is written no more, as a spool that needs no room of its own.

    The file itself stays where it is. Raises OSError.
    """
    handle, name = tempfile.mkstemp(dir=spools(), prefix=PREFIX)
    os.close(handle)
    own = Path(name)
    try:
        own.unlink()
        os.link(path, own)
        yield Spool(own, sha256_of(own), own.stat().st_size)
    finally:
        own.unlink(missing_ok=True)
