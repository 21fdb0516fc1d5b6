"""The rules of stacks and pages, and how the API tells them."""

import io
import zipfile

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hollowstack.server.api.v1 import views
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.intake import batches
from hollowstack.server.stacks import history, services
from hollowstack.server.stacks.models import Master, Page
from hollowstack.server.stacks.overview import counts_of, state_of, with_results
from hollowstack.server.storage import places
from hollowstack.server.storage.spools import spooled
from tests.server.conftest import answer, sha, walk

LONGEST = "Letters received at Skerry Light " * 6


def state(page: Page) -> str:
    return state_of(with_results(Page.objects.filter(pk=page.pk)).get())


def put(client, batch, data: bytes, name: str = "a.jpg", index: int = 0, again: str = "false"):
    address = f"/api/v1/batches/{batch}/files/{index}?name={name}&again={again}"
    return client.put(address, data, content_type="application/octet-stream")


@pytest.fixture
def batch(client, stack) -> int:
    return answer(client.post(f"/api/v1/stacks/{stack.pk}/batches", {}, content_type="application/json"))["id"]


@pytest.mark.parametrize(("name", "status"), [("Box 27", 201), ("  ", 422), ("x" * 201, 422), (LONGEST, 201)])
def test_names(client, name, status):
    response = client.post("/api/v1/stacks", {"name": name}, content_type="application/json")
    assert response.status_code == status
    if status == 422:
        assert answer(response)["detail"].endswith(".")


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
    middle = pages(3)[1]
    before = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))
    record([Outcome("expand", middle.opened_id, {"frames": 4})])
    now = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))
    rows = {row["id"]: row for row in now["pages"]}
    assert [(rows[pk]["source"], rows[pk]["frame"]) for pk in now["order"]] == [
        ("page 0.jpg", 0), ("page 1.jpg", 0), ("page 1.jpg", 1), ("page 1.jpg", 2), ("page 1.jpg", 3), ("page 2.jpg", 0),
    ]  # fmt: skip
    news = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages?since={before['change']}"))
    assert news["order"] == now["order"]
    assert {row["source"] for row in news["pages"]} == {"page 1.jpg"}


def test_only_what_changed_is_told(client, stack, pages):
    made = pages(5)
    before = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["change"]
    walk(made[2], until="expand")
    news = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages?since={before}"))
    assert [row["id"] for row in news["pages"]] == [made[2].pk]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/pages?since={news['change']}"))["pages"] == []


def test_a_failure_is_one_sentence_on_its_page(client, stack, pages):
    page = walk(pages(1)[0], until="expand")
    record([Outcome("measure", page.measured_id, None, "The image is incomplete.", "page")])
    row = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["pages"][0]
    assert (row["state"], row["verdict"], row["error"]) == ("failed", "fail", "The image is incomplete.")


def test_uploads_are_stored_once(client, batch):
    for index in (0, 1):
        assert put(client, batch, b"\xff\xd8\xff the same bytes", index=index, again="true").status_code == 201
    master = Master.objects.get()
    assert places.master_path(master.sha256).read_bytes() == b"\xff\xd8\xff the same bytes"
    assert Page.objects.count() == 2


def test_sending_again_changes_nothing(client, batch):
    first = answer(put(client, batch, b"\xff\xd8\xff bytes"))
    again = answer(put(client, batch, b"\xff\xd8\xff bytes"))
    assert first["pages"] == again["pages"]
    other = put(client, batch, b"\xff\xd8\xff other", name="b.jpg")
    assert other.status_code == 422
    assert "a.jpg" in answer(other)["detail"]


def test_the_same_file_at_another_place_is_asked_about(client, stack, batch):
    assert put(client, batch, b"\xff\xd8\xff bytes", name="first.jpg").status_code == 201
    twice = put(client, batch, b"\xff\xd8\xff bytes", name="second.jpg", index=1)
    assert twice.status_code == 409
    assert "as “first.jpg”" in answer(twice)["detail"]
    assert stack.pages.count() == 1
    assert put(client, batch, b"\xff\xd8\xff bytes", name="second.jpg", index=1, again="true").status_code == 201
    history.undo(stack.pk, history.next_to_undo(stack).pk)  # what was taken back is not in the way
    other = batches.open_batch(stack.pk, None)
    assert put(client, other.pk, b"\xff\xd8\xff bytes", name="third.jpg").status_code == 201


