"""How pages that answer are put in order, against the formula that SQLite publishes for it.

Source:
    SQLite FTS5 documentation, "The bm25() function" (the formula, k1 = 1.2 and b = 0.75, weights of columns, and that better
    matches have smaller numbers; from memory).
"""

import math

import pytest
from django.db import connection, transaction

from hollowstack.core.find.written import Token, Written
from hollowstack.server.reading import index
from hollowstack.server.search.asking import _WEIGHTS

pytestmark = pytest.mark.django_db

PAGES = [
    ("the lamp was lit and the lamp burned all night", "", "", "scan 1"),
    ("the keeper lit the lamp", "", "damp", "scan 2"),
    ("a lamp", "", "", "scan 3"),
    (
        "oil for the winter came late and there was little of it left in the store by the end of march",
        "oil lamp",
        "",
        "scan 4",
    ),
    ("nothing of note was seen by the keeper from the gallery in the night", "", "lamp", "scan 5"),
    ("wind from the west and rain", "", "", "lamp room"),
    ("the keeper wrote of it", "", "", "scan 7"),
    ("no entry", "", "", "scan 8"),
]
K1, B = 1.2, 0.75


def told(text: str) -> tuple[Token, ...]:
    return tuple(Token(word, ()) for word in text.split())


def published(phrases: list[str]) -> dict[int, float]:
    """The formula, page by page: how often each phrase is there, column by column weighted, against all pages."""
    weights = [float(one) for one in _WEIGHTS.split(",")]
    lengths = [sum(len(column.split()) for column in page) for page in PAGES]
    average = sum(lengths) / len(PAGES)

    def often(page: tuple[str, ...], phrase: str) -> list[int]:
        words = phrase.split()
        return [
            sum(told[at : at + len(words)] == words for at in range(len(told)))
            for told in (column.split() for column in page)
        ]

    found = {}
    for number, page in enumerate(PAGES, 1):
        if not all(any(often(page, phrase)) for phrase in phrases):
            continue
        score = 0.0
        for phrase in phrases:
            holding = sum(any(often(other, phrase)) for other in PAGES)
            # Where a phrase is in more than half of all pages the documentation has a very small number in its place.
            idf = max(1e-6, math.log((len(PAGES) - holding + 0.5) / (holding + 0.5)))
            times = sum(weight * count for weight, count in zip(weights, often(page, phrase), strict=True))
            score += idf * times * (K1 + 1) / (times + K1 * (1 - B + B * lengths[number - 1] / average))
        found[number] = -score
    return found


@pytest.fixture
def indexed() -> None:
    with transaction.atomic():
        for number, (words, parts, others, name) in enumerate(PAGES, 1):
            index.put(number, Written(told(words), told(parts), told(others)), name)


@pytest.mark.parametrize(
    "phrases", [["keeper"], ["lamp"], ["the"], ["the keeper"], ["keeper", "lamp"], ["oil"], ["lit", "the lamp"]]
)
def test_pages_have_the_published_rank(indexed, phrases):
    match = " ".join(f'"{phrase}"' for phrase in phrases)
    with connection.cursor() as cursor:
        cursor.execute(
            f"SELECT rowid, bm25(reading_search, {_WEIGHTS}) FROM reading_search WHERE reading_search MATCH %s", [match]
        )
        ranks = dict(cursor.fetchall())
    assert ranks == pytest.approx(published(phrases), rel=1e-6)
    assert ranks
