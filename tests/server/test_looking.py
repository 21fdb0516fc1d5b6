"""Requests that look never write, whoever else does; and what they are told when the database is busy."""

import json
import re
import sqlite3
from pathlib import Path

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.stacks.models import Stack
from tests.server.conftest import answer, walk

SCHEMA = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text(encoding="utf-8"))
LOOKS = [path for path, methods in SCHEMA["paths"].items() if "get" in methods]
WRITES = re.compile(r"^(INSERT|UPDATE|DELETE|REPLACE|BEGIN IMMEDIATE|SAVEPOINT)", re.IGNORECASE)


@pytest.mark.parametrize("path", LOOKS)
def test_looking_writes_nothing(client, user, stack, pages, path):
    page = walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Box", user)
    named = {"stack_id": stack.pk, "page_id": page.pk, "document_id": document.pk, "nonce": "a" * 16}
    address = re.sub(r"\{(\w+)\}", lambda found: str(named.get(found[1], 1)), path)
    client.get("/api/v1/stacks")  # the session is read, and kept in memory
    with CaptureQueriesContext(
        connection,
    ) as asked:
        response = client.get(address, {"name": "everyday"} if path.endswith("/settings") else {})
        if not path.endswith("/events"):  # those have no end
            b"".join(response.streaming_content) if response.streaming else response.content
    assert response.status_code in {200, 404, 422}
    assert [query["sql"] for query in asked if WRITES.match(query["sql"])] == []


@pytest.mark.django_db(transaction=True)
def test_a_writer_that_takes_long_keeps_nobody_from_looking(client, stack, pages, settings):
    page = pages(1)[0]
    client.get("/api/v1/stacks")
    other = sqlite3.connect(connection.settings_dict["NAME"], isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    other.execute("UPDATE stacks_stack SET name = 'held'")
    try:
        for address in (f"/stacks/{stack.pk}", f"/stacks/{stack.pk}/pages", f"/pages/{page.pk}", "/stacks"):
            looked = client.get("/api/v1" + address)
            assert looked.status_code == 200, looked.content
        # Whoever writes meanwhile is told in a sentence, and nothing is half done.
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA busy_timeout = 50")
        told = client.post("/api/v1/stacks", {"name": "A"}, content_type="application/json")
        assert (told.status_code, answer(told)["code"], told.headers["Retry-After"]) == (503, "busy", "1")
    finally:
        other.execute("ROLLBACK")
        other.close()
    assert Stack.objects.count() == 1
    assert client.post("/api/v1/stacks", {"name": "A"}, content_type="application/json").status_code == 201
