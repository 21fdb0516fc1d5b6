"""Making a clean page that the guard passes: by the plan, or by the next milder one."""

from hollowstack.core.check.content import content_finding
from hollowstack.core.check.finding import Finding
from hollowstack.core.check.guard import guard, milder
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.render import render

_MOST_STEPS = 2


def render_guarded(image: Raster, plan: Plan) -> tuple[Raster, Plan, Finding]:
    """The clean page, held against its master; where something is lost, by the next milder plan, twice at most.

    Args:
        image: The page as captured.
        plan: What is to be done. What was set by hand is done whatever it loses.

    Returns:
        The page, the plan that made it, and what the guard says of it.
    """
    page = render(image, plan)
    guarded = guard(image, plan, page)
    steps: tuple[str, ...] = ()
    best = (guarded, page, plan, steps)
    while not guarded.passes and guarded.kind is not None and len(steps) < _MOST_STEPS and not plan.by_hand:
        step = milder(plan, guarded.kind, (image.width, image.height))
        if step is None:
            break
        plan, name = step
        steps = (*steps, name)
        page = render(image, plan)
        guarded = guard(image, plan, page)
        if guarded.percent < best[0].percent:
            best = (guarded, page, plan, steps)
    guarded, page, plan, steps = best
    return page, plan, content_finding(guarded, steps, by_hand=plan.by_hand)
