"""The rules of binding, without HTTP."""

import hashlib
import json
from collections.abc import Iterator, Sequence
from datetime import datetime

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.server.accounts.record import note
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import fixed
from hollowstack.server.results.faults import forget_faults
from hollowstack.server.stacks.languages import most_common
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import starts_of, state_of, with_results
from hollowstack.server.stacks.services import MOST_NAME, next_change, treatment_of
from hollowstack.server.stacks.standing import WAITING


def ask_to_bind(stack_id: int, title: str, user: User | None) -> list[Document]:
    """Fix what is bound and let the engine bind it: one document, or one for each run of pages between document breaks.

    Raises:
        Refused: Pages are still being worked on, none is left to bind, or the title will not do.
    """
    title = " ".join(title.split())
    if not title:
        raise Refused("A document needs a title: give it one.")
    if len(title) > MOST_NAME:
        raise Refused(f"The title has {len(title)} characters; the most is {MOST_NAME}: shorten it.")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        pages = list(with_results(stack.pages.filter(removed=False)))
        waiting = sum(state_of(page) in WAITING for page in pages)
        if waiting:
            these = "1 page is" if waiting == 1 else f"{waiting} pages are"
            raise Refused(f"{these} still being worked on: wait until the counts above the pages are full.")
        runs = list(_runs(pages, treatment_of(stack).documents))
        if not runs:
            raise Refused("There is no page to bind: every page is aside or failed.")
        created = timezone.now().replace(microsecond=0)
        documents = [
            _document(stack, _titled(title, number, len(runs)), run, created, user) for number, run in enumerate(runs, 1)
        ]
        next_change(stack_id)
    return documents


def try_again(documents: QuerySet[Document]) -> int:
    """Have documents that could not be bound tried again at once; returns how many those are."""
    with transaction.atomic():
        tried = forget_faults(documents.values_list("key", flat=True))
        again = documents.filter(key__in=tried)
        for stack_id in set(again.values_list("stack_id", flat=True)):
            next_change(stack_id)
        return again.count()


def delete_document(document_id: int, user: User | None) -> None:
    """Throw a document into the bin. Raises Document.DoesNotExist."""
    with transaction.atomic():
        document = Document.objects.get(pk=document_id)
        document.deleted_at, document.deleted_by = timezone.now(), user
        document.save(update_fields=["deleted_at", "deleted_by"])
        next_change(document.stack_id)
        note(user.get_username() if user else "", "document deleted", document.title)


def restore_document(document_id: int) -> Document:
    """Take a document back. Raises Document.DoesNotExist where it is not in the bin."""
    with transaction.atomic():
        document = deleted_documents().get(pk=document_id)
        document.deleted_at, document.deleted_by = None, None
        document.save(update_fields=["deleted_at", "deleted_by"])
        next_change(document.stack_id)
    return document


def deleted_documents() -> QuerySet[Document]:
    """Documents in the bin, the last one first; those of deleted stacks come back with these."""
    return Document.everything.filter(stack__deleted_at=None).exclude(deleted_at=None).order_by("-deleted_at")


def _runs(pages: Sequence[Page], rule: DocumentRule) -> Iterator[list[Page]]:
    """Pages to be bound together, from one beginning of a document to the next."""
    starts = starts_of(pages, rule)
    run: list[Page] = []
    for page in pages:
        if page.pk in starts and run:
            yield run
            run = []
        if state_of(page) == "ready":
            run.append(page)
    if run:
        yield run


def _titled(title: str, number: int, count: int) -> str:
    if count == 1:
        return title
    which = f", {number} of {count}"
    return title[: MOST_NAME - len(which)] + which


def _document(stack: Stack, title: str, run: Sequence[Page], created: datetime, user: User | None) -> Document:
    chosen = [
        {
            "rendered": page.rendered_id,
            "reading": page.reading_id,
            "ppi": (page.plan or {})["ppi"],
            # Only where there is something, so that all other documents have the keys that they always had.
            **({"words": fixed(page)} if page.words else {}),
        }
        for page in run
    ]
    language = most_common(run, stack)
    made_of = json.dumps([title, language, created.isoformat(), chosen])
    key = hashlib.sha256(made_of.encode()).hexdigest()
    document = Document.objects.create(
        stack=stack,
        title=title,
        created_at=created,
        created_by=user,
        key=key,
        language=language,
        page_count=len(run),
        original=stack.original,
    )
    DocumentPage.objects.bulk_create(
        DocumentPage(
            document=document,
            number=number,
            rendered=page["rendered"],
            reading=page["reading"] or "",
            words=page.get("words", {}),
            x_ppi=page["ppi"][0],
            y_ppi=page["ppi"][1],
        )
        for number, page in enumerate(chosen, 1)
    )
    return document
