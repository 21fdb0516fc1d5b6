"""Server-sent events: a stack's count of changes whenever it rises, so that an open browser asks for what is new."""

import asyncio
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from hollowstack.server.accounts.access import closed_to
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.stacks.models import Stack

_LOOK_SECONDS = 0.35
_ALIVE_SECONDS = 15.0


async def stack_events(request: HttpRequest, stack_id: int) -> HttpResponseBase:
    """``data: <count>`` for every change; a comment now and then keeps the line open."""
    if (closed := await sync_to_async(closed_to)(request, OPERATIONS["watchStack"])) is not None:
        return closed
    if not await Stack.objects.filter(pk=stack_id).aexists():
        return HttpResponse(status=404)
    response = StreamingHttpResponse(_changes(stack_id), content_type="text/event-stream")
    response.headers["Cache-Control"] = "no-store"
    return response


async def _changes(stack_id: int) -> AsyncIterator[bytes]:
    told, silent = -1, 0.0
    while True:
        change = await Stack.objects.filter(pk=stack_id).values_list("change", flat=True).afirst()
        if change is None:
            return
        if change != told:
            told, silent = change, 0.0
            yield f"data: {change}\n\n".encode()
        elif silent >= _ALIVE_SECONDS:
            silent = 0.0
            yield b": still here\n\n"
        await asyncio.sleep(_LOOK_SECONDS)
        silent += _LOOK_SECONDS
