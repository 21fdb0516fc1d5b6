"""Order slips: saved, started, and what follows when all their pages are worked through."""

import json
from dataclasses import asdict
from importlib import import_module

import pytest
from django.apps import apps
from django.contrib.auth import get_user_model
from django.utils import timezone

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.core.settings.original import Original
from hollowstack.server.accounts.models import Person
from hollowstack.server.accounts.rights import Role
from hollowstack.server.capture import slips, waiting
from hollowstack.server.capture.answers import Answers
from hollowstack.server.capture.escl import Capabilities, SourceCapabilities
from hollowstack.server.capture.models import OrderSlip, Run, Station, WaitingSlip
from hollowstack.server.capture.slip_names import title_of
from hollowstack.server.dispatch import destinations
from hollowstack.server.dispatch.destinations import DestinationAsked
from hollowstack.server.dispatch.models import Delivery, Destination
from hollowstack.server.documents.models import Document
from hollowstack.server.intake import batches
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.services import treatment_of
from tests.server.conftest import answer, sha, signed_in, walk
from tests.server.stations import obey, station_of

SETTINGS = {"source": "feeder", "two_sided": True, "ppi": 300, "colour": "grey"}


@pytest.fixture
def station(db) -> Station:
    feeder = SourceCapabilities(216, 356, (200, 300), ("image/jpeg",), ("Grayscale8", "RGB24"))
    can = Capabilities(name="Landing feeder", platen=None, feeder=feeder, two_sided=True)
    return Station.objects.create(name="Landing feeder", address="http://127.0.0.1:1", capabilities=asdict(can))


def save(client, station, **more):
    body = {"name": "Letters", "station": station.pk, "settings": SETTINGS, "naming": "Letters {counter}", **more}
    return client.post("/api/v1/order-slips", json.dumps(body), content_type="application/json")


def start(client, slip: int):
    return client.post(f"/api/v1/order-slips/{slip}/start", content_type="application/json")


def test_saved_under_its_name_and_never_written_over(client, station):
    assert save(client, station, treatment="single-sided").status_code == 201
    refused = save(client, station)
    assert (refused.status_code, "open that one to change it" in answer(refused)["detail"]) == (422, True)
    (slip,) = answer(client.get("/api/v1/order-slips"))
    assert (slip["treatment"], slip["station_name"], slip["settings"]["ppi"]) == ("single-sided", "Landing feeder", 300)
    assert client.delete(f"/api/v1/order-slips/{slip['id']}").status_code == 204
    assert answer(client.get("/api/v1/order-slips")) == []


@pytest.mark.parametrize(
    ("change", "sentence"),
    [
        ({"name": " "}, "needs a name"),
        ({"name": "x" * 81}, "too long"),
        ({"naming": "{weather}"}, "no placeholder {weather}"),
        ({"naming": "{identifier}"}, "no placeholder {identifier}"),
        ({"naming": "{title"}, "no other half"),
        ({"send_to": [999]}, "A destination of the slip is gone: choose others."),
        ({"treatment": "bleach"}, "no treatment “bleach”"),
        ({"settings": {**SETTINGS, "ppi": 1200}}, "cannot capture at 1200 ppi"),
        ({"settings": {**SETTINGS, "source": "platen"}}, "no glass"),
    ],
)
def test_what_will_not_do_is_said(client, station, change, sentence):
    refused = save(client, station, **change)
    assert refused.status_code == 422
    assert sentence in answer(refused)["detail"]
    assert not OrderSlip.objects.exists()


def test_what_lay_there_is_not_kept(client, station):
    save(client, station, settings={**SETTINGS, "sheets": 12, "place": "after", "page": 4})
    kept = answer(client.get("/api/v1/order-slips"))[0]["settings"]
    assert (kept["sheets"], kept["place"], kept["page"]) == (None, "end", None)


