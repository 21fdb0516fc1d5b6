"""The tree of collections, and stacks filed under it."""

import pytest

from hollowstack.server.collections import tree
from hollowstack.server.collections.models import Collection
from hollowstack.server.collections.tree import Told
from hollowstack.server.dispatch import deliveries
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.search import things
from hollowstack.server.shelf import filing
from hollowstack.server.shelf.asking import under
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Stack
from tests.server.conftest import answer

pytestmark = pytest.mark.django_db
JSON = "application/json"


@pytest.fixture
def station():
    """Skerry Light > Letters > Box 9, Box 10."""
    light = tree.create(Told("Skerry Light", "fonds", "SL"))
    letters = tree.create(Told("Letters", "series", "", light.pk))
    ten, nine = (tree.create(Told(name, "box", "", letters.pk)) for name in ("Box 10", "Box 9"))
    return light, letters, ten, nine


def names():
    return [branch.names for branch in tree.tree()]


def test_a_tree_with_figures_in_names_as_numbers(station):
    tree.create(Told("Album"))
    assert names() == [
        ("Album",), ("Skerry Light",), ("Skerry Light", "Letters"), ("Skerry Light", "Letters", "Box 9"),
        ("Skerry Light", "Letters", "Box 10"),
    ]  # fmt: skip
    assert tree.names_of(station[2]) == ("Skerry Light", "Letters", "Box 10")
    assert tree.names_of(None) == ()


def test_what_is_moved_goes_with_all_that_is_in_it(station, user):
    _, letters, ten, _ = station
    stack = services.create_stack("A", user)
    filing.file_under([stack.pk], ten.pk)
    other = tree.create(Told("Other papers"))
    tree.change(letters.pk, Told("Post", "series", "", other.pk))
    assert ("Other papers", "Post", "Box 10") in names()
    assert tree.names_of(Collection.objects.get(pk=ten.pk)) == ("Other papers", "Post", "Box 10")
    tree.change(letters.pk, Told("Post"))
    assert tree.names_of(Collection.objects.get(pk=ten.pk)) == ("Post", "Box 10")


def test_nothing_is_put_into_itself(station):
    light, letters, ten, _ = station
    for inside in (light, letters, ten):
        with pytest.raises(Refused, match="into itself"):
            tree.change(light.pk, Told("Skerry Light", parent=inside.pk))


def test_one_name_once_in_a_place(station):
    light, letters, ten, _ = station
    with pytest.raises(Refused, match="already"):
        tree.create(Told("letters", parent=light.pk))
    with pytest.raises(Refused, match="already"):
        tree.change(ten.pk, Told(" Box  9 ", parent=letters.pk))
    tree.create(Told("Letters"))  # elsewhere
    assert tree.change(ten.pk, Told("BOX 10", parent=letters.pk)).name == "BOX 10"


@pytest.mark.parametrize(("name", "why"), [("  ", "needs a name"), ("x" * 201, "201 characters")])
def test_names_that_will_not_do(name, why):
    with pytest.raises(Refused, match=why):
        tree.create(Told(name))
    assert not Collection.objects.exists()


def test_so_deep_and_no_deeper():
    parent = None
    for level in range(tree.MOST_DEEP):
        parent = tree.create(Told(f"Level {level}", parent=parent.pk if parent else None))
    with pytest.raises(Refused, match="9 levels deep"):
        tree.create(Told("one more", parent=parent.pk))
    top = tree.create(Told("Top"))
    whole = Collection.objects.get(name="Level 0")
    with pytest.raises(Refused, match="9 levels deep"):
        tree.change(whole.pk, Told("Level 0", parent=top.pk))
    second = Collection.objects.get(name="Level 1")
    tree.change(second.pk, Told("Level 1", parent=top.pk))


def test_only_what_is_empty_is_deleted(station, user, client):
    light, _, ten, nine = station
    stack = services.create_stack("A", user)
    filing.file_under([stack.pk], ten.pk)

    def refusal(one):
        response = client.delete(f"/api/v1/collections/{one.pk}")
        return response.status_code, answer(response)["detail"] if response.status_code == 422 else ""

    assert refusal(light) == (422, "Skerry Light holds another collection: move or delete it first.")
    assert refusal(ten) == (422, "1 stack is filed under Box 10: file them elsewhere first.")
    client.delete(f"/api/v1/stacks/{stack.pk}")
    assert refusal(ten) == (422, "1 stack is filed under Box 10, 1 of them in the bin: file them elsewhere first.")
    assert refusal(nine) == (204, "")
    assert refusal(nine)[0] == 404


