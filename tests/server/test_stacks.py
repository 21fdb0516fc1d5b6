"""The rules of stacks and pages, and how the API tells them."""

import io

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hollowstack.server import store
from hollowstack.server.engine.recording import record
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Master, Page
from hollowstack.server.stacks.overview import counts_of, state_of, with_results
from tests.server.conftest import answer, sha, walk

LONGEST = "Letters received at Skerry Light " * 6


def state(page: Page) -> str:
    return state_of(with_results(Page.objects.filter(pk=page.pk)).get())


def put(client, stack, data: bytes, **words):
    query = "&".join(f"{k}={v}" for k, v in words.items())
    return client.put(f"/api/stacks/{stack.pk}/files?{query}", data, content_type="application/octet-stream")


@pytest.mark.parametrize(("name", "status"), [("Box 27", 201), ("  ", 422), ("x" * 201, 422), (LONGEST, 201)])
def test_names(client, name, status):
    response = client.post("/api/stacks", {"name": name}, content_type="application/json")
    assert response.status_code == status
    if status == 422:
        assert answer(response)["message"].endswith(".")


def test_a_page_walks_through_its_steps(stack, pages):
    (page,) = pages(1)
    seen = [state(page)]
    for step in ("expand", "measure", "render", "read"):
        page = walk(page, until=step)
        seen.append(state(page))
    assert seen == ["open", "measure", "correct", "read", "ready"]
    assert counts_of(stack.pk).ready == 1


def test_a_blank_page_goes_aside_and_is_not_read(stack, pages):
    page = walk(pages(1)[0], ink_percent=0.0, marks=0)
    assert (state(page), page.aside, page.reading_id) == ("aside", "blank", None)


def test_a_file_of_many_pages_expands_in_place(client, stack, pages):
    pages(3)
    middle = Page.objects.get(position=services.FRAMES_A_FILE)
    before = answer(client.get(f"/api/stacks/{stack.pk}/pages"))["change"]
    record([("expand", middle.opened_id, {"frames": 4}, "")])
    rows = answer(client.get(f"/api/stacks/{stack.pk}/pages"))["pages"]
    assert [(row["number"], row["source"], row["frame"]) for row in rows] == [
        (1, "page 0.jpg", 0), (2, "page 1.jpg", 0), (3, "page 1.jpg", 1), (4, "page 1.jpg", 2), (5, "page 1.jpg", 3), (6, "page 2.jpg", 0),
    ]  # fmt: skip
    news = answer(client.get(f"/api/stacks/{stack.pk}/pages?since={before}"))["pages"]
    assert [row["number"] for row in news] == [2, 3, 4, 5, 6]  # those behind bear new numbers


def test_only_what_changed_is_told(client, stack, pages):
    made = pages(5)
    before = answer(client.get(f"/api/stacks/{stack.pk}/pages"))["change"]
    walk(made[2], until="expand")
    news = answer(client.get(f"/api/stacks/{stack.pk}/pages?since={before}"))
    assert [row["id"] for row in news["pages"]] == [made[2].pk]
    assert answer(client.get(f"/api/stacks/{stack.pk}/pages?since={news['change']}"))["pages"] == []


def test_a_failure_is_one_sentence_on_its_page(client, stack, pages):
    page = walk(pages(1)[0], until="expand")
    record([("measure", page.measured_id, None, "The image is incomplete.")])
    row = answer(client.get(f"/api/stacks/{stack.pk}/pages"))["pages"][0]
    assert (row["state"], row["verdict"], row["error"]) == ("failed", "fail", "The image is incomplete.")


def test_putting_back_and_holding_aside(client, stack, pages):
    page = walk(pages(1)[0], ink_percent=0.0, marks=0)

    def put_aside(aside, seen):
        return client.put(f"/api/pages/{page.pk}/aside", {"aside": aside, "seen": seen}, content_type="application/json")

    back = answer(put_aside(False, 1))
    assert (back["row"]["state"], back["row"]["aside"], back["row"]["revision"]) == ("read", "", 2)
    clean = back["row"]["clean"]
    held = answer(put_aside(True, 2))
    assert (held["row"]["state"], held["row"]["aside"]) == ("aside", "by hand")
    assert held["row"]["clean"] == clean  # nothing was made anew
    assert answer(put_aside(None, 3))["row"]["aside"] == "blank"


