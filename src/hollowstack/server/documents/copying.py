"""Access copies of documents to come: what they hold is fixed when they are asked for, the engine makes them."""

import json
from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from hollowstack.core.access import AccessOrder, Passwords
from hollowstack.core.access.covering import Covered, without_words
from hollowstack.core.access.locking import check_passwords
from hollowstack.core.bind import Bookmark
from hollowstack.core.bind.labels import page_labels
from hollowstack.core.page.errors import BindError
from hollowstack.core.read.languages import language_tag
from hollowstack.server.documents.drafts import DraftBody, draft_of, label_runs
from hollowstack.server.documents.marking import marks_on, out_of_date
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.documents.services import keep_document, page_of_stack, parts_of, refuse_waiting, runs_of, titled
from hollowstack.server.errors import Refused
from hollowstack.server.names import MOST_NAME
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.stacks.languages import most_common
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.services import next_change, treatment_of
from hollowstack.server.storage.sealed import seal

_SUFFIX = " (access copy)"


def ask_for_copies(
    stack_id: int, title: str, passwords: Passwords, user: User | None, first: int | None = None
) -> list[Document]:
    """Fix what access copies hold and let the engine make them: of one document to come, or of all.

    Args:
        stack_id: The stack.
        title: Of documents to which nobody has given one.
        passwords: Of all these copies; empty for none.
        user: Who asks.
        first: The page that the document begins with; None for all documents.

    Raises:
        Refused: Pages are still being worked on, none is left, a cover has lost its place, or the passwords will not do.
    """
    try:
        check_passwords(passwords)
    except BindError as error:
        raise Refused(str(error)) from None
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        pages = list(with_results(stack.pages.filter(removed=False)))
        refuse_waiting(pages)
        draft, treatment = draft_of(stack_id), treatment_of(stack)
        runs = list(runs_of(pages, treatment.documents, whole=draft.whole))
        parts = list(runs_of(pages, treatment.documents)) if draft.whole else []
        asked = _Asked(stack, draft, timezone.now().replace(microsecond=0), user, passwords, parts, len(runs) == 1)
        wanted = [
            (run, titled(" ".join(title.split()) or stack.name, number, len(runs)))
            for number, run in enumerate(runs, 1)
            if first in (None, run[0].pk)
        ]
        _refuse_lost_covers(pages, draft)
        made = [_copy(asked, name, run) for run, name in wanted if not {page.pk for page in run} <= set(draft.left_out)]
        if not made:
            raise Refused("There is no page to copy: every page is aside, failed, or left out of access copies.")
        next_change(stack_id)
    return made


class _Asked(NamedTuple):
    """What all copies that are made at once have in common."""

    stack: Stack
    draft: DraftBody
    created: datetime
    user: User | None
    passwords: Passwords
    parts: Sequence[Sequence[Page]]
    alone: bool


def _refuse_lost_covers(pages: Sequence[Page], draft: DraftBody) -> None:
    for number, page in enumerate(pages, 1):
        if page.plan is not None and page.pk in draft.marks and out_of_date(page, draft.marks[page.pk]):
            raise Refused(
                f"Page {number} is another image than the one that was covered: cover it again, and take the former "
                "covers away."
            )


def _copy(asked: _Asked, title: str, run: Sequence[Page]) -> Document:
    draft = asked.draft
    said = draft.holds_for(run[0].pk, alone=asked.alone)
    language = most_common(run, asked.stack)
    labels = page_labels(label_runs(draft, [page.pk for page in run]), len(run))
    out = set(draft.left_out)
    kept = [page for page in run if page.pk not in out]
    order = AccessOrder(
        title=said.title or title, created=asked.created, language=language_tag(language or asked.stack.language),
        described=said.described, mark_headings=draft.mark_headings, **draft.access.model_dump(),
        labels=tuple(label for page, label in zip(run, labels, strict=True) if page.pk not in out),
        left_out=tuple(label for page, label in zip(run, labels, strict=True) if page.pk in out),
        parts=_parts(asked, run, kept),
    )  # fmt: skip
    passwords = seal(json.dumps(asked.passwords._asdict())) if any(asked.passwords) else ""
    name = _covered(kept, draft).taken_out(order.title)  # it is what the file is called
    made = Document(
        stack=asked.stack, kind=Document.Kind.ACCESS, title=name[: MOST_NAME - len(_SUFFIX)] + _SUFFIX,
        created_at=asked.created, created_by=asked.user, language=language, order=order.model_dump(mode="json"),
        passwords=passwords,
    )  # fmt: skip
    return keep_document(made, [_page(page, draft) for page in kept])


def _covered(pages: Sequence[Page], draft: DraftBody) -> Covered:
    """The words that are covered on some pages."""
    found = Covered()
    for page in pages:
        marks = marks_on(page, draft.marks.get(page.pk, ()))
        if page.reading is not None and any(mark.kind == "cover" for mark in marks):
            found.add(without_words(laid_text(page).reading, marks)[1])
    return found


def _parts(asked: _Asked, run: Sequence[Page], kept: Sequence[Page]) -> tuple[Bookmark, ...]:
    """Parts begin with the first of their pages that is kept."""
    still, place = {page.pk for page in kept}, {page.pk: at for at, page in enumerate(run)}
    before = [sum(page.pk in still for page in run[:at]) for at in range(len(run))]
    found = []
    for mark, part in zip(parts_of(asked.parts, asked.draft), asked.parts, strict=False):
        if any(page.pk in still for page in part):
            found.append(Bookmark(mark.title, before[place[part[0].pk]]))
    return tuple(found)


def _page(page: Page, draft: DraftBody) -> DocumentPage:
    made = page_of_stack(page)
    made.marks = [one.model_dump(mode="json", exclude={"id"}) for one in marks_on(page, draft.marks.get(page.pk, ()))]
    return made
