"""Questions to a server, each asked again and again: how long it takes, against a limit."""

import statistics
import time
from collections.abc import Callable, Mapping
from typing import Any


def asked_for(asked: Mapping[str, Callable[[int], Any]], count: int, limit_ms: float) -> int:
    """Ask each question so many times, after once that does not count; print median and p95; returns how many keep the limit."""
    reached = 0
    for what, ask in asked.items():
        ask(0)
        spent = [_timed(ask, number) for number in range(1, count + 1)]
        p95 = statistics.quantiles(spent, n=20)[-1]
        reached += p95 <= limit_ms
        said = "reached" if p95 <= limit_ms else "NOT YET"
        print(f"{said:8} {what:36} median {statistics.median(spent):6.1f} ms, p95 {p95:6.1f} ms   limit: {limit_ms:.0f} ms")
    return reached


def _timed(ask: Callable[[int], Any], number: int) -> float:
    """Milliseconds."""
    start = time.perf_counter()
    ask(number)
    return (time.perf_counter() - start) * 1000
