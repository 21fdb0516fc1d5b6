"""Copies of documents to be looked at: smaller, marked, with notes, covered where nobody is to look; never PDF/A."""

from hollowstack.core.access.copying import AccessPage, Copied, make_access_copy
from hollowstack.core.access.locking import Passwords
from hollowstack.core.access.marks import Mark, MarkKind
from hollowstack.core.access.order import AccessOrder, Watermark

__all__ = [
    "AccessOrder", "AccessPage", "Copied", "Mark", "MarkKind", "Passwords", "Watermark", "make_access_copy",
]  # fmt: skip
