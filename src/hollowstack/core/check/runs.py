"""Runs of pages that are numbered through, within a stack in which nobody has said where documents begin.

A box holds several numbered things one behind the other: a report from 1 to 12, a log from 157 to 161. Where numbers begin
anew, another run begins; a number that fits neither what came before nor what follows was misread, and says nothing.
"""

from collections.abc import Sequence

_REACH = 6
"""Numbers up to so far ahead of what is expected, or behind it, are of the same run: pages are missing, or out of place."""
_FIRST = 2
"""A run may begin with its second page, as first pages often bear no number."""


def numbered_runs(numbers: Sequence[int | None], starts: Sequence[bool] = ()) -> list[dict[int, int | None]]:
    """The pages of each run by their indexes, in order, each with its number; None where it bears none, or that was misread.

    A page that bears no number belongs to the run that goes on over it, else to none.

    Args:
        numbers: The number on each page, as far as one was read (``sequence.printed_numbers``).
        starts: Of each page whether a document is known to begin with it: no run goes on over that.
    """
    known = [(at, number) for at, number in enumerate(numbers) if number is not None]
    runs: list[list[tuple[int, int]]] = []
    for place, (at, number) in enumerate(known):
        before = runs[-1][-1] if runs else None
        after = known[place + 1] if place + 1 < len(known) else None
        cut = before is None or any(starts[before[0] + 1 : at + 1])
        if not cut and before is not None and _goes_on(runs[-1], (at, number), after):
            runs[-1].append((at, number))
        elif cut or _begins(number, at, after):
            runs.append([(at, number)])
        # Else it was misread: the run goes on behind it.
    return [{at: dict(run).get(at) for at in range(run[0][0], run[-1][0] + 1)} for run in runs]


def _goes_on(run: Sequence[tuple[int, int]], page: tuple[int, int], after: tuple[int, int] | None) -> bool:
    """Whether a number belongs to a run: near what is expected there, and not the first of another."""
    (last, number), (at, here) = run[-1], page
    ahead = here - (number + at - last)
    if here == number + at - last:
        return True
    if abs(ahead) > _REACH or (here > 0) != (number > 0):
        return False
    begins = here <= _FIRST and after is not None and after[1] - here == after[0] - at
    return not begins


def _begins(number: int, at: int, after: tuple[int, int] | None) -> bool:
    """Whether another run begins with a number: with a first one, or one that the next goes on from."""
    if 0 < number <= _FIRST:
        return True
    return after is not None and 0 < after[1] - number <= _REACH and after[1] - number >= after[0] - at
