"""Documents and words over HTTP: whole, in parts, and as text; refusals of addresses and protocols in one form."""

import base64
import hashlib
from datetime import UTC, datetime

import pytest

from hollowstack.core.decode import MAX_BYTES
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.run.steps import READING
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.results import faults
from hollowstack.server.stacks.models import Batch, Page, Upload
from hollowstack.server.storage import places
from tests.server.conftest import answer, sha, walk

CONTENT = bytes(range(256)) * 40
SIZE = len(CONTENT)
TAG = f'"{hashlib.sha256(CONTENT).hexdigest()}"'
pytestmark = pytest.mark.filterwarnings("ignore:StreamingHttpResponse must consume")


@pytest.fixture
def document(stack, settings, tmp_path) -> Document:
    settings.DATA = tmp_path
    made = Document.objects.create(stack=stack, title="Box 7", key=sha(7), created_at=datetime(2026, 11, 27, tzinfo=UTC))
    path = places.document_path(made.key)
    path.parent.mkdir(parents=True)
    path.write_bytes(CONTENT)
    faults.made(made.key, "bind", {"bytes": SIZE, "sha256": TAG.strip('"'), "pages": 1})
    return made


def fetch(client, document, **headers: str):
    response = client.get(f"/api/v1/documents/{document.pk}/file", **{f"HTTP_{k.upper()}": v for k, v in headers.items()})
    return response, b"".join(response)


def test_the_whole_file(client, document):
    response, got = fetch(client, document)
    assert (response.status_code, got) == (200, CONTENT)
    told = {name: response.headers[name] for name in ("Content-Length", "Accept-Ranges", "ETag")}
    assert told == {"Content-Length": str(SIZE), "Accept-Ranges": "bytes", "ETag": TAG}
    assert "Content-Range" not in response.headers


@pytest.mark.parametrize(
    ("asked", "first", "last"),
    [
        ("bytes=0-0", 0, 0),
        ("bytes=100-199", 100, 199),
        (f"bytes={SIZE - 1}-", SIZE - 1, SIZE - 1),
        ("bytes=5000-", 5000, SIZE - 1),
        ("bytes=-1", SIZE - 1, SIZE - 1),
        ("bytes=-500", SIZE - 500, SIZE - 1),
        (f"bytes=-{SIZE * 2}", 0, SIZE - 1),
        (f"bytes=10-{SIZE * 2}", 10, SIZE - 1),
    ],
)
def test_a_part_of_it(client, document, asked, first, last):
    """RFC 9110, 14.1.2: first and last byte, both included; the last so many; a last byte behind the end is the end."""
    response, got = fetch(client, document, range=asked)
    assert (response.status_code, got) == (206, CONTENT[first : last + 1])
    assert response.headers["Content-Range"] == f"bytes {first}-{last}/{SIZE}"
    assert response.headers["Content-Length"] == str(last + 1 - first)


@pytest.mark.parametrize("asked", [f"bytes={SIZE}-", f"bytes={SIZE + 5}-{SIZE + 9}", "bytes=20-10", "bytes=-0"])
def test_a_part_that_is_not_in_it(client, document, asked):
    response, _ = fetch(client, document, range=asked)
    assert (response.status_code, answer(response)["code"]) == (416, "no-such-part")
    assert response.headers["Content-Range"] == f"bytes */{SIZE}"


@pytest.mark.parametrize("asked", ["bytes=0-1,5-6", "lines=1-2", "bytes=-", "nonsense"])
def test_what_is_no_single_part_gives_the_whole(client, document, asked):
    response, got = fetch(client, document, range=asked)
    assert (response.status_code, got) == (200, CONTENT)


def test_a_part_of_another_version_gives_the_whole(client, document):
    assert fetch(client, document, range="bytes=0-9", if_range='"another"')[0].status_code == 200
    assert fetch(client, document, range="bytes=0-9", if_range=TAG)[0].status_code == 206


def test_a_document_that_is_not_bound_is_not_there(client, document):
    faults.fail(document.key, "bind", "page", "It cannot be bound.", datetime.now(UTC))
    assert fetch(client, document)[0].status_code == 404


def read(key: str | None, *words: str) -> None:
    """What the step of reading leaves of a page."""
    assert key is not None
    folder = places.result_path("read", key)
    folder.mkdir(parents=True, exist_ok=True)
    spoken = [Word(text=word, box=(0, 0, 9, 9), confidence=90.0) for word in words]
    made = Reading(language="eng", size_px=(100, 100), lines=[Line(words=spoken, baseline=(0, 9, 9, 9))])
    (folder / READING).write_text(made.model_dump_json())


