"""Operations of the API: each with an id that reads, and with the right that the one table asks for it."""

from collections.abc import Callable
from typing import Any

import ninja
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja.constants import NOT_SET

from hollowstack.server.accounts.access import Allowed
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.accounts.services import Who
from hollowstack.server.api.v1.problems import Problem

_ALWAYS = (401, 403, 503)
"""Whatever is asked for, nobody may be signed in, the right may be wanting, the database may be busy."""


class Request(HttpRequest):
    """A request that has come through the door: ``user`` is whoever was let in, never a stranger."""

    user: User
    who: Who


class Router(ninja.Router):
    """Names an operation by its function (``list_stacks`` is ``listStacks``) and protects it."""

    def add_api_operation(
        self, path: str, methods: list[str], view_func: Callable[..., Any], *, response: Any = NOT_SET, **more: Any
    ) -> None:
        """Add an operation. Raises KeyError where the table of rights does not know it."""
        name = view_func.__name__
        first, *rest = name.split("_")
        operation_id = first + "".join(word.capitalize() for word in rest)
        right = OPERATIONS[operation_id]
        answers = dict(response) if isinstance(response, dict) else {200: response}
        if right is not None:
            answers |= dict.fromkeys(_ALWAYS, Problem)
        more |= {"operation_id": operation_id, "auth": None if right is None else Allowed(right)}
        super().add_api_operation(path, methods, view_func, response=answers, **more)
