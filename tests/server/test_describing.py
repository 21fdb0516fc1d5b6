"""Describing many documents over HTTP: as a table, and by a file of it that is looked at before it is taken."""

import base64
from typing import Any

import pytest

from hollowstack.server.documents.drafts import DraftChange, change_draft, draft_of
from hollowstack.server.documents.exporting import ExportAsked, ask_for_export
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.search import things
from tests.server.conftest import answer, walk


@pytest.fixture
def three(client: Any, stack: Any, pages: Any) -> list[Any]:
    """Three documents to come: of two pages, of one, of one."""
    made = [walk(page) for page in pages(4)]
    for at in (2, 3):
        doing = {"do": "break", "pages": [made[at].pk], "on": True}
        change = answer(client.get(f"/api/v1/stacks/{stack.pk}"))["change"]
        sent = client.post(f"/api/v1/stacks/{stack.pk}/changes", {"seen": change, "doing": doing}, "application/json")
        assert sent.status_code == 200
    return made


def send(client: Any, stack: Any, text: str, way: str = "") -> Any:
    body = {"csv": base64.b64encode(text.encode()).decode()}
    return client.post(f"/api/v1/stacks/{stack.pk}/descriptions{way}", body, content_type="application/json")


def test_documents_to_come_are_told_with_what_is_said_of_them(client, stack, three):
    said = {"title": "Letters", "described": {"date": "1927"}}
    change_draft(stack.pk, DraftChange.model_validate({"documents": {three[2].pk: said}}))
    told = answer(client.get(f"/api/v1/stacks/{stack.pk}/descriptions"))
    assert told["statements"][0] == "title"
    rows = [(one["number"], one["page"], one["first_page"], one["pages"], one["title"]) for one in told["documents"]]
    assert rows == [
        (1, three[0].pk, 1, 2, "Box 27, 1 of 3"), (2, three[2].pk, 3, 1, "Letters"), (3, three[3].pk, 4, 1, "Box 27, 3 of 3"),
    ]  # fmt: skip
    assert told["documents"][1]["said"] == said
    assert told["documents"][0]["clean"] == three[0].rendered_id


def test_a_file_given_out_and_back_changes_nothing(client, stack, three):
    change_draft(
        stack.pk,
        DraftChange.model_validate({"documents": {three[0].pk: {"title": "A", "described": {"creators": ["B", "C; D"]}}}}),
    )
    file = client.get(f"/api/v1/stacks/{stack.pk}/descriptions.csv")
    assert 'filename="Box 27, descriptions.csv"' in file["Content-Disposition"]
    plan = answer(send(client, stack, file.content.decode("utf-8-sig").replace("C; D", "C"), "/plan"))
    assert [(line["refused"], line["changes"]) for line in plan["lines"]] == [
        ("", []), ("", [{"name": "creators", "before": "B; C; D", "after": "B; C"}]), ("", []), ("", []),
    ]  # fmt: skip


def test_what_a_file_would_change_is_seen_first_and_then_taken(client, stack, three, user):
    change_draft(
        stack.pk, DraftChange.model_validate({"documents": {three[2].pk: {"title": "Log", "described": {"date": "1927"}}}})
    )
    text = "document;title;date;creator\n2;Watch log;;T. Harrow; \n9;Ghost;;\n3;Card;1930;\n"
    plan = answer(send(client, stack, text, "/plan"))
    assert [(line["line"], line["document"], line["title"], bool(line["refused"])) for line in plan["lines"]] == [
        (2, 2, "Watch log", False), (3, 0, "", True), (4, 3, "Card", False),
    ]  # fmt: skip
    assert plan["lines"][0]["changes"] == [
        {"name": "title", "before": "Log", "after": "Watch log"},
        {"name": "date", "before": "1927", "after": ""},
        {"name": "creators", "before": "", "after": "T. Harrow"},
    ]
    assert draft_of(stack.pk).documents[three[2].pk].title == "Log"
    assert answer(send(client, stack, text)) == plan
    said = draft_of(stack.pk).documents
    assert (said[three[2].pk].title, said[three[2].pk].described) == ("Watch log", {"creators": ["T. Harrow"]})
    assert said[three[3].pk].described == {"date": "1930"}
    assert three[0].pk not in said
    made = ask_to_bind(stack.pk, "Box 27", user)
    assert [one.title for one in made] == ["Box 27, 1 of 3", "Watch log", "Card"]
    assert made[2].order["described"] == {"date": "1930"}


@pytest.mark.parametrize("way", ["", "/plan"])
def test_what_is_no_table_is_refused_and_changes_nothing(client, stack, three, way):
    response = send(client, stack, "colour\nred\n", way)
    assert response.status_code == 422
    assert answer(response)["detail"].startswith("The first line names no column that is known")
    assert draft_of(stack.pk).documents == {}


def test_without_documents_there_is_nothing_to_describe(client, stack, pages):
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/descriptions"))["documents"] == []
    assert send(client, stack, "title\nA\n").status_code == 422


