"""Stations that appear by themselves: what they say, how it is read, and what is offered of it."""

from ipaddress import ip_network

import pytest
from django.contrib.auth.models import User

from hollowstack.server.capture import runs, station_list
from hollowstack.server.capture.escl.identifying import request, succeeded
from hollowstack.server.capture.finding.announcements import PLAIN, SECURE, Announcement, read
from hollowstack.server.capture.finding.finder import SILENT, Finder, Seen, look, write
from hollowstack.server.capture.finding.listening import Listening, interfaces_in
from hollowstack.server.capture.models import FoundStation, Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.services import create_stack
from hollowstack.standins.station import ipp
from hollowstack.standins.station.announcing import Announcer
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station as Device
from tests.live import until

SERVICE = "Glass._uscan._tcp.local."
SAID = {b"rs": b"eSCL", b"ty": b"Glass A4", b"note": b"by the window", b"UUID": b"urn:uuid:AB-1", b"is": b"platen"}


@pytest.fixture
def device():
    made = Device(MODELS[0])
    made.start()
    yield made
    made.shutdown()
    made.server_close()


def announced(address: str, **more: str) -> Announcement:
    return Announcement(**{"service": SERVICE, "name": "Glass A4", "place": "", "uuid": "", "address": address} | more)


@pytest.mark.parametrize(
    ("kind", "properties", "addresses", "address"),
    [
        (PLAIN, SAID, ["192.0.2.7"], "http://192.0.2.7:80"),
        (SECURE, SAID, ["192.0.2.7"], "https://192.0.2.7:80"),
        (PLAIN, SAID, ["fe80::1%2", "192.0.2.7"], "http://192.0.2.7:80"),
        (PLAIN, SAID, ["2001:db8::1"], "http://[2001:db8::1]:80"),
        (PLAIN, SAID | {b"rs": b"/device/eSCL/"}, ["192.0.2.7"], "http://192.0.2.7:80/device"),
        (PLAIN, {b"RS": b"eSCL"}, ["192.0.2.7"], "http://192.0.2.7:80"),
        (PLAIN, {}, ["192.0.2.7"], "http://192.0.2.7:80"),
    ],
)  # fmt: skip
def test_an_announcement_is_read(kind, properties, addresses, address):
    found = read(f"Glass.{kind}", kind, properties, addresses, 80)
    assert found is not None
    assert found.address == address


def test_what_it_says_of_itself():
    assert read(SERVICE, PLAIN, SAID, ["192.0.2.7"], 80) == Announcement(
        SERVICE, "Glass A4", "by the window", "ab-1", "http://192.0.2.7:80"
    )
    bare = read(SERVICE, PLAIN, {b"ty": None, b"note": b"\xff  by\nthe door"}, ["192.0.2.7"], 80)
    assert bare is not None
    assert (bare.name, bare.place, bare.uuid) == ("Glass", "\ufffd by the door", "")
    long = read(SERVICE, PLAIN, {b"ty": b"x" * 200}, ["192.0.2.7"], 80)
    assert long is not None
    assert len(long.name) == 80


@pytest.mark.parametrize(
    ("properties", "addresses", "port"),
    [(SAID, [], 80), (SAID, ["192.0.2.7"], None), (SAID | {b"rs": b"ipp/print"}, ["192.0.2.7"], 80)],
)
def test_what_cannot_be_spoken_to_is_passed_over(properties, addresses, port):
    assert read(SERVICE, PLAIN, properties, addresses, port) is None


def test_a_station_is_heard_comes_and_goes(device):
    port = device.server_address[1]
    mine = f"({port})"
    announcer = Announcer()

    def heard() -> list[Announcement]:
        return [one for one in listening.there() if mine in one.service]

    try:
        with Listening(interfaces_in([ip_network("127.0.0.0/8")])) as listening:
            announcer.come(device.device, port)
            announcer.come(device.device, port)
            until(lambda: len(heard()) == 1, 10, "the station to be heard")
            (one,) = heard()
            assert (one.address, one.name, one.place) == (device.address, "Glass A4", "by the window")
            assert one.uuid == device.device.uuid
            announcer.go(port)
            until(lambda: not heard(), 10, "its goodbye to be heard")
    finally:
        announcer.close()


def test_it_is_listened_only_where_stations_may_be():
    assert interfaces_in([]) == []
    assert interfaces_in([ip_network("203.0.113.0/24")]) == []
    assert interfaces_in([ip_network("127.0.0.0/8")]) == ["127.0.0.1"]
    assert interfaces_in([ip_network("::1/128")]) == []


def test_each_is_asked_what_it_can_do(device, settings):
    seen = look(
        [announced(device.address), announced("http://127.0.0.1:9", service="b"), announced("http://192.0.2.7", service="c")]
    )
    assert seen[SERVICE].problem == ""
    assert seen[SERVICE].uuid == device.device.uuid
    assert station_list.capabilities_in(seen[SERVICE].capabilities).platen.width_mm == 216
    assert seen["b"].problem == SILENT
    assert seen["b"].capabilities is None
    assert "HOLLOWSTACK_STATION_NETWORKS" in seen["c"].problem
    assert look([]) == {}


def test_what_has_changed_is_written_and_nothing_else(db, django_assert_num_queries):
    one = Seen("Glass A4", "", "u", "http://192.0.2.7", {"name": "Glass A4"}, "")
    write({"a": one, "b": one})
    assert FoundStation.objects.count() == 2
    with django_assert_num_queries(1):
        write({"a": one, "b": one})
    moved = Seen("Glass A4", "", "u", "http://192.0.2.8", {"name": "Glass A4"}, "")
    write({"b": moved})
    assert list(FoundStation.objects.values_list("service", "address")) == [("b", "http://192.0.2.8")]


