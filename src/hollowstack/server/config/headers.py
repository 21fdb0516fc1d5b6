"""What every answer says about itself: what a browser may load with it, who may frame it, how long it may be kept."""

from collections.abc import Awaitable, Callable
from typing import Any

from asgiref.sync import iscoroutinefunction
from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)
_ALWAYS = {
    "Content-Security-Policy": _POLICY,
    "X-Frame-Options": "DENY",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(self), microphone=(), geolocation=()",
}
_FOR_EVER = "public, max-age=31536000, immutable"


@sync_and_async_middleware
def headers(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware, the outermost, so that files and refusals of the others carry the headers too."""
    if iscoroutinefunction(get_response):

        async def marked_later(request: HttpRequest) -> HttpResponseBase:
            answer: Awaitable[HttpResponseBase] = get_response(request)
            return _marked(request, await answer)

        return marked_later

    def marked(request: HttpRequest) -> HttpResponseBase:
        return _marked(request, get_response(request))

    return marked


def _marked(request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
    for name, value in _ALWAYS.items():
        response.headers.setdefault(name, value)
    if request.path.startswith("/api/"):
        # What is told of pages is for whoever asked, and for now.
        response.headers.setdefault("Cache-Control", "no-store")
    elif request.path.startswith("/assets/") and response.status_code == 200:
        # The front end's files carry a digest in their names.
        response.headers["Cache-Control"] = _FOR_EVER
    elif response.headers.get("Content-Type", "").startswith("text/html"):
        response.headers["Cache-Control"] = "no-cache"
    return response
