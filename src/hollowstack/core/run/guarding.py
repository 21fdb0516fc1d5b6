"""Making a page that the guard passes, as it will be bound: by the plan, or by the next milder one."""

from collections.abc import Callable
from typing import NamedTuple

from hollowstack.core.bind.codecs import decode_reduced
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.check.clean_page import check_clean
from hollowstack.core.check.content import content_finding
from hollowstack.core.check.finding import Finding
from hollowstack.core.check.guard import GUARD_PPI, Guarded, guard, milder
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.render import render
from hollowstack.core.run.clock import Clock
from hollowstack.core.run.keeping import Encoded

_MOST_STEPS = 2
_FINER_QUALITY = 85
"""JPEG quality at which nothing is lost that the guard sees."""

Encode = Callable[[Raster, Plan], Encoded]


class Made(NamedTuple):
    """A clean page, the plan that made it, what is to be said of it, the guard first, and the image that is bound of it."""

    page: Raster
    plan: Plan
    findings: tuple[Finding, ...]
    encoded: Encoded | None = None


class _Try(NamedTuple):
    page: Raster
    plan: Plan
    encoded: Encoded | None
    guarded: Guarded
    steps: tuple[str, ...]


def render_guarded(image: Raster, plan: Plan, encode: Encode | None = None, clock: Clock | None = None) -> Made:
    """The clean page, held against its master as it will be bound; where something is lost, by a milder plan, twice at most.

    Args:
        image: The page as captured.
        plan: What is to be done. What was set by hand is done whatever it loses.
        encode: Compresses a clean page as it is to be bound; None leaves that out.
        clock: Of the page's steps.
    """
    clock = clock or Clock()
    best = here = _tried(image, plan, encode, clock, ())
    while not here.guarded.passes and here.guarded.kind is not None and len(here.steps) < _MOST_STEPS and not plan.by_hand:
        step = _finer(image, here) or milder(here.plan, here.guarded.kind, (image.width, image.height))
        if step is None:
            break
        here = _tried(image, step[0], encode, clock, (*here.steps, step[1]) if step[1] else here.steps)
        if here.guarded.percent < best.guarded.percent:
            best = here
    content = content_finding(best.guarded, best.steps, by_hand=best.plan.by_hand)
    with clock.step("render"):
        looks = check_clean(image, best.plan, best.page)
    return Made(best.page, best.plan, (content, *looks), best.encoded)


def _tried(image: Raster, plan: Plan, encode: Encode | None, clock: Clock, steps: tuple[str, ...]) -> _Try:
    with clock.step("render"):
        page = render(image, plan)
    encoded = None
    if encode is not None:
        with clock.step("encode"):
            encoded = encode(page, plan)
    with clock.step("render"):
        guarded = guard(image, plan, _as_bound(page, plan, encoded))
    return _Try(page, plan, encoded, guarded, steps)


def _as_bound(page: Raster, plan: Plan, encoded: Encoded | None) -> Raster:
    """The page as whoever opens the document sees it; whatever is stored without loss is the clean page itself."""
    if isinstance(encoded, Layered):
        return Raster(compose(encoded), page.ppi)
    if encoded is None or page.ppi is None or not _loses(plan):
        return page
    pixels = decode_reduced(encoded, GUARD_PPI / min(page.ppi))
    factor = pixels.shape[1] / page.width
    return Raster(pixels, (page.ppi[0] * factor, page.ppi[1] * factor))


def _loses(plan: Plan) -> bool:
    """Whether one image of the page is packed with loss."""
    return not plan.lossless and plan.colour != "bitonal"


def _finer(image: Raster, tried: _Try) -> tuple[Plan, str] | None:
    """The plan with less compression, where it is the compression that has lost something, and how that is told.

    One image in the place of layers is told nobody: it spares the page nothing.
    """
    plan = tried.plan
    if isinstance(tried.encoded, Layered):
        finer: dict[str, bool | int] = {"layers": False}
        told = ""
    elif tried.encoded is not None and _loses(plan) and plan.jpeg_quality < _FINER_QUALITY:
        finer, told = {"jpeg_quality": _FINER_QUALITY}, "less compression"
    else:
        return None
    return (plan.model_copy(update=finer), told) if guard(image, plan, tried.page).passes else None
