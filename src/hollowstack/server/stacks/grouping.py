"""One size for the pages of a stack: found once all of them are measured, and again when they have changed places."""

from typing import Literal

from django.db import transaction
from django.db.models import Exists, OuterRef

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.page_group import PageShape, find_page_groups
from hollowstack.core.plan.page_shape import leaf_of, page_shape
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.stacks import planning
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import next_change, treatment_of
from hollowstack.server.stacks.standing import WAITING

_TO_MEASURE = WAITING[:2]
_AT_A_TIME = 500


def ask_to_regroup(stack_id: int, why: Literal["measured", "moved"]) -> None:
    """Have the common shape of a stack's pages found anew, where its treatment asks for one; in a transaction.

    Of a small stack it is found now, if it can be.
    """
    stack = Stack.everything.get(pk=stack_id)
    if treatment_of(stack).page_size != "uniform" or stack.regroup == "moved":
        return
    Stack.everything.filter(pk=stack_id).update(regroup=why)
    if stack.pages.filter(removed=False).count() <= planning.AT_ONCE and regroup(stack_id):
        planning.plan_marked(stack_id)


def regroup(stack_id: int) -> bool:
    """Find the common shape of a stack's pages, if that was asked for, and have them planned by it; whether it was found.

    Nothing is done while pages wait to be measured. Where the shape is as it was, and no page has moved, plans stay.
    """
    stack = Stack.everything.get(pk=stack_id)
    pages = stack.pages.filter(removed=False)
    if not stack.regroup or pages.filter(state__in=_TO_MEASURE).exists():
        return False
    shapes = _shapes(stack)
    with transaction.atomic():
        now = Stack.everything.get(pk=stack_id)
        if (now.regroup, now.order_change, now.treatment) != (stack.regroup, stack.order_change, stack.treatment):
            return False
        Stack.everything.filter(pk=stack_id).update(page_group=shapes, regroup="")
        if shapes != stack.page_group or stack.regroup == "moved":
            planning.mark(pages, next_change(stack_id))
    return True


def stack_to_regroup() -> int | None:
    """A stack for which that was asked, and whose pages have all been measured."""
    to_measure = Page.objects.filter(stack=OuterRef("pk"), removed=False, state__in=_TO_MEASURE)
    return Stack.objects.exclude(regroup="").filter(~Exists(to_measure)).values_list("pk", flat=True).first()


def _shapes(stack: Stack) -> dict[str, dict[str, object]]:
    treatment = treatment_of(stack)
    pages = stack.pages.filter(removed=False).select_related("measured").iterator(_AT_A_TIME)
    shapes = [shape for place, page in enumerate(pages) if (shape := _shape(page, place, treatment))]
    return {leaf: page_group.model_dump() for leaf, page_group in find_page_groups(shapes).items()}


def _shape(page: Page, place: int, treatment: Treatment) -> PageShape | None:
    """A page as it would be by itself; None where it says nothing of its fellows."""
    if page.measured is None or page.measured.body is None:
        return None
    found = Measurements.model_validate(page.measured.body["measurements"])
    return page_shape(found, treatment, Override.model_validate(page.override), leaf_of(place))
