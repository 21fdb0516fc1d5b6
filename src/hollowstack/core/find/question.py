"""What somebody asks a search: words, phrases, beginnings, either-or, near each other, and what is not to be there."""

import re
from collections.abc import Callable, Collection
from dataclasses import dataclass, replace
from typing import Final

from hollowstack.core.find.nearly import nearly
from hollowstack.core.find.tokens import tokens

_MOST_LONG: Final = 200
_NEAR: Final = 10
"""Words between two that are near each other at most, where nothing else is said."""
_MOST_NEAR: Final = 1000
NO_WORDS = "There is no word to look for: type one."
_QUOTES = str.maketrans(dict.fromkeys("“”„‟«»", '"'))
_PARTS = re.compile(r'\s*(-?"[^"]*"?\*?|\||[^\s"|]+)')
_NEARNESS = re.compile(r"NEAR(?:/(\d{1,4}))?")


class QuestionError(ValueError):
    """A question that cannot be asked, in one sentence."""


@dataclass(frozen=True)
class Term:
    """Words that follow each other; the last may be a beginning. ``others`` may stand in its place, each a word."""

    words: tuple[str, ...]
    begins: bool = False
    others: tuple[str, ...] = ()

    @property
    def phrases(self) -> tuple[tuple[tuple[str, ...], bool], ...]:
        """All that it is answered by, each with whether its last word is a beginning."""
        return ((self.words, self.begins), *(((other,), False) for other in self.others))

    @property
    def typed(self) -> str:
        """As one types it."""
        found = []
        for words, begins in self.phrases:
            phrase = " ".join(words)
            found.append((f'"{phrase}"' if len(words) > 1 else phrase) + ("*" if begins else ""))
        return " OR ".join(found)

    @property
    def match(self) -> str:
        """In the words of SQLite's FTS5."""
        found = [f'"{" ".join(words)}"{" *" if begins else ""}' for words, begins in self.phrases]
        return found[0] if len(found) == 1 else f"({' OR '.join(found)})"


@dataclass(frozen=True)
class Near:
    """Terms with so many words between them at most."""

    terms: tuple[Term, ...]
    words: int = _NEAR

    @property
    def typed(self) -> str:
        """As one types it."""
        return f" NEAR/{self.words} ".join(replace(term, others=()).typed for term in self.terms)

    @property
    def match(self) -> str:
        """In the words of SQLite's FTS5."""
        return f"NEAR({' '.join(replace(term, others=()).match for term in self.terms)}, {self.words})"


Part = Term | Near


@dataclass(frozen=True)
class Question:
    """All of ``wanted`` is to be there, of each any one; none of ``unwanted``."""

    wanted: tuple[tuple[Part, ...], ...]
    unwanted: tuple[Part, ...] = ()

    @property
    def match(self) -> str:
        """In the words of SQLite's FTS5 (https://sqlite.org/fts5.html, section 3), without columns."""
        each = [_either(parts) for parts in self.wanted]
        asked = each[0] if len(each) == 1 else " AND ".join(each)
        return f"({asked}) NOT {_either(self.unwanted)}" if self.unwanted else asked

    @property
    def typed(self) -> str:
        """What is wanted, as one types it: to be found on a page that answers. Some of it where all would be too long."""
        parts = [" OR ".join(part.typed for part in parts) for parts in self.wanted]
        while len(whole := " ".join(parts)) > _MOST_LONG and " OR " in whole:
            longest = max(range(len(parts)), key=lambda at: len(parts[at]) * (" OR " in parts[at]))
            parts[longest] = parts[longest].rpartition(" OR ")[0]
        return whole

    @property
    def terms(self) -> tuple[Term, ...]:
        """All that is to be found, to be marked where it stands."""
        parts = [part for parts in self.wanted for part in parts]
        return tuple(term for part in parts for term in (part.terms if isinstance(part, Near) else (part,)))

    def forgiving(self, known: Callable[[Collection[str]], Collection[str]]) -> "Question":
        """The question with the words that are one slip from each of its words.

        Args:
            known: Which of some words stand anywhere.
        """
        return replace(self, wanted=tuple(tuple(_forgiven(part, known) for part in parts) for parts in self.wanted))


