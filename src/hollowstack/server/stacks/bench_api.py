"""The bench over HTTP: what a page would look like."""

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from hollowstack.core.treatment import Correction, Treatment
from hollowstack.server.refusals import Problem
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.preview import Preview, preview

router = Router(tags=["bench"])


class PreviewIn(Schema):
    """What to try on a page: whatever is named in ``wish`` takes the place of the page's own."""

    wish: Correction = Correction()
    treatment: Treatment | None = None
    """Another than the stack's."""
    longest: int = Field(1400, ge=200, le=3000)
    """Longer side of the reduction that is worked on, in pixels."""


@router.post("/pages/{int:page_id}/preview", response={200: Preview, 404: Problem, 422: Problem})
def post_preview(request: HttpRequest, page_id: int, asked: PreviewIn) -> HttpResponse:
    """What a page would look like; nothing is kept."""
    page = with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
    made = preview(page, asked.wish, asked.treatment, asked.longest)
    # The picture is long: written down as it is, not checked against the schema a second time.
    return HttpResponse(made.model_dump_json(), content_type="application/json; charset=utf-8")
