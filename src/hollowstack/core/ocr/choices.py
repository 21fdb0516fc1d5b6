"""Other readings of a word, from what the engine held possible for each of its characters."""

import heapq
from collections.abc import Sequence
from itertools import count

Choices = Sequence[Sequence[tuple[str, float]]]
"""For each character in turn what it may be, with a cost: the lower, the likelier."""

MOST = 5
_NEVER = {"", " ", "_", "~", "|"}
"""What the engine puts where it has no idea."""
_TOO_DEAR = 40.0
"""Cost beyond that of what was read from which on a character is no serious choice."""
_WHOLE_MARGIN = 20.0
"""Difference of cost from which on a character leaves no doubt."""


def aligned(text: str, choices: Choices) -> list[list[tuple[str, float]]]:
    """The choices of each character of a text; nothing where they cannot be told apart.

    The engine gives the gap before a word as a character, too.
    """
    found = [list(options) for options in choices if options and options[0][0] != " "]
    return found if len(found) == len(text) and all(len(options[0][0]) == 1 for options in found) else []


def alternatives(text: str, choices: Choices) -> tuple[str, ...]:
    """Up to five other readings, the likeliest first: the cheapest exchanges of one character or several."""
    steps: list[list[tuple[float, str]]] = []
    for char, options in zip(text, aligned(text, choices), strict=False):
        taken = next((cost for option, cost in options if option == char), options[0][1])
        serious = sorted((cost - taken, option) for option, cost in options if option == char or option not in _NEVER)
        # The engine may give a sign that it held none of its choices for, a quotation mark made of two strokes say.
        steps.append(serious or [(0.0, char)])
    if not steps:
        return ()
    # Cheapest first: from each found text, the next choice of one character more, at or behind the one exchanged last.
    base = [
        next((at for at, (_, option) in enumerate(step) if option == char), 0)
        for char, step in zip(text, steps, strict=True)
    ]
    tie = count()
    start = tuple(base)
    waiting: list[tuple[float, int, tuple[int, ...], int]] = [(0.0, next(tie), start, 0)]
    made: list[str] = []
    seen = {text}
    while waiting and len(made) < MOST:
        cost, _, chosen, place = heapq.heappop(waiting)
        found = "".join(steps[at][option][1] for at, option in enumerate(chosen))
        if found not in seen:
            seen.add(found)
            made.append(found)
        for at in range(place, len(steps)):
            if chosen[at] != base[at]:
                continue
            for option, (extra, _) in enumerate(steps[at]):
                if option != base[at] and extra <= _TOO_DEAR:
                    nearer = (*chosen[:at], option, *chosen[at + 1 :])
                    heapq.heappush(waiting, (cost + extra + _ONE_MORE, next(tie), nearer, at + 1))
    return tuple(made)


_ONE_MORE = 5.0
"""Cost of exchanging one character more: rather one that is wrong than two."""


def margin(text: str, choices: Choices) -> float:
    """By how much the least sure character was preferred to the next one, 0 to 1; 1 where nothing else was possible."""
    least = _WHOLE_MARGIN
    for char, options in zip(text, aligned(text, choices), strict=False):
        taken = next((cost for option, cost in options if option == char), options[0][1])
        others = [cost for option, cost in options if option != char]
        if others:
            least = min(least, min(others) - taken)
    return round(max(0.0, least) / _WHOLE_MARGIN, 3)
