"""The shelf: what lies on top of a stack, and what in it waits for a person."""

import re
from datetime import timedelta

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from hollowstack.server.accounts import services as accounts
from hollowstack.server.accounts.models import Entry
from hollowstack.server.accounts.rights import Role
from hollowstack.server.api.v1 import shelf
from hollowstack.server.capture.models import Run
from hollowstack.server.dispatch.models import Delivery
from hollowstack.server.documents.models import Document
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.shelf import keeping
from hollowstack.server.stacks import services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Change, Page, Stack, Upload
from hollowstack.server.stacks.viewing import look_at
from tests.server.conftest import signed_in, walk
from tests.server.dispatching import allowed, destination, document, sent
from tests.server.receivers import receivers

__all__ = ["allowed", "receivers"]

pytestmark = pytest.mark.django_db
SOFT = {"skew_confidence": 0.0}


def told(client, stack):
    return next(row for row in client.get("/api/v1/stacks").json()["stacks"] if row["id"] == stack.pk)


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
    assert client.get("/api/v1/shelf").json()["at"]["waiting"] == 1


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


def shown(client, **asked):
    return [row["id"] for row in client.get("/api/v1/stacks", asked).json()["stacks"]]


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
    judged = services.create_stack("Findings", user)
    batches.add_file(batches.open_batch(judged.pk, user).pk, batches.Coming(0, "b.jpg", "e" * 64, 10))
    Page.objects.update(open_findings=0)
    Page.objects.filter(stack=judged).update(open_findings=2)
    at = {word: shown(client, at=word) for word in ("working", "unbound", "bound", "inspect", "undelivered", "signed")}
    assert at == {
        "working": [judged.pk, working.pk], "unbound": [stack.pk], "bound": [bound.pk], "inspect": [judged.pk],
        "undelivered": [], "signed": [],
    }  # fmt: skip
    assert client.get("/api/v1/shelf").json()["at"] == {
        "everything": 4, "waiting": 0, "inspect": 1, "working": 2, "unbound": 1, "undelivered": 0, "bound": 1, "signed": 0,
        "closed": 0,
    }  # fmt: skip
    assert shown(client, named="REGISTER") == [working.pk]
    assert client.get("/api/v1/stacks?at=elsewhere").status_code == 422


def test_findings_of_what_is_signed_or_captured_again_wait_for_nobody(client, stack, pages):
    (page,) = pages(1)
    Page.objects.filter(pk=page.pk).update(open_findings=1)
    assert shown(client, at="inspect") == [stack.pk]
    Page.objects.filter(pk=page.pk).update(rescan="asked")
    assert shown(client, at="inspect") == []
    Page.objects.filter(pk=page.pk).update(rescan="")
    Stack.objects.filter(pk=stack.pk).update(signed_at=timezone.now())
    assert (shown(client, at="inspect"), shown(client, at="signed")) == ([], [stack.pk])


@pytest.mark.parametrize(
    ("state", "missing", "waits"), [("stuck", "", True), ("arrived", "gone", True), ("arrived", "", False)]
)
def test_deliveries_to_decide_on_are_found(client, stack, receivers, state, missing, waits):
    made = document(stack)
    sent([made], [destination(receivers, "folder")])
    Delivery.objects.update(state=state, missing=missing)
    assert shown(client, at="undelivered") == [stack.pk] * waits


class TestOrder:
    """Three stacks, begun one after another."""

    @pytest.fixture
    def three(self, user):
        made = [services.create_stack(name, user).pk for name in ("Box 10", "box 9", "Album")]
        for at, pk in enumerate(made):
            Stack.objects.filter(pk=pk).update(created_at=timezone.now() - timedelta(days=3 - at))
        return made

    def test_what_you_opened_last_lies_first_then_the_newest(self, client, three, user):
        ten, nine, album = three
        assert shown(client) == [album, nine, ten]
        look_at(user, ten, None)
        assert shown(client) == [ten, album, nine]
        look_at(User.objects.create_user("somebody else"), nine, None)
        assert shown(client) == [ten, album, nine]

    def test_what_was_last_worked_on(self, client, three, user):
        ten, nine, album = three
        Change.objects.create(stack_id=nine, what="Turned")
        assert shown(client, sort="touched") == [nine, album, ten]

    def test_by_name_with_figures_as_numbers(self, client, three):
        ten, nine, album = three
        assert shown(client, sort="name") == [album, nine, ten]
        assert shown(client, sort="begun") == [album, nine, ten]

    def test_the_most_pages(self, client, three, stack, pages):
        gone, *_ = pages(3)
        assert shown(client, sort="pages")[0] == stack.pk
        Page.objects.filter(pk=gone.pk).update(removed=True)
        Page.objects.filter(stack=stack).exclude(pk=gone.pk).update(stack_id=three[0])
        assert shown(client, sort="pages")[0] == three[0]

    def test_some_of_them_at_a_time(self, client, three):
        whole = shown(client)
        some = client.get("/api/v1/stacks", {"start": 1, "limit": 1}).json()
        assert ([row["id"] for row in some["stacks"]], some["count"]) == (whole[1:2], 3)
        assert client.get("/api/v1/stacks", {"start": 3}).json()["stacks"] == []
        for wrong in ({"start": -1}, {"limit": 0}, {"limit": 201}):
            assert client.get("/api/v1/stacks", wrong).status_code == 422

    def test_by_whoever_began_it_and_since_when(self, client, three, user):
        _, nine, album = three
        other = User.objects.create_user("other")
        Stack.objects.filter(pk=nine).update(created_by=other)
        assert shown(client, by="other") == [nine]
        assert client.get("/api/v1/shelf").json()["people"] == sorted(["keeper", "other"])
        day = timezone.localtime() - timedelta(days=2)
        assert shown(client, since=day.date().isoformat()) == [album, nine]
        assert shown(client, since=(day + timedelta(days=1)).date().isoformat()) == [album]


