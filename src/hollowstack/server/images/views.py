"""Pictures over HTTP. They are named by what they were made of, so a browser may keep them for ever."""

from functools import lru_cache
from pathlib import Path

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse

from hollowstack.core.page.errors import WorkerError
from hollowstack.core.run.pictures import part_of, size_of
from hollowstack.core.run.steps import THUMB
from hollowstack.server.accounts.access import closed_to
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.images import iiif
from hollowstack.server.images.pictures import WORKERS, view_path
from hollowstack.server.storage import places

_TYPES = {"jpg": "image/jpeg", "png": "image/png", "webp": "image/webp"}
_FOR_EVER = "private, max-age=31536000, immutable"


def thumb(request: HttpRequest, step: str, key: str) -> HttpResponseBase:
    """The small picture of a page."""
    if (closed := closed_to(request, OPERATIONS["getThumb"])) is not None:
        return closed
    file = _folder(step, key) / THUMB
    if not file.exists():
        raise Http404
    response = HttpResponse(file.read_bytes(), content_type="image/webp")
    response.headers["Cache-Control"] = _FOR_EVER
    return response


def information(request: HttpRequest, step: str, key: str) -> HttpResponseBase:
    """IIIF image information."""
    if (closed := closed_to(request, OPERATIONS["getImageInformation"])) is not None:
        return closed
    picture = _view(step, key)
    address = request.build_absolute_uri(request.path.removesuffix("/info.json"))
    try:
        document = iiif.information(address, _size_of(picture))
    except WorkerError as error:
        return _unreadable(error)
    response = JsonResponse(document)
    response.headers["Content-Type"] = 'application/ld+json;profile="http://iiif.io/api/image/3/context.json"'
    response.headers["Cache-Control"] = _FOR_EVER
    return response


def base(request: HttpRequest, step: str, key: str) -> HttpResponseBase:
    """The picture's own address leads to what is known of it (IIIF Image API 3.0, section 2: 303 See Other)."""
    response = HttpResponse(status=303)
    response.headers["Location"] = f"{request.path}/info.json"
    return response


def image(
    request: HttpRequest, step: str, key: str, region: str, size: str, rotation: str, quality: str, suffix: str
) -> HttpResponseBase:
    """A part of a picture at a size."""
    if (closed := closed_to(request, OPERATIONS["getImage"])) is not None:
        return closed
    picture = _view(step, key)
    try:
        wanted = iiif.parse(region, size, rotation, quality, suffix, _size_of(picture))
        content = WORKERS.run(picture, part_of, picture, wanted)
    except iiif.BadRequest as error:
        return HttpResponse(str(error), status=400, content_type="text/plain; charset=utf-8")
    except WorkerError as error:
        return _unreadable(error)
    response = HttpResponse(content, content_type=_TYPES[wanted.format])
    response.headers["Cache-Control"] = _FOR_EVER
    return response


@lru_cache(maxsize=4096)
def _size_of(picture: Path) -> tuple[int, int]:
    """A picture is named by what it was made of, and never changes."""
    return WORKERS.run(picture, size_of, picture)


def _unreadable(error: WorkerError) -> HttpResponse:
    return HttpResponse(str(error), status=503, content_type="text/plain; charset=utf-8")


def _folder(step: str, key: str) -> Path:
    try:
        return places.result_path(step, key)
    except ValueError:
        raise Http404 from None


def _view(step: str, key: str) -> Path:
    if (path := view_path(_folder(step, key))) is None:
        raise Http404
    return path
