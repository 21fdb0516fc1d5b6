"""How much of a request is read: of a stranger's next to nothing, of anybody's no more than its address can need.

An ASGI application around another. Django reads a request to its end before it asks who sent it; this asks first.
"""

from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.sessions.backends.cached_db import SessionStore
from django.http.cookie import parse_cookie

from hollowstack.core.decode import MAX_BYTES
from hollowstack.server.accounts.services import holder_of
from hollowstack.server.api.v1.problems import problem

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
Application = Callable[[Scope, Receive, Send], Awaitable[None]]

STRANGER = 16_384
"""Bytes that are read of a request before anybody is signed in: user name and password."""
USUAL = 12_000_000
"""The longest change names 100,000 pages; the longest text is a patch file."""
_FILES = ("/api/v1/uploads/", "/api/v1/batches/")
"""Where files come in, and may be as large as any that are taken in."""


class Limited:
    """Answers 413 where too much is sent, before it has been read."""

    def __init__(self, inner: Application) -> None:
        self._inner = inner

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on as long as it keeps to its limit."""
        if scope["type"] != "http" or scope["method"] in {"GET", "HEAD", "OPTIONS"}:
            return await self._inner(scope, receive, send)
        given = {name.decode("latin-1"): value.decode("latin-1") for name, value in scope["headers"]}
        known = await sync_to_async(_is_known)(given)
        limit = (MAX_BYTES if scope["path"].startswith(_FILES) else USUAL) if known else STRANGER
        if _length(given) > limit:
            return await _refuse(send, known)
        return await self._inner(scope, _Counted(receive, limit), send)


class _Counted:
    """A request's body as far as its limit; beyond that its sender is taken for gone."""

    def __init__(self, receive: Receive, limit: int) -> None:
        self._receive, self._left = receive, limit

    async def __call__(self) -> MutableMapping[str, Any]:
        message = await self._receive()
        self._left -= len(message.get("body", b""))
        return message if self._left >= 0 else {"type": "http.disconnect"}


def _length(given: dict[str, str]) -> int:
    text = given.get("content-length", "0")
    return int(text) if text.isdigit() else 0


def _is_known(given: dict[str, str]) -> bool:
    """Whether a request carries a session that is signed in, or a token that has not ended; what it may is asked later."""
    kind, _, secret = given.get("authorization", "").partition(" ")
    if kind.lower() == "bearer" and secret:
        return holder_of(secret.strip()) is not None
    key = parse_cookie(given.get("cookie", "")).get(settings.SESSION_COOKIE_NAME)
    return bool(key) and "_auth_user_id" in SessionStore(key)


async def _refuse(send: Send, known: bool) -> None:
    if known:
        response = problem("too-large", "This is more than the server takes in at once: send less, or files by upload.")
    else:
        response = problem("signed-out", "You are not signed in: sign in, or send a token that has not ended.")
    headers = [(name.lower().encode(), value.encode("latin-1")) for name, value in response.items()]
    await send({"type": "http.response.start", "status": response.status_code, "headers": headers})
    await send({"type": "http.response.body", "body": response.content})
