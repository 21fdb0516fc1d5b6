"""What a served installation lets in and out: how much is read, where it listens, where it goes, what its answers say."""

import argparse
import json
import socket
import ssl
import threading
from ipaddress import ip_address, ip_network
from urllib.parse import urlsplit

import pytest
from asgiref.sync import async_to_sync
from distributed.security import Security
from django.test import Client

from hollowstack.server import serve
from hollowstack.server.accounts import services as accounts
from hollowstack.server.accounts.rights import Role
from hollowstack.server.capture import addresses, station_list
from hollowstack.server.capture.escl import EsclClient, StationError
from hollowstack.server.config import limits
from hollowstack.server.config.limits import STRANGER, USUAL, Limited
from hollowstack.server.engine.tls import folder, security
from hollowstack.server.errors import Refused
from tests.server.conftest import answer

# How much is read


def ask(method: str, path: str, *, length: int | None = None, sent: int = 0, headers: dict[str, str] | None = None):
    """Send a request through the limits; returns status, code, and how many bytes reached the application behind them."""
    reached, said = [0], []
    pieces = [b"x" * 1000] * (sent // 1000)

    async def application(scope, receive, send):
        while True:
            message = await receive()
            if message["type"] == "http.disconnect":
                return
            reached[0] += len(message["body"])
            if not message["more_body"]:
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"{}"})

    async def receive():
        body = pieces.pop() if pieces else b""
        return {"type": "http.request", "body": body, "more_body": bool(pieces)}

    async def send(message):
        said.append(message)

    given = dict(headers or {})
    if length is not None:
        given["content-length"] = str(length)
    scope = {
        "type": "http",
        "method": method,
        "path": path,
        "headers": [(name.encode(), value.encode()) for name, value in given.items()],
    }
    async_to_sync(Limited(application))(scope, receive, send)
    status = said[0]["status"] if said else None
    body = json.loads(said[1]["body"]) if said else {}
    return status, body.get("code"), reached[0]


@pytest.fixture
def known(client) -> dict[str, str]:
    return {"cookie": f"sessionid={client.cookies['sessionid'].value}"}


@pytest.mark.django_db(transaction=True)
class TestLimits:
    """The limits ask the database from a thread of their own."""

    def test_of_a_stranger_next_to_nothing_is_read(self):
        assert ask("POST", "/api/v1/session", length=STRANGER) == (200, None, 0)
        assert ask("POST", "/api/v1/session", length=STRANGER + 1) == (401, "signed-out", 0)
        # One that does not say how much comes is cut off where it goes on too long.
        status, _, reached = ask("PUT", "/api/v1/batches/1/files/0", sent=400_000)
        assert (status, reached <= STRANGER) == (None, True)
        forged = {"cookie": "sessionid=" + "a" * 32, "authorization": "Bearer made-up"}
        assert ask("PATCH", "/api/v1/uploads/1", length=20_000_000, headers=forged)[0] == 401

    def test_of_somebody_known_as_much_as_an_address_can_need(self, known):
        assert ask("POST", "/api/v1/stacks", length=USUAL, headers=known)[0] == 200
        assert ask("POST", "/api/v1/stacks", length=USUAL + 1, headers=known)[:2] == (413, "too-large")
        assert ask("PATCH", "/api/v1/uploads/1", length=1_900_000_000, headers=known)[0] == 200
        assert ask("PATCH", "/api/v1/uploads/1", length=3_000_000_000, headers=known)[0] == 413
        assert ask("GET", "/api/v1/stacks", length=USUAL + 1, headers=known)[0] == 200

    def test_a_token_is_known(self, user):
        _, secret = accounts.make_token(user, "nightly", Role.READER, 1)
        token = {"authorization": f"Bearer {secret}"}
        assert ask("POST", "/api/v1/stacks", length=100_000, headers=token)[0] == 200
        assert limits._length({"content-length": "x"}) == 0


# What answers say


@pytest.mark.parametrize("path", ["/", "/stacks/1", "/api/v1/session", "/api/v1/stacks", "/api/v1/openapi.json"])
def test_every_answer_says_what_a_browser_may_do_with_it(db, path):
    response = Client().get(path)
    assert "default-src 'self'" in response.headers["Content-Security-Policy"]
    assert "frame-ancestors 'none'" in response.headers["Content-Security-Policy"]
    assert response.headers["X-Frame-Options"] == "DENY"
    assert response.headers["X-Content-Type-Options"] == "nosniff"
    assert response.headers["Referrer-Policy"] == "same-origin"
    assert response.headers["Cache-Control"] == ("no-store" if path.startswith("/api") else "no-cache")
    response.close()


def test_a_failure_of_the_server_is_no_page(client, monkeypatch):
    def fail(*_: object) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr("hollowstack.server.api.v1.stacks.shelf.stack_out", fail)
    response = client.post("/api/v1/stacks", {"name": "a"}, content_type="application/json")
    assert (response.status_code, answer(response)["code"]) == (500, "broken")
    assert "ZeroDivision" not in response.content.decode()


# Where it listens


