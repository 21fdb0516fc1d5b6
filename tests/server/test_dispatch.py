"""Documents sent to destinations: names, proofs, mishaps overcome or put before a person, receipts looked at again."""

import csv
import hashlib
import io
import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from django.utils import timezone

from hollowstack.server.accounts.models import Entry
from hollowstack.server.dispatch import courier, deliveries, destinations
from hollowstack.server.dispatch.carriers import CarrierFault
from hollowstack.server.dispatch.course import Again, Cancelled, Held, Released
from hollowstack.server.dispatch.deliveries import DispatchAsked, dispatch, steer
from hollowstack.server.dispatch.destinations import DestinationAsked
from hollowstack.server.dispatch.models import Delivery, Destination
from hollowstack.server.dispatch.receipts import as_csv
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import delete_document
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.storage import places
from tests.server.conftest import answer, sha
from tests.server.receivers import Receivers, nothing_goes_wrong, receivers

__all__ = ["nothing_goes_wrong", "receivers"]

WHEN = datetime(2026, 3, 7, 9, tzinfo=UTC)


@pytest.fixture(autouse=True)
def allowed(settings: Any, receivers: Receivers, tmp_path: Path) -> None:
    """The server may go to this machine, and to a folder."""
    from ipaddress import ip_network

    settings.DATA, settings.DELIVERY_FOLDERS = tmp_path / "data", [receivers.folder]
    settings.DELIVERY_NETWORKS, settings.DELIVERY_CERTIFICATES = [ip_network("127.0.0.0/8")], receivers.certificates
    settings.DELIVERY_SECONDS, settings.RECEIPT_DAYS = 5.0, 7.0


def document(
    stack: Any, number: int = 1, title: str = "Letters", data: bytes | None = b"%PDF-1.7 made up", **more: Any
) -> Document:
    """One that is bound, or is still being bound where it has no data."""
    made = Document.objects.create(
        stack=stack, title=title, key=sha(900 + number), created_at=WHEN, page_count=3,
        order={"described": {"identifier": "SL/27/114"}}, **more,
    )  # fmt: skip
    if data is not None:
        bind(made, data)
    return made


