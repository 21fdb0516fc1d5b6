"""Masters and results as files, each under a name made from its content or from what it was made of.

Names from outside never become paths: every path is built from hexadecimal digests.
"""

import hashlib
import os
import re
import tempfile
from pathlib import Path
from typing import BinaryIO

from django.conf import settings

from hollowstack.core.decode import MAX_BYTES
from hollowstack.core.page.errors import DecodeError

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


def keep_master(stream: BinaryIO) -> tuple[str, int]:
    """Store a stream's bytes once; returns their SHA-256 and how many there were.

    Raises:
        DecodeError: There are none, or over 2 GB of them.
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
            if size == 0:
                raise DecodeError("The file is empty: copy or scan it again.")
            part.flush()
            os.fsync(part.fileno())
            sha256 = digest.hexdigest()
            target = master_path(sha256)
            if not target.exists():
                target.parent.mkdir(parents=True, exist_ok=True)
                os.replace(part.name, target)
                target.chmod(0o444)
        finally:
            Path(part.name).unlink(missing_ok=True)
    return sha256, size


def _place(kind: str, digest: str) -> Path:
    if not _HEX.fullmatch(digest):
        raise ValueError(f"not a SHA-256 digest: {digest!r}")
    return Path(settings.DATA) / kind / digest[:2] / digest
