"""Where files lie, each under a name made from its content or from what it was made of.

Names from outside never become paths: every path is built from hexadecimal digests and the names of the steps.
"""

import re
from pathlib import Path

from django.conf import settings

_HEX = re.compile(r"[0-9a-f]{64}")
STEPS = ("measure", "render", "read")
"""The steps that leave files."""


def master_path(sha256: str) -> Path:
    """Where a master's bytes are kept for ever."""
    return _place("masters", sha256)


def result_path(step: str, key: str) -> Path:
    """The folder of a result's files. Raises ValueError for a step that leaves none."""
    if step not in STEPS:
        raise ValueError(f"not a step that leaves files: {step!r}")
    return _place(f"results/{step}", key)


def document_path(key: str) -> Path:
    """Where a bound document is kept."""
    return _place("documents", key)


def is_digest(name: str) -> bool:
    """Whether a file's name is that of something stored."""
    return _HEX.fullmatch(name) is not None


def spools() -> Path:
    """The folder of what has come and belongs to nothing yet; it is there."""
    folder = Path(settings.DATA) / "uploads"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def _place(kind: str, digest: str) -> Path:
    if not _HEX.fullmatch(digest):
        raise ValueError(f"not a SHA-256 digest: {digest!r}")
    return Path(settings.DATA) / kind / digest[:2] / digest
