"""The bench over HTTP: what a page would look like."""

from django.http import HttpResponse
from ninja import Field, Schema

from hollowstack.core.page.geometry import Point
from hollowstack.core.settings.adjustments import Calibration
from hollowstack.core.settings.override import Correction, Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.api.v1.parts import with_picture
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.preview import Difference, Preview, calibration, difference_of, preview

_MOST_TEXT = 1_000_000
router = Router(tags=["bench"])


class Line(Schema):
    """A split line in pixels of the image as captured, from the top of the page to its bottom."""

    start: Point
    end: Point


class PreviewIn(Schema):
    """What to try on a page: whatever is named in ``correction`` takes the place of the page's own."""

    correction: Correction = Correction()
    split: Line | None = None
    """Another line between two halves of an image; of no effect on a page that is no half."""
    treatment: Treatment | None = None
    """Another than the stack's."""
    longest: int = Field(1400, ge=200, le=3000)
    """Longer side of the reduction that is worked on, in pixels."""


class CalibrationIn(Schema):
    """The text of a target's patch file, and the device's name."""

    patches: str = Field(max_length=_MOST_TEXT)
    name: str = Field(min_length=1, max_length=80)


@router.post("/pages/{int:page_id}/calibration", response={200: Calibration, 404: Problem})
def calibrate_device(request: Request, page_id: int, asked: CalibrationIn) -> Calibration:
    """Profile the device that captured a page, which shows a colour target from corner to corner; nothing is kept."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    return calibration(page, asked.patches, asked.name)


@router.post("/pages/{int:page_id}/preview", response={200: Preview, 404: Problem})
def preview_page(request: Request, page_id: int, asked: PreviewIn) -> HttpResponse:
    """What a page would look like, and its picture as a part of its own; nothing is kept."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    told, jpeg = preview(page, _tried(page, asked), asked.treatment, asked.longest)
    return with_picture("preview", told, jpeg)


@router.get("/pages/{int:page_id}/difference", response={200: Difference, 404: Problem})
def show_page_difference(request: Request, page_id: int) -> HttpResponse:
    """What went and what came from a page as captured to its clean page, and a picture of it as a part of its own."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    told, jpeg = difference_of(page)
    return with_picture("difference", told, jpeg)


def _tried(page: Page, asked: PreviewIn) -> Override:
    """The page's departure from the treatment with what is tried in its place."""
    own = {**page.override, **asked.correction.model_dump(mode="json", exclude_unset=True)}
    if asked.split is not None and "split" in own:
        own["split"] = {**own["split"], **asked.split.model_dump()}
    return Override.model_validate(own)
