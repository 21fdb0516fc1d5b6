"""Seconds spent in each step."""

import time
from collections.abc import Iterator
from contextlib import contextmanager


class Clock:
    """Seconds spent in each step."""

    STEPS = ("decode", "measure", "render", "read", "encode")

    def __init__(self) -> None:
        self.seconds = dict.fromkeys(self.STEPS, 0.0)

    @contextmanager
    def step(self, name: str) -> Iterator[None]:
        """Time what happens inside."""
        start = time.perf_counter()
        try:
            yield
        finally:
            self.seconds[name] = round(self.seconds[name] + time.perf_counter() - start, 4)
