"""Changes told to everybody who watches: by one thread, which ends with the last of them."""

import asyncio
import threading
import time

import pytest
from django.db import connection
from django.test import AsyncClient

from hollowstack.server.events.broadcast import GONE, Broadcaster
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.services import create_stack, next_change
from hollowstack.server.storage.news import News

pytestmark = pytest.mark.django_db(transaction=True)


def looking() -> int:
    return sum(thread.name == "broadcast" for thread in threading.enumerate())


def elsewhere(what) -> None:
    """Written over another connection, as by another process."""

    def write() -> None:
        what()
        connection.close()

    thread = threading.Thread(target=write)
    thread.start()
    thread.join()


def test_everybody_is_told_of_their_stack_by_one_thread():
    first, second = create_stack("First", None), create_stack("Second", None)

    async def watch() -> None:
        broadcaster = Broadcaster()
        async with (
            broadcaster.watching(first.pk) as one,
            broadcaster.watching(first.pk) as two,
            broadcaster.watching(second.pk) as other,
        ):
            assert [await watcher.next(5) for watcher in (one, two, other)] == [0, 0, 0]
            await asyncio.to_thread(elsewhere, lambda: next_change(first.pk))
            assert [await watcher.next(5) for watcher in (one, two)] == [1, 1]
            assert await other.next(0.8) is None
            for _ in range(2):  # whoever is slow is told the latest
                await asyncio.to_thread(elsewhere, lambda: next_change(second.pk))
            await asyncio.sleep(1)
            assert await other.next(5) == 2
            assert looking() == 1
            await asyncio.to_thread(elsewhere, lambda: Stack.objects.filter(pk=first.pk).delete())
            assert await one.next(5) == GONE
        until = time.monotonic() + 5
        while looking() and time.monotonic() < until:
            await asyncio.sleep(0.05)
        assert looking() == 0
        async with broadcaster.watching(second.pk) as again:  # and begins anew
            assert await again.next(5) == 2

    asyncio.run(watch())


def test_a_browser_is_told(client, stack):
    visitor = AsyncClient()
    visitor.cookies = client.cookies

    async def listen() -> list[bytes]:
        response = await visitor.get(f"/api/v1/stacks/{stack.pk}/events")
        assert response.headers["Content-Type"] == "text/event-stream"
        lines = aiter(response.streaming_content)
        found = [await anext(lines)]
        await asyncio.to_thread(elsewhere, lambda: next_change(stack.pk))
        found.append(await anext(lines))
        await lines.aclose()
        return found

    assert asyncio.run(listen()) == [b"data: 0\n\n", b"data: 1\n\n"]


def test_news_is_what_others_wrote_and_what_is_due(stack, monkeypatch):
    now = [100.0]
    monkeypatch.setattr("hollowstack.server.storage.news.time.monotonic", lambda: now[0])
    news = News(10)
    assert [news.is_there(), news.is_there()] == [True, False]
    next_change(stack.pk)
    assert not news.is_there()
    elsewhere(lambda: next_change(stack.pk))
    assert [news.is_there(), news.is_there()] == [True, False]
    news.expect()
    assert [news.expected, news.is_there(), news.expected, news.is_there()] == [True, True, False, False]
    now[0] += 9.9
    assert not news.is_there()
    now[0] += 0.1
    assert news.is_there()