def bind(made: Document, data: bytes) -> None:
    path = places.document_path(made.key)
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)
    body = {"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest(), "pages": 3}
    Result.objects.create(key=made.key, step="bind", body=body)


def destination(receivers: Receivers, kind: str, **more: Any) -> Destination:
    place, secret = receivers.places[kind]
    asked = {"name": f"The {kind}", "place": place, "secret": secret, "pattern": f"{kind} {{title}}", **more}
    return destinations.keep(DestinationAsked.model_validate(asked), None)


def sent(documents: list[Document], to: list[Destination], **more: Any) -> list[Delivery]:
    asked = {"documents": [one.pk for one in documents], "destinations": [one.pk for one in to], **more}
    return dispatch(DispatchAsked.model_validate(asked), None)


def now(delivery: Delivery) -> Delivery:
    return Delivery.objects.get(pk=delivery.pk)


def carried(delivery: Delivery) -> Delivery:
    courier.carry(delivery.pk)
    return now(delivery)


def is_due(delivery: Delivery) -> bool:
    return courier.due_ones(timezone.now().timestamp()).filter(pk=delivery.pk).exists()


def test_two_documents_to_four_places_in_one_step_each_proven(stack, receivers):
    to = [
        destination(receivers, kind, pattern=f"{kind}/{{identifier}} {{title}} {{counter:3}}") for kind in receivers.places
    ]
    both = [document(stack, 1), document(stack, 2, "Cards", b"%PDF-1.7 cards")]
    made = sent(both, to)
    assert [one.name for one in made[:2]] == ["folder/SL_27_114 Letters 001.pdf", "folder/SL_27_114 Cards 002.pdf"]
    for one in made:
        there = carried(one)
        assert (there.state, there.said, there.bytes) == ("arrived", "", 16 if there.title == "Letters" else 14)
        assert there.proof == ("answer" if there.destination.kind == "mail" else "read")
        assert there.sha256 == hashlib.sha256(places.document_path(there.document.key).read_bytes()).hexdigest()
        assert (there.check_due > 0) is (there.proof == "read")
    assert (receivers.folder / made[0].name).read_bytes() == b"%PDF-1.7 made up"
    assert receivers.storage.read(made[5].name) == b"%PDF-1.7 cards"
    assert (receivers.sftp.folder / "in" / made[2].name).exists()
    mail = next(one for one in receivers.mail.mails if one.message["Message-ID"].startswith(f"<{made[6].mark.hex}@"))
    assert mail.message["Subject"] == "Letters"
    assert mail.message.get_body().get_content().strip() == "Attached: Letters, 3 pages."


def test_what_is_being_bound_is_waited_for_and_what_failed_is_told(stack, receivers):
    to, late = destination(receivers, "folder"), document(stack, data=None)
    (one,) = sent([late], [to])
    assert not is_due(one)
    bind(late, b"late")
    assert is_due(one)
    assert carried(one).state == "arrived"
    failed = document(stack, 2, data=None)
    (two,) = sent([failed], [to])
    result = Result.objects.create(key=failed.key, step="bind", state="waiting", error="No room.")
    assert not is_due(two)
    result.state = "failed"
    result.save()
    assert is_due(two)
    assert (carried(two).state, now(two).said) == ("stuck", "The document could not be bound: No room.")


def test_a_name_that_is_taken_is_numbered_or_asked_about(stack, receivers):
    to = destination(receivers, "folder", pattern="taken {title}")
    (receivers.folder / "taken Letters.pdf").write_bytes(b"somebody else's")
    (one,) = sent([document(stack)], [to])
    assert carried(one).name == "taken Letters (2).pdf"
    assert (receivers.folder / "taken Letters.pdf").read_bytes() == b"somebody else's"
    asks = destination(receivers, "folder", name="Asks", pattern="taken {title}", clash="ask")
    (two,) = sent([document(stack, 2, data=b"another")], [asks])
    assert carried(two).state == "stuck"
    assert "Something else lies there as taken Letters.pdf" in now(two).said


@pytest.mark.parametrize(("kind", "mishap"), [("sftp", "drops"), ("sftp", "full"), ("mail", "drops"), ("mail", "full")])
def test_a_mishap_that_passes_is_overcome(stack, receivers, kind, mishap):
    (one,) = sent([document(stack)], [destination(receivers, kind, pattern=f"{mishap} {{title}}")])
    getattr(receivers, kind).mishaps.ask(mishap)
    waits = carried(one)
    assert (waits.state, waits.tries) == ("waiting", 1)
    assert waits.said
    assert waits.due == pytest.approx(timezone.now().timestamp() + 5, abs=3)
    there = carried(one)
    assert (there.state, there.said) == ("arrived", "")


@pytest.mark.parametrize("kind", ["sftp", "storage"])
def test_a_changed_byte_is_sent_anew(stack, receivers, kind):
    (one,) = sent([document(stack)], [destination(receivers, kind, pattern="changed {title}")])
    getattr(receivers, kind).mishaps.ask("corrupts")
    waits = carried(one)
    assert (waits.state, waits.said) == ("waiting", courier._OTHER)
    there = carried(one)
    assert (there.state, there.name, there.proof) == ("arrived", "changed Letters.pdf", "read")


def test_what_somebody_else_put_there_meanwhile_is_left_alone(stack, receivers, monkeypatch):
    (one,) = sent([document(stack)], [destination(receivers, "folder", pattern="meanwhile theirs")])
    there = courier.digest_there

    def silent(*args: Any) -> str:
        raise CarrierFault("no answer")

    monkeypatch.setattr(courier, "digest_there", silent)
    assert (carried(one).state, now(one).said) == ("proving", "no answer")
    monkeypatch.setattr(courier, "digest_there", there)
    theirs = receivers.folder / "meanwhile theirs.pdf"
    theirs.write_bytes(b"theirs")
    assert (carried(one).state, now(one).said) == ("waiting", courier._CHANGED)
    assert (carried(one).state, now(one).name) == ("arrived", "meanwhile theirs (2).pdf")
    assert theirs.read_bytes() == b"theirs"


def test_a_wrong_password_is_put_before_a_person_and_put_right(stack, receivers):
    place, secret = receivers.places["sftp"]
    to = destination(receivers, "sftp", secret="wrong", pattern="password {title}")
    (one,) = sent([document(stack)], [to])
    stuck = carried(one)
    assert (stuck.state, stuck.tries) == ("stuck", 0)
    assert "does not take the name and password: put them right" in stuck.said
    asked = {"name": to.name, "place": place, "secret": secret, "pattern": to.pattern}
    destinations.keep(DestinationAsked.model_validate(asked), None, to.pk)
    steer(one.pk, Again())
    assert carried(one).state == "arrived"


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


def test_held_let_go_and_given_up(stack, receivers):
    (one, two) = sent(
        [document(stack), document(stack, 2, "Cards", b"cards")], [destination(receivers, "folder", pattern="held {title}")]
    )
    assert is_due(one)
    assert steer(one.pk, Held()).held
    assert not is_due(one)
    assert not steer(one.pk, Released()).held
    assert is_due(one)
    steer(two.pk, Cancelled())
    courier.carry(two.pk)
    assert now(two).state == "cancelled"
    assert not (receivers.folder / "held Cards.pdf").exists()
    assert carried(one).state == "arrived"
    with pytest.raises(Refused, match="It has arrived"):
        steer(one.pk, Cancelled())
    assert steer(two.pk, Again()).state == "waiting"


def test_nothing_is_begun_before_its_time(stack, receivers):
    (one,) = sent([document(stack)], [destination(receivers, "folder", pattern="later {title}")])
    Delivery.objects.filter(pk=one.pk).update(due=5000.0, check_due=6000.0)
    assert [courier.due_ones(at).exists() for at in (4999.9, 5000.0)] == [False, True]
    Delivery.objects.filter(pk=one.pk).update(state="arrived", proof="read")
    assert not courier.due_ones(5000.0).exists()
    assert [courier.receipts_due(at).exists() for at in (5999.9, 6000.0)] == [False, True]
    Delivery.objects.filter(pk=one.pk).update(proof="answer")
    assert not courier.receipts_due(6000.0).exists()


def test_given_up_while_it_is_being_sent_it_stays_so(stack, receivers, monkeypatch):
    (one,) = sent([document(stack)], [destination(receivers, "folder", pattern="meanwhile {title}")])
    put = courier._put

    def given_up(*args: Any, **more: Any) -> Any:
        steer(one.pk, Cancelled())
        return put(*args, **more)

    monkeypatch.setattr(courier, "_put", given_up)
    assert carried(one).state == "cancelled"


def test_what_the_program_fails_at_is_said_and_tried_again(stack, receivers, monkeypatch):
    (one,) = sent([document(stack)], [destination(receivers, "folder", pattern="program {title}")])
    monkeypatch.setattr(courier, "_put", lambda *args, **more: 1 / 0)
    waits = carried(one)
    assert (waits.state, waits.tries) == ("waiting", 1)
    assert "ZeroDivisionError" in waits.said


def test_what_is_damaged_here_is_not_sent(stack, receivers):
    made = document(stack)
    places.document_path(made.key).write_bytes(b"%PDF-1.7 made uq")
    (one,) = sent([made], [destination(receivers, "folder", pattern="damaged {title}")])
    assert (carried(one).state, now(one).said) == ("stuck", "The document's file is damaged here: bind it again.")
    assert not (receivers.folder / "damaged Letters.pdf").exists()


def test_a_document_in_the_bin_is_not_sent_and_its_receipt_stays(stack, receivers):
    made, to = document(stack), destination(receivers, "folder", pattern="bin {title}")
    (one,), (two,) = sent([made], [to]), sent([made], [to])
    carried(one)
    delete_document(made.pk, None)
    assert carried(two).state == "stuck"
    assert "The document is gone, or in the bin" in now(two).said
    Document.everything.all().delete()
    assert (now(one).state, now(one).title, now(one).document) == ("arrived", "Letters", None)
    with pytest.raises(Refused, match="bind it again, and send that"):
        steer(two.pk, Again())


def test_only_what_a_destination_takes_goes_there(stack, receivers):
    to = destination(receivers, "folder", takes=["access"])
    everything = destination(receivers, "folder", name="Everything")
    archive, copy = document(stack), document(stack, 2, kind="access")
    assert [(one.destination.name, one.document_id) for one in sent([archive, copy], [to, everything])] == [
        ("The folder", copy.pk), ("Everything", archive.pk), ("Everything", copy.pk),
    ]  # fmt: skip
    with pytest.raises(Refused, match="None of the destinations takes"):
        sent([archive], [to])


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({"documents": [], "destinations": [1]}, "No document is chosen"),
        ({"documents": [1], "destinations": []}, "No destination is chosen"),
        ({"documents": [9999], "destinations": [1]}, "A document that was chosen is gone"),
        ({"documents": [1], "destinations": [9999]}, "A destination that was chosen is gone"),
    ],
)
def test_what_is_not_there_is_refused(stack, receivers, asked, said):
    made, to = document(stack), destination(receivers, "folder")
    told = {
        "documents": [made.pk if one == 1 else one for one in asked["documents"]],
        "destinations": [to.pk if one == 1 else one for one in asked["destinations"]],
    }
    with pytest.raises(Refused, match=said):
        dispatch(DispatchAsked.model_validate(told), None)
    assert not Delivery.objects.exists()


