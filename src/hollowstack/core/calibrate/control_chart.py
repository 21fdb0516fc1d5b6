"""Control charts of single values: whether what is measured again and again only scatters, or has moved."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

D2 = 1.128
"""Mean range of two values by their standard deviation (Shewhart's constant d2 for n = 2)."""
_SIGMAS = 3.0
_BASE, _FEWEST = 20, 5
"""So many first values say what is usual; with fewer there are no limits yet."""
_IN_A_ROW = 8

_ROUNDING = 1e-9
"""Of a middle: values that never change are beside it by that alone."""

Drift = Literal["", "beyond", "one side"]
"""None; a value beyond the limits; so many in a row on one side of the middle."""


class Limits(NamedTuple):
    """What is usual for a device: its middle, and how far single values stray by chance alone."""

    middle: float
    lower: float
    upper: float


def limits_of(values: Sequence[float]) -> Limits | None:
    """The limits by the first twenty values; None while there are fewer than five.

    Source:
        W. A. Shewhart's chart for individuals with moving ranges: middle plus and minus three of mean range by d2
        (D. C. Montgomery, Introduction to Statistical Quality Control; ISO 7870-2:2023, from memory).
    """
    if len(values) < _FEWEST:
        return None
    base = values[:_BASE]
    middle = sum(base) / len(base)
    ranges = [abs(one - other) for one, other in zip(base[1:], base, strict=False)]
    away = _SIGMAS * sum(ranges) / len(ranges) / D2
    return Limits(middle, middle - away, middle + away)


def drift_of(values: Sequence[float]) -> Drift:
    """Whether the last value shows that something has moved.

    Source:
        The first of the tests for special causes, and that of eight in a row on one side (Western Electric, Statistical
        Quality Control Handbook, 1956).
    """
    limits = limits_of(values)
    if limits is None:
        return ""
    slack = _ROUNDING * max(1.0, abs(limits.middle))
    if not limits.lower - slack <= values[-1] <= limits.upper + slack:
        return "beyond"
    row = [value - limits.middle for value in values[-_IN_A_ROW:]]
    same_side = all(away > slack for away in row) or all(away < -slack for away in row)
    return "one side" if len(row) == _IN_A_ROW and same_side else ""