def test_views_are_kept_by_whoever_kept_them(client):
    keep = {"name": "  My  boxes ", "asked": "at=bound&sort=name"}
    assert client.post("/api/v1/shelf/views", keep, content_type="application/json").status_code == 201
    (view,) = client.get("/api/v1/shelf/views").json()
    assert (view["name"], view["asked"]) == ("My boxes", "at=bound&sort=name")
    client.post("/api/v1/shelf/views", {"name": "My boxes", "asked": ""}, content_type="application/json")
    (again,) = client.get("/api/v1/shelf/views").json()
    assert (again["id"], again["asked"]) == (view["id"], "")
    accounts.add_person("reader", "a lamp on the rock", Role.READER)
    other = signed_in("reader", "a lamp on the rock")
    assert other.get("/api/v1/shelf/views").json() == []
    assert other.delete(f"/api/v1/shelf/views/{view['id']}").status_code == 404
    assert client.delete(f"/api/v1/shelf/views/{view['id']}").status_code == 204
    assert client.get("/api/v1/shelf/views").json() == []


def test_so_many_views_are_kept_and_no_more(user):
    for at in range(keeping.MOST):
        keeping.keep(user, f"View {at}", "")
    keeping.keep(user, "View 0", "at=bound")
    with pytest.raises(Refused, match="the most"):
        keeping.keep(user, "one more", "")
    with pytest.raises(Refused, match="needs a name"):
        keeping.keep(user, "  ", "")


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


class TestClosing:
    """Stacks are put away when they are done with."""

    def close(self, client, *stacks, closed=True):
        return client.post("/api/v1/closings", {"stacks": [one.pk for one in stacks], "closed": closed}, "application/json")

    def test_a_closed_stack_takes_no_changes_until_it_is_opened_again(self, client, stack, pages, user):
        walk(pages(1)[0])
        other = services.create_stack("Other", user)
        assert self.close(client, stack, other).json() == {"changed": 2}
        assert told(client, stack)["closed"]["by"] == "keeper"
        assert self.close(client, stack).json() == {"changed": 0}
        renamed = client.patch(f"/api/v1/stacks/{stack.pk}", {"name": "New"}, content_type="application/json")
        assert re.fullmatch(r"keeper closed this stack on \d+ \w+ \d{4}: reopen it first\.", renamed.json()["detail"])
        assert client.post(f"/api/v1/stacks/{stack.pk}/batches", {}, content_type="application/json").status_code == 422
        assert client.delete(f"/api/v1/stacks/{stack.pk}").status_code == 422
        assert self.close(client, stack, closed=False).json() == {"changed": 1}
        assert told(client, stack)["closed"] is None
        assert (
            client.patch(f"/api/v1/stacks/{stack.pk}", {"name": "New"}, content_type="application/json").status_code == 200
        )
        assert list(Entry.objects.filter(what__startswith="stack").values_list("what", "about")) == [
            ("stack closed", "Box 27"), ("stack closed", "Other"), ("stack opened", "Box 27"),
        ]  # fmt: skip

    def test_closed_stacks_wait_for_nobody_and_are_found_as_closed(self, client, stack, pages, user):
        walk(pages(1)[0])
        failed = services.create_stack("Failed", user)
        batches.add_file(batches.open_batch(failed.pk, user).pk, batches.Coming(0, "b.jpg", "e" * 64, 10))
        Page.objects.filter(stack=failed).update(state="failed")
        Page.objects.update(open_findings=1)
        assert (shown(client, at="unbound"), shown(client, at="waiting")) == ([stack.pk], [failed.pk])
        self.close(client, stack, failed)
        assert [shown(client, at=at) for at in ("unbound", "waiting", "inspect", "signed")] == [[], [], [], []]
        assert shown(client, at="closed") == [failed.pk, stack.pk]
        assert client.get("/api/v1/shelf").json()["at"]["closed"] == 2

    def test_what_is_signed_for_is_closed_and_opened_with_a_reason_alone(self, client, stack, user):
        other = services.create_stack("Other", user)
        self.close(client, other)
        Stack.objects.filter(pk=stack.pk).update(signed_at=timezone.now(), signed_by="keeper")
        assert shown(client, at="closed") == [other.pk, stack.pk]
        refused = self.close(client, stack, other, closed=False)
        assert refused.json()["detail"].startswith("keeper signed for “Box 27”, so nothing was reopened")
        assert told(client, other)["closed"]

    @pytest.mark.parametrize("way", ["page", "upload", "run"])
    def test_what_is_being_worked_on_is_not_closed(self, client, stack, pages, user, way):
        other = services.create_stack("Other", user)
        (page,) = pages(1)
        if way == "page":
            assert page.state == "open"
        else:
            walk(page)
            batch = batches.open_batch(stack.pk, user)
            if way == "upload":
                Upload.objects.create(batch=batch, index=0, name="a.jpg", bytes=1)
            else:
                Run.objects.create(stack=stack, batch=batch, settings={}, state=Run.State.STOPPED)
        refused = self.close(client, other, stack)
        assert (refused.status_code, told(client, other)["closed"]) == (422, None)
        assert refused.json()["detail"].startswith("“Box 27” is still being worked on, so nothing was closed")

    def test_where_one_is_gone_nothing_is_closed(self, client, stack):
        gone = client.post("/api/v1/closings", {"stacks": [stack.pk, 999], "closed": True}, "application/json")
        assert gone.json()["detail"].startswith("1 of the stacks is no longer on the shelf, so nothing was closed")
        assert told(client, stack)["closed"] is None
