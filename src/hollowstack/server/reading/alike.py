"""The same elsewhere: words of a stack that were read alike and look alike."""

from typing import NamedTuple

from hollowstack.core.ocr.model import Box
from hollowstack.core.read.looks import ALIKE, likeness
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import laid_text, looks_on
from hollowstack.server.reading.searching import matching
from hollowstack.server.reading.words import plain
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results

MOST_PAGES = 60
"""Pages looked through for one word; the count says where there are more."""


class Alike(NamedTuple):
    """A word that was read as another one was, and how alike the two look."""

    page: int
    box: Box
    text: str
    likeness: float


class Elsewhere(NamedTuple):
    """Words that read and look alike; ``more`` pages hold the word, too, and were not looked through."""

    words: list[Alike]
    more: int


def elsewhere(page: Page, box: Box) -> Elsewhere:
    """Other words of the stack that are the same as one, the most alike first; those put right by hand are none.

    Raises Refused where there is no such word any more.
    """
    word = next((one for one in laid_text(page).reading.words if one.box == tuple(box)), None)
    if word is None:
        raise Refused("There is no word in this place any more: look at the page again.")
    mine = looks_on(page).get(word.box, b"")
    wanted = plain(word.text)
    if not wanted or not mine:
        return Elsewhere([], 0)
    pages, more = _pages_with(page.stack_id, wanted)
    found: list[Alike] = []
    for other in with_results(Page.objects.filter(pk__in=pages)).select_related("stack"):
        known = looks_on(other)
        same = [
            one
            for one in laid_text(other).reading.words
            if not one.mark and _core(one.text) == _core(word.text) and (other.pk, one.box) != (page.pk, word.box)
        ]
        for one, how in zip(same, likeness(mine, [known.get(one.box, b"") for one in same]), strict=True):
            if how >= ALIKE:
                found.append(Alike(other.pk, one.box, one.text, how))
    return Elsewhere(sorted(found, key=lambda one: -one.likeness), more)


def _core(text: str) -> str:
    folded, wanted = text.casefold(), plain(text)
    start = folded.find(wanted)
    return text[start : start + len(wanted)] if wanted and len(folded) == len(text) and start >= 0 else text


def _pages_with(stack_id: int, word: str) -> tuple[list[int], int]:
    """Pages of a stack on which a word stands, and how many there are beyond those that are looked through."""
    pages = matching(stack_id, 'words : "' + word.replace('"', '""') + '"')
    return pages[:MOST_PAGES], max(0, len(pages) - MOST_PAGES)
