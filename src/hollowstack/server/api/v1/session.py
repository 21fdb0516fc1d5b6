"""Signing in and out, and what is one's own: password, sessions, tokens."""

from datetime import datetime
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, logout, update_session_auth_hash
from django.db.models import Max
from django.http import HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Field, Schema, Status
from ninja.utils import check_csrf

from hollowstack.server.accounts import services
from hollowstack.server.accounts.access import SESSIONS, Forbidden, Foreign, who_asks
from hollowstack.server.accounts.models import Person, Token
from hollowstack.server.accounts.record import note
from hollowstack.server.accounts.rights import Right, Role
from hollowstack.server.api.v1.problems import Problem, problem
from hollowstack.server.api.v1.routing import Request, Router

router = Router(tags=["session"])
_WRONG = "User name and password do not belong together: check both and try again."
_FOREIGN = "This request did not come from the sign-in page: load the page again."


class Session(Schema):
    """Who is signed in and what they may; nobody where ``user`` is null.

    ``csrf`` goes into the header X-CSRFToken of every change. ``people`` tells whether anybody can sign in at all,
    ``demo`` whether it is the demo, through which a short way is shown.
    """

    user: str | None
    role: Role | None
    rights: list[Right]
    csrf: str
    people: bool
    demo: bool


class SignIn(Schema):
    """User name and password."""

    user: str = Field(max_length=150)
    password: str = Field(max_length=4096)


class PasswordIn(Schema):
    """The present password and the one from now on."""

    old: str = Field(max_length=4096)
    new: str = Field(max_length=4096)


class InvitationIn(Schema):
    """The secret of an invitation's link, and what somebody wants to be called."""

    secret: str = Field(max_length=100)
    user: str = Field(max_length=150)
    password: str = Field(max_length=4096)


class TokenIn(Schema):
    """A token to be made: by what name it is known again, the most it may, how long it lives."""

    name: str = Field(max_length=80)
    role: Role
    days: int


class TokenOut(Schema):
    """A token; ``secret`` is there once, when it has just been made."""

    id: int
    name: str
    role: Role
    made_at: datetime
    ends_at: datetime
    used_at: datetime | None
    secret: str | None = None


@router.get("/session", response=Session)
def get_session(request: Request) -> Session:
    """Who is signed in."""
    return _session(request)


@router.post("/session", response={200: Session, 401: Problem, 403: Problem, 429: Problem})
def sign_in(request: Request, who: SignIn) -> Session | HttpResponse:
    """Sign in."""
    _require_own_page(request)
    user = authenticate(request, username=who.user, password=who.password)
    if user is None:
        if (until := _locked_until(request, who.user)) is not None:
            note(who.user, "sign-in locked", request.META.get("REMOTE_ADDR", ""))
            minutes = max(1, -(-int((until - timezone.now()).total_seconds()) // 60))
            sentence = f"Too many wrong passwords: try again in {minutes} {'minute' if minutes == 1 else 'minutes'}."
            return problem("throttled", sentence, Retry_After=str(minutes * 60))
        note(who.user, "sign-in refused", request.META.get("REMOTE_ADDR", ""))
        return problem("signed-out", _WRONG)
    _begin(request, user)
    return _session(request)


@router.delete("/session", response=Session)
def sign_out(request: Request, response: HttpResponse) -> Session:
    """Sign out; the browser forgets the pictures that it has kept."""
    logout(request)
    response.headers["Clear-Site-Data"] = '"cache"'
    return _session(request)


@router.put("/session/password", response={204: None})
def change_password(request: Request, change: PasswordIn) -> Status[None]:
    """Choose another password; every other session of yours ends."""
    services.change_password(request.user, change.old, change.new)
    update_session_auth_hash(request, request.user)
    return Status(204, None)


@router.delete("/session/all", response={204: None})
def end_sessions(request: Request) -> Status[None]:
    """End all your sessions, on whatever machine, this one too."""
    services.end_sessions(request.user.pk, request.user.get_username())
    return Status(204, None)


@router.post("/invitations/accept", response={200: Session, 403: Problem})
def accept_invitation(request: Request, invitation: InvitationIn) -> Session:
    """Become a person here by an invitation, and be signed in."""
    _require_own_page(request)
    user = services.accept(invitation.secret, invitation.user, invitation.password)
    _begin(request, user)
    return _session(request)


@router.get("/tokens", response=list[TokenOut])
def list_tokens(request: Request) -> list[TokenOut]:
    """Your tokens that have not ended."""
    tokens = Token.objects.filter(user=request.user, withdrawn_at=None, ends_at__gt=timezone.now()).order_by("pk")
    return [_token(token) for token in tokens]


@router.post("/tokens", response={201: TokenOut})
def create_token(request: Request, new: TokenIn) -> Status[TokenOut]:
    """Make a token for a script; its secret is shown in this answer and never again."""
    if request.who.token is not None:
        raise Forbidden("A token makes no tokens: sign in to make one.")
    token, secret = services.make_token(request.user, new.name, new.role, new.days)
    return Status(201, _token(token, secret))


@router.delete("/tokens/{int:token_id}", response={204: None, 404: Problem})
def withdraw_token(request: Request, token_id: int) -> Status[None]:
    """End a token."""
    services.withdraw_token(request.user, token_id)
    return Status(204, None)


def _require_own_page(request: Request) -> None:
    """Nobody is signed in by a page of somebody else's."""
    if check_csrf(request) is not None:
        raise Foreign(_FOREIGN)


def _begin(request: Request, user: Any) -> None:
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    person = Person.objects.filter(user_id=user.pk).first()
    request.session[SESSIONS] = person.sessions if person else 0
    note(user.get_username(), "signed in", request.META.get("REMOTE_ADDR", ""))


def _locked_until(request: Request, name: str) -> datetime | None:
    if not AxesProxyHandler.is_locked(request, {"username": name}):
        return None
    tried = AccessAttempt.objects.filter(username=name) | AccessAttempt.objects.filter(
        ip_address=request.META.get("REMOTE_ADDR")
    )
    last = tried.aggregate(last=Max("attempt_time"))["last"] or timezone.now()
    return last + settings.AXES_COOLOFF_TIME


def _session(request: Request) -> Session:
    who = who_asks(request)
    return Session(
        user=who.user.get_username() if who else None,
        role=who.role if who else None,
        rights=sorted(who.rights) if who else [],
        csrf=get_token(request),
        people=get_user_model().objects.filter(is_active=True).exists(),
        demo=settings.DEMO,
    )


def _token(token: Token, secret: str | None = None) -> TokenOut:
    return TokenOut(
        id=token.pk,
        name=token.name,
        role=Role(token.role),
        made_at=token.made_at,
        ends_at=token.ends_at,
        used_at=token.used_at,
        secret=secret,
    )
