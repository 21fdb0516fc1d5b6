"""Asking across everything: stacks and documents by what is said of them, pages by their words."""

from dataclasses import dataclass
from typing import Any, Final, Literal, NamedTuple

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Q, QuerySet

from hollowstack.core.find import Question, QuestionError, question_of
from hollowstack.server.collections.tree import natural
from hollowstack.server.documents.models import DocumentPage
from hollowstack.server.errors import Refused
from hollowstack.server.reading import index
from hollowstack.server.search.models import Thing
from hollowstack.server.stacks.models import Batch, Stack

MOST_RANKED: Final = 4000
"""Pages that are put in order by how well they fit; of more, that would take long and say little."""
MOST_SHOWN: Final = 1000
"""Pages that can be gone through; whoever has not found it by then asks otherwise."""
MOST_THINGS: Final = 50
"""Stacks and documents that are shown; whoever has not found it by then asks otherwise."""
_WEIGHTS = "1.0, 0.7, 0.3, 1.0"
"""Of words, of halves of words, of what else words may be, of names of files."""


@dataclass(frozen=True)
class Among:
    """Among what is looked: ``stacks`` are those that may be told; None of the others says nothing."""

    stacks: QuerySet[Stack]
    station: str = ""
    first_year: int | None = None
    last_year: int | None = None


class PageHits(NamedTuple):
    """Pages that answer, some of them, and how many there are: ``more`` where there are more than were counted.

    They come by how well they fit; where there are more than can be ranked, the newest first.
    """

    pages: list[int]
    total: int
    more: bool


class ThingHits(NamedTuple):
    """The first stacks and documents that answer, and how many there are."""

    shown: list[Thing]
    total: int


def asked(text: str, *, forgiving: bool = False) -> Question:
    """A question as it was typed; ``forgiving`` takes words that are one slip away, too. Raises Refused."""
    try:
        question = question_of(text)
    except QuestionError as error:
        raise Refused(str(error)) from None
    return question.forgiving(index.known) if forgiving else question


def pages_that_answer(question: Question, among: Among, *, meant: bool, start: int, most: int) -> PageHits:
    """Pages whose words, or the names of whose files, answer a question.

    Args:
        question: What is asked.
        among: Among which pages.
        meant: Whether what doubtful words may be counts, too.
        start: From which on, from 0.
        most: How many of them.
    """
    match = f"{index.ALL if meant else index.NAMED} : ({question.match})"
    where, values = _shown(among)
    source = f"""
        FROM reading_search CROSS JOIN stacks_page p INDEXED BY pages_to_be_found ON p.id = reading_search.rowid
        WHERE reading_search MATCH %s AND NOT p.removed AND p.aside = '' AND {where}
    """
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT count(*) FROM (SELECT 1 {source} LIMIT {MOST_RANKED + 1})", [match, *values])
        (count,) = cursor.fetchone()
        more = count > MOST_RANKED
        # Not by the column "rank", which FTS5 would work out before it is known which pages are meant.
        order = "reading_search.rowid DESC" if more else f"bm25(reading_search, {_WEIGHTS}), reading_search.rowid"
        cursor.execute(
            f"SELECT p.id {source} ORDER BY {order} LIMIT %s OFFSET %s",
            [match, *values, max(0, min(most, MOST_SHOWN - start)), start],
        )
        pages = [row[0] for row in cursor.fetchall()]
    return PageHits(pages, min(count, MOST_RANKED), more)


def things_that_answer(question: Question, among: Among, kind: Literal["", "stack", "document"] = "") -> ThingHits:
    """Stacks and documents in whose names and descriptions all words are: the best first, equals by name."""
    found = Thing.objects.filter(stack__in=among.stacks, document__deleted_at=None)
    if kind:
        found = found.filter(kind="stack") if kind == "stack" else found.exclude(kind="stack")
    if among.station:
        found = found.filter(stack__batches__record__station=among.station).distinct()
    found = found.filter(_in_years(among))
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT rowid, bm25(search_things, 4.0, 1.0) FROM search_things WHERE search_things MATCH %s", [question.match]
        )
        fits = {rowid: round(score, 6) for rowid, score in cursor.fetchall()}
    there = list(found.filter(pk__in=fits).values_list("pk", "title"))
    there.sort(key=lambda one: (fits[one[0]], natural(one[1]), one[0]))
    shown = [pk for pk, _ in there[:MOST_THINGS]]
    things = found.select_related("stack").in_bulk(shown)
    return ThingHits([things[pk] for pk in shown], len(there))


def _in_years(among: Among) -> Q:
    said = Q()
    if among.first_year is not None:
        said &= Q(last_year__gte=among.first_year)
    if among.last_year is not None:
        said &= Q(first_year__lte=among.last_year)
    return said


def _shown(among: Among) -> tuple[str, list[Any]]:
    """Which pages may be told, as a condition in SQL with its values."""
    # With the plus, each page is looked up by its id alone, and not once for each stack.
    stacks, values = _within("+p.stack_id", among.stacks.order_by().values("pk"))
    conditions, given = [stacks], list(values)
    if among.station:
        # Asked page by page of those that answer: a list of all pages of a station would be long.
        batches = Batch.objects.filter(record__station=among.station).values("pk")
        some, values = _within("(SELECT batch_id FROM stacks_source WHERE id = p.source_id)", batches)
        conditions, given = [*conditions, some], [*given, *values]
    if among.first_year is not None or among.last_year is not None:
        # Pages of documents of those years, and all pages of stacks of those years.
        things = Thing.objects.filter(_in_years(among))
        named = things.filter(kind="document").values("document")
        of_documents, values = _within("p.id", DocumentPage.objects.filter(document__in=named).order_by().values("page"))
        of_stacks, others = _within("p.stack_id", things.filter(kind="stack").values("stack"))
        conditions, given = [*conditions, f"({of_documents} OR {of_stacks})"], [*given, *values, *others]
    return " AND ".join(conditions), given


def _within(column: str, rows: QuerySet[Any, Any]) -> tuple[str, tuple[Any, ...]]:
    """That a column is one of some rows, as a condition in SQL with its values."""
    try:
        sql, values = rows.query.sql_with_params()
    except EmptyResultSet:  # nothing can be one of them
        return "0", ()
    return f"{column} IN ({sql})", tuple(values)
