"""Search across everything over HTTP: pages by their words, stacks and documents by what is said of them."""

import io
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import Client

from hollowstack.server.documents.drafts import DraftChange, change_draft
from hollowstack.server.documents.services import ask_to_bind, delete_document
from hollowstack.server.reading import gathering, index
from hollowstack.server.reading.models import IndexedText
from hollowstack.server.search import asking, things
from hollowstack.server.search.models import Indexed, Thing
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Batch, Page, Stack
from hollowstack.server.storage import places
from tests.server.conftest import answer
from tests.server.readings import box_of, keep, lines_of, read, written

__all__ = ["written"]


def ask(client: Client, q: str, **more: Any) -> Any:
    response = client.get("/api/v1/search", {"q": q, **more})
    assert response.status_code == 200, response.content
    return answer(response)


def found(client: Client, q: str, **more: Any) -> list[int]:
    return [page["page"] for page in ask(client, q, **more)["pages"]]


def gathered() -> None:
    while gathering.gather_some() or things.refresh_some():
        pass


# Pages


def test_a_page_is_found_by_its_words_with_the_line_that_holds_them(client, stack, written):
    first, second = written(["the", "lamp", "Room"], ["the", "oil"])
    told = ask(client, "lamp room")
    assert (told["count"], told["more"], told["also"]) == (1, False, [])
    (page,) = told["pages"]
    assert (page["page"], page["number"], page["stack"], page["stack_name"]) == (first.pk, 1, stack.pk, "Box 27")
    assert (page["source"], page["clean"], page["size_px"]) == ("page 0.jpg", first.rendered_id, [1000, 1400])
    assert page["line"]["marks"] == [list(box_of(0, 1)), list(box_of(0, 2))]
    assert page["line"]["box"] == [20, 100, 320, 130]
    assert [(one["text"], one["meant"]) for one in page["line"]["words"]] == [("the", False), ("lamp", True), ("Room", True)]
    assert found(client, "oil") == [second.pk]
    assert ask(client, "oil")["pages"][0]["number"] == 2


@pytest.mark.parametrize(
    ("asked", "at"),
    [
        ("lamp", [0, 1]),
        ("lamp -oil", [1]),
        ('"oil lamp"', [0]),
        ('"lamp oil"', []),
        ("bel*", [2]),
        ("bell OR oil", [0, 2]),
        ("lamp NEAR/1 the", [0, 1]),
        ("LAMP", [0, 1]),
        ("eclairee", [1]),
        ("page", [0, 1, 2]),
        ("27/114", [2]),
        ('"27 115"', []),
    ],
)
def test_how_it_can_be_asked(client, stack, written, asked, at):
    made = written(["the", "oil", "lamp"], ["the", "lamp", "Éclairée"], ["bell", "27/114"])
    assert sorted(found(client, asked)) == [made[one].pk for one in at]


@pytest.mark.parametrize("asked", ["", "-oil", "lamp OR", "x" * 201])
def test_what_cannot_be_asked_is_refused_in_words(client, user, asked):
    response = client.get("/api/v1/search", {"q": asked})
    assert response.status_code == 422
    assert answer(response)["detail"].endswith((".", "one."))


def test_what_fits_better_comes_first(client, stack, written):
    once, often = written(["lamp", "a", "b", "c", "d", "e"], ["lamp", "lamp", "lamp"])
    assert found(client, "lamp") == [often.pk, once.pk]


def test_a_slip_is_forgiven_by_choice(client, stack, written):
    slipped, doubtful, _ = written(["the", "lanp"], ["the", ("lawp", 0.8, "lamp")], ["the", "bell"])
    assert found(client, "lamp") == []
    told = ask(client, "lamp", forgiving=True)
    assert sorted(page["page"] for page in told["pages"]) == [slipped.pk, doubtful.pk]
    assert told["also"] == ["lanp", "lawp"]
    assert all(word["unsure"] for page in told["pages"] for word in page["line"]["words"] if word["meant"])


