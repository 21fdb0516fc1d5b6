"""What a page says of its fellows: its shape by itself, before pages are made uniform."""

from hollowstack.core.measure import Measurements
from hollowstack.core.page.geometry import Transform
from hollowstack.core.page.raster import MM_PER_INCH
from hollowstack.core.plan.page_group import Leaf, PageShape
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment


def leaf_of(place: int) -> Leaf:
    """The side of a leaf that a page is, by its place from 0: the first is a recto (common practice, no source)."""
    return "verso" if place % 2 else "recto"


def page_shape(found: Measurements, treatment: Treatment, override: Override | None, leaf: Leaf) -> PageShape | None:
    """The sides of a page as it would be by itself, and where its text begins; None for a page that is held aside.

    Args:
        found: What was measured on it.
        treatment: The stack's; what it says of sizes is left out.
        override: The page's own departures.
        leaf: Which side of its leaf it is.
    """
    alone = treatment.model_copy(update={"page_size": "as found", "margin_mm": 0.0, "target_ppi": None, "bitonal_ppi": None})
    plan = plan_page(found, alone, override)
    if plan.aside is not None:
        return None
    across, down = (MM_PER_INCH / ppi for ppi in plan.ppi)
    left = top = None
    if found.text_quad is not None:
        corner = Transform.onto(plan.quad, *plan.size_px).quad(found.text_quad).array().min(axis=0)
        left, top = float(corner[0]) * across, float(corner[1]) * down
    return PageShape(leaf, plan.size_px[0] * across, plan.size_px[1] * down, left, top)
