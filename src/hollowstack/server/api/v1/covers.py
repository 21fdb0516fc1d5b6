"""Cover sheets of stacks over HTTP: the code to print, and what was filed by those that came back."""

from django.http import HttpResponse
from ninja import Schema

from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.shelf import cover_codes, cover_sheets
from hollowstack.server.stacks.models import Stack

router = Router(tags=["stacks"])


class CoverSheetOut(Schema):
    """A cover sheet among the pages of a stack, and what became of the pages behind it."""

    page: int
    stack: int | None
    """Whose it is; null where it is of no stack here."""
    name: str
    """That stack's."""
    in_bin: bool
    """Whether that stack is in the bin."""
    filed: int
    """How many pages were filed there."""
    left: int
    """How many stay, because that stack takes none."""
    why_left: str
    """Why they stay, and what to do; empty where none does."""


@router.get("/stacks/{int:stack_id}/cover-code", response={200: "image/png", 404: Problem})
def get_cover_code(request: Request, stack_id: int) -> HttpResponse:
    """The code on a stack's cover sheet as a PNG: papers that are captured under it are filed there."""
    response = HttpResponse(cover_codes.picture_of(Stack.objects.get(pk=stack_id).pk), content_type="image/png")
    response.headers["Cache-Control"] = "private, max-age=3600"
    return response


@router.get("/stacks/{int:stack_id}/cover-sheets", response={200: list[CoverSheetOut], 404: Problem})
def list_cover_sheets(request: Request, stack_id: int) -> list[CoverSheetOut]:
    """The cover sheets among the pages of a stack, in their order."""
    return [
        CoverSheetOut(
            page=one.page_id,
            stack=one.of_id,
            name=one.of.name if one.of else "",
            in_bin=one.of is not None and one.of.deleted_at is not None,
            filed=one.filed,
            left=one.left,
            why_left=cover_sheets.why_left(one),
        )
        for one in cover_sheets.sheets_in(Stack.objects.get(pk=stack_id))
    ]
