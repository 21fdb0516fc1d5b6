"""Faults have kinds: what lies in the page lasts, what lies in the machine is tried again, then a person is asked."""

import errno
import io
from datetime import timedelta
from itertools import product
from types import SimpleNamespace
from typing import Any

import pytest
from django.db import OperationalError
from django.utils import timezone

from hollowstack.core.page.errors import DecodeError, WorkerError, fault_of
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine import recording, remote, runner
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.runner import Engine
from hollowstack.server.engine.wanting import still_wanted, wanted
from hollowstack.server.intake import archives, batches
from hollowstack.server.results.faults import WAITS, what_next
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.standing import settle
from hollowstack.server.storage import places, room
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.spools import spooled
from tests.server.conftest import answer, walk

NOW = timezone.now()


@pytest.mark.parametrize(
    ("error", "kind"),
    [
        (MemoryError(), "memory"),
        (OSError(errno.ENOSPC, "No space left on device"), "room"),
        (OSError(errno.EDQUOT, "Quota exceeded"), "room"),
        (OSError(errno.EIO, "Input/output error"), "storage"),
        (FileNotFoundError(errno.ENOENT, "No such file or directory"), "storage"),
        (TimeoutError(errno.ETIMEDOUT, "Connection timed out"), "storage"),
        (OSError("cannot make sense of this image"), "program"),
        (ZeroDivisionError(), "program"),
    ],
)
def test_where_a_fault_lies_is_told_from_what_the_system_says(error, kind):
    assert fault_of(error).kind == kind


@pytest.mark.parametrize("kind", ["storage", "memory", "time", "lost"])
def test_a_fault_of_the_machine_is_tried_again_with_growing_waits_and_then_a_person_is_asked(kind):
    assert [what_next(kind, tries, NOW) for tries in (1, 2, 3)] == [("waiting", NOW + wait) for wait in WAITS]
    assert list(WAITS) == sorted(WAITS)
    assert what_next(kind, len(WAITS) + 1, NOW) == ("failed", None)


def test_want_of_room_never_ends_in_a_persons_hands():
    assert what_next("room", 100, NOW) == ("waiting", NOW + WAITS[-1])


@pytest.mark.parametrize("kind", ["page", "program"])
def test_what_lies_in_the_page_lasts(kind):
    assert what_next(kind, 1, NOW) == ("failed", None)


def fail(page: Page, kind: str = "memory", times: int = 1) -> Page:
    """A measured page cannot be corrected."""
    for _ in range(times):
        record([Outcome("render", page.rendered_id, None, "There was not enough memory.", kind)])
    return Page.objects.get(pk=page.pk)


def due(key: str) -> None:
    Result.objects.filter(key=key).update(next_try_at=timezone.now() - timedelta(seconds=1))


def keys() -> list[str]:
    return [task.key for task in wanted(20, frozenset())]


def row(client, page: Page) -> dict[str, Any]:
    (found,) = (row for row in answer(client.get(f"/api/v1/stacks/{page.stack_id}/pages"))["pages"] if row["id"] == page.pk)
    return dict(found)


def test_a_passing_fault_waits_is_told_and_is_tried_again(client, pages):
    page = fail(walk(pages(1)[0], until="measure"))
    told = row(client, page)
    assert (told["state"], told["error"], told["trouble"]["message"]) == ("correct", "", "There was not enough memory.")
    assert timezone.now().isoformat() < told["trouble"]["again_at"]
    assert keys() == []
    due(page.rendered_id)
    assert keys() == [page.rendered_id]
    page = walk(page)
    assert (row(client, page)["state"], row(client, page)["trouble"]) == ("ready", None)


def test_after_the_last_try_a_person_is_asked(client, pages):
    page = fail(walk(pages(1)[0], until="measure"), times=len(WAITS) + 1)
    due(page.rendered_id)
    assert keys() == []
    told = row(client, page)
    assert (told["state"], told["error"], told["trouble"]) == ("failed", "There was not enough memory.", None)


def test_faults_before_a_success_are_forgotten(pages):
    page = fail(walk(pages(1)[0], until="measure"), times=3)
    walk(page, until="render")
    made = Result.objects.get(key=page.rendered_id)
    assert (made.state, made.kind, made.error, made.next_try_at) == ("made", "", "", None)


@pytest.fixture
def same_file(user, stack, pages):
    """A page that failed for good, and the same file in another stack."""
    page = walk(pages(1)[0], until="measure")
    other = services.create_stack("Other", user)
    twin = batches.add_file(batches.open_batch(other.pk, user).pk, batches.Coming(0, "twin.jpg", page.source.master_id, 10))
    return fail(page, times=9), Page.objects.get(pk=twin.pk)


