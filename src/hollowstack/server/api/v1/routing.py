"""Operations of the API: each with an id that reads, and with the right that the one table asks for it."""

import inspect
from collections.abc import Callable
from typing import Any

import ninja
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja.constants import NOT_SET

from hollowstack.server.accounts.access import Allowed
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.accounts.services import Who
from hollowstack.server.api.v1.description import file_of
from hollowstack.server.api.v1.problems import Problem

_ALWAYS = (401, 403, 503)
"""Whatever is asked for, nobody may be signed in, the right may be wanting, the database may be busy."""
_GIVEN = (422,)
"""What was given with the question may not be understood."""
_WRITING = (400, 413, 507)
"""What is sent may not be readable, or too much, and there may be no room for it."""


class Request(HttpRequest):
    """A request that has come through the door: ``user`` is whoever was let in, never a stranger."""

    user: User
    who: Who


class Router(ninja.Router):
    """Names an operation by its function (``list_stacks`` is ``listStacks``), protects it, and tells what it may answer."""

    def add_api_operation(
        self, path: str, methods: list[str], view_func: Callable[..., Any], *, response: Any = NOT_SET, **more: Any
    ) -> None:
        """Add an operation. Where its answer is a file, ``response`` names its media type in the place of a schema.

        Raises KeyError where the table of rights does not know it.
        """
        name = view_func.__name__
        first, *rest = name.split("_")
        operation_id = first + "".join(word.capitalize() for word in rest)
        right = OPERATIONS[operation_id]
        answers = dict(response) if isinstance(response, dict) else {200: response}
        files = {status: kind for status, kind in answers.items() if isinstance(kind, str)}
        answers |= dict.fromkeys(files)
        if files:
            more["openapi_extra"] = {"responses": {status: file_of(kind) for status, kind in files.items()}}
        refusals: tuple[int, ...] = _ALWAYS if right is not None else (503,)
        given = list(inspect.signature(view_func).parameters.values())[1:]
        if any(one.annotation is not HttpResponse for one in given):
            refusals += _GIVEN
        if not {"GET", "HEAD"}.issuperset(methods):
            refusals += _WRITING
        answers = {**dict.fromkeys(refusals, Problem), **answers}
        more |= {"operation_id": operation_id, "auth": None if right is None else Allowed(right)}
        super().add_api_operation(path, methods, view_func, response=dict(sorted(answers.items())), **more)