def question_of(text: str, *, beginnings: bool = False) -> Question:
    """What a typed question means.

    Words are all to be there; ``"in quotes"`` they follow each other; ``lamp*`` is a beginning; ``lamp OR lantern`` (or
    ``|``) is either; ``lamp NEAR keeper`` (``NEAR/3``) is close by; ``-oil`` is not to be there.

    Args:
        text: As typed. A word that is parted (27/114, keeper's) is a phrase of its parts.
        beginnings: Whether each word that stands by itself may be a beginning, as while it is typed.

    Raises:
        QuestionError: There is no word in it, it is too long, or an OR or NEAR has nothing on one side.
    """
    if len(text) > _MOST_LONG:
        raise QuestionError(f"The question is too long: ask for up to {_MOST_LONG} characters.")
    asking = _Asking(beginnings)
    for part in _PARTS.findall(text.translate(_QUOTES)):
        asking.take(part)
    return asking.question()


class _Asking:
    """A question as it is read, part by part."""

    def __init__(self, beginnings: bool) -> None:
        self._beginnings = beginnings
        self._wanted: list[tuple[Part, ...]] = []
        self._unwanted: list[Part] = []
        self._between = ""
        """What stands between the last term and the next one: nothing, OR, or NEAR."""
        self._not = False

    def take(self, part: str) -> None:
        if part in {"|", "OR"} or _NEARNESS.fullmatch(part):
            if not self._wanted or self._between or self._not:
                raise QuestionError(f"{part} stands between two words: put one before it and one behind.")
            self._between = "OR" if part == "|" else part
        elif part == "NOT":
            self._not = True
        elif part != "AND":
            self._put(part)

    def _put(self, part: str) -> None:
        unwanted = self._not or (part.startswith("-") and len(part) > 1)
        bare = part.removeprefix("-") if unwanted else part
        words = tuple(tokens(bare))
        if not words:
            return
        begins = bare.rstrip('"').endswith("*") or (self._beginnings and not bare.startswith('"') and not unwanted)
        self._join(Term(words, begins), unwanted)

    def _join(self, term: Term, unwanted: bool) -> None:
        self._not = False
        if unwanted:
            if self._between:
                raise QuestionError(f"{self._between} stands between two words that are to be there.")
            self._unwanted.append(term)
            return
        between, self._between = self._between, ""
        if not between:
            self._wanted.append((term,))
        elif between == "OR":
            self._wanted[-1] = (*self._wanted[-1], term)
        else:
            *before, last = self._wanted[-1]
            terms = last.terms if isinstance(last, Near) else (last,)
            self._wanted[-1] = (*before, Near((*terms, term), _nearness(between)))

    def question(self) -> Question:
        if self._between:
            raise QuestionError(f"{self._between} stands between two words: put one behind it.")
        if not self._wanted:
            wrong = "Say a word that is to be there, too: what is not there cannot be found by itself."
            raise QuestionError(wrong if self._unwanted else NO_WORDS)
        return Question(tuple(self._wanted), tuple(self._unwanted))


def _nearness(said: str) -> int:
    found = _NEARNESS.fullmatch(said)
    assert found is not None
    return min(_MOST_NEAR, int(found[1])) if found[1] else _NEAR


def _either(parts: tuple[Part, ...]) -> str:
    return parts[0].match if len(parts) == 1 else f"({' OR '.join(part.match for part in parts)})"


def _forgiven(part: Part, known: Callable[[Collection[str]], Collection[str]]) -> Part:
    if isinstance(part, Near) or part.begins or len(part.words) != 1:
        return part
    return replace(part, others=tuple(sorted(known(nearly(part.words[0])))))
