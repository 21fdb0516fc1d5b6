"""Files carried to each kind of place, over its own protocol, against receivers that have mishaps."""

import hashlib
from datetime import UTC, datetime
from email.message import EmailMessage
from pathlib import Path

import pytest

from hollowstack.server.dispatch.carriers import (
    Carrier,
    CarrierFault,
    Gone,
    Message,
    Parcel,
    Taken,
    carrier_for,
    digest_here,
    digest_there,
)
from hollowstack.server.dispatch.carriers.mail import MailCarrier
from hollowstack.server.dispatch.carriers.sftp import fingerprint_of
from hollowstack.server.dispatch.places import MailPlace, place_of
from tests.server.receivers import Receivers, nothing_goes_wrong, receivers

__all__ = ["nothing_goes_wrong", "receivers"]

READ_BACK = ("folder", "sftp", "storage")
MESSAGE = Message(
    ("keeper@skerry.example.org", "log@skerry.example.org"), "Låmp log", "Attached.\nYours", datetime(2026, 3, 1, tzinfo=UTC)
)


def carrier(receivers: Receivers, kind: str, **other: object) -> Carrier:
    place, secret = receivers.places[kind]
    secret = str(other.pop("secret", secret))
    return carrier_for(place_of({**place, **other}), secret, receivers.certificates)


def parcel(folder: Path, name: str, data: bytes = b"%PDF-1.7\n" + bytes(range(256)) * 4000, mark: str = "a1b2") -> Parcel:
    file = folder / "given.pdf"
    file.write_bytes(data)
    return Parcel(file, name, hashlib.sha256(data).hexdigest(), mark, MESSAGE)


@pytest.mark.parametrize("kind", READ_BACK)
def test_it_lies_there_whole_and_can_be_read_again(receivers, tmp_path, kind):
    way, given = carrier(receivers, kind), parcel(tmp_path, f"box 27/{kind} ä.pdf")
    placed = way.put(given)
    assert placed.where.endswith(f"box 27/{kind} ä.pdf")
    assert digest_there(way, given.name) == given.sha256 == digest_here(given.file)
    assert way.put(given) == placed
    way.remove(given.name)
    way.remove(given.name)
    with pytest.raises(Gone):
        digest_there(way, given.name)


@pytest.mark.parametrize("kind", READ_BACK)
def test_nothing_is_written_over(receivers, tmp_path, kind):
    way, given = carrier(receivers, kind), parcel(tmp_path, f"taken-{kind}.pdf")
    way.put(given)
    with pytest.raises(Taken):
        way.put(parcel(tmp_path, given.name, b"something else", "c3d4"))
    assert digest_there(way, given.name) == given.sha256


@pytest.mark.parametrize("kind", READ_BACK)
def test_an_empty_file_is_one(receivers, tmp_path, kind):
    way, given = carrier(receivers, kind), parcel(tmp_path, f"empty-{kind}.txt", b"")
    way.put(given)
    assert digest_there(way, given.name) == given.sha256


def test_what_was_left_half_done_is_done_and_nothing_stays_of_it(receivers, tmp_path):
    given = parcel(tmp_path, "half.pdf")
    for kind, folder in (("folder", receivers.folder), ("sftp", receivers.sftp.folder / "in")):
        folder.mkdir(exist_ok=True)
        (folder / f".{given.mark}.part").write_bytes(b"half")
        way = carrier(receivers, kind)
        way.put(given)
        assert digest_there(way, "half.pdf") == given.sha256
        assert not (folder / f".{given.mark}.part").exists()


@pytest.mark.parametrize(
    ("kind", "mishap", "lasting", "said"),
    [
        ("sftp", "refuses", True, "Writing there is not allowed"),
        ("sftp", "full", False, "no space left"),
        ("sftp", "drops", False, "the line broke"),
        ("sftp", "password", True, "does not take the name and password"),
        ("storage", "refuses", True, "forbids writing"),
        ("storage", "full", False, "did not take it"),
        ("storage", "drops", False, "does not answer"),
        ("mail", "refuses", True, "keeper@skerry.example.org at 127.0.0.1 refused: 550"),
        ("mail", "full", False, "refused: 452"),
        ("mail", "drops", False, "the line broke"),
        ("mail", "password", True, "does not take the name and password"),
    ],
)
def test_each_mishap_is_a_sentence_and_leaves_nothing(receivers, tmp_path, kind, mishap, lasting, said):
    way, given = carrier(receivers, kind), parcel(tmp_path, f"{kind}-{mishap}.pdf")
    mishaps = getattr(receivers, kind).mishaps
    mishaps.ask(mishap, 50)
    before = len(receivers.mail.mails)
    with pytest.raises(CarrierFault, match=said) as fault:
        way.put(given)
    assert fault.value.lasting is lasting
    mishaps.ask(mishap, 0)
    assert len(receivers.mail.mails) == before
    if way.reads_back:
        with pytest.raises(Gone):
            digest_there(way, given.name)
    assert way.put(given).where
    assert not [*receivers.sftp.folder.rglob("*.part")]


