"""Server-sent events: a stack's count of changes whenever it rises, so that an open browser asks for what is new."""

from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from hollowstack.server.accounts.access import closed_to
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.events.broadcast import GONE, broadcaster
from hollowstack.server.stacks.models import Stack

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
    async with broadcaster.watching(stack_id) as watcher:
        while (change := await watcher.next(_ALIVE_SECONDS)) != GONE:
            yield b": still here\n\n" if change is None else f"data: {change}\n\n".encode()
