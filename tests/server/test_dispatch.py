"""Documents sent to destinations: names, proofs, mishaps overcome or put before a person."""

import hashlib
from typing import Any

import pytest
from django.utils import timezone

from hollowstack.server.dispatch import courier, destinations
from hollowstack.server.dispatch.carriers import CarrierFault
from hollowstack.server.dispatch.course import Again, Cancelled, Held, Released
from hollowstack.server.dispatch.deliveries import DispatchAsked, dispatch, steer
from hollowstack.server.dispatch.destinations import DestinationAsked
from hollowstack.server.dispatch.models import Delivery
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import delete_document
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.storage import places
from tests.server.dispatching import allowed, bind, carried, destination, document, is_due, now, sent
from tests.server.receivers import nothing_goes_wrong, receivers

__all__ = ["allowed", "nothing_goes_wrong", "receivers"]


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
    assert one.message == {**message, "subject": "Letters SL/27/114", "text": "3 {else}", "link": False}


def tried(client, pattern: str, counter: int = 0):
    return client.post("/api/v1/name-placeholders/try", {"pattern": pattern, "counter": counter}, "application/json")


def test_a_pattern_is_tried_on_what_was_bound_last(client, stack, user):
    stack.original = {"box": "27", "shelf": "C 4", "position": "3"}
    for number, title in enumerate(("Oldest", "Watch log", "Cards", "Letters", "Plans", "Watch log", "Oil"), 1):
        document(stack, number, title, data=None, original=stack.original)
    document(stack, 9, "Copy", data=None, kind="access")
    told = tried(client, "{box}/{counter:2} {title}", 40).json()
    assert told["zone"] == "UTC"
    assert [one["name"] for one in told["names"]] == [
        f"27/{number} {title}.pdf"
        for number, title in enumerate(("Oil", "Watch log", "Plans", "Letters", "Cards", "Watch log"), 41)
    ]
    assert [one["title"] for one in tried(client, "{title}").json()["names"] if one["twice"]] == ["Watch log", "Watch log"]
    assert tried(client, "{weather}").json()["detail"].startswith("There is no placeholder {weather}")
