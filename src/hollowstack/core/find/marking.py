"""Where on a page a question is answered: the words that are meant, and the line that shows them best."""

from collections.abc import Sequence
from typing import NamedTuple

from hollowstack.core.find.question import Question, Term
from hollowstack.core.find.tokens import tokens
from hollowstack.core.find.written import Token, written
from hollowstack.core.ocr.model import Box, Line, Reading


class Marked(NamedTuple):
    """A word that answers a question; ``unsure`` where it reads otherwise, and may be meant."""

    box: Box
    text: str
    unsure: bool


class Answer(NamedTuple):
    """What answers a question on a page, in reading order, and the line that holds most of it; None where nothing does."""

    marked: tuple[Marked, ...]
    line: Line | None


def is_answered_in(text: str, question: Question) -> bool:
    """Whether a text, as of a description, holds something that was asked for."""
    given = [Token(word, ()) for word in tokens(text)]
    return any(_following(given, words, begins) for term in question.terms for words, begins in term.phrases)


def answer_of(reading: Reading, question: Question) -> Answer:
    """Where a question is answered on a page.

    Words of a phrase are marked where they follow each other. What may be meant is marked, too: other readings of doubtful
    words, and words that are one slip from what was asked for.
    """
    given = written(reading)
    by_place: dict[int, tuple[bool, set[int]]] = {}  # of each word: whether it is unsure, which terms it answers
    for number, term in enumerate(question.terms):
        for places, unsure in _places(given.words, given.parts, given.others, term):
            for place in places:
                before = by_place.get(place, (True, set()))
                by_place[place] = (before[0] and unsure, before[1] | {number})
    words = reading.words
    marked = tuple(Marked(words[at].box, words[at].text, unsure) for at, (unsure, _) in sorted(by_place.items()))
    return Answer(marked, _best_line(reading, by_place))


def _places(
    words: Sequence[Token], parts: Sequence[Token], others: Sequence[Token], term: Term
) -> list[tuple[tuple[int, ...], bool]]:
    """The words of each place that answers a term, and whether it does so unsurely."""
    found = [(places, False) for places in _following(words, term.words, term.begins)]
    if len(term.words) == 1:  # of halves, and of what else a word may be, no phrases are made
        found += [(places, False) for places in _following(parts, term.words, term.begins)]
        found += [(places, True) for places in _following(others, term.words, term.begins)]
    for other in term.others:
        found += [(places, True) for given in (words, others) for places in _following(given, (other,), begins=False)]
    return found


def _following(given: Sequence[Token], words: tuple[str, ...], begins: bool) -> list[tuple[int, ...]]:
    """Where words follow each other, the last of which may be a beginning."""
    *before, last = words
    found = []
    for at, token in enumerate(given[len(before) :], len(before)):
        if not (token.text.startswith(last) if begins else token.text == last):
            continue
        here = given[at - len(before) : at + 1]
        if [one.text for one in here[:-1]] == before:
            found.append(tuple(place for one in here for place in one.words))
    return found


def _best_line(reading: Reading, by_place: dict[int, tuple[bool, set[int]]]) -> Line | None:
    """The line that answers most terms, surely rather than not; the first of them."""
    best: tuple[tuple[int, int], Line] | None = None
    at = 0
    for line in reading.lines:
        here = [by_place[place] for place in range(at, at + len(line.words)) if place in by_place]
        at += len(line.words)
        if not here:
            continue
        score = (len(set().union(*(terms for _, terms in here))), sum(not unsure for unsure, _ in here))
        if best is None or score > best[0]:
            best = (score, line)
    return None if best is None else best[1]
