"""Documents for viewers of other houses over HTTP."""

from typing import Any

import pytest

from hollowstack.server.documents.drafts import DraftChange, change_draft
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.stacks.models import Page
from tests.server.conftest import answer
from tests.server.readings import box_of, written

__all__ = ["written"]
BOUND = {"pages": 2, "bytes": 5, "sha256": "x", "remarks": [], "page_bytes": []}


@pytest.fixture
def document(stack: Any, written: Any, user: Any) -> Any:
    """Two pages, bound as “Letters”."""
    first, _ = written(["the", "oil", "lamp"], ["no", ("oi1", 0.9, "oil")])
    said = {"title": "Letters", "described": {"identifier": "SL/27/114", "date": "1927"}}
    change_draft(stack.pk, DraftChange.model_validate({"documents": {first.pk: said}}))
    (made,) = ask_to_bind(stack.pk, "Box 27", user)
    record([Outcome("bind", made.key, BOUND)])
    return made


def get(client: Any, address: str) -> Any:
    response = client.get(address)
    assert response.status_code == 200, response.content
    return answer(response)


def test_from_all_collections_to_a_page_and_its_picture(client, stack, document):
    top = get(client, "/api/v1/presentation/collection")
    (box,) = top["items"]
    assert (box["type"], box["label"]) == ("Collection", {"none": ["Box 27"]})
    (one,) = get(client, box["id"])["items"]
    assert (one["type"], one["label"]) == ("Manifest", {"none": ["Letters"]})
    manifest = get(client, one["id"])
    assert manifest["id"] == one["id"]
    assert manifest["label"] == {"en": ["Letters"]}
    assert [canvas["label"]["none"] for canvas in manifest["items"]] == [["1"], ["2"]]
    rendered = Page.objects.order_by("position").first().rendered_id
    assert manifest["items"][0]["items"][0]["items"][0]["body"]["service"][0]["id"].endswith(f"/iiif/render/{rendered}")
    assert manifest["rendering"][0]["id"].endswith(f"/api/v1/documents/{document.pk}/file")
    assert client.get(manifest["seeAlso"][0]["id"]).status_code == 200
    response = client.get(one["id"])
    assert response["Content-Type"] == 'application/ld+json;profile="http://iiif.io/api/presentation/3/context.json"'


def test_words_are_found_in_a_document_as_it_was_bound(client, stack, document):
    manifest = get(client, f"/api/v1/presentation/documents/{document.pk}/manifest")
    search = manifest["service"][0]["id"]
    (hit,) = get(client, f"{search}?q=lamp&user=me")["items"]
    left, top, right, bottom = box_of(0, 2)
    assert hit["target"] == f"{manifest['items'][0]['id']}#xywh={left},{top},{right - left},{bottom - top}"
    assert hit["body"]["value"] == "lamp"
    assert get(client, f"{search}?q=lamp&user=me")["ignored"] == ["user"]
    # The page of the stack is read anew since; the document says what it said.
    page = Page.objects.order_by("position").first()
    Page.objects.filter(pk=page.pk).update(reading_id="e" * 64, indexed="")
    assert len(get(client, f"{search}?q=lamp")["items"]) == 1
    assert get(client, f"{search}?q=bell")["items"] == []


def test_what_cannot_be_shown_is_said(client, stack, document):
    search = f"/api/v1/presentation/documents/{document.pk}/search"
    assert client.get(search, {"q": "-oil"}).status_code == 422
    assert client.get(search).status_code == 422
    assert client.get("/api/v1/presentation/documents/4711/manifest").status_code == 404
    document.kind = "access"
    document.save()
    response = client.get(f"/api/v1/presentation/documents/{document.pk}/manifest")
    assert (response.status_code, answer(response)["detail"]) == (422, "Only documents bound for the archive are shown so.")
    assert get(client, "/api/v1/presentation/collection")["items"] == []


def test_a_document_that_is_not_bound_yet_is_in_no_collection(client, stack, written, user):
    written(["x"])
    ask_to_bind(stack.pk, "Box 27", user)
    assert get(client, "/api/v1/presentation/collection")["items"] == []
    assert get(client, f"/api/v1/presentation/stacks/{stack.pk}/collection")["items"] == []
