"""How a refusal looks over HTTP: problem details, as RFC 9457 has them."""

from django.http import HttpResponse
from ninja import Schema

MEDIA_TYPE = "application/problem+json"


class Problem(Schema):
    """Why something was not done (RFC 9457, 3.1): ``detail`` is a sentence for people, ``code`` a word for scripts."""

    type: str
    title: str
    status: int
    detail: str
    code: str


TITLES = {
    "malformed": (400, "Not readable"),
    "signed-out": (401, "Nobody is signed in"),
    "forbidden": (403, "Not allowed"),
    "foreign": (403, "Not from the page itself"),
    "missing": (404, "Not there"),
    "conflict": (409, "Changed in the meantime"),
    "not-for-this": (405, "Not for this address"),
    "duplicate": (409, "There already"),
    "other-version": (412, "Another version of the protocol"),
    "too-large": (413, "Too large"),
    "other-kind": (415, "Another kind of content"),
    "no-such-part": (416, "Not within the file"),
    "over-quota": (413, "More than allowed"),
    "refused": (422, "Refused"),
    "invalid": (422, "Not understood"),
    "throttled": (429, "Too often"),
    "broken": (500, "The server failed"),
    "busy": (503, "Busy"),
    "storage": (503, "The disk cannot be used"),
    "no-room": (507, "No room"),
}
"""Every code with its status and its title: these never change, sentences may."""


def problem(code: str, detail: str, **headers: str) -> HttpResponse:
    """An answer that says why not."""
    status, title = TITLES[code]
    told = Problem(type=f"/problems/{code}", title=title, status=status, detail=detail, code=code)
    response = HttpResponse(told.model_dump_json(), content_type=MEDIA_TYPE, status=status)
    for name, value in headers.items():
        response.headers[name.replace("_", "-")] = value
    return response