def test_a_finder_that_may_not_listen_does_nothing(settings):
    settings.FIND_STATIONS = False
    Finder().close()


def found_at(device: Device, **more: object) -> FoundStation:
    fields = {"service": SERVICE, "name": "Glass A4", "place": "by the window", "address": device.address}
    return FoundStation.objects.create(**fields | more)


def test_a_found_station_is_added_with_its_place(client, device):
    found = found_at(device)
    (told,) = client.get("/api/v1/stations/found").json()
    assert (told["name"], told["place"], told["known_as"], told["problem"]) == ("Glass A4", "by the window", "", "")
    answer = client.post(f"/api/v1/stations/found/{found.pk}")
    assert answer.status_code == 201
    assert (answer.json()["name"], answer.json()["place"]) == ("Glass A4", "by the window")
    assert Station.objects.get().uuid == device.device.uuid
    assert client.get("/api/v1/stations/found").json() == []
    assert client.post(f"/api/v1/stations/found/{found.pk}").status_code == 422


def test_one_that_has_moved_is_offered_at_its_new_address(device, db):
    station = Station.objects.create(
        name="Old glass", uuid=device.device.uuid, address="http://127.0.0.1:9", capabilities={}
    )
    found = found_at(device, uuid=device.device.uuid)
    assert station_list.known_as(found) == station
    assert station_list.add_found(found.pk) == station
    assert Station.objects.get().address == device.address


def test_one_that_is_at_work_stays_where_it_is(device, db):
    station = station_list.add_station(device.address)
    stack = create_stack("A stack", User.objects.create_user("mender"))
    runs.start(stack.pk, station.pk, CaptureSettings(source="platen"), None)
    Station.objects.filter(pk=station.pk).update(address="http://127.0.0.1:9")
    with pytest.raises(Refused, match="not finished"):
        station_list.add_found(found_at(device, uuid=device.device.uuid).pk)
    assert Station.objects.get().address == "http://127.0.0.1:9"
    assert Run.objects.count() == 1


def test_one_with_a_problem_is_not_added(device, db):
    with pytest.raises(Refused, match="does not answer"):
        station_list.add_found(found_at(device, problem=SILENT).pk)


def test_no_two_go_by_one_name(device, db):
    def make(name: str) -> None:
        Station.objects.create(name=name, address=f"http://192.0.2.{Station.objects.count() + 1}", capabilities={})

    assert station_list.free_name("Glass A4", "by the door") == "Glass A4"
    make("glass a4")
    assert station_list.free_name("Glass A4", "by the door") == "Glass A4, by the door"
    assert station_list.free_name("Glass A4") == "Glass A4 2"
    make("Glass A4, by the door")
    assert station_list.free_name("Glass A4", "by the door") == "Glass A4 2"
    make("Glass A4 2")
    assert station_list.free_name("Glass A4") == "Glass A4 3"
    assert len(station_list.free_name("x" * 80)) == 80


def test_a_name_and_a_place_of_ones_own(device, db):
    one, other = (
        station_list.add_station(device.address),
        Station.objects.create(name="Other", address="http://b", capabilities={}),
    )
    assert station_list.describe_station(one.pk, "  The  old glass ", None).name == "The old glass"
    assert station_list.describe_station(one.pk, None, "by the window").place == "by the window"
    assert station_list.describe_station(one.pk, "THE OLD GLASS", "").name == "THE OLD GLASS"
    for name, says in (("  ", "needs a name"), ("other", "Another station is called")):
        with pytest.raises(Refused, match=says):
            station_list.describe_station(one.pk, name, None)
    other.refresh_from_db()
    assert other.name == "Other"


def test_a_device_shows_which_one_it_is(client, device):
    station = station_list.add_station(device.address, "By the window")
    answer = client.post(f"/api/v1/stations/{station.pk}/mark").json()
    assert answer["shown"]
    assert device.device.shown == "By the window: this one"


def test_a_device_that_cannot_show_itself_is_said_to_be_so(client, device, monkeypatch):
    station = station_list.add_station(device.address)
    monkeypatch.setattr(ipp, "identified", lambda body: (ipp.UNSUPPORTED, None))
    answer = client.post(f"/api/v1/stations/{station.pk}/mark").json()
    assert not answer["shown"]
    assert "first look" in answer["sentence"]


@pytest.mark.parametrize(
    "body", [b"", b"\x02\x00", request("ipp://a/", ("flash",), "x")[:-1], b"\x02\x00\x00\x3c\0\0\0\1\x01\x47\xff\xff"]
)
def test_a_station_refuses_what_is_no_request(body):
    assert ipp.identified(body) == (ipp.BAD, None)


def test_a_station_knows_one_operation():
    body = bytearray(request("ipp://a/", ("flash",), "x"))
    assert ipp.identified(bytes(body)) == (ipp.OK, "x")
    body[3] = 0x0B
    assert ipp.identified(bytes(body)) == (ipp.UNSUPPORTED, None)


@pytest.mark.parametrize(
    ("answer", "well"),
    [
        (b"\x02\x00\x00\x00\0\0\0\1\x03", True), (b"\x02\x00\x00\xff\0\0\0\1\x03", True), (b"\x02\x00\x01\x00\0\0\0\1\x03", False),
        (b"\x02\x00\x05\x01\0\0\0\1\x03", False), (b"\x02\x00", False), (b"<html><b>", False), (b"", False),
    ],
)  # fmt: skip
def test_what_went_well_is_told_from_what_did_not(answer, well):
    assert succeeded(answer) is well