def test_words_that_a_line_has_parted_are_found_whole_and_as_a_phrase(client, stack, written):
    (page,) = written(["x"])
    keep(page, lines_of(["the", "light-"], ["house", "keeper"]))
    Page.objects.filter(pk=page.pk).update(indexed="")
    gathered()
    assert found(client, '"the lighthouse keeper"') == [page.pk]
    assert found(client, "house") == [page.pk]
    assert ask(client, "lighthouse")["pages"][0]["line"]["marks"] == [list(box_of(0, 1))]


def test_a_word_put_right_is_found_at_once_and_what_it_was_no_more(client, stack, written):
    (page,) = written(["the", "1amp"])
    edit = {"page": page.pk, "box": box_of(0, 1), "kind": "word", "before": "1amp", "after": "lamp"}
    doing = {"seen": Stack.objects.get(pk=stack.pk).change, "doing": {"do": "put right", "edits": [edit]}}
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes", doing, content_type="application/json").status_code == 200
    assert found(client, "lamp") == [page.pk]
    assert found(client, "1amp") == []


def test_pages_that_are_gone_or_held_aside_are_not_found(client, stack, written, user):
    first, second, third = written(["lamp"], ["lamp"], ["lamp"])
    Page.objects.filter(pk=first.pk).update(removed=True)
    Page.objects.filter(pk=second.pk).update(aside="by hand")
    assert found(client, "lamp") == [third.pk]
    trash.delete_stack(stack.pk, user)
    assert found(client, "lamp") == []
    assert ask(client, "Box 27")["things"] == []


def test_more_pages_than_can_be_ranked_come_newest_first(client, stack, written, monkeypatch):
    monkeypatch.setattr(asking, "MOST_RANKED", 2)
    made = written(["lamp", "lamp"], ["lamp"], ["lamp"])
    told = ask(client, "lamp", most=2)
    assert (told["count"], told["more"]) == (2, True)
    assert [page["page"] for page in told["pages"]] == [made[2].pk, made[1].pk]
    monkeypatch.setattr(asking, "MOST_RANKED", 3)
    assert (ask(client, "lamp")["count"], ask(client, "lamp")["more"]) == (3, False)


def test_pages_come_some_at_a_time_and_none_twice(client, stack, written):
    made = written(*[["lamp"]] * 5)
    told = [found(client, "lamp", start=start, most=2) for start in (0, 2, 4)]
    assert sorted(page for some in told for page in some) == [page.pk for page in made]
    assert ask(client, "Box lamp", start=2)["things"] == []


@pytest.mark.parametrize(
    "bad", [{"start": 1000}, {"start": -1}, {"most": 61}, {"most": 0}, {"first_year": 999}, {"kind": "x"}]
)
def test_limits_of_what_is_asked(client, user, bad):
    assert client.get("/api/v1/search", {"q": "lamp", **bad}).status_code == 422


def test_a_page_whose_text_is_being_made_again_is_told_without_a_line(client, stack, written, caplog):
    (page,) = written(["lamp"])
    (places.result_path("read", page.reading_id) / "reading.json").unlink(missing_ok=True)
    for file in places.result_path("read", page.reading_id).iterdir():
        file.unlink()
    (told,) = ask(client, "lamp")["pages"]
    assert (told["line"], told["marked"], told["readable"]) == (None, 0, False)
    assert "its words cannot be shown" in caplog.text


# Among what is looked


def test_filters_leave_what_is_meant(client, stack, written, user):
    page, other = written(["lamp"], ["lamp"])
    Batch.objects.filter(stack=stack).update(record={"station": "Glass 1"})
    second = services.create_stack("Other", user)
    assert found(client, "lamp", stack=second.pk) == []
    assert len(found(client, "lamp", stack=stack.pk)) == 2
    assert len(found(client, "lamp", station="Glass 1")) == 2
    assert found(client, "lamp", station="Glass 2") == []
    assert answer(client.get("/api/v1/search-filters")) == {"stations": ["Glass 1"]}
    assert found(client, "lamp", at="bound") == []
    assert len(found(client, "lamp", at="unbound")) == 2
    assert found(client, "lamp", kind="documents") == []
    assert {page.pk, other.pk} == set(found(client, "lamp", kind="pages"))