@pytest.mark.parametrize("address", ["/pages/{page}/retry", "/stacks/{stack}/retry", "/retry"])
def test_trying_again_by_hand(client, same_file, address):
    page, twin = same_file
    assert (page.state, Page.objects.get(pk=twin.pk).state) == ("failed", "failed")
    response = client.post("/api/v1" + address.format(page=page.pk, stack=page.stack_id))
    assert answer(response) == {"pages": 2 if address == "/retry" else 1, "documents": 0}
    assert keys() == [page.rendered_id]
    # Whoever looks at the other stack sees it too.
    assert row(client, page)["state"] == row(client, twin)["state"] == "correct"
    assert row(client, twin)["change"] > twin.change
    assert answer(client.post("/api/v1/retry"))["pages"] == 0


def test_trying_again_leaves_other_stacks_alone(client, user, pages):
    mine = fail(walk(pages(1)[0], until="measure"), times=9)
    other = services.create_stack("Other", user)
    client.post(f"/api/v1/stacks/{other.pk}/retry")
    assert Page.objects.get(pk=mine.pk).state == "failed"
    assert client.post("/api/v1/stacks/999/retry").status_code == 404
    assert client.post("/api/v1/pages/999/retry").status_code == 404


def test_a_document_is_tried_again(client, user, stack, pages):
    walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Box", user)
    record([Outcome("bind", document.key, None, "No.", "program")])
    assert keys() == []
    assert answer(client.post(f"/api/v1/stacks/{stack.pk}/retry")) == {"pages": 0, "documents": 1}
    assert keys() == [document.key]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))[0]["state"] == "binding"


def test_a_damaged_result_is_made_again_and_then_bound(user, stack, pages):
    first, _ = (walk(page) for page in pages(2))
    (document,) = ask_to_bind(stack.pk, "Box", user)
    record([Outcome("bind", document.key, None, "It is made again.", "storage", damaged=first.rendered_id)])
    due(document.key)
    assert Page.objects.get(pk=first.pk).state == "correct"
    assert keys() == [first.rendered_id]
    walk(first)
    assert keys() == [document.key]


def test_a_damaged_result_that_nobody_makes_again_ends_its_document(user, stack, pages, monkeypatch):
    page = walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Box", user)
    Page.objects.filter(pk=page.pk).update(removed=True)
    record([Outcome("bind", document.key, None, "It is made again.", "storage", damaged=page.rendered_id)])
    assert "bind the stack again" in Result.objects.get(key=document.key).error
    assert keys() == []


def test_without_room_nothing_is_begun_and_with_room_all_goes_on(pages, monkeypatch):
    page = walk(pages(1)[0], until="measure")
    free = SimpleNamespace(free=10**8)
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: free)
    engine = Engine(Cluster({page.rendered_id: remote.Answer(page.rendered_id, None, "No room.", "room")}))
    turn(engine, 2)
    assert engine._client.asked == [page.rendered_id]
    due(page.rendered_id)
    turn(engine, 2)
    assert engine._client.asked == [page.rendered_id]
    free.free = 10**10
    engine._client.answers = {}
    turn(engine, 2)
    assert engine._client.asked == [page.rendered_id] * 2


def test_an_answer_for_another_page_is_not_taken(pages):
    page = walk(pages(1)[0], until="measure")
    engine = Engine(Cluster({page.rendered_id: remote.Answer("another", {"size_px": [1, 1]})}))
    turn(engine, 2)
    noted = Result.objects.get(key=page.rendered_id)
    assert (noted.state, noted.body, noted.kind) == ("waiting", None, "lost")


@pytest.mark.django_db(transaction=True)
def test_what_the_database_cannot_take_is_written_later(pages, monkeypatch):
    page = walk(pages(1)[0], until="measure")
    monkeypatch.setattr(runner.Heart, "_beat", lambda _: None)
    engine = Engine(Cluster({page.rendered_id: remote.Answer(page.rendered_id, None, "Damaged.", "page")}))
    write, full = recording.record, [True, True]

    def once_full(outcomes: list[Outcome]) -> None:
        if full:
            full.pop()
            raise OperationalError("database or disk is full")
        engine.stopping = True
        write(outcomes)

    monkeypatch.setattr(runner.recording, "record", once_full)
    monkeypatch.setattr(Engine, "_sleep", lambda *_: None)
    engine.run()
    assert engine._client.asked == [page.rendered_id]
    assert Result.objects.get(key=page.rendered_id).error == "Damaged."


def test_what_nobody_wants_any_more_is_taken_back(pages):
    page = walk(pages(1)[0], until="measure")
    engine = Engine(Cluster({}))
    turn(engine, 1)
    assert still_wanted([page.rendered_id, page.measured_id, "f" * 64]) == {page.rendered_id, page.measured_id}
    Page.objects.update(removed=True)
    engine._news.expect()
    turn(engine, 1)
    assert engine._client.futures[page.rendered_id].cancelled


class Cluster:
    """Answers at once with what it was given; what it was given nothing for stays under way."""

    def __init__(self, answers: dict[str, remote.Answer]) -> None:
        self.answers, self.asked = answers, []
        self.futures: dict[str, Any] = {}

    def scheduler_info(self, n_workers: int) -> dict[str, Any]:
        return {"workers": {"one": {}}}

    def submit(self, work, step, wanted_key, arguments, seconds, **_):
        self.asked.append(wanted_key)
        self.futures[wanted_key] = Future(self.answers.get(wanted_key))
        return self.futures[wanted_key]


