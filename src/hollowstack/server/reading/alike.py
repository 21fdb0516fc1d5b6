"""The same elsewhere: words of a stack that were read alike and look alike."""

import json
from collections.abc import Iterator
from typing import NamedTuple

from hollowstack.core.find import tokens
from hollowstack.core.ocr.model import Box
from hollowstack.core.read.looks import ALIKE, LOOK_BYTES, likeness
from hollowstack.core.run.steps import LOOKS, READING
from hollowstack.server.errors import Refused
from hollowstack.server.reading import index
from hollowstack.server.reading.laid import laid_text, looks_on
from hollowstack.server.reading.searching import matching
from hollowstack.server.reading.words import plain
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.storage import places

MOST_PAGES = 40
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
    wanted, mine = plain(word.text), looks_on(page).get(word.box, b"")
    if not wanted or not mine:
        return Elsewhere([], 0)
    core = _core(word.text)
    pages, more = _pages_with(page.stack_id, wanted)
    found: list[Alike] = []
    for other in _pages(pages):
        same = [
            (box, text, look)
            for box, text, look in _words_on(other, wanted)
            if _core(text) == core and (other.pk, box) != (page.pk, word.box)
        ]
        for (box, text, _), how in zip(same, likeness(mine, [look for _, _, look in same]), strict=True):
            if how >= ALIKE:
                found.append(Alike(other.pk, box, text, how))
    return Elsewhere(sorted(found, key=lambda one: -one.likeness), more)


def _pages(pages: list[int]) -> Iterator[Page]:
    """Those without corrections with little more than their names, for of each but one file is needed."""
    few = Page.objects.filter(pk__in=pages)
    yield from few.filter(words={}).only("pk", "reading_id", "words")
    yield from with_results(few.exclude(words={})).select_related("stack")


def _words_on(page: Page, wanted: str) -> Iterator[tuple[Box, str, bytes]]:
    """Words of a page that nobody has put right and that read like one: where they stand, and how they look."""
    if page.words:
        looks = looks_on(page)
        for word in laid_text(page).reading.words:
            if not word.mark and plain(word.text) == wanted:
                yield word.box, word.text, looks.get(word.box, b"")
        return
    folder = places.result_path("read", page.reading_id or "")
    if not (folder / READING).exists() or not (folder / LOOKS).exists():
        return
    # As plain data: a page has hundreds of words, of which one or two are wanted.
    reading = json.loads((folder / READING).read_bytes())
    words = [word for block in reading["blocks"] for line in block.get("lines", ()) for word in line["words"]]
    at = [place for place, word in enumerate(words) if wanted in word["text"].casefold() and plain(word["text"]) == wanted]
    looks_of_all = (folder / LOOKS).read_bytes() if at else b""
    if len(looks_of_all) != LOOK_BYTES * len(words):
        return
    for place in at:
        box = words[place]["box"]
        yield (
            (box[0], box[1], box[2], box[3]),
            words[place]["text"],
            looks_of_all[LOOK_BYTES * place : LOOK_BYTES * (place + 1)],
        )


def _core(text: str) -> str:
    folded, wanted = text.casefold(), plain(text)
    start = folded.find(wanted)
    return text[start : start + len(wanted)] if wanted and len(folded) == len(text) and start >= 0 else text


def _pages_with(stack_id: int, word: str) -> tuple[list[int], int]:
    """Pages of a stack on which a word stands, and how many there are beyond those that are looked through."""
    words = " ".join(tokens(word))
    pages = matching(stack_id, index.WORDS, f'"{words}"') if words else []
    return pages[:MOST_PAGES], max(0, len(pages) - MOST_PAGES)