def test_the_words_of_a_stack_and_of_what_was_bound_from_it(client, user, stack, pages, settings, tmp_path):
    settings.DATA = tmp_path
    first, second, third = (walk(page) for page in pages(3))
    read(first.reading_id, "Keep", "the", "light.")
    read(third.reading_id, "Nothing", "else.")
    address = f"/api/v1/stacks/{stack.pk}/text"
    waiting = client.get(address)
    assert (waiting.status_code, answer(waiting)["detail"]) == (422, "A page is being read again: try again in a moment.")
    read(second.reading_id)
    (bound,) = ask_to_bind(stack.pk, "Box", user)
    for told in (address, f"/api/v1/documents/{bound.pk}/text"):
        response = client.get(told)
        assert response.headers["Content-Type"] == "text/plain; charset=utf-8"
        assert response.content.decode() == "Keep the light.\f\fNothing else."
    # Of what is held out the stack tells nothing, and the document is as it was bound.
    Page.objects.filter(pk=first.pk).update(aside="blank")
    assert client.get(address).content.decode() == "\fNothing else."
    assert client.get(f"/api/v1/documents/{bound.pk}/text").content.decode().startswith("Keep")


def tus(client, batch, **headers: str):
    return client.post(
        f"/api/v1/batches/{batch.pk}/uploads",
        **{f"HTTP_{k.upper()}": v for k, v in {"tus_resumable": "1.0.0", **headers}.items()},
    )


NAMED = f"filename {base64.b64encode('Brief “7”.jpg'.encode()).decode()},filetype aW1hZ2UvanBlZw=="


def test_a_file_is_announced_by_headers(client, stack):
    batch = Batch.objects.create(stack=stack, base=0)
    response = tus(client, batch, upload_length="12", upload_metadata=NAMED)
    upload = Upload.objects.get()
    assert response.status_code == 201
    assert response.headers["Location"] == f"http://testserver/api/v1/uploads/{upload.pk}"
    assert (upload.name, upload.bytes, upload.at_once) == ("Brief “7”.jpg", 12, True)
    told = client.options(f"/api/v1/batches/{batch.pk}/uploads")
    assert (told.status_code, told.headers["Tus-Extension"]) == (204, "creation,termination")
    assert told.headers["Tus-Max-Size"] == str(MAX_BYTES)


@pytest.mark.parametrize(
    ("headers", "status", "says"),
    [
        ({"upload_metadata": NAMED}, 422, "Upload-Length is missing"),
        ({"upload_metadata": NAMED, "upload_length": "-4"}, 422, "Upload-Length is missing"),
        ({"upload_metadata": NAMED, "upload_length": "0"}, 422, "is empty"),
        ({"upload_metadata": NAMED, "upload_length": str(MAX_BYTES + 1)}, 413, "over 2 GB"),
        ({"upload_length": "4"}, 422, "has no name"),
        ({"upload_metadata": "filename", "upload_length": "4"}, 422, "has no name"),
        ({"upload_metadata": "filename !!", "upload_length": "4"}, 422, "base64"),
        ({"upload_metadata": "filename /w==", "upload_length": "4"}, 422, "base64"),
        ({"upload_metadata": NAMED, "upload_length": "4", "tus_resumable": "0.2.2"}, 412, "version 1.0.0"),
    ],
)
def test_what_cannot_be_announced_is_said(client, stack, headers, status, says):
    response = tus(client, Batch.objects.create(stack=stack, base=0), **headers)
    assert (response.status_code, says in answer(response)["detail"]) == (status, True)
    assert Upload.objects.count() == 0


def test_the_largest_file_is_announced(client, stack):
    assert (
        tus(
            client, Batch.objects.create(stack=stack, base=0), upload_metadata=NAMED, upload_length=str(MAX_BYTES)
        ).status_code
        == 201
    )


@pytest.mark.parametrize(
    ("method", "address", "status", "code"),
    [
        ("GET", "/api/v1/none-such", 404, "missing"),
        ("DELETE", "/api/v1/stacks", 405, "not-for-this"),
        ("GET", "/api/none-such", 404, "missing"),
        ("GET", "/api/v1/stacks/1/events", 404, "missing"),
    ],
)
def test_refusals_have_one_form(client, method, address, status, code):
    response = client.generic(method, address)
    assert (response.status_code, answer(response)["code"]) == (status, code)
    assert ("Allow" in response.headers) == (status == 405)


def test_a_body_that_is_no_json_is_said(client):
    response = client.post("/api/v1/stacks", "{", content_type="application/json")
    assert (response.status_code, answer(response)["code"]) == (400, "malformed")


def test_a_stranger_is_told_so_everywhere(client):
    client.logout()
    response = client.get("/api/v1/stacks/1/events")
    assert (response.status_code, answer(response)["code"]) == (401, "signed-out")
