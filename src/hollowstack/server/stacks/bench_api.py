"""The bench over HTTP: what a page would look like."""

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from hollowstack.core.adjustments import Calibration
from hollowstack.core.treatment import Correction, Treatment
from hollowstack.server.refusals import Problem
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.preview import Preview, calibration, preview

_MOST_TEXT = 1_000_000
router = Router(tags=["bench"])


class PreviewIn(Schema):
    """What to try on a page: whatever is named in ``wish`` takes the place of the page's own."""

    wish: Correction = Correction()
    treatment: Treatment | None = None
    """Another than the stack's."""
    longest: int = Field(1400, ge=200, le=3000)
    """Longer side of the reduction that is worked on, in pixels."""


class CalibrationIn(Schema):
    """The text of a target's patch file, and the device's name."""

    patches: str = Field(max_length=_MOST_TEXT)
    name: str = Field(min_length=1, max_length=80)


@router.post("/pages/{int:page_id}/calibration", response={200: Calibration, 404: Problem, 422: Problem})
def post_calibration(request: HttpRequest, page_id: int, asked: CalibrationIn) -> Calibration:
    """Profile the device that captured a page, which shows a colour target from corner to corner; nothing is kept."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    return calibration(page, asked.patches, asked.name)


@router.post("/pages/{int:page_id}/preview", response={200: Preview, 404: Problem, 422: Problem})
def post_preview(request: HttpRequest, page_id: int, asked: PreviewIn) -> HttpResponse:
    """What a page would look like; nothing is kept."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    made = preview(page, asked.wish, asked.treatment, asked.longest)
    # The picture is long: written down as it is, not checked against the schema a second time.
    return HttpResponse(made.model_dump_json(), content_type="application/json; charset=utf-8")
