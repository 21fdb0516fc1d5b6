"""Receipts: looked at again where things lie, told to others as data, over the API and on the shelf."""

import csv
import io

import pytest
from django.utils import timezone

from hollowstack.server.dispatch import courier, deliveries
from hollowstack.server.dispatch.models import Delivery, Destination
from hollowstack.server.dispatch.receipts import as_csv
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import delete_document
from tests.server.conftest import answer
from tests.server.dispatching import allowed, carried, destination, document, now, sent
from tests.server.receivers import nothing_goes_wrong, receivers

__all__ = ["allowed", "nothing_goes_wrong", "receivers"]


def test_a_receipt_is_looked_at_again_and_damage_is_found(stack, receivers):
    for kind in ("folder", "storage"):
        (one,) = sent(
            [document(stack, title=f"Again {kind}")] if kind == "folder" else [Document.objects.get()],
            [destination(receivers, kind)],
        )
        name = carried(one).name
        courier.look_again(one.pk)
        assert (now(one).missing, now(one).check_said) == ("", "")
        assert now(one).checked_at is not None
        if kind == "storage":
            receivers.storage.damage(name)
        else:
            (receivers.folder / name).write_bytes(b"%PDF-1.7 made uq")
        courier.look_again(one.pk)
        assert now(one).missing == "It is there, and is not what was delivered any more."
        if kind == "folder":
            (receivers.folder / name).unlink()
            courier.look_again(one.pk)
            assert now(one).missing == "It is not there any more."


def test_a_place_that_does_not_answer_says_nothing_of_what_lies_there(stack, receivers):
    to = destination(receivers, "storage", pattern="silent {title}")
    (one,) = sent([document(stack)], [to])
    carried(one)
    Destination.objects.filter(pk=to.pk).update(place={**to.place, "endpoint": "http://127.0.0.1:1"})
    courier.look_again(one.pk)
    looked = now(one)
    assert (looked.missing, looked.checked_at) == ("", None)
    assert "does not answer" in looked.check_said
    assert looked.check_due == pytest.approx(timezone.now().timestamp() + 3600, abs=60)


def test_receipts_are_looked_at_after_so_many_days_or_never(stack, receivers, settings):
    to = destination(receivers, "folder", pattern="days {title}")
    (one,) = sent([document(stack)], [to])
    assert carried(one).check_due == pytest.approx(timezone.now().timestamp() + 7 * 86400, abs=60)
    settings.RECEIPT_DAYS = 0
    courier.look_again(one.pk)
    assert now(one).check_due == 0
    assert not courier.receipts_due(timezone.now().timestamp()).exists()
    assert deliveries.ask_for_check([], 9999) == 0
    assert deliveries.ask_for_check([], stack.pk) == deliveries.ask_for_check([]) == deliveries.ask_for_check([one.pk]) == 1
    assert courier.receipts_due(timezone.now().timestamp()).get() == now(one)
    assert now(one).is_looked_at