@pytest.mark.parametrize(("first", "last", "there"), [(1927, 1927, 1), (1928, None, 0), (None, 1926, 0), (None, 1927, 1)])
def test_pages_of_documents_of_a_year(client, stack, written, user, first, last, there):
    (page,) = written(["lamp"])
    change_draft(stack.pk, DraftChange.model_validate({"documents": {page.pk: {"described": {"date": "1927-05-03"}}}}))
    ask_to_bind(stack.pk, "Letters", user)
    gathered()
    years = {name: year for name, year in (("first_year", first), ("last_year", last)) if year}
    assert len(found(client, "lamp", **years)) == there
    assert len(ask(client, "letters", **years)["things"]) == there


def test_pages_of_a_stack_of_a_year(client, stack, written):
    (page,) = written(["lamp"])
    client.patch(f"/api/v1/stacks/{stack.pk}", {"original": {"year": "1921–1934"}}, content_type="application/json")
    gathered()
    assert found(client, "lamp", first_year=1930) == [page.pk]
    assert found(client, "lamp", first_year=1935) == []


def test_a_stack_that_cannot_be_holds_nothing(client, stack, written):
    written(["lamp"])
    assert found(client, "lamp", stack=2**62) == []
    assert client.get("/api/v1/search", {"q": "lamp", "stack": 2**70}).status_code == 422
    assert found(client, "lamp", at="bound", station="Glass 9", first_year=2000) == []


# Stacks and documents


def test_a_stack_is_found_by_its_name_and_where_its_papers_are(client, stack, written):
    written(["x"])
    original = {"year": "1927", "box": "Box SL/27", "shelf": "B 3", "position": "folder 4"}
    client.patch(f"/api/v1/stacks/{stack.pk}", {"original": original}, content_type="application/json")
    gathered()
    (told,) = ask(client, "SL/27")["things"]
    assert (told["kind"], told["title"], told["stack"], told["answers"]) == ("stack", "Box 27", stack.pk, [])
    assert [(one["name"], one["words"]) for one in told["place"]] == [
        ("box", "Box SL/27"), ("shelf", "B 3"), ("position", "folder 4"),
    ]  # fmt: skip
    assert [one["title"] for one in ask(client, "box")["things"]] == ["Box 27"]


def test_a_document_is_found_by_its_description_and_a_described_one_before_it_is_bound(client, stack, written, user):
    page, *_ = written(["x"], ["y"])
    said = {"title": "Letters", "described": {"creators": ["T. Harrow"], "identifier": "SL/27/114"}}
    change_draft(stack.pk, DraftChange.model_validate({"documents": {page.pk: said}}))
    gathered()
    (told,) = ask(client, "harrow")["things"]
    assert (told["kind"], told["title"], told["page"], told["document"]) == ("planned", "Letters", page.pk, None)
    assert told["answers"] == [{"name": "creators", "words": "T. Harrow"}]
    (document,) = ask_to_bind(stack.pk, "Box", user)
    gathered()
    (told,) = ask(client, '"SL/27/114"')["things"]
    assert (told["kind"], told["document"], told["page"]) == ("document", document.pk, page.pk)
    assert ask(client, "x")["pages"][0]["document"] == "Letters"
    assert ask(client, "y")["pages"][0]["place"] == 2
    delete_document(document.pk, user)
    gathered()
    assert [one["kind"] for one in ask(client, "harrow")["things"]] == ["planned"]


def test_a_title_counts_more_than_what_else_is_said(client, user):
    for name, box in (("Ledger", "lamp"), ("Lamp", "ledger")):
        made = services.create_stack(name, user)
        client.patch(f"/api/v1/stacks/{made.pk}", {"original": {"box": box}}, content_type="application/json")
    gathered()
    assert [one["title"] for one in ask(client, "lamp")["things"]] == ["Lamp", "Ledger"]


def test_how_many_things_answer_is_told_where_only_the_first_are_shown(client, user, monkeypatch):
    for number in (10, 2, 9, 1):
        services.create_stack(f"Lamp {number}", user)
    gathered()
    monkeypatch.setattr(asking, "MOST_THINGS", 3)
    told = ask(client, "lamp")
    assert ([one["title"] for one in told["things"]], told["things_count"]) == (["Lamp 1", "Lamp 2", "Lamp 9"], 4)
    assert ask(client, "lamp", kind="pages")["things_count"] == 0
    monkeypatch.setattr(asking, "MOST_THINGS", 4)
    assert len(ask(client, "lamp")["things"]) == ask(client, "lamp")["things_count"] == 4


