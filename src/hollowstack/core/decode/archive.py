"""ZIP files as bundles of scans, opened without trusting a word of what they say.

An entry whose name leads out of the archive, that is a link, that is encrypted, or that unpacks to far more than it holds is
left out with one sentence; the others come. Nothing is ever written under a name from inside.
"""

import stat
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path, PurePosixPath
from typing import IO, NamedTuple

from natsort import os_sort_key

from hollowstack.core.decode.sniff import MAX_BYTES
from hollowstack.core.page.errors import DecodeError

_MOST_ENTRIES = 10_000
_MOST_RATIO = 200
_SMALL = 50_000_000
"""Entries below this are unpacked whatever their ratio: blank bitonal pages shrink a thousandfold."""
_DAMAGED = (zipfile.BadZipFile, zlib.error, EOFError, OSError, RuntimeError, NotImplementedError)
_WHY = "The file in the archive is damaged: pack it again."
_IGNORED = {"Thumbs.db", "desktop.ini"}


class Entry(NamedTuple):
    """A file in an archive: its name there, and why it is left out (empty where it is not)."""

    name: str
    left_out: str
    info: zipfile.ZipInfo
    """Where it lies: two files in an archive may have one name."""


def is_zip(head: bytes) -> bool:
    """Whether a file's first bytes are those of a ZIP file (APPNOTE 6.3.10, 4.3.7)."""
    return head.startswith(b"PK\x03\x04")


class Archive:
    """An archive that is open: its files in natural order, without folders and hidden files, and the bytes of each."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        """Raises DecodeError where it holds too many files, or none."""
        self._archive = archive
        files = [info for info in archive.infolist() if not info.is_dir() and not _hidden(info.filename)]
        if len(files) > _MOST_ENTRIES:
            raise DecodeError(f"The archive holds {len(files):,} files; the most is {_MOST_ENTRIES:,}: split it.")
        if not files:
            raise DecodeError("The archive holds no files: pack the scans again.")
        files.sort(key=lambda info: os_sort_key(info.filename))
        self.entries = [Entry(info.filename, _why_not(info), info) for info in files]

    @contextmanager
    def bytes_of(self, entry: Entry) -> Iterator["EntryBytes"]:
        """The bytes of one entry; reading stops with a DecodeError where they are damaged or more than were announced."""
        try:
            stream = self._archive.open(entry.info)
        except _DAMAGED:
            raise DecodeError(_WHY) from None
        with stream:
            yield EntryBytes(stream)


@contextmanager
def opened(path: Path) -> Iterator[Archive]:
    """An archive. Raises DecodeError where it is no ZIP file that can be opened, holds too many files, or none."""
    try:
        archive = zipfile.ZipFile(path)
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
        raise DecodeError("The archive is damaged or cut short: copy it again.") from None
    with archive:
        yield Archive(archive)


class EntryBytes:
    """The bytes of an entry. What its reader does with them, and fails in, is no fault of the archive."""

    def __init__(self, stream: IO[bytes]) -> None:
        self._stream = stream

    def read(self, size: int = -1) -> bytes:
        """As of a file; raises DecodeError where the archive is damaged."""
        try:
            return self._stream.read(size)
        except _DAMAGED:
            raise DecodeError(_WHY) from None


def _hidden(name: str) -> bool:
    parts = PurePosixPath(name.replace("\\", "/")).parts
    return (
        any(part.startswith(".") and part not in {".", ".."} for part in parts)
        or "__MACOSX" in parts
        or parts[-1] in _IGNORED
    )


def _why_not(info: zipfile.ZipInfo) -> str:
    name = info.filename
    parts = PurePosixPath(name.replace("\\", "/")).parts
    if ".." in parts or name.startswith(("/", "\\")) or name[1:2] == ":":
        return f"“{name}” leads out of the archive and was left out: pack the files without such names."
    if stat.S_ISLNK(info.external_attr >> 16):
        return f"“{name}” is a link and was left out: pack the file itself."
    if info.flag_bits & 1:
        return f"“{name}” is encrypted and was left out: pack the files without a password."
    if info.file_size > MAX_BYTES:
        return f"“{name}” has over 2 GB, the most that can be added, and was left out: split it first."
    if info.file_size > _SMALL and info.file_size > _MOST_RATIO * max(1, info.compress_size):
        return f"“{name}” unpacks to {info.file_size:,} bytes from {info.compress_size:,} and was left out: it is no scan."
    return ""
