"""Whether the papers of a stack may go: back, out of keeping, or destroyed."""

from datetime import date
from typing import NamedTuple

from hollowstack.core.settings.original import Original


class Standing(NamedTuple):
    """What is known of a stack's documents."""

    signed: bool
    """Whether somebody has signed for the stack."""
    documents: int
    """Bound for the archive."""
    proven: int
    """Of these, such as lie somewhere whole, as was read back there."""
    missing: int
    """Deliveries that had arrived, and are not there, or not whole, any more."""


class Fate(NamedTuple):
    """Whether papers may go, and why, as one sentence; None where nobody has said what becomes of them."""

    may: bool | None
    said: str


def fate_of(original: Original, standing: Standing, today: date) -> Fate:
    """What may be done with the papers of a stack today.

    Papers are destroyed, and are no longer kept, only when somebody has signed for the stack, and each of its documents has
    been proven to lie whole somewhere else. Papers that go back to their place may go at any time: there they can be
    captured again.

    Source:
        Common practice, no source.
    """
    if not original.after:
        return Fate(None, "Nobody has said what becomes of the papers.")
    if original.after == "back":
        return Fate(True, "The papers may go back to their place.")
    if original.after == "kept":
        if original.until is None:
            return Fate(False, "The papers are kept.")
        if today <= original.until:
            return Fate(False, f"The papers are kept until {original.until.day} {original.until:%B %Y}.")
    if lacking := _lacking(standing):
        return Fate(False, f"The papers may not be destroyed yet: {' and '.join(lacking)}.")
    return Fate(True, "The papers may be destroyed: the stack is signed for, and all its documents lie whole elsewhere.")


def _lacking(standing: Standing) -> list[str]:
    found = []
    if not standing.signed:
        found.append("nobody has signed for the stack")
    if standing.documents == 0:
        found.append("nothing has been bound")
    elif standing.proven < standing.documents:
        left = standing.documents - standing.proven
        found.append(
            "a document has not been proven to lie elsewhere"
            if left == 1
            else f"{left} documents have not been proven to lie elsewhere"
        )
    if standing.missing:
        found.append("a delivered file is lost" if standing.missing == 1 else f"{standing.missing} delivered files are lost")
    return found