def test_one_press_makes_a_stack_and_asks_for_the_capture(client, station):
    slip = answer(save(client, station, treatment="single-sided", new_document_after="blank sheets"))["id"]
    started = answer(start(client, slip))
    stack, run = Stack.objects.get(pk=started["stack"]), Run.objects.get(pk=started["run"])
    assert (stack.name, stack.treatment["name"], run.bind_as) == ("Letters 1", "single-sided", "Letters 1")
    assert stack.treatment["new_document_after"] == "blank sheets"
    assert run.state == Run.State.WANTED
    refused = start(client, slip)
    assert (refused.status_code, "not finished" in answer(refused)["detail"]) == (422, True)
    assert Stack.objects.count() == 1


def test_without_its_station(client, station):
    slip = answer(save(client, station))["id"]
    station.delete()
    refused = start(client, slip)
    assert "no longer here" in answer(refused)["detail"]


@pytest.fixture
def run(client, station) -> Run:
    made = Run.objects.get(pk=answer(start(client, answer(save(client, station))["id"]))["run"])
    made.batch = batches.open_batch(made.stack_id, None)
    made.save()
    return made


def test_bound_once_all_pages_are_worked_through(run):
    pages = [batches.add_file(run.batch_id, batches.Coming(n, f"{n}.jpg", sha(n + 1), 10)) for n in range(2)]
    slips.bind_what_is_ready()
    Run.objects.update(state=Run.State.DONE)
    walk(pages[0])
    slips.bind_what_is_ready()
    assert not Document.objects.exists()
    walk(pages[1])
    slips.bind_what_is_ready()
    slips.bind_what_is_ready()
    (document,) = Document.objects.all()
    assert (document.title, document.page_count) == ("Letters 1", 2)


def test_nothing_to_bind_is_said(run):
    page = batches.add_file(run.batch_id, batches.Coming(0, "0.jpg", sha(1), 10))
    Run.objects.update(state=Run.State.DONE)
    walk(page, until="render", ink_percent=0.0, marks=0)
    slips.bind_what_is_ready()
    after = Run.objects.get()
    assert (after.bind_as, "no page to bind" in after.problem) == ("", True)


def test_a_capture_that_waits_for_somebody_is_not_bound(run):
    walk(batches.add_file(run.batch_id, batches.Coming(0, "0.jpg", sha(1), 10)))
    Run.objects.update(state=Run.State.STOPPED)
    slips.bind_what_is_ready()
    assert not Document.objects.exists()


def change(client, slip: int, **more):
    body = {"name": "Letters", "settings": SETTINGS, "naming": "Letters {counter}", **more}
    return client.put(f"/api/v1/order-slips/{slip}", json.dumps(body), content_type="application/json")


def post(client, path: str, **body):
    return client.post(f"/api/v1/order-slips/{path}", json.dumps(body), content_type="application/json")


def names(client) -> list[str]:
    return [slip["name"] for slip in answer(client.get("/api/v1/order-slips"))]


def test_a_slip_is_changed_and_named_otherwise(client, station):
    slip = answer(save(client, station))["id"]
    told = {"station": station.pk, "new_document_after": "number of pages", "pages_a_document": 2}
    changed = answer(change(client, slip, name="Invoices", naming="{title}", asks=["title"], **told))
    assert (changed["id"], changed["name"], changed["asks"], changed["pages_a_document"]) == (slip, "Invoices", ["title"], 2)
    assert save(client, station).status_code == 201
    refused = change(client, slip, station=station.pk)
    assert (refused.status_code, "Another order slip is called Letters" in answer(refused)["detail"]) == (422, True)
    assert change(client, 999, station=station.pk).status_code == 404


def test_a_copy_says_the_same_and_stands_behind_it(client, station):
    first = answer(save(client, station, asks=["box"], original={"after": "back"}))
    save(client, station, name="Last")
    copied = answer(post(client, f"{first['id']}/copy"))
    assert {**copied, "id": 0, "name": ""} == {**first, "id": 0, "name": ""}
    again = answer(post(client, f"{first['id']}/copy"))
    assert names(client) == ["Letters", again["name"], copied["name"], "Last"]
    assert (copied["name"], again["name"]) == ("Letters, copy", "Letters, copy 2")


