"""Identifiers by an example: SL/27/114 makes a pattern, by which others of its kind are found in a text."""

import re
from typing import Final, NamedTuple

FIGURES: Final = "#"
"""In a pattern: one figure or more."""
LETTERS: Final = "@"
"""In a pattern: one letter or more."""
MOST_PATTERN: Final = 80


class IdentifierError(ValueError):
    """A pattern or an example that tells no kind of identifier; its text is a sentence."""


class WrittenIdentifier(NamedTuple):
    """An identifier in a text, from one character to another."""

    text: str
    start: int
    end: int


def pattern_of(example: str) -> str:
    """The pattern that an example makes: figures may be any, all else is as it stands. Raises IdentifierError."""
    pattern = re.sub(r"\d+", FIGURES, " ".join(example.split()))
    if FIGURES not in pattern:
        raise IdentifierError(f"“{example}” has no figures: identifiers are told apart by theirs, as SL/27/114.")
    checked(pattern)
    return pattern


def checked(pattern: str) -> re.Pattern[str]:
    """What finds identifiers of a pattern.

    ``#`` stands for figures, ``@`` for letters, a space for any space. Raises IdentifierError where it would find every
    number or every word.
    """
    pattern = " ".join(pattern.split())
    if len(pattern) > MOST_PATTERN:
        raise IdentifierError(f"The pattern has {len(pattern)} characters; the most is {MOST_PATTERN}.")
    if not any(one in pattern for one in (FIGURES, LETTERS)):
        raise IdentifierError("The pattern finds one text alone: put # where any figures may stand, @ where letters may.")
    if not re.search(rf"[^{FIGURES}{LETTERS}\s]", pattern):
        raise IdentifierError("The pattern would find every number or word: put a letter or a sign beside # and @.")
    parts = {FIGURES: r"\d+", LETTERS: r"[^\W\d_]+", " ": r"\s+"}
    found = "".join(parts.get(one) or re.escape(one) for one in pattern)
    # Part of a longer one, it is another one: SL/27/1 is not in SL/27/1/3, nor in ASL/27/1.
    return re.compile(rf"(?<![\w/]){found}(?![\w]|[/.-]\w)")


def written_identifiers(text: str, patterns: list[re.Pattern[str]]) -> list[WrittenIdentifier]:
    """The identifiers of some patterns in a line of text, in its order; no place is told twice.

    Args:
        text: A line.
        patterns: Made by ``checked``; what an earlier one finds, a later one does not find again.

    Source:
        What belongs to an identifier is told by the example alone: common practice, no source.
    """
    found: list[WrittenIdentifier] = []
    for pattern in patterns:
        for match in pattern.finditer(text):
            if all(match.end() <= one.start or match.start() >= one.end for one in found):
                found.append(WrittenIdentifier(match.group(), match.start(), match.end()))
    return sorted(found, key=lambda one: one.start)
