"""The rules of stacks and what is planned for their pages, without HTTP.

Every change is counted, so that a browser can ask for what is new.
"""

from collections.abc import Iterable
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import F
from django.utils import timezone

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.page_group import PageGroup
from hollowstack.core.plan.page_shape import leaf_of
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.keys import expand_key, measure_key, read_key, render_key
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.treatments import versions

MOST_NAME = 200
NOT_MEASURED = "The page has not been measured yet: wait a moment."
PLANNED = ("opened", "measured", "rendered", "reading", "plan", "aside")
"""Fields of a page that are decided here."""


class DuplicateFile(Conflict):
    """The same file is in the stack already; nothing was changed, and it can be taken in all the same."""


def create_stack(name: str, user: AbstractBaseUser | None, treatment: str = "everyday") -> Stack:
    """A new, empty stack with the latest version of a treatment. Raises Refused without a name."""
    name = " ".join(name.split())
    if not name:
        raise Refused("A stack needs a name: give it one.")
    if len(name) > MOST_NAME:
        raise Refused(f"The name has {len(name)} characters; the most is {MOST_NAME}: shorten it.")
    return Stack.objects.create(
        name=name, created_by=user, treatment=treatment_json(versions.latest(treatment)), opened_at=timezone.now()
    )


def treatment_json(treatment: Treatment) -> dict[str, Any]:
    """A treatment as a stack keeps it."""
    return treatment.model_dump(mode="json", by_alias=True)


def treatment_of(stack: Stack) -> Treatment:
    """The stack's treatment as settings."""
    return Treatment.model_validate(stack.treatment)


def plan(page: Page, treatment: Treatment, found: Measurements, place: int | None = None) -> None:
    """Decide what is done to a page, and name the results that are wanted for it. Does not save.

    ``place`` is its place in the stack from 0; where it is not given and needed, it is looked up.
    """
    decided = decide(page, treatment, found, Override.model_validate(page.override), place)
    page.plan = decided.model_dump(mode="json")
    page.aside = decided.aside or ""
    page.rendered_id = render_key(page.source.master_id, page.frame, decided)
    # A page that is held out is not read: nobody searches it, and reading is the slowest step.
    page.reading_id = None if decided.aside else read_key(page.rendered_id, page.stack.language)


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
    opened = Result.objects.in_bulk({expand_key(page.source.master_id) for page in pages})
    measured = Result.objects.in_bulk({measure_key(page.source.master_id, page.frame) for page in pages})
    places: dict[int, int] = {}
    if pages and treatment.page_size == "uniform":
        places = {pk: place for place, pk in enumerate(order_of(pages[0].stack_id))}
    for page in pages:
        page.opened_id = expand_key(page.source.master_id)
        known = opened.get(page.opened_id)
        page.measured_id = measure_key(page.source.master_id, page.frame) if known and known.body else None
        result = measured.get(page.measured_id or "")
        if result and result.body:
            plan(page, treatment, Measurements.model_validate(result.body["measurements"]), places.get(page.pk))
        else:
            page.plan, page.aside, page.rendered_id, page.reading_id = None, "", None, None


def look_at(stack_id: int, page_id: int | None) -> None:
    """Note what somebody looks at, so that it is worked on first."""
    Stack.objects.filter(pk=stack_id).update(opened_at=timezone.now(), open_page=page_id)


def next_change(stack_id: int, *, order: bool = False) -> int:
    """Count one more change of a stack, in a transaction; returns its number. ``order``: pages came, went or moved."""
    Stack.objects.filter(pk=stack_id).update(change=F("change") + 1)
    count = Stack.objects.values_list("change", flat=True).get(pk=stack_id)
    if order:
        Stack.objects.filter(pk=stack_id).update(order_change=count)
    return count


def order_of(stack_id: int) -> list[int]:
    """The pages of a stack by id, in order."""
    return list(Page.objects.filter(stack_id=stack_id, removed=False).values_list("pk", flat=True))


def shift_behind(stack_id: int, position: int, room: int) -> None:
    """Make room behind a position, for pages and for batches that are still coming in."""
    Page.objects.filter(stack_id=stack_id, position__gt=position).update(position=F("position") + room)
    Stack.objects.get(pk=stack_id).batches.filter(base__gt=position).update(base=F("base") + room)
