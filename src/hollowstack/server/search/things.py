"""Keeping in step what is found by name or description: things of a stack are made anew when anything of it has changed."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from django.db import connection, transaction
from django.db.models import F, Q

from hollowstack.core.find import tokens, years_of
from hollowstack.core.settings.original import Original
from hollowstack.server.collections.tree import names_of
from hollowstack.server.documents.drafts import draft_of
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.search.models import Indexed, Thing
from hollowstack.server.stacks.models import Page, Stack

_AT_ONCE = 20
"""Stacks in one go."""
_MOST_TITLE = 200

Said = tuple[tuple[str, str], ...]


class Entry(NamedTuple):
    """A thing as it is to be found."""

    kind: str
    document: int | None
    page: int | None
    title: str
    said: Said
    first_year: int | None
    last_year: int | None


def refresh_some() -> int:
    """Bring the things of some stacks in step; returns how many stacks those were."""
    behind = Stack.objects.filter(Q(things_of=None) | ~Q(things_of__change=F("change")))
    found = list(behind.order_by("-opened_at")[:_AT_ONCE])
    for stack in found:
        with transaction.atomic():
            _refresh(stack)
    return len(found)


def forget_gone() -> int:
    """Have nothing found any more by things that are gone for good; returns how many those were."""
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM search_things WHERE rowid NOT IN (SELECT id FROM search_thing)")
        return int(cursor.rowcount)


def _refresh(stack: Stack) -> None:
    # The count is read first: what changes meanwhile is seen by the next turn.
    wanted = dict.fromkeys(entries_of(stack))
    rows = Thing.objects.filter(stack=stack)
    there = {_entry(row): row.pk for row in rows}
    gone = [pk for entry, pk in there.items() if entry not in wanted]
    rows.filter(pk__in=gone).delete()
    new = [entry for entry in wanted if entry not in there]
    made = Thing.objects.bulk_create(
        Thing(
            stack=stack,
            kind=entry.kind,
            document_id=entry.document,
            page_id=entry.page,
            title=entry.title,
            said=entry.said,
            first_year=entry.first_year,
            last_year=entry.last_year,
        )
        for entry in new
    )
    with connection.cursor() as cursor:
        cursor.executemany("DELETE FROM search_things WHERE rowid = %s", [[pk] for pk in gone])
        cursor.executemany(
            "INSERT INTO search_things (rowid, title, said) VALUES (%s, %s, %s)",
            [[row.pk, _words([row.title]), _words(words for _, words in row.said)] for row in made],
        )
    Indexed.objects.update_or_create(stack=stack, defaults={"change": stack.change})


def entries_of(stack: Stack) -> list[Entry]:
    """All that of a stack can be found by name or description."""
    filed = names_of(stack.collection)
    place = (*_place(stack.original), *((("collection", " › ".join(filed)),) if filed else ()))
    documents = list(Document.objects.filter(stack=stack).prefetch_related("deliveries").order_by("pk"))
    first = dict(DocumentPage.objects.filter(document__stack=stack, number=1).values_list("document_id", "page_id"))
    draft = draft_of(stack.pk)
    year = _text(draft.stack.get("date", "")) or stack.original.get("year", "")
    found = [_made("stack", None, None, stack.name, (*_described(draft.stack), *place), year)]
    for document in documents:
        described = document.order.get("described", {})
        names = sorted({one.name for one in document.deliveries.all() if one.name})
        said = (*_described(described), *_place(document.original), *(("name", name) for name in names))
        date = _text(described.get("date", "")) or document.original.get("year", "")
        found.append(_made("document", document.pk, first.get(document.pk), document.title, said, date))
    bound = {(entry.page, entry.title) for entry in found}
    pages = set(Page.objects.filter(stack=stack, removed=False).values_list("pk", flat=True))
    for page, told in draft.documents.items():
        if page in pages and (told.title or told.described) and (page, told.title) not in bound:
            said, date = _described(told.described), _text(told.described.get("date", ""))
            found.append(_made("planned", None, page, told.title or stack.name, said, date))
    return found


def _made(kind: str, document: int | None, page: int | None, title: str, said: Said, date: str) -> Entry:
    years = years_of(date)
    return Entry(kind, document, page, title[:_MOST_TITLE], said, years and years.first, years and years.last)


def _entry(row: Thing) -> Entry:
    said = tuple((name, words) for name, words in row.said)
    return Entry(row.kind, row.document_id, row.page_id, row.title, said, row.first_year, row.last_year)


def _place(original: Mapping[str, object]) -> Said:
    where = Original.model_validate(original)
    named = (
        ("year", where.year),
        ("box", where.box),
        ("shelf", where.shelf),
        ("position", where.position),
        ("by", where.by),
    )
    return tuple((name, words) for name, words in named if words)


def _described(told: Mapping[str, str | list[str]]) -> Said:
    return tuple((name, words) for name, value in sorted(told.items()) if name != "title" and (words := _text(value)))


def _text(value: str | list[str]) -> str:
    return value if isinstance(value, str) else "; ".join(value)


def _words(texts: Iterable[str]) -> str:
    return " ".join(word for text in texts for word in tokens(text))