def test_slips_stand_in_the_order_they_are_put_into(client, station):
    a, b, c = (answer(save(client, station, name=name))["id"] for name in ("a", "b", "c"))
    assert names(client) == ["a", "b", "c"]
    put = {"slips": [c, a, c, 999]}
    assert client.put("/api/v1/order-slips/order", json.dumps(put), content_type="application/json").status_code == 204
    assert names(client) == ["c", "a", "b"]
    save(client, station, name="aa")
    assert names(client) == ["c", "a", "b", "aa"]
    assert b


def test_what_is_not_shared_is_seen_by_whoever_made_it_alone(client, station, user):
    other = get_user_model().objects.create_user("mender", password="skerry-light")
    Person.objects.create(user=other, role=Role.TECHNICIAN)
    slip = answer(save(client, station, shared=False))["id"]
    them = signed_in("mender", "skerry-light")
    assert (names(client), names(them)) == (["Letters"], [])
    for refused in (start(them, slip), change(them, slip, station=station.pk), post(them, f"{slip}/copy")):
        assert refused.status_code == 404
    taken = save(them, station)
    assert (taken.status_code, "Another order slip is called Letters" in answer(taken)["detail"]) == (422, True)
    shared = answer(change(client, slip, station=station.pk, shared=True))
    assert (shared["shared"], shared["by"]) == (True, "keeper")
    assert names(them) == ["Letters"]
    # Whoever sees it may change what it says, and not who sees it.
    assert change(them, slip, station=station.pk, naming="x").status_code == 200
    assert change(them, slip, station=station.pk, shared=False).status_code == 422


def test_what_a_slip_asks_for_is_said_before_the_first_sheet(client, station):
    asks = ["title", "year", "box", "after"]
    slip = answer(save(client, station, naming="{title}, {written}", asks=asks, original={"shelf": "C 4", "box": "1"}))
    refused = start(client, slip["id"])
    sentence = "asks for the title, the year, the box and what becomes of the paper"
    assert (refused.status_code, sentence in answer(refused)["detail"]) == (422, True)
    assert not Stack.objects.exists()
    original = {"year": "1927", "box": "27", "shelf": "ignored", "after": "kept", "until": "2031-01-31", "by": "the trust"}
    said = post(client, f"{slip['id']}/start", title=" Landing   book ", original=original)
    stack = Stack.objects.get(pk=answer(said)["stack"])
    assert stack.name == "Landing book, 1927"
    assert stack.original == {
        "year": "1927", "box": "27", "shelf": "C 4", "after": "kept", "until": "2031-01-31", "by": "the trust",
    }  # fmt: skip
    assert Run.objects.get().bind_as == "Landing book, 1927"


def test_a_title_that_is_asked_for_is_the_name_where_the_naming_has_no_room_for_it(client, station):
    slip = answer(save(client, station, asks=["title"], naming="Letters {counter}"))["id"]
    started = answer(post(client, f"{slip}/start", title="Landing book"))
    assert Stack.objects.get(pk=started["stack"]).name == "Landing book"


@pytest.mark.parametrize(
    ("naming", "name"),
    [
        ("{title}, {written}", "Landing book, 1927"),
        ("Box {box}, {written}", "Box, 1927"),
        ("{box}", "Letters"),
        ("{title} · {box}", "Landing book"),
        ("No. {counter}", "No. 4"),
        ("No. {counter:3}/{written}", "No. 004/1927"),
    ],
)
def test_what_nobody_has_said_leaves_no_gap_in_a_name(naming, name):
    slip = OrderSlip(name="Letters", naming=naming, asks=["title", "year"], used=3)
    assert title_of(slip, Answers("Landing book", Original(year="1927", box="27"))) == (
        "Landing book" if "{title}" not in naming else name
    )
    slip.asks, slip.original = ["year"], {}
    if "{title}" not in naming:
        assert title_of(slip, Answers("", Original(year="1927"))) == name


