"""Lots: the pages that are looked at together, who captured them, and what has to be done before that."""

import hashlib
import json
from collections import Counter
from collections.abc import Sequence
from typing import Any, NamedTuple

from django.db.models import F, Q, Sum

from hollowstack.core.arrange.order import DocumentRule, document_starts
from hollowstack.server.errors import Refused
from hollowstack.server.inspection.models import Sample, StackCheck
from hollowstack.server.stacks.models import Batch, Page, Stack
from hollowstack.server.stacks.services import treatment_of
from hollowstack.server.stacks.standing import WAITING


class InLot(NamedTuple):
    """A page of a lot, and what names its state."""

    page: int
    state: str


class LotPage(NamedTuple):
    """What is asked of a page of a lot: a stack has thousands, and rows of the database are long to make objects of."""

    pk: int
    breaks: bool
    aside: str
    state: str
    to_plan: bool
    rescan: str
    open_findings: int
    rendered_id: str | None
    reading_id: str | None
    words: dict[str, Any]
    source__batch_id: int


def page_state(page: Page | LotPage) -> str:
    """Names all that a page is in the output: its clean image, what was read, what hands have put right in that."""
    is_now = (page.rendered_id, page.reading_id, json.dumps(page.words, sort_keys=True))
    return hashlib.sha256(repr(is_now).encode()).hexdigest()


def pages_of(stack: Stack, first: int | None = None) -> list[LotPage]:
    """The pages of a lot that are not held aside: of the stack, or of its document that begins with a page.

    Raises:
        Refused: No document begins with that page.
    """
    pages = [LotPage(*row) for row in stack.pages.filter(removed=False).values_list(*LotPage._fields)]
    if first is not None:
        starts = _starts(pages, treatment_of(stack).documents)
        at = next((place for place, page in enumerate(pages) if page.pk == first and first in starts), None)
        if at is None:
            raise Refused("No document begins with this page any more: choose what is to be looked at again.")
        end = next((place for place in range(at + 1, len(pages)) if pages[place].pk in starts), len(pages))
        pages = pages[at:end]
    return [page for page in pages if not page.aside]


def _starts(pages: Sequence[LotPage], rule: DocumentRule) -> set[int]:
    return {pages[place].pk for place in document_starts([(page.breaks, page.aside) for page in pages], rule)}


def source_of(pages: Sequence[LotPage]) -> str:
    """Who captured most of a lot's pages, and at which station."""
    came = Counter(page.source__batch_id for page in pages)
    made: Counter[tuple[str, str]] = Counter()
    for batch in Batch.objects.filter(pk__in=came).select_related("by"):
        station = batch.record.get("station")
        made[batch.by.get_username() if batch.by else "somebody", f"at {station}" if station else "from files"] += came[
            batch.pk
        ]
    return " ".join(made.most_common(1)[0][0]) if made else ""


def earlier_lots(source: str, level: str, aql: str) -> list[Sample]:
    """Lots of a source that were decided under the same plan, in their order; those presented again do not count.

    Source:
        ISO 2859-1:1999, 9.1: switching goes by lots at original inspection.
    """
    decided = Sample.objects.filter(
        source=source, level=level, aql=aql, state__in=[Sample.State.ACCEPTED, Sample.State.REJECTED]
    )
    seen: set[tuple[int, int | None]] = set()
    first_ones = []
    for sample in decided.order_by("decided_at", "pk"):
        if (sample.stack_id, sample.first) not in seen:
            first_ones.append(sample)
        seen.add((sample.stack_id, sample.first))
    return first_ones


def to_do_first(stack: Stack, pages: Sequence[LotPage], *, whole: bool) -> list[str]:
    """What stands against looking at a lot, each as one sentence; nothing where it can be drawn.

    Args:
        stack: The stack.
        pages: Those of the lot.
        whole: Whether that is the stack: then what was found on pages held aside, and on the stack itself, waits too.
    """
    if not pages:
        return ["There are no pages to look at: all are held aside, or there are none."]
    waiting = sum(page.state in WAITING or page.to_plan for page in pages)
    failed = sum(page.state == Page.State.FAILED for page in pages)
    marked = sum(bool(page.rescan) for page in pages)
    found = _open_in(stack) if whole else sum(page.open_findings for page in pages if not page.rescan)
    unfinished = stack.batches.filter(taken_back=False, uploads__isnull=False).exists()
    told = [
        (waiting, "is still being worked on: wait until it is done", "are still being worked on: wait until they are done"),
        (failed, "failed: try again, capture it again, or delete it",
         "failed: try again, capture them again, or delete them"),
        (marked, "is to recapture: do that, or take the mark off",
         "are to recapture: do that, or take the marks off"),
    ]  # fmt: skip
    sentences = [f"{_number(many, 'page')} {one if many == 1 else more}." for many, one, more in told if many]
    if not waiting and _to_check(stack):
        sentences.append("Pages are still being checked: wait a moment.")
    if found:
        verb = "waits" if found == 1 else "wait"
        sentences.append(f"{_number(found, 'finding')} {verb} for somebody: go through the findings.")
    if unfinished:
        sentences.append("Files are still on their way into this stack: wait until they are in, or take them back.")
    return sentences


def _open_in(stack: Stack) -> int:
    """Findings of a stack that wait for somebody, as the view of them has it."""
    pages = stack.pages.filter(removed=False, rescan="").aggregate(open=Sum("open_findings"))["open"] or 0
    given = set(stack.verdicts.filter(page=None).values_list("kind", "judged"))
    return pages + sum(one not in given for one in stack.findings.filter(page=None).values_list("kind", "judged"))


def _to_check(stack: Stack) -> bool:
    """Whether pages, or the stack's pages together, have changed since they were checked last."""
    changed = Q(facts__isnull=True) | Q(facts__checked__lt=F("change"))
    if stack.pages.filter(changed, removed=False).exists():
        return True
    check = StackCheck.objects.filter(stack=stack).first()
    return check is None or max(check.wanted, stack.order_change) > check.done


def _number(many: int, what: str) -> str:
    return f"{many:,} {what}{'' if many == 1 else 's'}"
