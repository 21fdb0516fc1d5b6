"""The list of destinations: where the server may go, what is proven by a try, secrets that are never told."""

import json

import pytest

from hollowstack.server import networks
from hollowstack.server.accounts.models import Entry
from hollowstack.server.dispatch import destinations
from hollowstack.server.dispatch.models import Destination
from hollowstack.server.errors import Refused
from tests.server.conftest import answer
from tests.server.dispatching import allowed, carried, destination, document, now, sent
from tests.server.receivers import nothing_goes_wrong, receivers

__all__ = ["allowed", "nothing_goes_wrong", "receivers"]


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


def test_a_name_that_nobody_knows_for_a_while_is_no_lasting_fault(stack, receivers, monkeypatch):
    (one,) = sent([document(stack)], [destination(receivers, "sftp", pattern="name {title}")])
    monkeypatch.setattr(networks, "addresses_of", lambda *given: [])
    assert (carried(one).state, now(one).tries) == ("waiting", 1)
    assert "Nobody knows a machine" in now(one).said
    monkeypatch.undo()
    assert carried(one).state == "arrived"
