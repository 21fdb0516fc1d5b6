"""Words that are one slip away from a word: of the hand that typed it, or of the engine that read it."""

from typing import Final

LEAST: Final = 4
"""Letters from which which a word may be meant with a slip in it: shorter ones are nearly all near each other."""
_LETTERS = (
    "abcdefghijklmnopqrstuvwxyz",
    "".join(map(chr, range(0x3B1, 0x3CA))),
    "".join(map(chr, range(0x430, 0x460))),
    "".join(map(chr, range(0x5D0, 0x5EB))),
    "".join(map(chr, range(0x621, 0x64B))),
)
"""Latin, Greek, Cyrillic, Hebrew, Arabic: letters that may stand in the place of another one or between two."""


def nearly(word: str) -> frozenset[str]:
    """All that is one edit from a word: a letter left out, put in, put for another, or two that changed places.

    Args:
        word: As it is compared (``tokens``). Figures are no slips of each other: another year is another year.

    Returns:
        Without the word itself; nothing for words of fewer than ``LEAST`` letters, or with figures.

    Source:
        Damerau, A technique for computer detection and correction of spelling errors (1964): the four single errors.
    """
    if len(word) < LEAST or not word.isalpha():
        return frozenset()
    letters = next((some for some in _LETTERS if word[0] in some), "")
    halves = [(word[:at], word[at:]) for at in range(len(word) + 1)]
    found = {left + right[1:] for left, right in halves if right}
    found |= {left + right[1] + right[0] + right[2:] for left, right in halves if len(right) > 1}
    found |= {left + letter + right[1:] for left, right in halves if right for letter in letters}
    found |= {left + letter + right for left, right in halves for letter in letters}
    return frozenset(found - {word})
