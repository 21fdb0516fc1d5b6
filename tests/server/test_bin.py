"""What was deleted can be taken back for thirty days; then it goes, and nothing else does."""

from datetime import timedelta

import pytest
from django.utils import timezone

from hollowstack.server.api.v1 import bin as bins
from hollowstack.server.capture.models import Run
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks.models import Page, Source, Stack
from hollowstack.server.stacks.services import order_of
from tests.server.conftest import answer, walk


def bin_of(client) -> dict:
    return answer(client.get("/api/v1/bin"))


def change(client, stack, **doing):
    seen = Stack.objects.get(pk=stack.pk).change
    return client.post(f"/api/v1/stacks/{stack.pk}/changes", {"seen": seen, "doing": doing}, content_type="application/json")


def test_a_stack_is_deleted_and_taken_back_as_it_was(client, stack, pages):
    made = [walk(page) for page in pages(2)]
    before = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["pages"]
    assert client.delete(f"/api/v1/stacks/{stack.pk}").status_code == 204
    assert answer(client.get("/api/v1/stacks")) == {"count": 0, "stacks": []}
    for address in (f"/stacks/{stack.pk}", f"/stacks/{stack.pk}/pages", f"/pages/{made[0].pk}"):
        assert client.get("/api/v1" + address).status_code == 404
    assert client.delete(f"/api/v1/stacks/{stack.pk}").status_code == 404
    assert answer(client.get("/api/v1/record"))[0]["what"] == "stack deleted"
    (told,) = bin_of(client)["stacks"]
    assert (told["name"], told["pages"], told["by"]) == ("Box 27", 2, "keeper")
    assert client.post(f"/api/v1/bin/stacks/{stack.pk}/restore").status_code == 204
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["pages"] == before
    assert bin_of(client)["stacks"] == []
    assert client.post(f"/api/v1/bin/stacks/{stack.pk}/restore").status_code == 404


def test_how_much_lies_in_the_bin_is_told_where_only_the_last_is_shown(client, stack, pages, monkeypatch):
    made = [walk(page) for page in pages(4)]
    change(client, stack, do="delete", pages=[page.pk for page in made[:3]])
    monkeypatch.setattr(bins, "_MOST", 2)
    told = bin_of(client)
    assert (len(told["pages"]), told["pages_count"], told["stacks_count"], told["documents_count"]) == (2, 3, 0, 0)
    change(client, stack, do="restore", pages=[page["id"] for page in told["pages"]])
    told = bin_of(client)
    assert (len(told["pages"]), told["pages_count"]) == (1, 1)


def test_nothing_is_made_for_a_stack_in_the_bin_and_what_was_under_way_is_kept(client, stack, pages):
    page = walk(pages(1)[0], until="expand")
    client.delete(f"/api/v1/stacks/{stack.pk}")
    assert wanted(9, frozenset()) == []
    walk(page)
    client.post(f"/api/v1/bin/stacks/{stack.pk}/restore")
    assert Page.objects.get(pk=page.pk).state == "ready"


def test_a_stack_that_is_being_captured_into_is_not_deleted(client, stack):
    run = Run.objects.create(stack=stack, settings={}, state=Run.State.STOPPED)
    refused = client.delete(f"/api/v1/stacks/{stack.pk}")
    assert (refused.status_code, "finish or cancel" in answer(refused)["detail"]) == (422, True)
    run.state = Run.State.DONE
    run.save()
    assert client.delete(f"/api/v1/stacks/{stack.pk}").status_code == 204


def test_pages_are_deleted_taken_back_and_undone(client, stack, pages):
    ids = [page.pk for page in pages(4)]
    assert answer(change(client, stack, do="delete", pages=ids[1:3]))["what"] == "Deleted 2 pages"
    assert order_of(stack.pk) == [ids[0], ids[3]]
    assert [page["id"] for page in bin_of(client)["pages"]] == ids[1:3]
    assert answer(change(client, stack, do="restore", pages=[ids[2]]))["what"] == "Took 1 page back"
    assert order_of(stack.pk) == [ids[0], ids[2], ids[3]]
    assert change(client, stack, do="restore", pages=[ids[2]]).status_code == 422
    history = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{history['undo']}/undo")
    assert [page["id"] for page in bin_of(client)["pages"]] == ids[1:3]
    history = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{history['undo']}/undo")
    assert order_of(stack.pk) == ids
    assert bin_of(client)["pages"] == []