@pytest.mark.parametrize("kind", ["sftp", "storage"])
def test_a_byte_that_was_changed_on_the_way_is_seen(receivers, tmp_path, kind):
    way, given = carrier(receivers, kind), parcel(tmp_path, f"{kind}-changed.pdf")
    getattr(receivers, kind).mishaps.ask("corrupts")
    way.put(given)
    assert digest_there(way, given.name) != given.sha256


@pytest.mark.parametrize(
    ("kind", "other", "said", "lasting"),
    [
        ("folder", {"path": "/nowhere/at/all"}, "is not there: is it mounted", False),
        ("sftp", {"port": 1}, "does not answer", False),
        ("sftp", {"secret": "wrong"}, "does not take the name and password", True),
        ("sftp", {"host_key": ""}, "key is not known yet", True),
        ("storage", {"endpoint": "http://127.0.0.1:1"}, "does not answer", False),
        ("storage", {"bucket": "nobodys"}, "no bucket nobodys", True),
        ("storage", {"access_key": "STRANGER"}, "does not take the access key", True),
        ("mail", {"port": 1}, "does not answer", False),
        ("mail", {"secret": "wrong"}, "does not take the name and password", True),
        (
            "mail",
            {"limit_mb": 0.5},
            r"The message has 1.4 MB, and 127.0.0.1 takes 0.5: send a link in its place, or an access copy",
            True,
        ),
    ],
)
def test_what_is_wrong_with_a_place_is_told(receivers, tmp_path, kind, other, said, lasting):
    with pytest.raises(CarrierFault, match=said) as fault:
        carrier(receivers, kind, **other).put(parcel(tmp_path, "x.pdf"))
    assert fault.value.lasting is lasting


def test_a_machine_with_another_key_is_not_spoken_to(receivers, tmp_path):
    """RFC 4253, 8: a host is who has its key."""
    import asyncssh

    other = asyncssh.generate_private_key("ssh-ed25519").export_public_key().decode().strip()
    with pytest.raises(CarrierFault, match="another key than when it was tried") as fault:
        carrier(receivers, "sftp", host_key=other).put(parcel(tmp_path, "x.pdf"))
    assert fault.value.lasting


def test_the_mail_is_one_message_however_often_it_goes(receivers, tmp_path):
    way, given = carrier(receivers, "mail"), parcel(tmp_path, "box/Låmp log.pdf", mark="feed")
    before = len(receivers.mail.mails)
    placed = [way.put(given) for _ in range(2)]
    first, second = receivers.mail.mails[before:]
    assert placed[0].answer.startswith("250 ")
    assert "<feed@skerry.example.org>" in placed[0].answer
    assert first.message["Message-ID"] == second.message["Message-ID"] == "<feed@skerry.example.org>"
    assert first.message.as_bytes() == second.message.as_bytes()
    assert first.recipients == MESSAGE.recipients
    assert (first.message["Subject"], first.message["From"]) == ("Låmp log", "desk@skerry.example.org")
    body, attached = first.message.get_body(), [*first.message.iter_attachments()]
    assert isinstance(body, EmailMessage)
    assert body.get_content().splitlines() == ["Attached.", "Yours"]
    assert [one.get_filename() for one in attached] == ["Låmp log.pdf"]
    assert attached[0].get_content() == given.file.read_bytes()


def test_nothing_is_told_to_a_mail_server_whose_certificate_nobody_trusts(receivers, tmp_path):
    place, secret = receivers.places["mail"]
    with pytest.raises(CarrierFault, match="certificate that is not trusted"):
        carrier_for(place_of(place), secret).put(parcel(tmp_path, "x.pdf"))


def test_signing_in_proves_a_mail_server_without_sending(receivers):
    place, secret = receivers.places["mail"]
    before = len(receivers.mail.mails)
    told = MailPlace.model_validate(place)
    assert MailCarrier(told, secret, receivers.certificates).sign_in()
    assert len(receivers.mail.mails) == before
    with pytest.raises(CarrierFault, match="name and password"):
        MailCarrier(told, "wrong", receivers.certificates).sign_in()


def test_a_key_is_compared_as_openssh_shows_it(receivers):
    assert fingerprint_of(receivers.places["sftp"][0]["host_key"]).startswith("SHA256:")
