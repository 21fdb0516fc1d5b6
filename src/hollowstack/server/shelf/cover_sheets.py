"""Papers on which a stack's cover sheet lay when they were captured go to that stack, wherever they were captured into."""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Max, Q, QuerySet
from django.utils import timezone

from hollowstack.core.page.aside import COVER_SHEET
from hollowstack.server.capture.halves import together
from hollowstack.server.capture.models import Run, Watch
from hollowstack.server.intake.carrying import carry
from hollowstack.server.shelf.cover_codes import stack_of
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Batch, CoverSheet, Page, Stack, Upload
from hollowstack.server.stacks.services import next_change

QUIET = timedelta(seconds=4)
"""So long after its last file, a batch into which nobody announces more is taken to be whole."""
OVER = timedelta(hours=1)
"""So long after its last file, nothing more is expected behind a cover sheet."""
_NAME = 100
"""Letters of a stack's name in the history."""


def file_some() -> bool:
    """File the pages of a batch that lie behind cover sheets, where one is whole; whether there was anything new to do."""
    return any(_file(batch) for batch in _batches())


def sheets_in(stack: Stack) -> QuerySet[CoverSheet]:
    """The cover sheets among a stack's pages, in their order."""
    there = CoverSheet.objects.filter(page__stack=stack, page__removed=False, page__aside=COVER_SHEET)
    return there.select_related("of").order_by("page__position")


def why_left(sheet: CoverSheet) -> str:
    """Why pages behind a cover sheet stay where they are, and what to do; empty where none does."""
    if not sheet.left:
        return ""
    if sheet.of is None:
        return "it is the cover sheet of no stack here"
    if sheet.of.deleted_at is not None:
        return f"“{sheet.of.name}” is in the bin; take it back, and they go there"
    if sheet.of.signed_at is not None or sheet.of.closed_at is not None:
        return f"“{sheet.of.name}” is closed; reopen it, and they go there"
    return f"they go to “{sheet.of.name}” once their backs are in and brought together with them"


def _batches() -> list[Batch]:
    """Those with a cover sheet by which something may still be filed."""
    sheets = Page.objects.filter(Q(cover_sheet=None) | Q(cover_sheet__done=False), aside=COVER_SHEET, removed=False)
    there = sheets.filter(stack__deleted_at=None, stack__signed_at=None, stack__closed_at=None)
    ids = set(there.order_by().values_list("source__batch", flat=True))
    return list(Batch.objects.filter(pk__in=ids, taken_back=False).select_related("stack", "by").order_by("pk"))


def _is_whole(batch: Batch) -> bool:
    """Whether nothing is on its way into a batch, and all that is in it has been measured."""
    if Upload.objects.filter(batch=batch).exists() or Run.objects.filter(batch=batch, state__in=Run.UNFINISHED).exists():
        return False
    unmeasured = Q(state__in=[Page.State.OPEN, Page.State.MEASURE]) | Q(to_plan=True)
    if Page.objects.filter(unmeasured, source__batch=batch, removed=False).exists():
        return False
    return _last(batch) <= timezone.now() - QUIET


def _last(batch: Batch) -> datetime:
    """When its last file came."""
    return batch.sources.aggregate(last=Max("added_at"))["last"] or batch.at


@transaction.atomic
def _file(batch: Batch) -> bool:
    """By each cover sheet of a batch, and of the backs that belong to it; whether there was anything new to do or to say."""
    among = together(batch)
    if not all(_is_whole(one) for one in among or [batch]):
        return False
    pages = Page.objects.filter(source__batch__in=among or [batch], removed=False).order_by("position")
    rows = pages.select_related("source__master", "opened", "measured", "cover_sheet")
    over = _last(batch) <= timezone.now() - OVER and not Watch.objects.filter(batch=batch, on=True).exists()
    runs = _runs(rows, two_sided=Run.objects.filter(batch=batch, settings__two_sided=True).exists())
    # Of fronts whose backs come later, some would go before these are there, or without them.
    news = [_file_by(page, batch, behind, over=over, apart=not among) for page, behind in runs]
    return any(news)


def _runs(pages: Iterable[Page], *, two_sided: bool) -> list[tuple[Page, list[Page]]]:
    """Each cover sheet with the pages behind it, up to the next, but for its own back."""
    runs: list[tuple[Page, list[Page]]] = []
    before: Page | None = None
    for page in pages:
        if page.aside == COVER_SHEET:
            runs.append((page, []))
        elif runs and not (before is runs[-1][0] and _is_back(page, before, two_sided=two_sided)):
            runs[-1][1].append(page)
        before = page
    return runs


def _is_back(page: Page, sheet: Page, *, two_sided: bool) -> bool:
    """Whether a page right behind a cover sheet is the other side of its paper: of the other half, or of the same pass."""
    if page.source.batch_id != sheet.source.batch_id:
        return True
    return two_sided and sheet.source.index % 2 == 0 and page.source.index == sheet.source.index + 1


def _file_by(page: Page, batch: Batch, behind: Sequence[Page], *, over: bool, apart: bool) -> bool:
    """By one cover sheet; whether there was anything new to do or to say."""
    former: CoverSheet | None = getattr(page, "cover_sheet", None)
    if former is not None and former.done:
        return False
    of = _whose(page)
    here = of is not None and of.pk == batch.stack_id
    go = [] if here else [one for one in behind if not one.under_cover]
    to = of if of is not None and not (apart or of.deleted_at or of.signed_at or of.closed_at) else None
    sheet = CoverSheet(page=page, of=of, filed=former.filed if former else 0)
    if to is not None and go:
        _send(go, to, batch)
        sheet.filed += len(go)
    sheet.left = len(go) if to is None else 0
    # What keeps pages here for good will not change; where they went, more may come behind the sheet for a while.
    sheet.done = of is None or here or (to is not None and over)
    said = ("of_id", "filed", "left", "done")
    if former is not None and all(getattr(former, name) == getattr(sheet, name) for name in said):
        return False
    sheet.save()
    Page.objects.filter(pk=page.pk).update(change=next_change(batch.stack_id))
    return True


def _whose(page: Page) -> Stack | None:
    """The stack that a cover sheet is of, in the bin or not; None where it is of none here."""
    measured = page.measured.made["measurements"] if page.measured else {}
    number = stack_of(measured.get("cover", ""))
    return None if number is None else Stack.everything.filter(pk=number).first()


def _send(pages: Sequence[Page], to: Stack, batch: Batch) -> None:
    """Pages of a batch to a stack; they are taken out here by a change that can be undone."""
    carry(pages, to, batch)
    stack = Stack.objects.get(pk=batch.stack_id)
    number = "1 page" if len(pages) == 1 else f"{len(pages):,} pages"
    what = f"Filed {number} under “{to.name[:_NAME]}” by its cover sheet"
    history.record(stack, batch.by, what, seen=stack.change, pages={page.pk: {"removed": True} for page in pages})
    Page.objects.filter(pk__in=[page.pk for page in pages]).update(under_cover=True)