def test_things_follow_their_stack_and_are_left_alone_while_nothing_of_them_changes(client, stack, user):
    gathered()
    before = Thing.objects.get(stack=stack).pk
    with connection.cursor() as cursor:
        services.next_change(stack.pk)
        gathered()
        assert Thing.objects.get(stack=stack).pk == before
        services.rename_stack(stack.pk, "Box 28")
        gathered()
        cursor.execute("SELECT count(*) FROM search_things")
        assert cursor.fetchone() == (1,)
    assert Indexed.objects.get(stack=stack).change == Stack.objects.get(pk=stack.pk).change
    assert [one["title"] for one in ask(client, "28")["things"]] == ["Box 28"]
    assert ask(client, "27")["things"] == []


def test_what_is_gone_for_good_leaves_nothing_behind(stack, written):
    (page,) = written(["lamp"])
    gathered()
    Stack.everything.filter(pk=stack.pk).update(deleted_at="2020-01-01T00:00:00Z")
    trash.empty()
    assert things.forget_gone() == 1
    assert gathering.forget_gone() == 1
    assert not IndexedText.objects.exists()
    assert index.pages_with(index.ALL, '"lamp"') == []
    assert page.pk


# The index


def test_the_index_can_be_built_anew_from_what_is_kept(client, stack, written):
    made = written(["lamp", ("tbe", 0.9, "the")], ["bell"])
    with connection.cursor() as cursor:
        cursor.execute("INSERT INTO reading_search (reading_search) VALUES ('delete-all')")
    assert found(client, "lamp") == []
    told = io.StringIO()
    call_command("reindex", stdout=told)
    assert told.getvalue() == "The words of 2 pages are in the index.\n"
    assert found(client, "lamp") == [made[0].pk]
    assert found(client, "the", forgiving=True) == [made[0].pk]
    with connection.cursor() as cursor:
        cursor.execute("INSERT INTO reading_search (reading_search) VALUES ('integrity-check')")


def test_a_page_read_again_is_found_by_its_new_words_alone(client, stack, written):
    (page,) = written(["lamp"])
    for text in ("bell", "lamp", "bell"):
        read(page, [text])
        Page.objects.filter(pk=page.pk).update(indexed="")
        gathered()
    assert (found(client, "lamp"), found(client, "bell")) == ([], [page.pk])


@pytest.mark.django_db(transaction=True)
def test_an_index_of_an_older_program_is_taken_over(settings, tmp_path):
    executor = MigrationExecutor(connection)
    latest = executor.loader.graph.leaf_nodes()
    try:
        old = executor.migrate([("reading", "0001_initial")]).apps
        stack = old.get_model("stacks", "Stack").objects.create(name="Old", treatment={})
        batch = old.get_model("stacks", "Batch").objects.create(stack=stack, base=0)
        master = old.get_model("stacks", "Master").objects.create(sha256="a" * 64, bytes=1)
        source = old.get_model("stacks", "Source").objects.create(
            stack=stack, batch=batch, index=0, master=master, name="scan 1.tif"
        )
        page = old.get_model("stacks", "Page").objects.create(
            stack=stack, source=source, position=0, reading_id="b" * 64, indexed="b" * 64
        )
        with connection.cursor() as cursor:
            cursor.execute("INSERT INTO reading_search (rowid, words, others) VALUES (%s, 'The Café', 'tne')", [page.pk])
        MigrationExecutor(connection).migrate(latest)
        assert [index.pages_with(index.WORDS, f'"{word}"') for word in ("cafe", "tne")] == [[page.pk], []]
        assert [index.pages_with(index.ALL, f'"{word}"') for word in ("tne", "tif")] == [[page.pk], [page.pk]]
        assert Page.objects.get(pk=page.pk).indexed == ""  # and gathered anew, as pages are now
        assert index.take_out([page.pk]) == 1
        assert index.pages_with(index.WORDS, '"cafe"') == []
    finally:
        MigrationExecutor(connection).migrate(latest)
