"""What a doubtful word may be: words that the stack knows for sure come before what the engine alone held possible."""

from collections.abc import Sequence

from rapidfuzz import process
from rapidfuzz.distance import Levenshtein

from hollowstack.server.reading.models import Doubt, StackWord
from hollowstack.server.reading.words import plain

MOST = 5
_FAR = 2
"""Changes of a letter from which on a word is another one; a short word may differ by one."""
_SHORT = 5


class Known:
    """The words that a stack knows, to be asked for many doubtful ones."""

    def __init__(self, stack_id: int) -> None:
        rows = StackWord.objects.filter(stack_id=stack_id).exclude(count=0, listed=False)
        self._count = {word: count + 1000 * listed for word, count, listed in rows.values_list("word", "count", "listed")}
        self._written = dict(rows.values_list("word", "written"))
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
