"""Signing in and out."""

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status

from hollowstack.server.api.v1.problems import Problem

router = Router(tags=["session"])


class Session(Schema):
    """Who is signed in; nobody where ``user`` is null. ``csrf`` goes into the header X-CSRFToken of every change."""

    user: str | None
    csrf: str


class SignIn(Schema):
    """Name and password."""

    user: str
    password: str


@router.get("/session", response=Session, auth=None)
def get_session(request: HttpRequest) -> Session:
    """Who is signed in."""
    return _session(request)


@router.post("/session", response={200: Session, 401: Problem}, auth=None)
def sign_in(request: HttpRequest, who: SignIn) -> Session | Status:
    """Sign in."""
    user = authenticate(request, username=who.user, password=who.password)
    if user is None:
        return Status(401, Problem(message="Name and password do not belong together: check both and try again."))
    login(request, user)
    return _session(request)


@router.delete("/session", response=Session)
def sign_out(request: HttpRequest) -> Session:
    """Sign out."""
    logout(request)
    return _session(request)


def _session(request: HttpRequest) -> Session:
    name = request.user.get_username() if request.user.is_authenticated else None
    return Session(user=name, csrf=get_token(request))
