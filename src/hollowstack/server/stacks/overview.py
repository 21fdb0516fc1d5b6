"""What is told of the pages of a stack: where they stand, what was found on them, where documents begin."""

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Any, Literal, cast

from django.db.models import Count, QuerySet, Sum
from pydantic import BaseModel, ConfigDict

from hollowstack.core.arrange.order import DocumentRule, document_starts
from hollowstack.core.check import Read, check_page, unsure_of_turn
from hollowstack.core.check.sequence import printed_numbers
from hollowstack.core.measure import Measurements
from hollowstack.core.ocr.model import Guess
from hollowstack.core.plan.plan import Plan
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page

State = Literal["open", "measure", "correct", "read", "ready", "aside", "failed"]
"""The step a page waits for, or where it ended."""


class Counts(BaseModel):
    """How many pages are where. The steps count what has passed them; failed pages are in none of them."""

    model_config = ConfigDict(frozen=True)

    pages: int
    opened: int
    measured: int
    corrected: int
    read: int
    aside: int
    failed: int
    ready: int
    inspect: int
    """Findings of its pages that wait for somebody: none of them fine, nor on pages to be captured again."""


_STEPS = ("opened", "measured", "corrected", "read")
_ENDS = (Page.State.ASIDE, Page.State.FAILED, Page.State.READY)


class Trouble(BaseModel):
    """What keeps a page from being worked on, by no fault of its own."""

    model_config = ConfigDict(frozen=True)

    message: str
    again_at: datetime


def with_results(pages: QuerySet[Page]) -> QuerySet[Page]:
    """Pages with all that is known of them, in one query."""
    return pages.select_related("source__batch", "source__master", "opened", "measured", "rendered", "reading")


def fault_of(page: Page) -> Result | None:
    """The step that failed on a page, for good or until it is tried again; None where all went well."""
    made = Result.State.MADE
    steps = (page.opened, page.measured, *(() if page.to_plan else (page.rendered, page.reading)))
    return next((result for result in steps if result is not None and result.state != made), None)


def error_of(page: Page) -> str:
    """Why a page failed, as one sentence; empty where it did not, or is still to be tried again."""
    fault = fault_of(page)
    return fault.error if fault is not None and fault.state == Result.State.FAILED else ""


def trouble_of(page: Page) -> Trouble | None:
    """What keeps a page from being worked on now, and when it is tried again."""
    fault = fault_of(page)
    if fault is None or fault.state != Result.State.WAITING:
        return None
    return Trouble(message=fault.error, again_at=fault.next_try_at)


def state_of(page: Page) -> State:
    """Where a page stands."""
    return cast("State", page.state)


def verdict_of(page: Page) -> Literal["pass", "review", "fail"]:
    """How a page stands: failed, with something open that is worth a look, or fine."""
    if error_of(page):
        return "fail"
    return "review" if page.open_findings else "pass"


def findings_of(page: Page) -> list[dict[str, Any]]:
    """All checks of a measured page."""
    if page.measured is None or page.measured.body is None or page.plan is None:
        return []
    found = Measurements.model_validate(page.measured.body["measurements"])
    read = page.reading.body if page.reading is not None else None
    sure = _read(read) if read else None
    if "split" in page.override:
        found = found.model_copy(update={"gutter": None})  # it has been split
    clean = (page.rendered.body if page.rendered is not None else None) or {}
    # Made by an earlier version, it says one thing.
    looks = clean.get("findings") or ([clean["content"]] if clean.get("content") else [])
    return [*(f.model_dump() for f in check_page(found, Plan.model_validate(plan_done(page)), sure)), *looks]


def asks_turn(page: Page) -> bool:
    """Whether nothing on a measured page tells which way is up."""
    if page.measured is None or page.measured.body is None:
        return False
    read = page.reading.body if page.reading is not None else None
    return unsure_of_turn(Measurements.model_validate(page.measured.body["measurements"]), _read(read) if read else None)


def _read(body: dict[str, Any]) -> Read:
    guess = Guess.model_validate(body["guess"]) if body.get("guess") else None
    return Read(
        words=body["words"],
        confidence=body["mean_confidence"],
        as_captured=body.get("as_captured", False),
        language=body.get("language", ""),
        guess=guess,
        sure_words=body.get("sure_words", 0),
        slope_deg=body.get("slope_deg"),
        level_line=body.get("level_line", False),
        unread=body.get("unread"),
        characters=body.get("characters", 0),
        sideways=body.get("sideways", False),
    )


def plan_done(page: Page) -> dict[str, Any] | None:
    """The plan that a page's clean image was made by: its own, or the milder one that the guard took."""
    clean = (page.rendered.body if page.rendered is not None else None) or {}
    return clean.get("plan") or page.plan


def counts_of(stack_id: int) -> Counts:
    """Count a stack's pages."""
    return counts_of_all([stack_id])[stack_id]


def counts_of_all(stack_ids: Sequence[int]) -> dict[int, Counts]:
    """Count the pages of some stacks, from an index alone."""
    pages = Page.objects.filter(removed=False, stack_id__in=stack_ids).order_by()
    rows = pages.values_list("stack_id", "state", "passed").annotate(number=Count("pk"))
    found: dict[int, dict[str, int]] = {pk: dict.fromkeys(Counts.model_fields, 0) for pk in stack_ids}
    for stack_id, state, passed, number in rows:
        counts = found[stack_id]
        counts["pages"] += number
        # A failed page holds no step up: it is counted as failed alone.
        for step in _STEPS[:passed] if state != Page.State.FAILED else ():
            counts[step] += number
        if state in _ENDS:
            counts[state] += number
    waiting = Page.objects.filter(removed=False, stack_id__in=stack_ids, open_findings__gt=0, rescan="").order_by()
    for stack_id, number in waiting.values_list("stack_id").annotate(number=Sum("open_findings")):
        found[stack_id]["inspect"] = number
    return {stack_id: Counts(**counts) for stack_id, counts in found.items()}


def starts_of(pages: Iterable[Page], rule: DocumentRule) -> set[int]:
    """The pages, given in their order, with which a document begins."""
    rows = [(page.pk, page.breaks, page.aside) for page in pages]
    return {rows[place][0] for place in document_starts([row[1:] for row in rows], rule)}


def numbers_of(pages: Sequence[Page]) -> dict[int, int | None]:
    """The number printed on each of some pages, given in their order, as far as it was read."""
    readings = [page.reading.body if page.reading is not None else None for page in pages]
    found = printed_numbers([(body or {}).get("numbers", []) for body in readings])
    return dict(zip((page.pk for page in pages), found, strict=True))
