"""The index of all words of all pages: what is put into it, and which pages answer a question.

SQLite's FTS5 keeps no text of its own here. A page is taken out by the words that it was put in by; those are kept packed
beside it (``IndexedText``), and the index can be built anew from them.
"""

import zlib
from collections.abc import Collection, Iterator
from typing import Final

from django.db import connection, transaction

from hollowstack.core.find import Written, joined, tokens
from hollowstack.server.reading.models import IndexedText

WORDS: Final = "{words parts}"
"""Columns: what stands on a page."""
MEANT: Final = "{words parts others}"
"""What stands there or may be meant."""
NAMED: Final = "{words parts name}"
"""What stands there, and the name of the file that it came in."""
ALL: Final = "{words parts others name}"
_PUT: Final = "INSERT INTO reading_search (rowid, words, parts, others, name) VALUES (%s, %s, %s, %s, %s)"
_TAKE_OUT: Final = """
    INSERT INTO reading_search (reading_search, rowid, words, parts, others, name) VALUES ('delete', %s, %s, %s, %s, %s)
"""
_APART = "\n"
_AT_ONCE = 2000
"""Pages in one transaction while the index is built anew: for so long nobody else writes."""


def put(page_id: int, given: Written, name: str) -> None:
    """Put a page into the index, in the place of what was there of it; in a transaction.

    Args:
        page_id: The page.
        given: Its words.
        name: Of the file that it came in.
    """
    texts = (joined(given.words), joined(given.parts), joined(given.others), " ".join(tokens(name)))
    take_out([page_id])
    with connection.cursor() as cursor:
        cursor.execute(_PUT, [page_id, *texts])
    IndexedText.objects.create(page_id=page_id, packed=zlib.compress(_APART.join(texts).encode()))


def take_out(pages: Collection[int]) -> int:
    """Take pages out of the index, in a transaction; returns how many of them were in it."""
    kept = IndexedText.objects.filter(page_id__in=pages)
    rows = list(kept.values_list("page_id", "packed"))
    with connection.cursor() as cursor:
        cursor.executemany(_TAKE_OUT, [[page, *_unpacked(packed)] for page, packed in rows])
    kept.delete()
    return len(rows)


def build_anew() -> int:
    """Build the index anew from the words that are kept; returns of how many pages."""
    with connection.cursor() as cursor:
        cursor.execute("INSERT INTO reading_search (reading_search) VALUES ('delete-all')")
    done = 0
    for rows in _kept():
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.executemany(_PUT, [[page, *_unpacked(packed)] for page, packed in rows])
        done += len(rows)
    return done


def _kept() -> Iterator[list[tuple[int, bytes | memoryview]]]:
    last = -1
    while rows := list(
        IndexedText.objects.filter(page_id__gt=last).order_by("page_id").values_list("page_id", "packed")[:_AT_ONCE]
    ):
        yield rows
        last = rows[-1][0]


def known(words: Collection[str]) -> list[str]:
    """Which of some words, as they are compared, stand on any page."""
    found = []
    with connection.cursor() as cursor:
        for word in sorted(words):
            cursor.execute("SELECT 1 FROM reading_search WHERE reading_search MATCH %s LIMIT 1", [f'{WORDS} : "{word}"'])
            if cursor.fetchone():
                found.append(word)
    return found


def pages_with(columns: str, match: str) -> list[int]:
    """Pages whose words in some columns match a question in the words of FTS5."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT rowid FROM reading_search WHERE reading_search MATCH %s", [f"{columns} : ({match})"])
        return [row[0] for row in cursor.fetchall()]


def _unpacked(packed: bytes | memoryview) -> list[str]:
    return zlib.decompress(packed).decode().split(_APART)
