"""What a page would look like: made at once from a reduction, while somebody is still turning the knobs."""

from pathlib import Path

from pydantic import BaseModel

from hollowstack.core.check.structure import Box
from hollowstack.core.measure import Measurements
from hollowstack.core.plan.plan import Plan
from hollowstack.core.run.trying import calibrate_from, show_difference, try_plan
from hollowstack.core.settings.adjustments import Calibration
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Refused
from hollowstack.server.images.pictures import WORKERS, view_path
from hollowstack.server.stacks import planning, services
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import plan_done
from hollowstack.server.storage import places

_PICTURE_GONE = "The picture of this page is missing: “hollowstack verify” has it made again."


class Preview(BaseModel):
    """A page as it would be; its picture has ``px`` pixels, fit to be shown at the plan's size."""

    plan: Plan
    px: tuple[int, int]
    histogram: list[float]
    """Shares of the tones before points and curves, from black to white; together 1."""


def preview(page: Page, override: Override, treatment: Treatment | None, longest: int) -> tuple[Preview, bytes]:
    """A page with a departure from the treatment in place of its own, by its stack's treatment or another, and its JPEG.

    Raises:
        Refused: The page has not been measured yet.
        WorkerError: Its picture cannot be read, or takes too long.
    """
    if page.measured is None or page.measured.body is None:
        raise Refused(services.NOT_MEASURED)
    found = Measurements.model_validate(page.measured.made["measurements"])
    plan = planning.decide(page, treatment or services.treatment_of(page.stack), found, override)
    picture = _picture(page.measured.key)
    made = WORKERS.run(picture, try_plan, picture, plan, longest)
    return Preview(plan=plan, px=made.px, histogram=made.histogram), made.jpeg


class Difference(BaseModel):
    """What went and what came from a page as captured to its clean page; its picture has ``px`` pixels.

    Places are boxes on the clean page: left, top, right, bottom in its pixels, the largest first.
    """

    px: tuple[int, int]
    went: list[Box]
    came: list[Box]


def difference_of(page: Page) -> tuple[Difference, bytes]:
    """The difference between a page's image and its clean page as it is now, and its picture as JPEG.

    Raises:
        Refused: There is no clean page yet, or a picture is missing.
        WorkerError: A picture cannot be read, or takes too long.
    """
    done = plan_done(page)
    if page.measured is None or page.rendered is None or page.rendered.body is None or done is None:
        raise Refused("This page has no clean page yet: wait until it is made.")
    picture = _picture(page.measured.key)
    clean = view_path(places.result_path("render", page.rendered.key))
    if clean is None:
        raise Refused(_PICTURE_GONE)
    made = WORKERS.run(picture, show_difference, picture, clean, Plan.model_validate(done))
    return Difference(px=made.px, went=made.went, came=made.came), made.jpeg


def calibration(page: Page, patches: str, name: str) -> Calibration:
    """The profile of the device that captured a page: the page is a colour target, its corners those of the patches.

    Raises:
        Refused: The page has not been measured yet.
        CalibrationError: It is not the target, or the patch file is none.
        WorkerError: Its picture cannot be read, or takes too long.
    """
    if page.measured is None or page.measured.body is None or page.plan is None:
        raise Refused(services.NOT_MEASURED)
    picture = _picture(page.measured.key)
    return WORKERS.run(picture, calibrate_from, picture, Plan.model_validate(page.plan), patches, name)


def _picture(key: str) -> Path:
    path = view_path(places.result_path("measure", key))
    if path is None:
        raise Refused(_PICTURE_GONE)
    return path
