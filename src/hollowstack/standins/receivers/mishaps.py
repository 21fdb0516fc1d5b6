"""Mishaps that a receiver can be made to have, one at a time, for so many times."""

import threading
from dataclasses import dataclass, field
from typing import Literal

Mishap = Literal["refuses", "full", "slow", "drops", "password", "corrupts"]
MISHAPS: dict[Mishap, str] = {
    "refuses": "Refuse the next one",
    "full": "Have no room for the next one",
    "slow": "Be slow with the next one",
    "drops": "Drop the line in the middle of the next one",
    "password": "Take no password the next time",
    "corrupts": "Change a byte of the next one",
}
"""Each with what its button says."""
SLOW_SECONDS = 3.0


@dataclass(slots=True)
class Mishaps:
    """What goes wrong next at one receiver; each mishap happens as often as it was asked for, and is over."""

    _left: dict[str, int] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def ask(self, mishap: Mishap, times: int = 1) -> None:
        """Have it happen the next so many times; never, for 0."""
        with self._lock:
            self._left[mishap] = times

    def happens(self, mishap: Mishap) -> bool:
        """Whether it happens now; it is one less then."""
        with self._lock:
            left = self._left.get(mishap, 0)
            self._left[mishap] = max(0, left - 1)
            return left > 0

    @property
    def asked(self) -> dict[str, int]:
        """What is still to happen, and how often."""
        with self._lock:
            return {mishap: left for mishap, left in self._left.items() if left}


def spoiled(data: bytes) -> bytes:
    """The same with one byte changed, in its middle."""
    at = len(data) // 2
    return data[:at] + bytes([data[at] ^ 1]) + data[at + 1 :] if data else data
