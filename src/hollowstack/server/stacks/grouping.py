"""One size for the pages of a stack: found once all of them are measured, and again when they have changed places."""

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.page_group import PageShape, find_page_groups
from hollowstack.core.plan.page_shape import leaf_of, page_shape
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import PLANNED, next_change, replan, treatment_of


def settle_page_groups(stack_id: int, *, moved: bool = False) -> None:
    """Find the common shape of a stack's pages and plan them by it, where the treatment asks for that; in a transaction.

    Nothing is done while pages wait to be measured, or where the shape is as it was and no page has ``moved``.
    """
    stack = Stack.objects.get(pk=stack_id)
    treatment = treatment_of(stack)
    if treatment.page_size != "uniform":
        return
    pages = list(stack.pages.filter(removed=False).select_related("source__batch", "measured"))
    if any(page.measured is None for page in pages):
        return
    found = find_page_groups([shape for place, page in enumerate(pages) if (shape := _shape(page, place, treatment))])
    shapes = {leaf: page_group.model_dump() for leaf, page_group in found.items()}
    if shapes == stack.page_group and not moved:
        return
    Stack.objects.filter(pk=stack_id).update(page_group=shapes)
    stack.page_group = shapes
    replan(pages, treatment)
    number = next_change(stack_id)
    for page in pages:
        page.change = number
    save_pages(pages, [*PLANNED, "change"])


def _shape(page: Page, place: int, treatment: Treatment) -> PageShape | None:
    """A page as it would be by itself; None where it says nothing of its fellows."""
    if page.measured is None or page.measured.body is None:
        return None
    found = Measurements.model_validate(page.measured.body["measurements"])
    return page_shape(found, treatment, Override.model_validate(page.override), leaf_of(place))
