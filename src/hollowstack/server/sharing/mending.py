"""Words, and what is said of a document, put right by people who were given a link for that.

What they do is a change of the stack like any other, told in its history and undone there. The document stays as it was
bound; bound again, it has what was put right.
"""

from typing import NamedTuple

from django.db import transaction

from hollowstack.core.bind.description import Described
from hollowstack.core.ocr.model import Box, Reading
from hollowstack.server.documents.drafts import DraftChange, DraftDocument, change_draft, draft_of
from hollowstack.server.errors import Refused
from hollowstack.server.reading.correcting import Edit, put_right
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.sharing.models import Share, Use
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results

OFFERED = ("title", "creators", "date", "subjects", "description")
"""What of a description is put right through links."""


class Told(NamedTuple):
    """What is said of a document to come, as far as it is put right through links."""

    title: str
    described: Described


def require(share: Share) -> None:
    """Raises Refused where a link does not let people put anything right, or the stack is closed."""
    if share.right != Share.Lets.MEND:
        raise Refused("This link is not for putting words right: ask whoever gave it to you.")
    stack = share.document.stack
    if stack.signed_at is not None or stack.closed_at is not None:
        raise Refused("The stack of this document is closed to changes: tell whoever gave you the link what is wrong in it.")


def reading_of_page(share: Share, number: int) -> Reading:
    """The words of a page of the document as they stand now. Raises Refused where they cannot be put right."""
    require(share)
    return laid_text(_page(share, number)).reading


def mend_word(share: Share, number: int, box: Box, before: str, after: str) -> None:
    """Put a word of a page right.

    Raises:
        Conflict: It reads otherwise by now.
        Refused: It cannot be put right, or there is nothing to put there.
    """
    require(share)
    page = _page(share, number)
    with transaction.atomic():
        seen = Stack.objects.get(pk=page.stack_id).change
        put_right(page.stack_id, share.by, seen, [Edit(page.pk, box, "word", before, after)], through=_who(share))
        Use.objects.create(share=share, what=Use.Done.MENDED)


def told(share: Share) -> Told:
    """What is said of the document, as it would be bound now. Raises Refused where it cannot be put right."""
    require(share)
    said = draft_of(share.document.stack_id).holds_for(_first(share), alone=False)
    kept = {name: value for name, value in said.described.items() if name in OFFERED}
    return Told(said.title or share.document.title, kept)


def describe(share: Share, title: str, described: Described) -> None:
    """Say something else of the document; what links do not put right stays. Raises Refused."""
    require(share)
    first = _first(share)
    with transaction.atomic():
        draft = draft_of(share.document.stack_id)
        own, handed = draft.documents.get(first, DraftDocument()), draft.for_parts(alone=False)
        new = {name: value for name, value in described.items() if name in OFFERED and value != handed.get(name)}
        kept = {name: value for name, value in own.described.items() if name not in OFFERED}
        said = DraftDocument(title=title, described={name: value for name, value in {**kept, **new}.items() if value})
        change_draft(share.document.stack_id, DraftChange(documents={first: said}))
        Use.objects.create(share=share, what=Use.Done.MENDED)


def _who(share: Share) -> str:
    return f"a link for {share.whom}"[:150] if share.whom else "a link"


def _page(share: Share, number: int) -> Page:
    found = share.document.pages.filter(number=number).values_list("page_id", flat=True).first() or 0
    page = with_results(Page.objects.filter(pk=found, removed=False)).select_related("stack").first()
    if page is None:
        raise Refused("This page is no longer in its stack: its words stay as they are.")
    return page


def _first(share: Share) -> int:
    """The page that the document begins with, by which it is known when it is bound again."""
    return _page(share, 1).pk
