"""The words of a page as a search looks in them: whole where a line parted them, with what else they may be."""

from collections.abc import Iterator, Sequence
from itertools import zip_longest
from typing import NamedTuple

from hollowstack.core.find.tokens import tokens
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.read.doubts import DOUBTFUL
from hollowstack.core.read.hyphens import parted


class Token(NamedTuple):
    """A word as it is compared, and the places of the words on the page that it is made of."""

    text: str
    words: tuple[int, ...]


class Written(NamedTuple):
    """What of a page can be searched."""

    words: tuple[Token, ...]
    """As they read on."""
    parts: tuple[Token, ...]
    """The halves of words that were parted between lines: some are words of their own (oil-lamp)."""
    others: tuple[Token, ...]
    """What else doubtful words may be."""


def written(reading: Reading) -> Written:
    """The words of a reading in reading order, as they are compared.

    A word that a line parts is one (``read.hyphens``), and its parts can be found, too.
    """
    found: list[Token] = []
    halves: list[Token] = []
    others: list[Token] = []
    open_: tuple[int, str] | None = None  # the place and text of a word that goes on in the next line
    for at, word, ends in _in_lines(reading):
        if word.mark != "unreadable":
            if open_ is not None:
                places = (open_[0], at)
                found += [Token(text, places) for text in tokens(open_[1] + word.text)]
                halves += [
                    Token(text, (place,)) for place, one in ((open_[0], open_[1]), (at, word.text)) for text in tokens(one)
                ]
                open_ = None
            elif ends:
                open_ = (at, word.text[:-1])
            else:
                found += [Token(text, (at,)) for text in tokens(word.text)]
        if word.doubt >= DOUBTFUL and not word.mark:
            others += [Token(text, (at,)) for other in word.alternatives for text in tokens(other)]
    return Written(tuple(found), tuple(halves), tuple(others))


def _in_lines(reading: Reading) -> Iterator[tuple[int, Word, bool]]:
    """Words with their places; whether the next one goes on with it on another line of the block."""
    at = 0
    for block in reading.blocks:
        lines = [line for line in block.lines if line.words]
        for line, following in zip_longest(lines, lines[1:]):
            for word in line.words:
                yield at, word, word is line.words[-1] and _is_parted(word, following)
                at += 1


def _is_parted(word: Word, following: Line | None) -> bool:
    """Whether a word goes on with the first one of a line."""
    if following is None or following.words[0].mark == "unreadable":
        return False
    return parted(word.text, following.words[0].text)


def joined(found: Sequence[Token]) -> str:
    """Words as an index takes them."""
    return " ".join(token.text for token in found)
