"""What every answer says about itself: what a browser may load with it, who may frame it, how long it may be kept."""

from django.http import HttpRequest, HttpResponseBase

from hollowstack.server.config.middleware import on_the_way_out

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


headers = on_the_way_out(_marked)
"""The outermost middleware, so that files and refusals of the others carry the headers too."""