@pytest.mark.parametrize(
    ("host", "more", "settings_", "says"),
    [
        ("127.0.0.1", {}, {}, ""),
        ("localhost", {}, {}, ""),
        ("0.0.0.0", {}, {}, "speaks TLS"),
        ("192.0.2.1", {"without_tls": True}, {}, ""),
        ("0.0.0.0", {"certificate": "c.pem", "key": "k.pem"}, {}, "speaks TLS"),
        ("0.0.0.0", {"certificate": "c.pem", "key": "k.pem"}, {"TLS": True}, ""),
        ("0.0.0.0", {"certificate": "c.pem"}, {"TLS": True}, "belong together"),
        ("0.0.0.0", {}, {"TLS": True}, "speaks TLS"),
        ("0.0.0.0", {}, {"TLS": True, "SECURE_PROXY_SSL_HEADER": ("HTTP_X_FORWARDED_PROTO", "https")}, ""),
    ],
)
def test_other_addresses_want_tls(settings, host, more, settings_, says):
    for name, value in settings_.items():
        setattr(settings, name, value)
    words = argparse.Namespace(**{"host": host, "certificate": None, "key": None, "without_tls": False, **more})
    said = serve._unsafe(words)
    assert (says in said) if says else said == ""


# Where it goes


@pytest.mark.parametrize(
    ("address", "networks", "allowed"),
    [
        ("127.0.0.1", [], False),
        ("127.0.0.1", ["127.0.0.0/8"], True),
        ("10.1.2.3", ["192.168.0.0/16"], False),
        ("192.168.7.9", ["192.168.0.0/16"], True),
        ("169.254.169.254", [], False),
        ("169.254.9.9", ["169.254.0.0/16"], True),
        ("0.0.0.0", [], False),
        ("224.0.0.1", [], False),
        ("100.64.0.1", [], False),
        ("93.184.215.14", [], True),
        ("::1", [], False),
        ("fe80::1", [], False),
        ("fd00::7", ["fd00::/8"], True),
        ("::ffff:10.0.0.1", [], False),
        ("::ffff:10.0.0.1", ["10.0.0.0/8"], True),
        ("2606:2800:21f:cb07:6820:80da:af6b:8b2c", [], True),
    ],
)
def test_private_addresses_only_where_their_network_is_named(settings, address, networks, allowed):
    settings.STATION_NETWORKS = [ip_network(network) for network in networks]

    def look_up(*_: object, **__: object) -> list:
        return [(0, 0, 0, "", (address, 80))]

    if not allowed:
        with pytest.raises(Refused, match="HOLLOWSTACK_STATION_NETWORKS"):
            addresses.allowed("http://station.example", look_up)
        return
    place = addresses.allowed("http://station.example:8080", look_up)
    assert place.host == "station.example:8080"
    assert ip_address(urlsplit(place.root).hostname) == ip_address(address)


def test_a_name_is_looked_up_once_and_spoken_to_where_it_was_judged(settings, monkeypatch):
    settings.STATION_NETWORKS = []
    answers = [[(0, 0, 0, "", ("10.0.0.1", 80)), (0, 0, 0, "", ("93.184.215.14", 80))]]
    place = addresses.allowed("http://station.example/printer/", lambda *_, **__: answers.pop())
    assert (place.root, answers) == ("http://93.184.215.14:80/printer", [])


@pytest.mark.parametrize(
    "address",
    [
        "ftp://a",
        "http://",
        "http://u:p@a",
        "http://a/?b",
        "http://a:99999",
        "file:///etc/passwd",
        "http://a#b",
        "http://[::1",
    ],
)
def test_what_is_no_address_of_a_station(address):
    with pytest.raises(Refused, match="no address of a station"):
        addresses.allowed(address)


def test_what_answers_there_instead_is_not_told(db, settings, unused_port_of_nobody):
    """A closed port, one that speaks something else, one that says nothing: one sentence for all."""
    said = set()
    for port in (unused_port_of_nobody, *servers([b"HTTP/1.0 404 Not Found\r\n\r\n", b"SSH-2.0-none\r\n", b""])):
        with pytest.raises(Refused) as refused:
            station_list.add_station(f"http://127.0.0.1:{port}")
        said.add(str(refused.value))
    assert len(said) == 1


@pytest.fixture
def unused_port_of_nobody() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def servers(texts: list[bytes]) -> list[int]:
    ports = []
    for text in texts:
        listening = socket.create_server(("127.0.0.1", 0))
        ports.append(listening.getsockname()[1])

        def serve_once(listening=listening, text=text) -> None:
            connection, _ = listening.accept()
            connection.recv(1000)
            connection.sendall(text)
            connection.close()
            listening.close()

        threading.Thread(target=serve_once, daemon=True).start()
    return ports


def test_a_station_that_talks_without_end_is_cut_off():
    listening = socket.create_server(("127.0.0.1", 0))
    sent = [0]

    def talk() -> None:
        connection, _ = listening.accept()
        connection.recv(1000)
        connection.sendall(b"HTTP/1.0 200 OK\r\nContent-Type: text/xml\r\n\r\n")
        try:
            while sent[0] < 100_000_000:
                sent[0] += connection.send(b"<a>" * 30_000)
        except OSError:
            pass
        connection.close()

    thread = threading.Thread(target=talk, daemon=True)
    thread.start()
    with (
        EsclClient(f"http://127.0.0.1:{listening.getsockname()[1]}") as station,
        pytest.raises(StationError, match="does not speak"),
    ):
        station.capabilities()
    thread.join(5)
    listening.close()
    assert sent[0] < 20_000_000


# The cluster


def test_the_clusters_key_is_for_its_owner_alone_and_stays(settings, tmp_path):
    settings.DATA = tmp_path
    keys = security()
    key = folder() / "key.pem"
    assert (key.stat().st_mode & 0o777, folder().stat().st_mode & 0o777) == (0o600, 0o700)
    before = key.read_bytes()
    security()
    assert key.read_bytes() == before
    assert isinstance(keys, Security)
    context = ssl.create_default_context(cafile=str(folder() / "certificate.pem"))
    context.load_cert_chain(folder() / "certificate.pem", key)
    assert keys.require_encryption