class Future:
    def __init__(self, found: remote.Answer | None) -> None:
        self.found, self.cancelled = found, False
        self.status = "finished" if found else "pending"

    def result(self) -> remote.Answer | None:
        return self.found

    def add_done_callback(self, then) -> None:
        if self.found:
            then(self)

    def cancel(self) -> None:
        self.cancelled = True


def turn(engine: Engine, times: int) -> None:
    """Some rounds of the engine's, each as if long after the one before."""
    for _ in range(times):
        engine._looked_at = float("-inf")
        engine._news.expect()
        engine._turn()


# Masters


@pytest.fixture
def master(db) -> str:
    with spooled(io.BytesIO(b"\x89PNG and so on")) as spool:
        return keep_master(spool).sha256


@pytest.mark.parametrize("step", ["expand", "measure", "render", "read"])
def test_nothing_is_made_of_a_damaged_master(master, monkeypatch, step):
    monkeypatch.setattr(remote, "_worker", SimpleNamespace(run=lambda *_: {"made": True}))
    path = places.master_path(master)
    assert remote.work(step, "key", (str(path),), 5.0) == remote.Answer("key", {"made": True})
    path.chmod(0o644)
    path.write_bytes(b"\x89PNG and so")
    said = remote.work(step, "key", (str(path),), 5.0)
    assert (said.body, said.kind, "add the same file again" in said.error) == (None, "storage", True)
    path.unlink()
    assert remote.work(step, "key", (str(path),), 5.0).kind == "storage"


def test_a_healed_master_is_worked_on_at_once(stack, pages):
    data = b"\xff\xd8\xff and so on"
    with spooled(io.BytesIO(data)) as spool:
        sha256, size, _ = archives.keep(spool)
    page = batches.add_file(batches.open_batch(stack.pk, None).pk, batches.Coming(0, "a.jpg", sha256, size))
    record([Outcome("expand", page.opened_id, None, "Damaged on the disk.", "storage")] * 9)
    assert Page.objects.get(pk=page.pk).state == "failed"
    path = places.master_path(sha256)
    path.chmod(0o644)
    path.write_bytes(data[:5])
    with spooled(io.BytesIO(data)) as spool:
        assert archives.keep(spool).written
    assert Page.objects.get(pk=page.pk).state == "open"
    assert keys() == [page.opened_id]


@pytest.mark.parametrize(
    ("error", "kind"),
    [
        (DecodeError("It is a fish."), "page"),
        (WorkerError("Too slow.", "time"), "time"),
        (OSError(errno.EIO, "x"), "storage"),
    ],
)
def test_an_answer_says_where_the_fault_lies(monkeypatch, error, kind):
    def run(*_: object) -> None:
        raise error

    monkeypatch.setattr(remote, "_worker", SimpleNamespace(run=run))
    assert remote.work("bind", "key", (), 5.0).kind == kind


# Where a page stands


STANDING = [None, "made", "waiting", "failed"]


def stands(opened, measured, rendered, read, *, named: bool, to_plan: bool, aside: bool) -> tuple[str, int]:
    """The same as ``standing.settle``, told once more and otherwise."""
    over = [result in ("made", "failed") for result in (opened, measured, rendered, read)]
    passed = 0
    for step, here in enumerate(over):
        if not here or (step == 0 and not named) or (step == 2 and to_plan):
            break
        passed += 1
    if opened == "failed" or (opened == "made" and named and measured == "failed"):
        return "failed", passed
    if opened != "made" or not named:
        return "open", passed
    if measured != "made":
        return "measure", passed
    if to_plan:
        return "correct", passed
    if "failed" in (rendered, read):
        return "failed", passed
    if rendered != "made":
        return "correct", passed
    if aside:
        return "aside", passed
    return ("ready" if read == "made" else "read"), passed


def test_where_a_page_stands_in_every_combination_of_what_may_be_there(stack, pages):
    source = pages(1)[0].source
    names = ("opened_id", "measured_id", "rendered_id", "reading_id")
    made, expected = [], []
    for number, (named, to_plan, aside, *found) in enumerate(product(*[[True, False]] * 3, *[STANDING] * 4)):
        keys = {name: f"{number:063x}{place}" for place, name in enumerate(names)}
        Result.objects.bulk_create(
            Result(key=key, step="", state=state) for key, state in zip(keys.values(), found, strict=True) if state
        )
        if not named:
            keys["measured_id"], found[1] = None, None
        about = {"to_plan": to_plan, "aside": "blank" if aside else ""}
        made.append(Page(stack=stack, source=source, frame=number + 1, position=number, **keys, **about))
        expected.append(stands(*found, named=named, to_plan=to_plan, aside=aside))
    Page.objects.bulk_create(made)
    there = Page.objects.filter(frame__gt=0)
    settle(there)
    assert list(there.order_by("frame").values_list("state", "passed")) == expected