def test_what_is_out_of_the_stack_for_another_reason_is_not_in_the_bin(client, stack, pages):
    page = pages(1)[0]
    Page.objects.filter(pk=page.pk).update(removed=True)
    assert bin_of(client)["pages"] == []
    assert change(client, stack, do="restore", pages=[page.pk]).status_code == 422


def test_a_document_is_deleted_and_taken_back(client, user, stack, pages):
    walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Box", user)
    record([Outcome("bind", document.key, {"pages": 1, "bytes": 9, "sha256": "a" * 64, "seconds": 1.0})])
    address = f"/api/v1/documents/{document.pk}"
    assert answer(client.get(address))["state"] == "bound"
    assert client.delete(address).status_code == 204
    assert client.get(address).status_code == client.get(address + "/file").status_code == 404
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/documents")) == []
    (told,) = bin_of(client)["documents"]
    assert (told["title"], told["stack_name"]) == ("Box", "Box 27")
    assert client.post(f"/api/v1/bin/documents/{document.pk}/restore").status_code == 204
    assert answer(client.get(address))["title"] == "Box"
    assert client.post(f"/api/v1/bin/documents/{document.pk}/restore").status_code == 404


@pytest.mark.parametrize(("days", "gone"), [(29.99, False), (30.01, True)])
def test_after_thirty_days_what_was_deleted_goes(client, user, stack, pages, days, gone):
    kept, thrown = pages(2)
    change(client, stack, do="delete", pages=[thrown.pk])
    Page.objects.filter(pk=thrown.pk).update(deleted_at=timezone.now() - timedelta(days=days))
    other = Stack.objects.create(name="Other", treatment={})
    trash.delete_stack(other.pk, user)
    Stack.everything.filter(pk=other.pk).update(deleted_at=timezone.now() - timedelta(days=days))
    assert trash.empty() == ((1, 1) if gone else (0, 0))
    assert Page.objects.filter(pk=thrown.pk).exists() is not gone
    assert Stack.everything.filter(pk=other.pk).exists() is not gone
    assert Page.objects.filter(pk=kept.pk).exists()
    if gone:  # the change that deleted it is still there, and undoing it changes nothing
        history = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
        assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{history['undo']}/undo").status_code == 200
        assert order_of(stack.pk) == [kept.pk]


def test_a_stack_gets_another_name_and_language(client, stack, pages):
    page = walk(pages(1)[0])
    address = f"/api/v1/stacks/{stack.pk}"
    assert answer(client.patch(address, {"name": " Box  28 "}, content_type="application/json"))["name"] == "Box 28"
    assert client.patch(address, {"name": " "}, content_type="application/json").status_code == 422
    assert {"eng", "deu"} <= {one["code"] for one in answer(client.get("/api/v1/languages"))}
    assert answer(change(client, stack, do="read in", language="deu+eng"))["what"].endswith("deu+eng")
    again = Page.objects.get(pk=page.pk)
    assert (answer(client.get(address))["language"], again.state) == ("deu+eng", "read")
    assert (again.rendered_id, again.reading_id != page.reading_id) == (page.rendered_id, True)
    assert change(client, stack, do="read in", language="deu+eng").status_code == 422
    strange = change(client, stack, do="read in", language="xyz")
    assert (strange.status_code, "deu" in answer(strange)["detail"]) == (422, True)
    history = answer(client.get(address + "/changes"))
    client.post(f"{address}/changes/{history['undo']}/undo")
    assert Page.objects.get(pk=page.pk).state == "ready"


def test_documents_of_deleted_stacks_come_back_with_them(client, user, stack, pages):
    walk(pages(1)[0])
    ask_to_bind(stack.pk, "Box", user)
    client.delete(f"/api/v1/stacks/{stack.pk}")
    assert not Document.objects.exists()
    assert bin_of(client)["documents"] == []
    client.post(f"/api/v1/bin/stacks/{stack.pk}/restore")
    assert Document.objects.count() == Source.objects.count() == 1
