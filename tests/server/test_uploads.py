"""Uploads piece by piece: broken ones go on, whole ones come in once, and each refusal is one sentence."""

import json

import pytest

from hollowstack.server.intake import uploads
from hollowstack.server.stacks.models import Change, Page, Upload
from tests.server.conftest import answer, walk

DATA = b"\xff\xd8\xff" + b"a page " * 40


def announce(client, stack, *files, **more):
    body = {"files": [{"name": name, "bytes": size} for name, size in files], **more}
    return client.post(f"/api/v1/stacks/{stack.pk}/uploads", json.dumps(body), content_type="application/json")


def patch(client, upload: int, data: bytes, offset: int, kind: str = "application/offset+octet-stream"):
    return client.patch(f"/api/v1/uploads/{upload}", data, content_type=kind, HTTP_UPLOAD_OFFSET=str(offset))


def take_in(client, upload: int, again: str = "false"):
    return client.post(f"/api/v1/uploads/{upload}/take-in?again={again}")


@pytest.fixture
def upload(client, stack) -> int:
    return answer(announce(client, stack, ("a.jpg", len(DATA))))[0]["id"]


def test_a_broken_upload_goes_on_where_it_stopped(client, stack, upload):
    assert patch(client, upload, DATA[:100], 0).headers["Upload-Offset"] == "100"
    head = client.head(f"/api/v1/uploads/{upload}")
    assert (head.headers["Upload-Offset"], head.headers["Upload-Length"]) == ("100", str(len(DATA)))
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/uploads"))[0]["received"] == 100
    assert patch(client, upload, DATA[100:], 100).status_code == 204
    assert take_in(client, upload).status_code == 201
    assert [page.source.name for page in stack.pages.all()] == ["a.jpg"]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/uploads")) == []


def test_bytes_at_another_place_are_not_taken(client, upload):
    patch(client, upload, DATA[:100], 0)
    for offset in (0, 50, 101):
        refused = patch(client, upload, DATA[:100], offset)
        assert refused.status_code == 409
        assert "another place" in answer(refused)["detail"]
    assert client.head(f"/api/v1/uploads/{upload}").headers["Upload-Offset"] == "100"


def test_more_than_was_announced_is_not_taken(client, upload):
    patch(client, upload, DATA[:100], 0)
    refused = patch(client, upload, DATA, 100)
    assert (refused.status_code, "grown" in answer(refused)["detail"]) == (422, True)
    assert client.head(f"/api/v1/uploads/{upload}").headers["Upload-Offset"] == "100"


def test_what_has_not_come_whole_does_not_come_in(client, stack, upload):
    patch(client, upload, DATA[:100], 0)
    refused = take_in(client, upload)
    assert (refused.status_code, "not come whole" in answer(refused)["detail"]) == (422, True)
    assert not stack.pages.exists()


@pytest.mark.parametrize(("kind", "status"), [("text/plain", 415), ("application/octet-stream", 415)])
def test_other_types_are_no_upload(client, upload, kind, status):
    assert patch(client, upload, DATA, 0, kind).status_code == status


def test_without_an_offset(client, upload):
    refused = client.patch(f"/api/v1/uploads/{upload}", DATA, content_type="application/offset+octet-stream")
    assert refused.status_code == 422


def test_the_same_file_again_is_asked_about_without_being_sent_again(client, stack, upload):
    patch(client, upload, DATA, 0)
    take_in(client, upload)
    second = answer(announce(client, stack, ("b.jpg", len(DATA))))[0]["id"]
    patch(client, second, DATA, 0)
    refused = take_in(client, second)
    assert (refused.status_code, "as “a.jpg”" in answer(refused)["detail"]) == (409, True)
    assert take_in(client, second, again="true").status_code == 201
    assert stack.pages.count() == 2


def test_left_out(client, stack, upload):
    patch(client, upload, DATA[:100], 0)
    path = uploads._part(Upload.objects.get(pk=upload))
    assert path.exists()
    assert client.delete(f"/api/v1/uploads/{upload}").status_code == 204
    assert not path.exists()
    assert take_in(client, upload).status_code == 404


def test_an_empty_file_is_refused(client, stack):
    empty = answer(announce(client, stack, ("a.jpg", 0)))[0]["id"]
    refused = take_in(client, empty)
    assert (refused.status_code, answer(refused)["detail"]) == (422, "The file is empty: copy or scan it again.")


def test_files_keep_the_order_they_were_announced_in(client, stack):
    rows = answer(announce(client, stack, ("a.jpg", 3), ("b.jpg", 4)))
    for row, data in reversed(list(zip(rows, (b"\xff\xd8\xff", b"\xff\xd8\xff2"), strict=True))):
        patch(client, row["id"], data, 0)
        assert take_in(client, row["id"]).status_code == 201
    assert [page.source.name for page in stack.pages.all()] == ["a.jpg", "b.jpg"]


def test_a_file_in_the_place_of_a_page(client, stack, pages, user):
    first, _ = (walk(page) for page in pages(2))
    row = answer(announce(client, stack, ("again.jpg", len(DATA)), instead=first.pk))[0]
    patch(client, row["id"], DATA, 0)
    assert answer(take_in(client, row["id"]))["pages"] == [first.pk]
    assert [page.source.name for page in stack.pages.all()] == ["again.jpg", "page 1.jpg"]
    said = answer(client.get(f"/api/v1/pages/{first.pk}"))
    assert [former["name"] for former in said["formers"]] == ["page 0.jpg"]
    assert said["formers"][0]["original"]
    assert said["record"]["by"] == "keeper"
    change = Change.objects.get(what="Recaptured a page")
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{change.pk}/undo")
    assert Page.objects.get(pk=first.pk).source.name == "page 0.jpg"
    assert answer(client.get(f"/api/v1/pages/{first.pk}"))["formers"] == []


def test_in_the_place_of_a_page_comes_one_file(client, stack, pages):
    (page,) = pages(1)
    assert announce(client, stack, ("a.jpg", 3), ("b.jpg", 4), instead=page.pk).status_code == 422
    assert announce(client, stack, ("a.jpg", 3), instead=page.pk + 99).status_code == 404


def test_whoever_did_not_hear_that_a_file_is_in_finds_it_at_its_place(client, stack):
    (row,) = answer(announce(client, stack, ("a.jpg", len(DATA))))
    place = f"/api/v1/batches/{row['batch']}/files/{row['index']}"
    assert client.get(place).status_code == 404
    patch(client, row["id"], DATA, 0)
    pages = answer(take_in(client, row["id"]))["pages"]
    assert take_in(client, row["id"]).status_code == 404
    assert answer(client.get(place)) == {"pages": pages, "left_out": []}
    assert client.get(f"/api/v1/batches/{row['batch']}/files/9").status_code == 404
