"""Pages unlike their fellows in size: told only where there are fellows, and not of pages that are a kind of their own.

A mixed box has letters, cards and strips, and none of them is odd; a register with one leaf that is half as high has an odd
one. Pages are of one kind where their sizes differ by no more than a share (common practice, no source).
"""

from collections.abc import Sequence
from typing import NamedTuple

_APART = 0.12
"""Sizes of one kind differ by no more than this share in width and in height."""
_ENOUGH = 6
"""Of fewer pages nobody can say what is usual."""
_MOST = 0.7
"""Share of the pages that one kind must have before others are unlike it."""
_KIND = 3
"""So many pages alike are a kind of their own, as the cards in a file of letters are."""


class OddSize(NamedTuple):
    """The page ``at`` an index is unlike most others, which have about the ``usual`` size in mm."""

    at: int
    usual: tuple[float, float]


def odd_sizes(sizes: Sequence[tuple[float, float]]) -> list[OddSize]:
    """Pages of a document that are unlike its other pages.

    Args:
        sizes: Width and height of its pages in mm, in order, each above 0.

    Returns:
        Those that belong to no kind, in order; none where no kind makes up most of the document.
    """
    if len(sizes) < _ENOUGH:
        return []
    kinds = _kinds(sizes)
    largest = max(kinds, key=len)
    if len(largest) < _MOST * len(sizes):
        return []
    usual = _middle([sizes[at] for at in largest])
    return sorted(OddSize(at, usual) for kind in kinds if kind is not largest and len(kind) < _KIND for at in kind)


_BESIDE = 3
"""So many pages on each side say what is usual there, where nobody knows to what a page belongs."""


def odd_between(sizes: Sequence[tuple[float, float]]) -> list[OddSize]:
    """Pages of no known document that are unlike those right before and right behind them, three each, which are alike.

    Args:
        sizes: Width and height of all pages in mm, in order, each above 0.
    """
    found = []
    for at in range(_BESIDE, len(sizes) - _BESIDE):
        beside = [*sizes[at - _BESIDE : at], *sizes[at + 1 : at + 1 + _BESIDE]]
        alike = all(_alike(one, beside[0]) for one in beside)
        if alike and not any(_alike(sizes[at], one) for one in beside):
            found.append(OddSize(at, _middle(beside)))
    return found


def _kinds(sizes: Sequence[tuple[float, float]]) -> list[list[int]]:
    """Indexes by kind: each page goes to the first kind whose first page it is like."""
    kinds: list[list[int]] = []
    for at, size in enumerate(sizes):
        for kind in kinds:
            if _alike(size, sizes[kind[0]]):
                kind.append(at)
                break
        else:
            kinds.append([at])
    return kinds


def _alike(one: tuple[float, float], other: tuple[float, float]) -> bool:
    return all(abs(a / b - 1) <= _APART for a, b in zip(one, other, strict=True))


def _middle(sizes: Sequence[tuple[float, float]]) -> tuple[float, float]:
    widths, heights = (sorted(size[axis] for size in sizes) for axis in (0, 1))
    return widths[len(sizes) // 2], heights[len(sizes) // 2]
