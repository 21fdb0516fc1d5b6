"""Middleware that looks at answers on their way out, whether the application around it is synchronous or not."""

from collections.abc import Awaitable, Callable
from typing import Any

from asgiref.sync import iscoroutinefunction
from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

Change = Callable[[HttpRequest, HttpResponseBase], HttpResponseBase]


def on_the_way_out(change: Change) -> Callable[[Callable[[HttpRequest], Any]], Callable[[HttpRequest], Any]]:
    """Middleware that answers with what ``change`` makes of an answer."""

    @sync_and_async_middleware
    def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
        if iscoroutinefunction(get_response):

            async def later(request: HttpRequest) -> HttpResponseBase:
                answer: Awaitable[HttpResponseBase] = get_response(request)
                return change(request, await answer)

            return later

        def at_once(request: HttpRequest) -> HttpResponseBase:
            return change(request, get_response(request))

        return at_once

    return middleware