def test_over_the_api_from_looking_to_receipts(client, stack, receivers):
    to, mail = destination(receivers, "folder", pattern="api/{title}"), destination(receivers, "mail")
    one, two = document(stack), document(stack, 2, data=b"%PDF-1.7 made too")
    seen = answer(
        client.post(
            "/api/v1/dispatches/preview",
            {"documents": [one.pk, two.pk], "destination": to.pk},
            content_type="application/json",
        )
    )
    assert [(row["name"], row["bytes"]) for row in seen["rows"]] == [("api/Letters.pdf", 16), ("api/Letters.pdf", 17)]
    assert "one of them is numbered" in seen["rows"][0]["problem"]
    seen = answer(
        client.post(
            "/api/v1/dispatches/preview", {"documents": [one.pk], "destination": mail.pk}, content_type="application/json"
        )
    )
    assert (seen["recipients"], seen["rows"][0]["subject"]) == (["keeper@skerry.example.org"], "Letters")
    refused = client.post(
        "/api/v1/dispatches/preview",
        {"documents": [one.pk], "destination": to.pk, "pattern": "{no}"},
        content_type="application/json",
    )
    assert "no placeholder {no}" in answer(refused)["detail"]
    made = answer(
        client.post(
            "/api/v1/dispatches",
            {"documents": [one.pk, two.pk], "destinations": [to.pk, mail.pk]},
            content_type="application/json",
        )
    )
    assert len(made) == 4
    assert answer(client.get("/api/v1/destinations"))[0]["open"] == 2
    for each in made:
        courier.carry(each["id"])
    listed = answer(client.get(f"/api/v1/deliveries?stack={stack.pk}&show=arrived"))
    assert listed["counts"] == {"all": 4, "open": 0, "stuck": 0, "arrived": 4, "missing": 0}
    assert [each["name"] for each in listed["deliveries"]][-2:] == ["api/Letters (2).pdf", "api/Letters.pdf"]
    assert answer(client.post("/api/v1/receipts/check", {}, content_type="application/json")) == {"asked": 2}
    first = made[0]["id"]
    file = client.get(f"/api/v1/deliveries/{first}/file")
    assert (b"".join(file.streaming_content), file["Content-Type"]) == (b"%PDF-1.7 made up", "application/pdf")
    (receivers.folder / "api" / "Letters.pdf").write_bytes(b"damaged")
    gone = client.get(f"/api/v1/deliveries/{first}/file")
    assert (gone.status_code, "not what was delivered" in answer(gone)["detail"]) == (422, True)
    rows = [*csv.DictReader(io.StringIO(client.get("/api/v1/receipts.csv").content.decode()))]
    assert len(rows) == 4
    assert {row["proof"] for row in rows} == {"read", "answer"}
    assert answer(client.get(f"/api/v1/receipts.json?destination={mail.pk}"))[0]["answer"].startswith("250")
    said = client.post(f"/api/v1/deliveries/{first}/steer", {"do": "cancel"}, content_type="application/json")
    assert "It has arrived" in answer(said)["detail"]


def test_the_shelf_tells_what_waits_and_what_was_lost(client, stack, receivers):
    made = document(stack)
    one, two, three = (
        sent([made], [destination(receivers, "folder", name=f"F{at}", pattern=f"shelf {at}")])[0] for at in range(3)
    )

    def waits() -> tuple[int, int]:
        (told,) = answer(client.get("/api/v1/stacks"))["stacks"]
        return told["waits"]["undelivered"], told["waits"]["lost"]

    assert waits() == (0, 0)
    Delivery.objects.filter(pk=one.pk).update(state="stuck")
    Delivery.objects.filter(pk=two.pk).update(state="arrived", missing="It is not there any more.")
    Delivery.objects.filter(pk=three.pk).update(state="arrived")
    assert waits() == (1, 1)
    delete_document(made.pk, None)
    assert waits() == (0, 0)


def test_nothing_in_a_table_of_receipts_is_a_formula(stack, receivers):
    (one,) = sent([document(stack, title="=1+1")], [destination(receivers, "folder", pattern="formula")])
    carried(one)
    row = next(csv.DictReader(io.StringIO(as_csv(Delivery.objects.select_related("destination", "asked_by")))))
    assert row["title"] == "'=1+1"


def test_a_share_of_the_list_at_a_time(client, stack, receivers, monkeypatch):
    from hollowstack.server.api.v1 import dispatch as over_http

    monkeypatch.setattr(over_http, "_MOST", 2)
    made = sent([document(stack, at) for at in range(1, 4)], [destination(receivers, "folder")])
    first = answer(client.get("/api/v1/deliveries"))
    assert ([one["id"] for one in first["deliveries"]], first["more"]) == ([made[2].pk, made[1].pk], True)
    rest = answer(client.get(f"/api/v1/deliveries?before={made[1].pk}"))
    assert ([one["id"] for one in rest["deliveries"]], rest["more"]) == ([made[0].pk], False)
