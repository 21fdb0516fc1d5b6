"""Access copies over HTTP: asked for, and a page of one as it will be seen."""

import io
from datetime import UTC, datetime
from typing import Annotated

from django.http import HttpResponse
from ninja import Schema, Status
from PIL import Image
from pydantic import Field

from hollowstack.core.access import AccessOrder, Passwords
from hollowstack.core.access.seen import seen_page
from hollowstack.server.api.v1.documents import DocumentOut, document_out
from hollowstack.server.api.v1.layers import image_of, rendered_page
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents.copying import ask_for_copies
from hollowstack.server.documents.drafts import draft_of
from hollowstack.server.documents.marking import marks_on
from hollowstack.server.stacks.models import Stack

router = Router(tags=["documents"])
_Password = Annotated[str, Field(max_length=200)]


class CopyIn(Schema):
    """Of which documents copies are made, and what opens them. Passwords are kept sealed, and never told again."""

    first: int | None = None
    """The page that a document begins with; null for all documents."""
    opening: _Password = ""
    """Asked for whoever opens the copy."""
    changing: _Password = ""
    """Lifts what is forbidden in it."""


@router.post("/stacks/{int:stack_id}/copies", response={201: list[DocumentOut], 404: Problem})
def make_copies(request: Request, stack_id: int, new: CopyIn) -> Status[list[DocumentOut]]:
    """Have access copies made of documents as they would be bound now, in the way and with the marks that have been said."""
    stack = Stack.objects.get(pk=stack_id)
    made = ask_for_copies(stack_id, stack.name, Passwords(new.opening, new.changing), request.user, new.first)
    return Status(201, [document_out(document, None) for document in made])


@router.get("/pages/{int:page_id}/copy", response={200: "image/webp", 404: Problem})
def get_copy_page(request: Request, page_id: int) -> HttpResponse:
    """A page as it is seen in an access copy: covered, reduced, under its watermark; without its notes."""
    page = rendered_page(page_id)
    draft = draft_of(page.stack_id)
    ppi = (page.plan or {})["ppi"]
    order = AccessOrder(title="", created=datetime(2000, 1, 1, tzinfo=UTC), **draft.access.model_dump())
    pixels = seen_page(image_of(page), (ppi[0], ppi[1]), marks_on(page, draft.marks.get(page.pk, ())), order)
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "WEBP", quality=88)
    response = HttpResponse(buffer.getvalue(), content_type="image/webp")
    response.headers["Cache-Control"] = "no-store"
    return response