def test_stacks_are_filed_all_or_none(client, user, station):
    light, letters, ten, nine = station
    made = [services.create_stack(name, user) for name in "ABC"]

    def file(collection, *ids):
        return client.post("/api/v1/filings", {"stacks": ids, "collection": collection}, content_type=JSON)

    assert file(ten.pk, made[0].pk, made[1].pk).json() == {"filed": 2}
    gone = file(nine.pk, made[2].pk, 999)
    assert gone.status_code == 422
    assert "nothing was filed" in answer(gone)["detail"]
    assert Stack.objects.get(pk=made[2].pk).collection is None
    file(light.pk, made[2].pk)
    rows = {row["name"]: (row["filed"], row["stacks"]) for row in client.get("/api/v1/collections").json()}
    assert rows == {"Skerry Light": (1, 3), "Letters": (0, 2), "Box 9": (0, 0), "Box 10": (2, 2)}

    def shown(collection):
        return {row["name"] for row in client.get("/api/v1/stacks", {"collection": collection}).json()["stacks"]}

    assert (shown(light.pk), shown(letters.pk), shown(nine.pk), shown(0)) == ({"A", "B", "C"}, {"A", "B"}, set(), set())
    told = client.get(f"/api/v1/stacks/{made[0].pk}").json()["filed"]
    assert told == {"id": ten.pk, "names": ["Skerry Light", "Letters", "Box 10"]}
    assert file(None, made[0].pk).json() == {"filed": 1}
    assert shown(0) == {"A"}
    assert client.get("/api/v1/stacks", {"collection": 999}).status_code == 404


def test_one_collection_is_not_taken_for_another_whose_number_begins_the_same(user):
    first = tree.create(Told("One"))
    other = Collection.objects.create(pk=10 * first.pk, name="Other", path=f"/{10 * first.pk}/")
    stack = services.create_stack("A", user)
    filing.file_under([stack.pk], other.pk)
    assert not Stack.objects.filter(under(first)).exists()


def test_a_collection_is_said_anew_over_the_api(client, user, station):
    light, letters, *_ = station
    said = {"name": "Letters out", "level": "series", "identifier": "SL/1", "parent": light.pk}
    before = services.create_stack("A", user)
    filing.file_under([before.pk], letters.pk)
    change = Stack.objects.get(pk=before.pk).change
    assert client.put(f"/api/v1/collections/{letters.pk}", said, content_type=JSON).status_code == 204
    row = next(row for row in client.get("/api/v1/collections").json() if row["id"] == letters.pk)
    assert {key: row[key] for key in said} == said
    assert Stack.objects.get(pk=before.pk).change == change + 1  # so that it is found by that
    made = client.post("/api/v1/collections", {"name": "Plans", "parent": light.pk}, content_type=JSON)
    assert (made.status_code, made.json()["names"]) == (201, ["Skerry Light", "Plans"])
    wrong = client.post("/api/v1/collections", {"name": "Plans", "level": "shelf"}, content_type=JSON)
    assert wrong.status_code == 422
    assert client.post("/api/v1/collections", {"name": "Plans", "parent": 999}, content_type=JSON).status_code == 404


def test_files_are_named_and_stacks_found_by_where_they_are_filed(client, user, station):
    *_, ten, _ = station
    stack = services.create_stack("Letters of 1927", user)
    document = Document.objects.create(stack=stack, title="Oil", created_at=stack.created_at, key="k")
    assert deliveries.names_of("{fonds} {collection} {title}", [document], 1) == ["Oil.pdf"]
    filing.file_under([stack.pk], ten.pk)
    document = Document.objects.get(pk=document.pk)
    assert deliveries.names_of("{fonds}, {collection}, {title}", [document], 1) == ["Skerry Light, Box 10, Oil.pdf"]
    things.refresh_some()
    (hit,) = client.get("/api/v1/search", {"q": "skerry", "kind": "stacks"}).json()["things"]
    assert {"name": "collection", "words": "Skerry Light › Letters › Box 10"} in hit["place"]
    filing.change_collection(ten.pk, Told("Case 10"))
    things.refresh_some()
    assert client.get("/api/v1/search", {"q": "skerry", "kind": "stacks"}).json()["things"] == []
    assert len(client.get("/api/v1/search", {"q": "case", "kind": "stacks"}).json()["things"]) == 1


def test_a_search_stays_in_a_collection(client, user, station):
    light, _, ten, nine = station
    for name, where in (("Letters A", ten), ("Letters B", nine), ("Letters C", None)):
        filing.file_under([services.create_stack(name, user).pk], where and where.pk)
    things.refresh_some()

    def found(collection):
        told = client.get("/api/v1/search", {"q": "letters", "kind": "stacks", "collection": collection})
        return {one["title"] for one in told.json()["things"]}

    assert (found(light.pk), found(ten.pk), found(0)) == ({"Letters A", "Letters B"}, {"Letters A"}, {"Letters C"})