def test_two_people_do_not_overwrite_each_other(client, pages):
    page = walk(pages(1)[0])
    ours = client.put(f"/api/pages/{page.pk}/aside", {"aside": True, "seen": 1}, content_type="application/json")
    theirs = client.put(f"/api/pages/{page.pk}/aside", {"aside": False, "seen": 1}, content_type="application/json")
    assert (ours.status_code, theirs.status_code) == (200, 409)
    assert "Somebody else" in answer(theirs)["message"]
    assert Page.objects.get(pk=page.pk).aside == "by hand"


def test_a_page_that_is_not_measured_cannot_be_held_aside(client, pages):
    response = client.put(f"/api/pages/{pages(1)[0].pk}/aside", {"aside": True, "seen": 1}, content_type="application/json")
    assert response.status_code == 422


def test_uploads_are_stored_once(client, stack):
    for position in (0, 1):
        assert put(client, stack, b"the same bytes", name="a.jpg", position=position).status_code == 201
    master = Master.objects.get()
    assert store.master_path(master.sha256).read_bytes() == b"the same bytes"
    assert Page.objects.count() == 2


def test_sending_again_changes_nothing(client, stack):
    first = answer(put(client, stack, b"bytes", name="a.jpg", position=0))
    again = answer(put(client, stack, b"bytes", name="a.jpg", position=0))
    assert first["row"]["id"] == again["row"]["id"]
    other = put(client, stack, b"other", name="b.jpg", position=0)
    assert other.status_code == 422
    assert "a.jpg" in answer(other)["message"]


@pytest.mark.parametrize(
    "name", ["../../etc/passwd", "/etc/passwd", "..%2F..%2Fup.jpg", "a%00b.jpg", "con.jpg", "%F0%9F%90%9F" * 80]
)
def test_names_from_outside_never_become_paths(client, stack, name):
    response = put(client, stack, b"some bytes", name=name)
    assert response.status_code == 201
    stored = store.master_path(Master.objects.get().sha256)
    assert stored.is_file()
    assert stored.parent.parent.name == "masters"


def test_an_empty_file_is_refused(client, stack):
    response = put(client, stack, b"", name="a.jpg")
    assert response.status_code == 422
    assert "empty" in answer(response)["message"]
    assert Page.objects.count() == 0


def test_a_stream_that_breaks_leaves_nothing(settings, stack):
    class Broken(io.BytesIO):
        def read(self, *_):
            raise OSError("connection lost")

    with pytest.raises(OSError, match="lost"):
        store.keep_master(Broken())
    assert list((settings.DATA / "uploads").glob("master-*")) == []


@pytest.mark.parametrize("digest", ["../up", "A" * 64, "a" * 63, ""])
def test_only_digests_become_paths(digest):
    with pytest.raises(ValueError, match="not a SHA-256"):
        store.master_path(digest)


@pytest.mark.parametrize("address", ["/api/stacks/99", "/api/stacks/99/pages", "/api/pages/99", "/api/documents/99/file"])
def test_what_is_not_there_is_said(client, address):
    response = client.get(address)
    assert response.status_code == 404
    assert answer(response)["message"].endswith(".")


def test_same_bytes_in_two_stacks_are_worked_on_once(user, stack, pages):
    walk(pages(1)[0])
    other = services.create_stack("Another", user)
    page = services.add_file(other.pk, "again.jpg", 0, sha(1), 1000)
    assert state(page) == "ready"


def test_a_long_stack_is_listed_in_a_fixed_number_of_queries(client, stack, pages):
    counts = []
    for _ in range(2):
        for page in pages(12):
            walk(page)
        with CaptureQueriesContext(
            connection,
        ) as queries:
            client.get(f"/api/stacks/{stack.pk}/pages")
        counts.append(len(queries))
    assert counts[0] == counts[1]
