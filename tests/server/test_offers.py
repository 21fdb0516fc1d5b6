"""What pages say of their document themselves: offered with its place, never taken unasked."""

from typing import Any

import pytest

from hollowstack.server.documents import offers
from hollowstack.server.documents.drafts import draft_of
from hollowstack.server.documents.models import IdentifierPattern
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page
from tests.server.conftest import answer
from tests.server.readings import box_of, written

__all__ = ["written"]
JSON = "application/json"


@pytest.fixture
def letters(client: Any, stack: Any, written: Any) -> list[Page]:
    """A letter of two pages, and one of another year."""
    made: list[Page] = written(
        ["Rock", "of", "Skerry", "14th", "February,", "1927."],
        ["yours", "of", "1926", "SL/27/114"],
        ["May", "1921", "SL/9/2"],
    )
    change = answer(client.get(f"/api/v1/stacks/{stack.pk}"))["change"]
    doing = {"do": "break", "pages": [made[2].pk], "on": True}
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes", {"seen": change, "doing": doing}, JSON).status_code == 200
    return made


def offered(client: Any, stack: Any, page: Page) -> dict[str, Any]:
    response = client.get(f"/api/v1/stacks/{stack.pk}/offers", {"page": page.pk})
    assert response.status_code == 200, response.content
    found: dict[str, Any] = response.json()
    return found


def test_dates_are_offered_with_their_places_whole_days_first(client, stack, letters):
    told = offered(client, stack, letters[0])
    assert [(one["value"], one["text"], one["number"]) for one in told["dates"]] == [
        ("1927-02-14", "14th February, 1927", 1), ("1926", "1926", 2),
    ]  # fmt: skip
    day = told["dates"][0]
    assert day["box"] == [box_of(0, 3)[0], box_of(0, 3)[1], box_of(0, 5)[2], box_of(0, 5)[3]]
    assert day["line"] == [box_of(0, 0)[0], box_of(0, 0)[1], box_of(0, 5)[2], box_of(0, 5)[3]]
    assert (day["page"], day["clean"]) == (letters[0].pk, letters[0].rendered_id)
    assert told["identifiers"] == []
    assert [one["value"] for one in offered(client, stack, letters[2])["dates"]] == ["1921-05"]
    assert draft_of(stack.pk).documents == {}  # nothing is taken


def test_identifiers_are_offered_once_there_is_an_example(client, stack, letters):
    kept = client.post("/api/v1/identifier-patterns", {"example": "SL/1/2"}, JSON)
    assert (kept.status_code, kept.json()["pattern"]) == (201, "SL/#/#")
    (one,) = offered(client, stack, letters[0])["identifiers"]
    assert (one["value"], one["page"], one["number"], one["box"]) == ("SL/27/114", letters[1].pk, 2, list(box_of(0, 3)))
    again = client.post("/api/v1/identifier-patterns", {"pattern": "  SL/#/# "}, JSON).json()
    assert again == kept.json()
    assert client.get("/api/v1/identifier-patterns").json() == [again]
    assert client.delete(f"/api/v1/identifier-patterns/{again['id']}").status_code == 204
    assert offered(client, stack, letters[0])["identifiers"] == []
    assert client.delete(f"/api/v1/identifier-patterns/{again['id']}").status_code == 404


def test_a_pattern_is_tried_on_the_stack_and_nothing_is_kept(client, stack, letters):
    def tried(**asked: Any) -> Any:
        return client.get("/api/v1/identifier-patterns/trial", {"stack": stack.pk, **asked})

    told = tried(example="SL/1/2").json()
    assert (told["pattern"], told["count"], told["pages"]) == ("SL/#/#", 2, 3)
    assert [one["value"] for one in told["found"]] == ["SL/27/114", "SL/9/2"]
    assert tried(pattern="SL/9/#", example="X1").json()["count"] == 1
    refused = tried(example="Letters")
    assert refused.status_code == 422
    assert answer(refused)["detail"].startswith("“Letters” has no figures")
    assert not IdentifierPattern.objects.exists()


def test_what_is_put_right_is_offered_and_the_same_is_offered_once(client, stack, letters):
    Page.objects.filter(pk=letters[1].pk).update(removed=True)
    assert [one["value"] for one in offered(client, stack, letters[0])["dates"]] == ["1927-02-14"]


def test_a_page_that_begins_no_document(client, stack, letters):
    response = client.get(f"/api/v1/stacks/{stack.pk}/offers", {"page": letters[1].pk})
    assert response.status_code == 422
    assert "No document begins" in answer(response)["detail"]


def test_so_many_are_offered_and_pages_looked_through(client, stack, written, monkeypatch):
    made = written([str(1900 + at) for at in range(9)], ["1950"])
    assert len(offered(client, stack, made[0])["dates"]) == offers.MOST == 8
    monkeypatch.setattr(offers, "MOST", 20)
    assert [one["value"] for one in offered(client, stack, made[0])["dates"]][-1] == "1950"
    monkeypatch.setattr(offers, "_MOST_PAGES", 1)
    assert [one["value"] for one in offered(client, stack, made[0])["dates"]][-1] == "1908"


def test_so_many_patterns_and_no_more(user):
    for at in range(offers.MOST_PATTERNS):
        offers.keep_pattern(f"S{at}/#", user)
    offers.keep_pattern("S0/#", user)
    with pytest.raises(Refused, match="the most"):
        offers.keep_pattern("one/#", user)
    assert IdentifierPattern.objects.count() == offers.MOST_PATTERNS
