"""What a doubtful word may be: words that the stack knows for sure come before what the engine alone held possible."""

import time
from collections.abc import Sequence

from rapidfuzz import process
from rapidfuzz.distance import Levenshtein

from hollowstack.server.reading.models import Doubt, StackWord
from hollowstack.server.reading.words import plain

MOST = 5
_FAR = 2
"""Changes of a letter from which on a word is another one; a short word may differ by one."""
_SHORT = 5


_FRESH_SECONDS = 20.0
_MOST_KEPT = 8
_kept: dict[int, tuple[float, "Known"]] = {}


def known_words(stack_id: int) -> "Known":
    """The words that a stack knows; a moment old, perhaps, for they are many and change little."""
    now = time.monotonic()
    kept = _kept.get(stack_id)
    if kept is not None and now - kept[0] < _FRESH_SECONDS:
        return kept[1]
    if len(_kept) >= _MOST_KEPT:
        _kept.clear()
    known = Known(stack_id)
    _kept[stack_id] = now, known
    return known


class Known:
    """The words that a stack knows, to be asked for many doubtful ones."""

    def __init__(self, stack_id: int) -> None:
        rows = StackWord.objects.filter(stack_id=stack_id).exclude(count=0, listed=False)
        self._count: dict[str, int] = {}
        self._written: dict[str, str] = {}
        for word, written, count, listed in rows.values_list("word", "written", "count", "listed").iterator():
            self._count[word], self._written[word] = count + 1000 * listed, written
        self._words = list(self._count)

    def suggestions(self, doubt: Doubt) -> list[str]:
        """Other readings of a word, the best first; each with what stands around the word as it was read."""
        text, core = doubt.text, doubt.plain
        engine = [other for other in doubt.alternatives if other != text]
        first = [other for other in engine if plain(other) in self._count and plain(other) != core]
        near = [_in_place_of(text, core, self._written[word]) for word in self._near(core)] if core else []
        return list(dict.fromkeys(one for one in [*first, *near, *engine] if one != text))[:MOST]

    def _near(self, core: str) -> Sequence[str]:
        far = 1 if len(core) < _SHORT else _FAR
        found = process.extract(core, self._words, scorer=Levenshtein.distance, score_cutoff=far, limit=20)
        ranked = sorted(found, key=lambda one: (one[1], -self._count[one[0]]))
        return [word for word, away, _ in ranked if away][:MOST]


def _in_place_of(text: str, core: str, written: str) -> str:
    at = text.casefold().find(core)
    if at < 0 or len(text.casefold()) != len(text):
        return written
    was = text[at : at + len(core)]
    shown = written.upper() if was.isupper() and len(was) > 1 else written
    return text[:at] + shown + text[at + len(core) :]
