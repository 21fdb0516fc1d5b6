"""By what a file is known."""

import hashlib
from pathlib import Path


def sha256_of(path: Path) -> str:
    """SHA-256 of a file's bytes, in hex."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