@pytest.mark.parametrize(
    ("told", "names"),
    [
        ({"name": "Letters", "naming": "No. {counter:3}"}, ["No. 001", "No. 002", "No. 003"]),
        ({"name": "Letters", "naming": "Box {box}", "original": {"box": "27"}}, ["Box 27"] * 3),
        ({"name": "Letters", "naming": "{title}, {written}", "asks": ["title", "year"]}, ["‹the title›, ‹the year›"] * 3),
        ({"name": "Letters", "naming": "Letters {counter}", "asks": ["title"]}, ["‹the title›"] * 3),
        ({"name": "Letters", "asks": ["title", "after"]}, ["‹the title›"] * 3),
        ({"name": "Letters", "naming": "{box}"}, ["Letters"] * 3),
        ({"name": "Letters", "naming": "{box}", "asks": ["box"], "original": {"box": "27"}}, ["‹the box›"] * 3),
        ({"name": " The  letters "}, ["The letters {day} 1", "The letters {day} 2", "The letters {day} 3"]),
    ],
)
def test_the_names_that_come_next_are_told_while_a_slip_is_written(client, told, names):
    found = answer(post(client, "names", **told))
    assert found == {"names": [name.replace("{day}", f"{timezone.localdate()}") for name in names], "zone": "UTC"}


def test_a_kept_slip_that_is_changed_counts_on_from_where_it_is(client, station, user):
    slip = answer(save(client, station))["id"]
    start(client, slip)
    told = {"name": "Letters", "naming": "Letters {counter}", "slip": slip}
    assert answer(post(client, "names", **told))["names"] == ["Letters 2", "Letters 3", "Letters 4"]
    OrderSlip.objects.update(shared=False, by=get_user_model().objects.create_user("somebody else"))
    assert post(client, "names", **told).status_code == 404


@pytest.mark.parametrize("naming", ["{page}", "{title", "{box:3}"])
def test_a_naming_that_cannot_be_filled_in_is_refused_while_it_is_written(client, naming):
    refused = post(client, "names", name="Letters", naming=naming)
    assert (refused.status_code, answer(refused)["detail"][-1]) == (422, ".")


def test_braces_in_the_name_of_a_slip_are_refused_where_stacks_are_named_after_it(client, station):
    refused = save(client, station, name="Box {7}", naming="")
    assert (refused.status_code, "{7}" in answer(refused)["detail"]) == (422, True)
    assert save(client, station, name="Box {7}", naming="Box {counter}").status_code == 201


def test_a_number_of_pages_makes_a_document(client, station, stack, user):
    told = {"new_document_after": "number of pages", "pages_a_document": 2}
    slip = answer(save(client, station, **told))["id"]
    made = Stack.objects.get(pk=answer(start(client, slip))["stack"])
    assert treatment_of(made).documents == DocumentRule("number of pages", 2)
    assert save(client, station, new_document_after="number of pages", pages_a_document=0).status_code == 422


def test_tried_dry_it_says_what_it_would_do_and_moves_nothing(client, feeder):
    station = station_of(feeder)
    one_sided = {**SETTINGS, "two_sided": False}
    slip = answer(save(client, station, settings=one_sided, naming="Register {counter}"))["id"]
    found = answer(post(client, f"{slip}/dry-run"))
    assert all(one["well"] for one in found), found
    said = " ".join(one["sentence"] for one in found)
    assert "Feeder One is ready." in said
    assert "“Register 1”" in said
    assert "a new document begins after separator sheets" in said
    assert not Run.objects.exists()
    assert len(feeder.device.tray) == 8

    obey(feeder, {"load": ""})
    assert "feeder of Feeder One is empty" in tried(client, slip)
    obey(feeder, {"load": "register-8", "offline": True})
    assert "cannot be reached" in tried(client, slip)
    obey(feeder, {"offline": False})
    start(client, slip)
    assert "not finished" in tried(client, slip)


def tried(client, slip: int) -> str:
    """What stands against a slip."""
    return " ".join(one["sentence"] for one in answer(post(client, f"{slip}/dry-run")) if not one["well"])


def test_tried_dry_without_a_station_and_with_open_questions(client, station):
    slip = answer(save(client, station, asks=["title"]))["id"]
    found = answer(post(client, f"{slip}/dry-run"))
    assert "asked when it starts" in found[-1]["sentence"]
    assert "“Landing book”" in answer(post(client, f"{slip}/dry-run", title="Landing book"))[-1]["sentence"]
    station.delete()
    assert "no longer here" in tried(client, slip)