def test_a_mail_to_nobody_is_refused(stack, receivers):
    place, _ = receivers.places["mail"]
    to = destination(receivers, "mail", place={**place, "recipients": []})
    with pytest.raises(Refused, match="has nobody to send to"):
        sent([document(stack)], [to])
    message = {"recipients": ["keeper@skerry.example.org"], "subject": "{title} {identifier}", "text": "{pages} {else}"}
    (one,) = sent([Document.objects.get()], [to], messages={to.pk: message})
    assert one.message == {"recipients": ["keeper@skerry.example.org"], "subject": "Letters SL/27/114", "text": "3 {else}"}


@pytest.mark.parametrize("kind", ["folder", "sftp", "storage", "mail"])
def test_a_destination_is_proven(receivers, user, kind):
    to = destination(receivers, kind)
    tried = destinations.try_out(to.pk)
    assert (tried.tried_said, tried.tried_at is None) == ("", False)
    assert not [*receivers.folder.glob("hollow-stack-try*")]
    assert not [one for one, _ in receivers.storage.objects() if "try" in one]
    assert not [one for one in receivers.mail.mails if "try" in str(one.message["Subject"])]


def test_trying_takes_over_a_machines_key_and_holds_it_to_that(receivers, user):
    place, _ = receivers.places["sftp"]
    to = destination(receivers, "sftp", place={**place, "host_key": ""})
    assert destinations.try_out(to.pk).place["host_key"] == place["host_key"]
    receivers.sftp.mishaps.ask("corrupts")
    assert "did not come back as it was" in destinations.try_out(to.pk).tried_said
    receivers.sftp.mishaps.ask("password", 9)
    assert "name and password" in destinations.try_out(to.pk).tried_said


