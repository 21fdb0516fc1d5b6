"""Where the pages of a stack stand, derived from which results are there."""

from collections.abc import Iterable, Sequence
from typing import Any, Literal

from django.db.models import QuerySet
from pydantic import BaseModel, ConfigDict

from hollowstack.core.arrange.order import DocumentsAfter, document_starts
from hollowstack.core.check import Read, check_page
from hollowstack.core.check.sequence import printed_numbers
from hollowstack.core.measure import Measurements
from hollowstack.core.plan.plan import Plan
from hollowstack.server.stacks.models import Page

State = Literal["open", "measure", "correct", "read", "ready", "aside", "failed"]
"""The step a page waits for, or where it ended."""
WAITING: tuple[State, ...] = ("open", "measure", "correct", "read")


class Counts(BaseModel):
    """How many pages are where. The steps count what has passed them."""

    model_config = ConfigDict(frozen=True)

    pages: int
    opened: int
    measured: int
    corrected: int
    read: int
    aside: int
    failed: int
    ready: int


def with_results(pages: QuerySet[Page]) -> QuerySet[Page]:
    """Pages with all that is known of them, in one query."""
    return pages.select_related("source__batch", "source__master", "opened", "measured", "rendered", "reading")


def error_of(page: Page) -> str:
    """Why a page failed, as one sentence; empty where it did not."""
    return next(
        (r.error for r in (page.opened, page.measured, page.rendered, page.reading) if r is not None and r.error), ""
    )


def state_of(page: Page) -> State:
    """Where a page stands."""
    if error_of(page):
        return "failed"
    if page.opened is None or page.measured_id is None:
        return "open"
    if page.measured is None:
        return "measure"
    if page.rendered is None:
        return "correct"
    if page.aside:
        return "aside"
    return "ready" if page.reading is not None else "read"


def verdict_of(page: Page) -> Literal["pass", "review", "fail"]:
    """The worst of a page's checks, as far as they can be made."""
    if error_of(page):
        return "fail"
    if page.aside or page.measured is None or page.plan is None:
        return "pass"
    return "review" if any(f["verdict"] != "pass" for f in findings_of(page)) else "pass"


def findings_of(page: Page) -> list[dict[str, Any]]:
    """All checks of a measured page."""
    if page.measured is None or page.measured.body is None or page.plan is None:
        return []
    found = Measurements.model_validate(page.measured.body["measurements"])
    read = page.reading.body if page.reading is not None else None
    sure = Read(read["words"], read["mean_confidence"], read.get("as_captured", False)) if read else None
    if "split" in page.override:
        found = found.model_copy(update={"gutter": None})  # it has been split
    clean = (page.rendered.body if page.rendered is not None else None) or {}
    content = [clean["content"]] if clean.get("content") else []
    return [*(f.model_dump() for f in check_page(found, Plan.model_validate(plan_done(page)), sure)), *content]


def plan_done(page: Page) -> dict[str, Any] | None:
    """The plan that a page's clean image was made by: its own, or the milder one that the guard took."""
    clean = (page.rendered.body if page.rendered is not None else None) or {}
    return clean.get("plan") or page.plan


def counts_of(stack_id: int) -> Counts:
    """Count a stack's pages without reading what was measured on them."""
    rows = Page.objects.filter(stack_id=stack_id, removed=False).order_by().values_list(
        "aside", "measured_id", "opened__step", "measured__step", "rendered__step", "reading__step",
        "opened__error", "measured__error", "rendered__error", "reading__error",
    )  # fmt: skip
    pages = opened = measured = corrected = read = aside = failed = ready = 0
    for held, named, was_opened, was_measured, was_rendered, was_read, *errors in rows:
        pages += 1
        bad = any(errors)
        failed += bad
        opened += bool(was_opened and named)
        measured += bool(was_measured)
        corrected += bool(was_rendered)
        aside += bool(held and was_rendered and not bad)
        read += bool(was_read)
        ready += bool(was_read and not bad)
    return Counts(
        pages=pages,
        opened=opened,
        measured=measured,
        corrected=corrected,
        read=read,
        aside=aside,
        failed=failed,
        ready=ready,
    )


def starts_of(pages: Iterable[Page], after: DocumentsAfter) -> set[int]:
    """The pages, given in their order, with which a document begins."""
    rows = [(page.pk, page.breaks, page.aside) for page in pages]
    return {rows[place][0] for place in document_starts([row[1:] for row in rows], after)}


def numbers_of(pages: Sequence[Page]) -> dict[int, int | None]:
    """The number printed on each of some pages, given in their order, as far as it was read."""
    readings = [page.reading.body if page.reading is not None else None for page in pages]
    found = printed_numbers([(body or {}).get("numbers", []) for body in readings])
    return dict(zip((page.pk for page in pages), found, strict=True))
