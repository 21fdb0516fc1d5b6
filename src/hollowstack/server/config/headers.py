"""What a browser may load: this server's own files and nothing from elsewhere."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_only_middleware

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)


@sync_only_middleware
def content_policy(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """Middleware that adds a Content-Security-Policy to every answer."""

    def marked(request: HttpRequest) -> HttpResponseBase:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return marked
