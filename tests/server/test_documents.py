"""Binding a stack: when it may be asked for, and what is fixed then."""

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places
from tests.server.conftest import answer, walk


def bind(client, stack, title="Box 27"):
    return client.post(f"/api/v1/stacks/{stack.pk}/documents", {"title": title}, content_type="application/json")


def test_not_while_pages_are_worked_on(client, stack, pages):
    made = pages(3)
    walk(made[0])
    response = bind(client, stack)
    assert response.status_code == 422
    assert answer(response)["detail"].startswith("2 pages are still being worked on")


def test_aside_and_failed_pages_are_left_out(user, stack, pages):
    made = pages(4)
    walk(made[0])
    walk(made[1], ink_percent=0.0, marks=0)
    record([Outcome("expand", made[2].opened_id, None, "Damaged.", "page")])
    walk(made[3])
    (document,) = ask_to_bind(stack.pk, "Box 27", user)
    made[0].refresh_from_db()
    made[3].refresh_from_db()
    assert [page.rendered for page in document.pages.all()] == [made[0].rendered_id, made[3].rendered_id]


def test_document_breaks(user, stack, pages):
    """A document begins at each break; one before a page that is aside counts for the next."""
    made = [walk(page) for page in pages(3)]
    aside = walk(pages(1)[0], ink_percent=0.0, marks=0)
    last = walk(pages(1)[0])
    Page.objects.filter(pk__in=[made[0].pk, made[2].pk, aside.pk]).update(breaks=True)
    documents = ask_to_bind(stack.pk, "Letters", user)
    assert [document.title for document in documents] == ["Letters, 1 of 3", "Letters, 2 of 3", "Letters, 3 of 3"]
    bound = [[page.rendered for page in document.pages.all()] for document in documents]
    assert bound == [[made[0].rendered_id, made[1].rendered_id], [made[2].rendered_id], [last.rendered_id]]


@pytest.mark.parametrize("title", ["", "   ", "x" * 201])
def test_titles(user, stack, pages, title):
    walk(pages(1)[0])
    with pytest.raises(Refused):
        ask_to_bind(stack.pk, title, user)


def test_nothing_to_bind(user, stack, pages):
    walk(pages(1)[0], ink_percent=0.0, marks=0)
    with pytest.raises(Refused, match="no page to bind"):
        ask_to_bind(stack.pk, "Box 27", user)


def test_from_asking_to_download(client, stack, pages):
    walk(pages(1)[0])
    (asked,) = answer(bind(client, stack, "Letters: 1927/28"))
    assert asked["state"] == "binding"
    assert client.get(f"/api/v1/documents/{asked['id']}/file").status_code == 404
    key = stack.documents.get().key
    places.document_path(key).parent.mkdir(parents=True, exist_ok=True)
    places.document_path(key).write_bytes(b"%PDF-1.7 made up")
    record([Outcome("bind", key, {"pages": 1, "bytes": 16, "sha256": "ab", "seconds": 0.1})])
    (listed,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))
    assert (listed["state"], listed["bytes"], listed["conformance"]) == ("bound", 16, "PDF/A-2u")


def test_a_document_that_could_not_be_bound_says_why(client, stack, pages):
    walk(pages(1)[0])
    bind(client, stack)
    record([Outcome("bind", stack.documents.get().key, None, "The disk is full: make room.", "page")])
    (listed,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))
    assert (listed["state"], listed["error"]) == ("failed", "The disk is full: make room.")


@pytest.mark.django_db(transaction=True)
def test_documents_of_an_older_program_keep_their_pages():
    """Their pages were one list; each is a row now, and the way back is open."""
    executor = MigrationExecutor(connection)
    latest = executor.loader.graph.leaf_nodes()  # what stands on documents goes and comes with them
    listed = [
        {"rendered": "a" * 64, "reading": "b" * 64, "ppi": [300.0, 200.0]},
        {"rendered": "c" * 64, "reading": None, "ppi": [1, 2]},
    ]
    try:
        old = executor.migrate([("documents", "0002_bin")]).apps
        stack = old.get_model("stacks", "Stack").objects.create(name="Old", treatment={})
        document = old.get_model("documents", "Document").objects.create(
            stack=stack, title="Old", created_at=timezone.now(), key="d" * 64, pages=listed
        )
        MigrationExecutor(connection).migrate(latest)
        now = Document.everything.get(pk=document.pk)
        assert now.page_count == 2
        rows = now.pages.values_list("number", "rendered", "reading", "x_ppi", "y_ppi")
        assert list(rows) == [(1, "a" * 64, "b" * 64, 300.0, 200.0), (2, "c" * 64, "", 1.0, 2.0)]
        assert now.results() == {"a" * 64, "b" * 64, "c" * 64}
        back = MigrationExecutor(connection).migrate([("documents", "0002_bin")]).apps
        assert back.get_model("documents", "Document").objects.get(pk=document.pk).pages == listed
    finally:
        MigrationExecutor(connection).migrate(latest)
