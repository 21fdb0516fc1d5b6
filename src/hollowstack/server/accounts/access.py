"""Who asks, and whether they may: the one door of everything that answers."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja.utils import check_csrf

from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.accounts.models import Person
from hollowstack.server.accounts.rights import RIGHTS, WORDS, Right, Role
from hollowstack.server.accounts.services import Who, holder_of

PLAIN = "text/plain; charset=utf-8"
SESSIONS = "sessions"
"""Key in a session under which the number of the person's sessions is noted."""


class Stranger(HollowStackError):
    """Nobody is signed in."""


class Forbidden(HollowStackError):
    """Whoever is signed in may not do that."""


class Foreign(Forbidden):
    """A change that carries no token of the session, or one of a session that has ended."""


def who_asks(request: HttpRequest) -> Who | None:
    """The person of a request's session, or of its token; None for a stranger.

    A session ends here where its person has ended all of theirs.
    """
    if (secret := _bearer(request)) is not None:
        return holder_of(secret)
    user = request.user
    if not user.is_authenticated or not user.is_active:
        return None
    person = Person.objects.filter(user_id=user.pk).first()
    if person is not None and request.session.get(SESSIONS, 0) != person.sessions:
        return None
    role = Role(person.role) if person else Role.READER
    return Who(user, RIGHTS[role], role)


def require(request: HttpRequest, right: Right) -> Who:
    """Whoever asks, if they may.

    Raises:
        Stranger, Forbidden: They may not.
    """
    who = who_asks(request)
    if who is None:
        raise Stranger("You are not signed in: sign in, or send a token that has not ended.")
    if right not in who.rights:
        raise Forbidden(f"Only {WORDS[right]} may do that: ask one of them.")
    request.user = who.user
    return who


def closed_to(request: HttpRequest, right: Right | None) -> HttpResponse | None:
    """For what is not part of the API: a sentence to whoever may not; None where they may."""
    try:
        if right is not None:
            require(request, right)
    except (Stranger, Forbidden) as error:
        return HttpResponse(str(error), status=401 if isinstance(error, Stranger) else 403, content_type=PLAIN)
    return None


class Allowed:
    """What an operation of the API asks for: a session with its CSRF token, or a bearer token (RFC 6750), and a right."""

    def __init__(self, right: Right) -> None:
        self.right = right
        self.openapi_security_schema = {"type": "apiKey", "in": "cookie", "name": "sessionid"}

    def __call__(self, request: HttpRequest) -> Any:
        """Whoever asks. Raises Stranger, Forbidden."""
        who = require(request, self.right)
        if who.token is None and check_csrf(request) is not None:
            raise Foreign("This request did not come from the page itself: load the page again.")
        request.who = who  # type: ignore[attr-defined]
        return who


def _bearer(request: HttpRequest) -> str | None:
    kind, _, secret = request.headers.get("Authorization", "").partition(" ")
    return secret.strip() if kind.lower() == "bearer" and secret else None
