"""What is planned for the pages of a stack, and which results that makes wanted.

A few pages are planned at once, in the change that makes it needful. Where there are many they are only marked, and the
engine plans them a slice at a time, so that nobody waits for the database meanwhile.
"""

from collections.abc import Iterable, Sequence

from django.db import transaction
from django.db.models import Case, F, PositiveSmallIntegerField, Q, QuerySet, Value, When

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.page_group import PageGroup
from hollowstack.core.plan.page_shape import leaf_of
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.keys import expand_key, measure_key, read_key, render_key
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.languages import language_of
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import next_change, order_of, treatment_of
from hollowstack.server.stacks.standing import settle

PLANNED = ("opened", "measured", "rendered", "reading", "plan", "aside", "to_plan")
"""Fields of a page that are decided here."""
_DECIDED_BY = ("treatment", "page_group", "language", "read_later")
"""Of a stack, what the plans of its pages go by."""
_NAMED = 10_000
"""SQLite takes so many values in one question."""
AT_ONCE = 50
"""So many pages are planned in the change that makes it needful, and in each slice of the engine's."""


def plan(page: Page, treatment: Treatment, found: Measurements, place: int | None = None) -> None:
    """Decide what is done to a page, and name the results that are wanted for it. Does not save.

    ``place`` is its place in the stack from 0; where it is not given and needed, it is looked up.
    """
    decided = decide(page, treatment, found, Override.model_validate(page.override), place)
    page.plan = decided.model_dump(mode="json")
    page.aside = decided.aside or ""
    page.rendered_id = render_key(page.source.master_id, page.frame, decided)
    # A page that is held out is not read: nobody searches it, and reading is the slowest step.
    put_off = decided.aside or page.stack.read_later
    page.reading_id = None if put_off else read_key(page.rendered_id, language_of(page, page.stack))


def decide(page: Page, treatment: Treatment, found: Measurements, override: Override, place: int | None = None) -> Plan:
    """What would be done to a page with an override, by all that its stack knows."""
    page_group = page_group_of(page, place) if treatment.page_size == "uniform" else None
    return plan_page(found, treatment, override, fed=was_fed(page), page_group=page_group)


def was_fed(page: Page) -> bool:
    """Whether a page's image came from a document feeder."""
    return bool(page.source.batch.record.get("source") == "feeder")


def page_group_of(page: Page, place: int | None = None) -> PageGroup | None:
    """The common shape of the pages on its side of the leaf, as far as it is known."""
    if place is None:
        place = Page.objects.filter(stack_id=page.stack_id, removed=False, position__lt=page.position).count()
    shape = page.stack.page_group.get(leaf_of(place))
    return PageGroup.model_validate(shape) if shape else None


def replan(pages: Iterable[Page], treatment: Treatment) -> None:
    """Name what is wanted for pages whose image or override has changed, as far as it is known. Does not save."""
    pages = list(pages)
    opened = _made(expand_key(page.source.master_id) for page in pages)
    measured = _made(measure_key(page.source.master_id, page.frame) for page in pages)
    places: dict[int, int] = {}
    if pages and treatment.page_size == "uniform":
        places = {pk: place for place, pk in enumerate(order_of(pages[0].stack_id))}
    for page in pages:
        page.to_plan = False
        page.opened_id = expand_key(page.source.master_id)
        page.measured_id = measure_key(page.source.master_id, page.frame) if page.opened_id in opened else None
        if (result := measured.get(page.measured_id or "")) is not None:
            plan(page, treatment, Measurements.model_validate(result.made["measurements"]), places.get(page.pk))
        else:
            page.plan, page.aside, page.rendered_id, page.reading_id = None, "", None, None


def _made(keys: Iterable[str]) -> dict[str, Result]:
    return Result.objects.filter(state=Result.State.MADE).in_bulk(set(keys))


def plan_or_mark(stack: Stack, pages: Sequence[Page], columns: Sequence[str]) -> None:
    """Save some fields of pages, and plan them by what they hold now: so many at once, the others marked for the engine.

    Call it in a transaction; the pages come with their sources and batches.
    """
    replan(pages[:AT_ONCE], treatment_of(stack))
    for page in pages[AT_ONCE:]:
        page.to_plan = True
    save_pages(pages[:AT_ONCE], [*columns, *PLANNED])
    save_pages(pages[AT_ONCE:], [*columns, "to_plan"])
    for first in range(0, len(pages), _NAMED):
        settle(Page.objects.filter(pk__in=[page.pk for page in pages[first : first + _NAMED]]))


def mark(pages: QuerySet[Page], number: int) -> None:
    """Have pages of a stack planned anew, as its change of that number; in a transaction."""
    # One pass without asking for results: what has been measured waits to be corrected, whatever came of it before.
    beyond = Q(state__in=[Page.State.CORRECT, Page.State.READ, Page.State.READY, Page.State.ASIDE])
    failed = list(pages.filter(state=Page.State.FAILED).values_list("pk", flat=True))
    pages.order_by().update(
        to_plan=True,
        change=number,
        state=Case(When(beyond, then=Value(Page.State.CORRECT)), default=F("state")),
        passed=Case(When(beyond, then=Value(2)), default=F("passed"), output_field=PositiveSmallIntegerField()),
    )
    for first in range(0, len(failed), _NAMED):
        settle(Page.objects.filter(pk__in=failed[first : first + _NAMED]))


def mark_all() -> int:
    """Have all pages of all stacks planned anew, as after an upgrade; returns how many those are.

    What was made by the same versions of the steps stays; everything else is work still to be done.
    """
    for stack_id in Stack.everything.values_list("pk", flat=True):
        with transaction.atomic():
            mark(Page.objects.filter(stack_id=stack_id), next_change(stack_id))
    return Page.objects.filter(to_plan=True).count()


def plan_marked(stack_id: int) -> int:
    """Plan some of the marked pages of a stack; returns how many those were.

    What is decided is decided without holding up anybody; where a page or the treatment has changed meanwhile, it is left
    for the next time.
    """
    stack = Stack.everything.get(pk=stack_id)
    marked = stack.pages.filter(to_plan=True).order_by("removed", "position")
    pages = list(marked.select_related("source__batch")[:AT_ONCE])
    was = {page.pk: page.change for page in pages}
    for page in pages:
        page.stack = stack
    replan(pages, treatment_of(stack))
    with transaction.atomic():
        now = Stack.everything.get(pk=stack_id)
        if any(getattr(now, name) != getattr(stack, name) for name in _DECIDED_BY):
            return len(pages)
        same = dict(Page.objects.filter(pk__in=was).values_list("pk", "change"))
        decided = [page for page in pages if same.get(page.pk) == was[page.pk]]
        if decided:
            number = next_change(stack_id)
            for page in decided:
                page.change = number
            save_pages(decided, [*PLANNED, "change"])
            settle(Page.objects.filter(pk__in=[page.pk for page in decided]))
    return len(pages)


def stack_with_marked_pages() -> int | None:
    """A stack that has some, the one last opened first."""
    stacks = (
        Page.objects.filter(to_plan=True, stack__deleted_at=None)
        .order_by("-stack__opened_at")
        .values_list("stack_id", flat=True)
    )
    return stacks.first()
