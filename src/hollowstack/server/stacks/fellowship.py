"""One size for the pages of a stack: found once all of them are measured, and again when they have changed places."""

from hollowstack.core.fellows import Leaf, PageShape, find_fellows
from hollowstack.core.geometry import Transform
from hollowstack.core.measure import Measurements
from hollowstack.core.plan import plan_page
from hollowstack.core.raster import MM_PER_INCH
from hollowstack.core.treatment import Override, Treatment
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import PLANNED, next_change, plan_anew, treatment_of


def settle_fellows(stack_id: int, *, moved: bool = False) -> None:
    """Find the common shape of a stack's pages and plan them by it, where the treatment asks for that; in a transaction.

    Nothing is done while pages wait to be measured, or where the shape is as it was and no page has ``moved``.
    """
    stack = Stack.objects.get(pk=stack_id)
    treatment = treatment_of(stack)
    if treatment.page_size != "uniform":
        return
    pages = list(stack.pages.filter(removed=False).select_related("source__load", "stack", "measured"))
    if any(page.measured is None for page in pages):
        return
    found = find_fellows([shape for place, page in enumerate(pages) if (shape := _shape(page, place, treatment))])
    shapes = {leaf: fellows.model_dump() for leaf, fellows in found.items()}
    if shapes == stack.fellows and not moved:
        return
    Stack.objects.filter(pk=stack_id).update(fellows=shapes)
    for page in pages:
        page.stack.fellows = shapes
    plan_anew(pages, treatment)
    number = next_change(stack_id)
    for page in pages:
        page.change = number
    save_pages(pages, [*PLANNED, "change"])


def _shape(page: Page, place: int, treatment: Treatment) -> PageShape | None:
    """A page as it would be by itself; None where it says nothing of its fellows."""
    if page.aside or page.measured is None or page.measured.body is None:
        return None
    found = Measurements.model_validate(page.measured.body["measurements"])
    alone = treatment.model_copy(update={"page_size": "as found", "margin_mm": 0.0, "target_ppi": None, "bitonal_ppi": None})
    plan = plan_page(found, alone, Override.model_validate(page.override))
    across, down = (MM_PER_INCH / ppi for ppi in plan.ppi)
    left = top = None
    if found.text_quad is not None:
        corner = Transform.onto(plan.quad, *plan.size_px).quad(found.text_quad).array().min(axis=0)
        left, top = float(corner[0]) * across, float(corner[1]) * down
    leaf: Leaf = "verso" if place % 2 else "recto"
    return PageShape(leaf, plan.size_px[0] * across, plan.size_px[1] * down, left, top)