def test_a_slip_that_asks_waits_with_the_answers_it_was_given(client, station):
    slip = answer(save(client, station, naming="{title}", asks=["title", "box"]))["id"]
    put = f"/api/v1/order-slips/{slip}/waiting"
    refused = client.put(put)
    assert (refused.status_code, "asks for the title and the box" in answer(refused)["detail"]) == (422, True)
    body = json.dumps({"title": "Landing book", "original": {"box": "27"}})
    assert client.put(put, body, content_type="application/json").status_code == 200
    assert waiting._start(WaitingSlip.objects.get()) == ""
    made = Stack.objects.get()
    assert (made.name, made.original) == ("Landing book", {"box": "27"})


def test_a_form_where_json_is_wanted_is_refused_in_a_sentence(client, station):
    slip = answer(save(client, station))["id"]
    refused = client.post(f"/api/v1/order-slips/{slip}/start", {"title": "Landing book"})
    assert (refused.status_code, answer(refused)["detail"]) == (400, "The body came as a form: send JSON.")


class TestSentOn:
    """What a slip has bound goes where the slip says."""

    @pytest.fixture
    def place(self, settings, tmp_path) -> Destination:
        settings.DELIVERY_FOLDERS = [tmp_path]
        asked = {"name": "Reading room", "place": {"kind": "folder", "path": str(tmp_path / "room")}}
        (tmp_path / "room").mkdir()
        return destinations.keep(DestinationAsked.model_validate(asked), None)

    @pytest.fixture
    def done(self, client, station, place) -> Run:
        slip = answer(save(client, station, send_to=[place.pk, place.pk]))
        assert (slip["send_to"], slip["gone"]) == ([place.pk], 0)
        run = Run.objects.get(pk=answer(start(client, slip["id"]))["run"])
        run.batch = batches.open_batch(run.stack_id, None)
        run.state = Run.State.DONE
        run.save()
        walk(batches.add_file(run.batch_id, batches.Coming(0, "0.jpg", sha(1), 10)))
        return run

    def test_bound_it_goes_there_once(self, done, place):
        slips.bind_what_is_ready()
        slips.bind_what_is_ready()
        (delivery,) = Delivery.objects.all()
        assert (delivery.title, delivery.destination, delivery.asked_by.username) == ("Letters 1", place, "keeper")
        assert Run.objects.get().problem == ""

    def test_where_a_destination_is_gone_it_is_bound_and_that_is_said(self, done, client, place):
        destinations.remove(place.pk, None)
        slips.bind_what_is_ready()
        assert Document.objects.count() == 1
        assert not Delivery.objects.exists()
        assert Run.objects.get().problem == "It is bound, but a destination of the slip is gone."
        (slip,) = answer(client.get("/api/v1/order-slips"))
        assert (slip["send_to"], slip["gone"]) == ([], 1)

    def test_what_it_does_not_take_is_bound_and_that_is_said(self, done, place):
        Destination.objects.update(takes=["access"])
        slips.bind_what_is_ready()
        assert Document.objects.count() == 1
        assert Run.objects.get().problem.startswith("It is bound, but was not sent: None of the destinations takes")

    def test_a_dry_try_tells_of_its_destinations(self, client, station, place):
        slip = answer(save(client, station, send_to=[place.pk]))["id"]

        def told() -> list[tuple[bool, str]]:
            found = answer(post(client, f"{slip}/dry-run"))
            return [(one["well"], one["sentence"]) for one in found][5:]

        assert told() == [(True, "What is bound goes to Reading room.")]
        Destination.objects.update(tried_said="It is full.")
        assert told() == [(False, "Reading room did not work when it was tried: It is full.")]
        destinations.remove(place.pk, None)
        assert told() == [(False, "A destination of the slip is gone: open it, and choose others.")]


def test_names_of_slips_kept_before_are_filled_in_as_ever(db, station):
    slip = OrderSlip.objects.create(
        name="L", station=station, settings={}, treatment="everyday", naming="{year} {number}{title}"
    )
    import_module("hollowstack.server.capture.migrations.0015_send_to").rename_placeholders(apps, None)
    slip.refresh_from_db()
    assert slip.naming == "{written} {counter}{title}"
