"""What a browser may load: this server's own files and nothing from elsewhere."""

from collections.abc import Callable

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest, HttpResponseBase

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)


class ContentPolicy:
    """Middleware that adds a Content-Security-Policy to every answer."""

    sync_capable = True
    async_capable = True

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request: HttpRequest):
        """Pass the request on and mark the answer."""
        if iscoroutinefunction(self.get_response):
            return self._later(request)
        return _marked(self.get_response(request))

    async def _later(self, request: HttpRequest) -> HttpResponseBase:
        return _marked(await self.get_response(request))  # type: ignore[misc]


def _marked(response: HttpResponseBase) -> HttpResponseBase:
    response.headers.setdefault("Content-Security-Policy", _POLICY)
    return response
