"""Addresses: the API, pictures, events; everything else is the front end's."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.urls import path, re_path

from hollowstack.server.api.v1.root import api
from hollowstack.server.capture import prescan
from hollowstack.server.events.stream import stack_events
from hollowstack.server.images import views as images


def front_end(request: HttpRequest) -> HttpResponseBase:
    """The application's one page; which view it shows is its own business."""
    page = settings.WEB / "index.html"
    if not page.exists():
        return HttpResponse(
            "The front end has not been built: run “make web”.", status=503, content_type="text/plain; charset=utf-8"
        )
    response = HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


_PICTURE = "<str:step>/<str:key>"
urlpatterns = [
    path("api/v1/stacks/<int:stack_id>/events", stack_events),
    path("api/v1/prescans/<str:nonce>.jpg", prescan.stream),
    path("api/v1/", api.urls),
    path(f"thumbs/{_PICTURE}.webp", images.thumb),
    path(f"iiif/{_PICTURE}", images.base),
    path(f"iiif/{_PICTURE}/info.json", images.information),
    path(f"iiif/{_PICTURE}/<str:region>/<str:size>/<str:rotation>/<str:quality>.<str:suffix>", images.image),
    re_path(r"^(?!api/|thumbs/|iiif/|assets/).*$", front_end),
]
