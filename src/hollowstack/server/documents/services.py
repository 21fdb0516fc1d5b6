"""The rules of binding, without HTTP."""

import hashlib
import json
from collections.abc import Iterator, Sequence
from datetime import datetime
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.core.bind import Bookmark
from hollowstack.core.bind.labels import page_labels
from hollowstack.core.read.languages import language_tag
from hollowstack.core.run.binding import BindOrder
from hollowstack.core.run.keys import render_key
from hollowstack.core.settings.profile import Profile
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.accounts.record import note
from hollowstack.server.documents.drafts import DraftBody, DraftDocument, draft_of, label_runs
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.documents.packing import packed_plan
from hollowstack.server.errors import Refused
from hollowstack.server.names import MOST_NAME
from hollowstack.server.reading.laid import fixed
from hollowstack.server.results.faults import forget_faults
from hollowstack.server.stacks.languages import most_common
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import plan_done, starts_of, state_of, with_results
from hollowstack.server.stacks.services import next_change, treatment_json, treatment_of
from hollowstack.server.stacks.standing import WAITING


def ask_to_bind(stack_id: int, title: str, user: User | None) -> list[Document]:
    """Fix what is bound and let the engine bind it: one document, or one for each run of pages between document breaks.

    They are made as the stack's draft says; ``title`` is that of documents to which nobody has given one.

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
        refuse_waiting(pages)
        draft, treatment = draft_of(stack_id), treatment_of(stack)
        runs = list(runs_of(pages, treatment.documents, whole=draft.whole))
        if not runs:
            raise Refused("There is no page to bind: every page is aside or failed.")
        created = timezone.now().replace(microsecond=0)
        parts = list(runs_of(pages, treatment.documents)) if draft.whole else []
        asked = _Asked(stack, draft, treatment, created, user, parts, len(runs) == 1)
        documents = [_document(asked, titled(title, number, len(runs)), run) for number, run in enumerate(runs, 1)]
        next_change(stack_id)
    return documents


def refuse_waiting(pages: Sequence[Page]) -> None:
    """Raises Refused while pages are being worked on."""
    waiting = sum(state_of(page) in WAITING for page in pages)
    if waiting:
        these = "1 page is" if waiting == 1 else f"{waiting} pages are"
        raise Refused(f"{these} still being worked on: wait until the counts above the pages are full.")


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


def runs_of(pages: Sequence[Page], rule: DocumentRule, *, whole: bool = False) -> Iterator[list[Page]]:
    """Pages to be bound together, from one beginning of a document to the next; all of them where there is one document."""
    starts = set() if whole else starts_of(pages, rule)
    run: list[Page] = []
    for page in pages:
        if page.pk in starts and run:
            yield run
            run = []
        if state_of(page) == "ready":
            run.append(page)
    if run:
        yield run


def coming_of(stack: Stack, draft: DraftBody) -> list[list[Page]]:
    """The documents that a stack's pages would make now."""
    pages = with_results(stack.pages.filter(removed=False))
    return list(runs_of(list(pages), treatment_of(stack).documents, whole=draft.whole))


def labels_of(draft: DraftBody, runs: Sequence[Sequence[Page]]) -> dict[int, str]:
    """The label of every page of documents to come, by page."""
    found: dict[int, str] = {}
    for run in runs:
        chosen = [page.pk for page in run]
        found.update(zip(chosen, page_labels(label_runs(draft, chosen), len(chosen)), strict=True))
    return found


class _Asked(NamedTuple):
    """What all documents that are bound at once have in common."""

    stack: Stack
    draft: DraftBody
    treatment: Treatment
    created: datetime
    user: User | None
    parts: Sequence[Sequence[Page]]
    """What the stack would make otherwise, where all of it is one document; none where it is not."""
    alone: bool
    """Whether one document is made of the whole stack."""


def parts_of(parts: Sequence[Sequence[Page]], draft: DraftBody) -> tuple[Bookmark, ...]:
    """Of a stack that is bound as one: the documents that it would make otherwise. The first one's title is that of all."""
    if len(parts) < 2:
        return ()
    found, at = [], 0
    for number, part in enumerate(parts, 1):
        said = draft.documents.get(part[0].pk, DraftDocument())
        found.append(Bookmark(said.title if said.title and number > 1 else f"Part {number}", at))
        at += len(part)
    return tuple(found)


def titled(title: str, number: int, count: int) -> str:
    """The title of one of several documents to which nobody has given one."""
    if count == 1:
        return title
    which = f", {number} of {count}"
    return title[: MOST_NAME - len(which)] + which


def _document(asked: _Asked, title: str, run: Sequence[Page]) -> Document:
    said = asked.draft.holds_for(run[0].pk, alone=asked.alone)
    language = most_common(run, asked.stack)
    order = BindOrder(
        title=said.title or title, created=asked.created, language=language_tag(language or asked.stack.language),
        flavour=asked.draft.flavour, profile=asked.draft.profile, described=said.described,
        labels=label_runs(asked.draft, [page.pk for page in run]), mark_headings=asked.draft.mark_headings,
        parts=parts_of(asked.parts, asked.draft), treatment=treatment_json(asked.treatment),
    )  # fmt: skip
    chosen = [packed_page(page, asked.treatment, asked.draft.profile) for page in run]
    made = Document(
        stack=asked.stack, title=order.title, created_at=asked.created, created_by=asked.user, language=language,
        order=order.model_dump(mode="json"),
    )  # fmt: skip
    return keep_document(made, chosen)


def keep_document(document: Document, chosen: Sequence[DocumentPage]) -> Document:
    """A document of these pages, in their order, with the key of what it is made of."""
    document.key = _key(document, chosen)
    document.page_count, document.original = len(chosen), document.stack.original
    document.save()
    for number, page in enumerate(chosen, 1):
        page.document, page.number = document, number
    DocumentPage.objects.bulk_create(chosen)
    return document


def _key(document: Document, chosen: Sequence[DocumentPage]) -> str:
    pages = [
        [one.rendered, one.reading, one.words, one.x_ppi, one.y_ppi, one.read_on, one.marks, one.label, one.master]
        for one in chosen
    ]
    told = [document.kind, document.order, document.passwords, pages]
    return hashlib.sha256(json.dumps(told).encode()).hexdigest()


def page_of_stack(page: Page) -> DocumentPage:
    """A page of a document as the stack has it."""
    x_ppi, y_ppi = (page.plan or {})["ppi"]
    return DocumentPage(
        rendered=page.rendered_id or "", reading=page.reading_id or "", words=fixed(page) if page.words else {},
        page=page, master=page.source.master_id, frame=page.frame, x_ppi=x_ppi, y_ppi=y_ppi,
    )  # fmt: skip


def packed_page(page: Page, treatment: Treatment, profile: Profile) -> DocumentPage:
    """A page as it is bound: as the stack has it, or made anew for a profile."""
    made = page_of_stack(page)
    plan = packed_plan(page, treatment, profile)
    if plan is None:
        return made
    done = plan_done(page) or {}
    made.plan = plan.model_dump(mode="json")
    made.rendered = render_key(page.source.master_id, page.frame, plan)
    made.x_ppi, made.y_ppi = plan.ppi
    made.read_on = {"quad": done["quad"], "size_px": done["size_px"]}
    return made
