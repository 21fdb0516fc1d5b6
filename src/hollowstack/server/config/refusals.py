"""Whatever is refused below ``/api/`` before the API itself has a say is refused in the API's own form."""

from collections.abc import Awaitable, Callable
from typing import Any

from asgiref.sync import iscoroutinefunction
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

from hollowstack.server.accounts.access import PLAIN
from hollowstack.server.api.v1.problems import MEDIA_TYPE, problem

_SENTENCES = {
    401: ("signed-out", "You are not signed in: sign in, or send a token that has not ended."),
    400: ("malformed", "The request cannot be read: see the description at /api/v1/openapi.json."),
    403: ("forbidden", "This request did not come from the page itself: load the page again."),
    404: ("missing", "There is no such address: see the description at /api/v1/openapi.json."),
    405: ("not-for-this", "That cannot be done at this address: see the description at /api/v1/openapi.json."),
}


@sync_and_async_middleware
def refusals(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware around what would else answer with a page or a bare word."""
    if iscoroutinefunction(get_response):

        async def told_later(request: HttpRequest) -> HttpResponseBase:
            answer: Awaitable[HttpResponseBase] = get_response(request)
            return _told(request, await answer)

        return told_later

    def told(request: HttpRequest) -> HttpResponseBase:
        return _told(request, get_response(request))

    return told


def _told(request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
    known = _SENTENCES.get(response.status_code)
    if known is None or not request.path.startswith("/api/") or response.headers.get("Content-Type") == MEDIA_TYPE:
        return response
    code, sentence = known
    if response.headers.get("Content-Type") == PLAIN and isinstance(response, HttpResponse):
        sentence = response.content.decode()
    kept = {name: value for name, value in response.headers.items() if name in {"Allow"}}
    return problem(code, sentence, **kept)
