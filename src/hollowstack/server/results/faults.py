"""What becomes of a step that failed: by the page's fault for good, by the machine's until it is tried again."""

from collections.abc import Iterable
from datetime import datetime, timedelta

from hollowstack.server.results.models import Result

WAITS = tuple(timedelta(seconds=seconds) for seconds in (10, 60, 300))
"""How long is waited after the first, the second, the third fault; after that a person is asked."""
_LASTING = frozenset({Result.Kind.PAGE, Result.Kind.PROGRAM})
"""Trying the same again would end the same."""


def what_next(kind: str, tries: int, now: datetime) -> tuple[Result.State, datetime | None]:
    """Whether a step that failed so many times is tried again, and when.

    Want of room never ends in a person's hands: once there is room all goes on by itself.
    """
    if kind in _LASTING:
        return Result.State.FAILED, None
    if tries <= len(WAITS):
        return Result.State.WAITING, now + WAITS[tries - 1]
    if kind == Result.Kind.ROOM:
        return Result.State.WAITING, now + WAITS[-1]
    return Result.State.FAILED, None


def fail(key: str, step: str, kind: str, error: str, now: datetime) -> Result:
    """Note that a step failed; what was made before under its key is no longer there."""
    before = Result.objects.filter(key=key).exclude(state=Result.State.MADE).values_list("tries", flat=True).first()
    tries = (before or 0) + 1
    state, next_try_at = what_next(kind, tries, now)
    given = {"step": step, "state": state, "body": None, "error": error, "kind": kind, "tries": tries}
    return Result.objects.update_or_create(key=key, defaults={**given, "next_try_at": next_try_at})[0]


def made(key: str, step: str, body: dict[str, object]) -> Result:
    """Note what a step made."""
    given = {"step": step, "state": Result.State.MADE, "body": body, "error": "", "kind": "", "tries": 0}
    return Result.objects.update_or_create(key=key, defaults={**given, "next_try_at": None})[0]


def forget_faults(keys: Iterable[str]) -> list[str]:
    """Let steps that failed, or wait for another try, be tried at once and as if for the first time; returns their keys."""
    keys = list(keys)
    found: list[str] = []
    for first in range(0, len(keys), 10_000):  # SQLite takes so many values in one question
        some = Result.objects.filter(key__in=keys[first : first + 10_000]).exclude(state=Result.State.MADE)
        found += some.values_list("key", flat=True)
        some.delete()
    return found


def room_is_back(now: datetime) -> int:
    """Try at once what only waits for room on the disk; returns how many steps that are."""
    waiting = Result.objects.filter(state=Result.State.WAITING, kind=Result.Kind.ROOM, next_try_at__gt=now)
    return waiting.update(next_try_at=now)
