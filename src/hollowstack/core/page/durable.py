"""Files that are there after a power cut: written whole under another name, synced, then given their own.

Source:
    POSIX.1-2017, fsync and rename: what a file holds is on the disk once it is synced, its name once its folder is.
"""

import os
from pathlib import Path


def sync(path: Path) -> None:
    """Have a file's bytes, or a folder's names, on the disk. Raises OSError."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def make_folder(path: Path) -> None:
    """A folder with all that it lies in, there after a power cut too. Raises OSError."""
    if not path.is_dir():
        make_folder(path.parent)
        path.mkdir(exist_ok=True)
        sync(path.parent)


def settle(part: Path, target: Path) -> None:
    """Give a file, or a folder of files, its final name, so that it is there whole or not at all whatever happens.

    What has the name already is replaced; a folder must be empty for that. Raises OSError.
    """
    for file in part.iterdir() if part.is_dir() else ():
        sync(file)
    sync(part)
    os.replace(part, target)
    sync(target.parent)


def write_whole(path: Path, data: bytes) -> None:
    """Write a file so that under its name it is there whole or as it was before. Raises OSError."""
    part = path.with_name(f".{path.name}.part")
    try:
        part.write_bytes(data)
        settle(part, path)
    finally:
        part.unlink(missing_ok=True)