def test_an_archive_stands_for_what_is_in_it(client, stack, batch, tmp_path):
    with zipfile.ZipFile(tmp_path / "box.zip", "w") as archive:
        for name in ("page 10.jpg", "page 2.jpg", "../up.jpg", ".hidden"):
            archive.writestr(name, b"\xff\xd8\xff " + name.encode())
    put(client, batch, b"\xff\xd8\xff after", name="after.jpg", index=1)
    said = answer(put(client, batch, (tmp_path / "box.zip").read_bytes(), name="box.zip"))
    assert [page.source.name for page in stack.pages.all()] == ["page 2.jpg", "page 10.jpg", "after.jpg"]
    assert len(said["pages"]) == 2
    assert said["left_out"] == ["“../up.jpg” leads out of the archive and was left out: pack the files without such names."]
    # Sent once more, for instance because the answer was lost, nothing comes in twice.
    again = answer(put(client, batch, (tmp_path / "box.zip").read_bytes(), name="box.zip"))
    assert again["pages"] == said["pages"]
    damaged = put(client, batch, b"PK\x03\x04 damaged", name="box.zip", index=2)
    assert damaged.status_code == 422


@pytest.mark.parametrize(
    "name", ["../../etc/passwd", "/etc/passwd", "..%2F..%2Fup.jpg", "a%00b.jpg", "con.jpg", "%F0%9F%90%9F" * 80]
)
def test_names_from_outside_never_become_paths(client, batch, name):
    response = put(client, batch, b"\xff\xd8\xff some bytes", name=name)
    assert response.status_code == 201
    stored = places.master_path(Master.objects.get().sha256)
    assert stored.is_file()
    assert stored.parent.parent.name == "masters"


def test_an_empty_file_is_refused(client, batch):
    response = put(client, batch, b"")
    assert response.status_code == 422
    assert "empty" in answer(response)["detail"]
    assert Page.objects.count() == 0


def test_a_stream_that_breaks_leaves_nothing(settings, stack):
    class Broken(io.BytesIO):
        def read(self, *_):
            raise OSError("connection lost")

    with pytest.raises(OSError, match="lost"), spooled(Broken()):
        pass
    assert list((settings.DATA / "uploads").glob("spool-*")) == []


@pytest.mark.parametrize("digest", ["../up", "A" * 64, "a" * 63, ""])
def test_only_digests_become_paths(digest):
    with pytest.raises(ValueError, match="not a SHA-256"):
        places.master_path(digest)


@pytest.mark.parametrize(
    "address", ["/api/v1/stacks/99", "/api/v1/stacks/99/pages", "/api/v1/pages/99", "/api/v1/documents/99/file"]
)
def test_what_is_not_there_is_said(client, address):
    response = client.get(address)
    assert response.status_code == 404
    assert answer(response)["detail"].endswith(".")


def test_same_bytes_in_two_stacks_are_worked_on_once(user, stack, pages):
    walk(pages(1)[0])
    other = services.create_stack("Another", user)
    page = batches.add_file(batches.open_batch(other.pk, user).pk, batches.Coming(0, "again.jpg", sha(1), 1000))
    assert state(page) == "ready"


def test_a_long_stack_is_listed_in_a_fixed_number_of_queries(client, stack, pages):
    counts = []
    for _ in range(2):
        for page in pages(12):
            walk(page)
        with CaptureQueriesContext(
            connection,
        ) as queries:
            client.get(f"/api/v1/stacks/{stack.pk}/pages")
        counts.append(len(queries))
    assert counts[0] == counts[1]


def test_a_page_that_changes_while_it_is_told_is_told_all_the_same(stack, pages):
    """Otherwise the order that is told with it would name a page that nobody knows, now and ever after."""
    (page,) = pages(1)
    counted = {page.pk: page.change}
    walk(page)
    assert [row.id for row in views._rows(stack, counted)] == [page.pk]
