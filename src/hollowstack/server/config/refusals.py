"""Whatever is refused below ``/api/`` before the API itself has a say is refused in the API's own form."""

from django.http import HttpRequest, HttpResponse, HttpResponseBase

from hollowstack.server.accounts.access import PLAIN
from hollowstack.server.api.v1.problems import MEDIA_TYPE, problem
from hollowstack.server.config.middleware import on_the_way_out

_SENTENCES = {
    401: ("signed-out", "You are not signed in: sign in, or send a token that has not ended."),
    400: ("malformed", "The request cannot be read: see the description at /api/v1/openapi.json."),
    403: ("foreign", "This request did not come from the page itself: load the page again."),
    404: ("missing", "There is no such address: see the description at /api/v1/openapi.json."),
    405: ("not-for-this", "That cannot be done at this address: see the description at /api/v1/openapi.json."),
}


def _told(request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
    known = _SENTENCES.get(response.status_code)
    if known is None or not request.path.startswith("/api/") or response.headers.get("Content-Type") == MEDIA_TYPE:
        return response
    code, sentence = known
    if response.headers.get("Content-Type") == PLAIN and isinstance(response, HttpResponse):
        sentence = response.content.decode()
        code = "forbidden" if code == "foreign" else code
    kept = {name: value for name, value in response.headers.items() if name in {"Allow"}}
    return problem(code, sentence, **kept)


refusals = on_the_way_out(_told)
"""Middleware around what would else answer with a page or a bare word."""
