"""Finding words in a stack: as they were read, and as the doubtful ones might have been meant."""

import unicodedata
from typing import NamedTuple

from django.db import connection

from hollowstack.core.ocr.model import Box
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.reading.queue import shown_pages
from hollowstack.server.reading.words import plain
from hollowstack.server.stacks.models import Page

_MOST_LONG = 200


class PageHit(NamedTuple):
    """A page that holds all words asked for; ``unsure`` where one of them stands among other readings alone."""

    page: int
    unsure: bool


class Hit(NamedTuple):
    """A place on a page that holds one of the words asked for."""

    box: Box
    text: str
    unsure: bool


def pages_with(stack_id: int, query: str) -> list[PageHit]:
    """Pages of a stack, in their order, that hold all words of a question. Raises Refused where it holds none."""
    words = _words(query)
    surely = set(matching(stack_id, " AND ".join(f"words : {_prefix(word)}" for word in words)))
    perhaps = matching(stack_id, " AND ".join(f"{{words others}} : {_prefix(word)}" for word in words))
    return [PageHit(page, page not in surely) for page in perhaps]


def hits_on(page: Page, query: str) -> list[Hit]:
    """Where the words asked for stand on a page, in reading order. Raises Refused where the question holds none."""
    words = _words(query)
    found = []
    for word in laid_text(page).reading.words:
        if _begins(word.text, words):
            found.append(Hit(word.box, word.text, unsure=False))
        elif any(_begins(other, words) for other in word.alternatives) and not word.mark:
            found.append(Hit(word.box, word.text, unsure=True))
    return found


def _words(query: str) -> list[str]:
    if len(query) > _MOST_LONG:
        raise Refused(f"The question is too long: ask for up to {_MOST_LONG} characters.")
    words = [_folded(part) for part in query.split()]
    words = [word for word in words if word]
    if not words:
        raise Refused("There is no word to look for: type one.")
    return words


def _begins(text: str, words: list[str]) -> bool:
    return any(_folded(part).startswith(word) for part in text.split() for word in words)


def _folded(text: str) -> str:
    """As the search compares: small letters without accents, nothing around them."""
    apart = unicodedata.normalize("NFKD", plain(text))
    return "".join(char for char in apart if not unicodedata.combining(char))


def _prefix(word: str) -> str:
    return '"' + word.replace('"', '""') + '" *'


def matching(stack_id: int, match: str) -> list[int]:
    """Pages of a stack, in their order, whose words match a question in the words of SQLite's FTS5."""
    there = shown_pages(stack_id)
    with connection.cursor() as cursor:
        # Not joined with the pages: each of them would be asked for its words then.
        cursor.execute("SELECT rowid FROM reading_search WHERE reading_search MATCH %s", [match])
        return sorted((row[0] for row in cursor.fetchall() if row[0] in there), key=lambda page: there[page])