WHOLE = {"creators": ["Skerry Light Trust"], "rights": "free", "date": "1927", "identifier": "SL/27", "description": "A box"}


def of_stack(stack: Any, said: dict[str, Any], documents: dict[int, Any] | None = None) -> None:
    change_draft(stack.pk, DraftChange.model_validate({"stack": said, "documents": documents or {}}))


def bound_as(stack: Any, user: Any) -> list[dict[str, Any]]:
    return [one.order["described"] for one in ask_to_bind(stack.pk, "Box 27", user)]


def test_what_is_said_of_a_stack_holds_for_documents_that_say_nothing_else(client, stack, three, user):
    of_stack(stack, WHOLE, {three[2].pk: {"described": {"date": "1928-02", "relations": ["SL/28"], "rights": ""}}})
    told = answer(client.get(f"/api/v1/stacks/{stack.pk}/descriptions"))
    handed = {"creators": ["Skerry Light Trust"], "rights": "free", "date": "1927", "relations": ["SL/27"]}
    assert (told["stack"], told["otherwise"]) == (WHOLE, handed)
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/binding"))["otherwise"] == handed
    assert bound_as(stack, user) == [handed, {**handed, "date": "1928-02", "relations": ["SL/28"]}, handed]


def test_the_only_document_is_described_as_its_stack(client, stack, pages, user):
    walk(pages(1)[0])
    of_stack(stack, WHOLE)
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/descriptions"))["otherwise"] == WHOLE
    assert bound_as(stack, user) == [WHOLE]


def test_a_stack_is_described_anew_and_documents_stay(client, stack, three):
    of_stack(stack, WHOLE, {three[0].pk: {"title": "Letters"}})
    of_stack(stack, {"rights": "closed"})
    assert (draft_of(stack.pk).stack, draft_of(stack.pk).documents[three[0].pk].title) == ({"rights": "closed"}, "Letters")
    address = f"/api/v1/stacks/{stack.pk}/binding"
    refused = client.patch(address, {"stack": {"colour": "red"}}, content_type="application/json")
    assert refused.status_code == 422
    assert "colour" in refused.json()["detail"]
    assert draft_of(stack.pk).stack == {"rights": "closed"}


def test_a_described_stack_is_found_by_that_and_shown_with_it(client, stack, three):
    of_stack(stack, {**WHOLE, "subjects": ["Foghorns"]})
    things.refresh_some()
    told = answer(client.get("/api/v1/search", {"q": "foghorns"}))
    assert [(one["kind"], one["title"]) for one in told["things"]] == [("stack", "Box 27")]
    shown = client.get(f"/api/v1/presentation/stacks/{stack.pk}/collection").json()
    assert {"label": {"en": ["Identifier"]}, "value": {"en": ["SL/27"]}} in shown["metadata"]
    assert shown["summary"] == {"en": ["A box"]}


@pytest.mark.parametrize("form", ["txt", "png"])
def test_exports_are_described(stack, three, user, form):
    of_stack(stack, WHOLE)
    handed = {"creators": ["Skerry Light Trust"], "rights": "free", "date": "1927", "relations": ["SL/27"]}
    asked = [ExportAsked(form=form), ExportAsked(form=form, first=three[0].pk), ExportAsked(form=form, pages=(three[1].pk,))]
    made = [ask_for_export(stack.pk, one, user).order["described"] for one in asked]
    assert made == [WHOLE, handed, handed]


def test_the_line_of_the_stack_in_a_file(client, stack, three):
    of_stack(stack, WHOLE)
    file = client.get(f"/api/v1/stacks/{stack.pk}/descriptions.csv").content.decode("utf-8-sig")
    assert file.splitlines()[1].startswith("all,,4,Box 27,Skerry Light Trust,")
    same = answer(send(client, stack, file, "/plan"))["lines"][0]
    assert (same["whole"], same["changes"], same["refused"]) == (True, [], "")
    text = "document;rights;date\nall;;1928\n2;mine;\n"
    plan = answer(send(client, stack, text, "/plan"))
    assert plan["lines"][0]["changes"] == [
        {"name": "rights", "before": "free", "after": ""}, {"name": "date", "before": "1927", "after": "1928"},
    ]  # fmt: skip
    assert draft_of(stack.pk).stack == WHOLE
    answer(send(client, stack, text))
    assert draft_of(stack.pk).stack == {**{name: one for name, one in WHOLE.items() if name != "rights"}, "date": "1928"}
    assert draft_of(stack.pk).documents[three[2].pk].described == {"rights": "mine"}


def test_a_stack_is_not_renamed_by_a_file(client, stack, three):
    (line,) = answer(send(client, stack, "document;title;date\nall;Another;1927\n"))["lines"]
    assert (line["title"], line["refused"]) == ("Box 27", "The stack is called “Box 27”: it gets another name at its head.")
    assert draft_of(stack.pk).stack == {}
