"""Order slips: saved, started, and what follows when all their pages are worked through."""

import json
from dataclasses import asdict

import pytest

from hollowstack.server.capture import slips
from hollowstack.server.capture.escl import Capabilities, SourceCapabilities
from hollowstack.server.capture.models import OrderSlip, Run, Station
from hollowstack.server.documents.models import Document
from hollowstack.server.intake import batches
from hollowstack.server.stacks.models import Stack
from tests.server.conftest import answer, sha, walk

SETTINGS = {"source": "feeder", "two_sided": True, "ppi": 300, "colour": "grey"}


@pytest.fixture
def station(db) -> Station:
    feeder = SourceCapabilities(216, 356, (200, 300), ("image/jpeg",), ("Grayscale8", "RGB24"))
    can = Capabilities(name="Landing feeder", platen=None, feeder=feeder, two_sided=True)
    return Station.objects.create(name="Landing feeder", address="http://127.0.0.1:1", capabilities=asdict(can))


def save(client, station, **more):
    body = {"name": "Letters", "station": station.pk, "settings": SETTINGS, "naming": "Letters {number}", **more}
    return client.post("/api/v1/order-slips", json.dumps(body), content_type="application/json")


def start(client, slip: int):
    return client.post(f"/api/v1/order-slips/{slip}/start")


def test_saved_under_its_name_and_written_over(client, station):
    assert save(client, station).status_code == 201
    assert save(client, station, treatment="single-sided").status_code == 201
    (slip,) = answer(client.get("/api/v1/order-slips"))
    assert (slip["treatment"], slip["station_name"], slip["settings"]["ppi"]) == ("single-sided", "Landing feeder", 300)
    assert client.delete(f"/api/v1/order-slips/{slip['id']}").status_code == 204
    assert answer(client.get("/api/v1/order-slips")) == []


@pytest.mark.parametrize(
    ("change", "sentence"),
    [
        ({"name": " "}, "needs a name"),
        ({"name": "x" * 81}, "too long"),
        ({"naming": "{weather}"}, "“{weather}” cannot be filled in"),
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