@pytest.mark.parametrize(
    ("place", "said"),
    [
        ({"kind": "folder", "path": "/etc"}, "Folders may be in .* only"),
        ({"kind": "folder", "path": "outgoing"}, "Folders may be in .* only"),
        ({"kind": "sftp", "host": "10.1.2.3", "user": "x"}, "10.1.2.3 is in a network that has not been allowed"),
        ({"kind": "sftp", "host": "nowhere.invalid", "user": "x"}, "Nobody knows a machine named nowhere.invalid"),
        ({"kind": "storage", "endpoint": "ftp://127.0.0.1", "bucket": "b", "access_key": "k"}, "no address of a storage"),
        (
            {"kind": "storage", "endpoint": "http://a:b@127.0.0.1", "bucket": "b", "access_key": "k"},
            "no address of a storage",
        ),
        (
            {"kind": "storage", "endpoint": "http://127.0.0.1:99999", "bucket": "b", "access_key": "k"},
            "no address of a storage",
        ),
    ],
)
def test_the_server_goes_only_where_it_may(receivers, user, place, said):
    with pytest.raises(Refused, match=said):
        destination(receivers, "folder", place=place)
    assert not Destination.objects.exists()


def test_a_network_that_is_allowed_no_more_is_not_gone_to(stack, receivers, settings):
    (one,) = sent([document(stack)], [destination(receivers, "sftp", pattern="network {title}")])
    settings.DELIVERY_NETWORKS = []
    assert carried(one).state == "stuck"
    assert "has not been allowed" in now(one).said


def test_names_of_destinations_are_given_once_and_again_when_they_are_gone(receivers, user):
    first = destination(receivers, "folder")
    with pytest.raises(Refused, match="There is a destination The folder already"):
        destination(receivers, "folder")
    destinations.remove(first.pk, user)
    again = destination(receivers, "folder")
    assert again.pk != first.pk
    told = [*Entry.objects.values_list("what", flat=True)]
    assert told.count("destination made") == 2
    assert told.count("destination removed") == 1


def test_secrets_are_sealed_and_never_told(client, receivers, user, caplog):
    place, _ = receivers.places["sftp"]
    body = {"name": "Archive", "place": place, "secret": "lantern-very-secret", "pattern": "{title}"}
    made = answer(client.post("/api/v1/destinations", body, content_type="application/json"))
    assert made["has_secret"] is True
    assert made["fingerprint"].startswith("SHA256:")
    kept = Destination.objects.get()
    assert "lantern" not in kept.secret
    client.post(f"/api/v1/destinations/{kept.pk}/try")
    said = (
        client.get("/api/v1/destinations").content.decode()
        + caplog.text
        + json.dumps(str(Destination.objects.values().get()))
    )
    assert "lantern" not in said
    del body["secret"]
    client.put(f"/api/v1/destinations/{kept.pk}", {**body, "name": "Archive 2"}, content_type="application/json")
    again = Destination.objects.get()
    assert (again.secret, again.name) == (kept.secret, "Archive 2")
    client.put(f"/api/v1/destinations/{kept.pk}", {**body, "secret": ""}, content_type="application/json")
    assert Destination.objects.get().secret == ""


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
        (told,) = answer(client.get("/api/v1/stacks"))
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
