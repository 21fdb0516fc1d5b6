"""The shelf: what lies on top of a stack, and what in it waits for a person."""

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hollowstack.server.api.v1 import shelf
from hollowstack.server.capture.models import Run
from hollowstack.server.documents.models import Document
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from tests.server.conftest import walk

pytestmark = pytest.mark.django_db
SOFT = {"skew_confidence": 0.0}


def told(client, stack):
    return next(row for row in client.get("/api/v1/stacks").json() if row["id"] == stack.pk)


def test_the_first_pages_lie_on_top_as_they_stand(client, stack, pages):
    four = pages(4)
    walk(four[0])
    walk(four[1], until="measure")
    assert [(one["step"], one["px"]) for one in told(client, stack)["first"]] == [
        ("render", [1000, 1400]),
        ("measure", [1000, 1400]),
    ]


def test_a_page_aside_lies_there_as_it_was_captured(client, stack, pages):
    (page,) = pages(1)
    walk(page)
    Arranging(stack.pk, None, 10**6).aside([page.pk], True)
    assert [one["step"] for one in told(client, stack)["first"]] == ["measure"]


def test_nothing_waits_in_an_empty_stack(client, stack):
    row = told(client, stack)
    assert row["waits"] == {
        "review": 0, "about": False, "failed": 0, "held": 0, "expected": 0, "stopped": "", "backs": 0, "undelivered": 0, "lost": 0,
    }  # fmt: skip
    assert (row["by"], row["documents"], row["bytes"], row["first"]) == ("keeper", 0, 0, [])


def test_what_was_announced_and_has_not_come_is_counted(client, stack, user):
    files = {"files": [{"name": name, "bytes": 10, "modified_at": None} for name in ("a.jpg", "b.jpg")]}
    assert client.post(f"/api/v1/stacks/{stack.pk}/uploads", files, content_type="application/json").status_code == 201
    assert told(client, stack)["waits"]["expected"] == 2
    assert client.get("/api/v1/shelf").json()["waiting"] == 1


def test_a_page_that_is_held_up_and_one_that_failed_are_told_apart(client, stack, pages):
    first, second = pages(2)
    record([Outcome("expand", first.opened_id, None, "The file is damaged.", Result.Kind.PAGE)])
    record([Outcome("expand", second.opened_id, None, "The disk is full.", Result.Kind.ROOM)])
    waits = told(client, stack)["waits"]
    assert (waits["failed"], waits["held"]) == (1, 1)


def test_a_stopped_load_says_why(client, stack, user):
    Run.objects.create(stack=stack, by=user, settings={}, state=Run.State.STOPPED, problem="Sheet 7 is jammed.")
    assert told(client, stack)["waits"]["stopped"] == "Sheet 7 is jammed."
    Run.objects.update(state=Run.State.DONE)
    assert told(client, stack)["waits"]["stopped"] == ""


@pytest.mark.parametrize(("lines", "about"), [(6, False), (5, True)])
def test_of_a_tall_stack_as_many_to_look_at_as_every_nth_page_makes_likely(client, stack, pages, monkeypatch, lines, about):
    monkeypatch.setattr(shelf, "_EDGE_LINES", lines)
    for page in pages(6):
        walk(page, **SOFT)
    ready = Page.objects.filter(stack=stack, state="ready").count()
    waits = told(client, stack)["waits"]
    assert (waits["about"], ready) == (about, 6)
    assert waits["review"] == 6


def test_stacks_are_found_by_what_they_are_at_and_by_name(client, stack, pages, user):
    working = services.create_stack("Register of watches", user)
    bound = services.create_stack("Notices, bound", user)
    walk(pages(1)[0])
    batch = batches.open_batch(working.pk, user)
    batches.add_file(batch.pk, batches.Coming(0, "a.jpg", "f" * 64, 10))
    Document.objects.create(stack=bound, title="N", created_at=bound.created_at, key="k")
    at = {
        word: [row["id"] for row in client.get(f"/api/v1/stacks?at={word}").json()]
        for word in ("working", "unbound", "bound")
    }
    assert at == {"working": [working.pk], "unbound": [stack.pk], "bound": [bound.pk]}
    assert client.get("/api/v1/shelf").json() == {"everything": 3, "waiting": 0, "working": 1, "unbound": 1, "bound": 1}
    assert [row["id"] for row in client.get("/api/v1/stacks?named=REGISTER").json()] == [working.pk]
    assert client.get("/api/v1/stacks?at=elsewhere").status_code == 422


def test_a_long_shelf_is_told_in_a_fixed_number_of_queries(client, user):
    def queries() -> int:
        shelf._known.clear()
        with CaptureQueriesContext(connection) as asked:
            client.get("/api/v1/stacks")
        return len(asked)

    made = []
    for count in (2, 6):
        while Stack.objects.count() < count:
            services.create_stack(f"Box {Stack.objects.count()}", user)
        made.append(queries())
    assert made[0] == made[1]
