"""Over HTTP: what a page is made of as it is bound, part by part."""

import io

import cv2
from django.http import HttpResponse
from ninja import Schema
from PIL import Image

from hollowstack.core.bind.layers.showing import PartKind, parts_of, show_part
from hollowstack.core.page.errors import DamagedResultError
from hollowstack.core.page.raster import as_pixels
from hollowstack.core.run.keeping import Encoded
from hollowstack.core.run.steps import bound_image
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.storage import places

router = Router(tags=["documents"])
_MOST_PX = 1400


class PartOut(Schema):
    """A part of a bound page: how large it is, how it is packed, and at which resolution."""

    kind: PartKind
    bytes: int
    packed_as: str
    ppi: float


@router.get("/pages/{int:page_id}/parts", response={200: list[PartOut], 404: Problem})
def list_parts(request: Request, page_id: int) -> list[PartOut]:
    """The one image of a page, or its layers: ink, pictures, paper."""
    page = rendered_page(page_id)
    assert page.rendered is not None
    ppi = (page.rendered.made.get("ppi") or (page.plan or {})["ppi"])[0]
    found = parts_of(image_of(page))
    return [PartOut(kind=one.kind, bytes=one.bytes, packed_as=one.packed_as, ppi=ppi * one.share) for one in found]


@router.get("/pages/{int:page_id}/parts/{kind}", response={200: "image/webp", 404: Problem})
def get_part(request: Request, page_id: int, kind: PartKind) -> HttpResponse:
    """A picture of one of them, reduced to a screen's size."""
    try:
        pixels = show_part(image_of(rendered_page(page_id)), kind)
    except ValueError as error:
        raise Refused(str(error)) from None
    scale = min(1.0, _MOST_PX / max(pixels.shape[:2]))
    if scale < 1:
        pixels = as_pixels(cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA))
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "WEBP", quality=88)
    response = HttpResponse(buffer.getvalue(), content_type="image/webp")
    response.headers["Cache-Control"] = "private, max-age=3600"
    return response


def rendered_page(page_id: int) -> Page:
    """A page that is corrected. Raises Refused where it is not yet."""
    page = with_results(Page.objects.all()).get(pk=page_id, removed=False)
    if page.rendered is None or page.rendered.body is None:
        raise Refused("This page is not corrected yet: wait a moment.")
    return page


def image_of(page: Page) -> Encoded:
    """Its image as it is bound. Raises Refused while that is made again."""
    assert page.rendered is not None
    try:
        return bound_image(places.result_path("render", page.rendered.key), page.rendered.made)
    except DamagedResultError:
        raise Refused("This page is being made again: try again in a moment.") from None
