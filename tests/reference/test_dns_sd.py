"""What stations announce, and what is heard of it, against another implementation of DNS: dnspython.

Multicast DNS is RFC 6762, DNS-based service discovery RFC 6763; keys of the TXT record as in the Mopria Alliance's eSCL
Technical Specification (version 2.97, from memory).
"""

import socket
import struct
import time
from collections.abc import Iterator
from ipaddress import ip_network

import dns.flags
import dns.message
import dns.name
import dns.rdataclass
import dns.rdatatype
import dns.rrset
import pytest

from hollowstack.server.capture.finding.listening import Listening, interfaces_in
from hollowstack.standins.station.announcing import Announcer
from hollowstack.standins.station.device import MODELS, Device
from tests.live import until

GROUP, PORT, LOOPBACK = "224.0.0.251", 5353, "127.0.0.1"
KIND = dns.name.from_text("_uscan._tcp.local.")


@pytest.fixture
def line() -> Iterator[socket.socket]:
    """A socket in the group of multicast DNS on this machine (RFC 6762, 3 and 5)."""
    made = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    made.bind((GROUP, PORT))
    made.setsockopt(socket.IPPROTO_IP, socket.IP_ADD_MEMBERSHIP, socket.inet_aton(GROUP) + socket.inet_aton(LOOPBACK))
    made.setsockopt(socket.IPPROTO_IP, socket.IP_MULTICAST_IF, socket.inet_aton(LOOPBACK))
    made.setsockopt(socket.IPPROTO_IP, socket.IP_MULTICAST_TTL, struct.pack("B", 255))
    made.settimeout(0.5)
    yield made
    made.close()


def answers_to(line: socket.socket, name: dns.name.Name, kind: str, seconds: float = 6.0) -> list[dns.rrset.RRset]:
    """Ask the group, once a second as RFC 6762 (5.2) has it, until something is answered."""
    wanted = dns.rdatatype.from_text(kind)
    until_then, asked = time.monotonic() + seconds, 0.0
    while time.monotonic() < until_then:
        if time.monotonic() - asked > 1:
            question = dns.message.make_query(name, wanted)
            question.id, question.flags = 0, 0
            line.sendto(question.to_wire(), (GROUP, PORT))
            asked = time.monotonic()
        try:
            # NSEC records may be compressed in multicast DNS (RFC 6762, 18.14), which this reader does not know.
            told = dns.message.from_wire(line.recv(9000), ignore_trailing=True, continue_on_error=True)
        except TimeoutError:
            continue
        records = [*told.answer, *told.additional]
        if told.flags & dns.flags.QR and any(one.name == name and one.rdtype == wanted for one in records):
            return [one for one in records if one.name == name and one.rdtype == wanted]
    return []


def test_what_a_station_announces_is_understood_by_another_implementation(line):
    device, port = Device(MODELS[2], lambda _: None, lambda: 0.0, serial="7"), 18_353
    announcer = Announcer()
    try:
        announcer.come(device, port)
        mine = dns.name.from_text(f"Feeder Two ({port})", KIND)
        pointers = {item.target for rrset in answers_to(line, KIND, "PTR") for item in rrset}
        assert mine in pointers  # RFC 6763, 4.1
        (server,) = answers_to(line, mine, "SRV")[0]
        # Unique records have a bit in their class that this reader leaves (RFC 6762, 10.2): they are read as they are.
        assert struct.unpack(">HHH", server.to_generic().data[:6]) == (0, 0, port)  # RFC 2782
        (text,) = answers_to(line, mine, "TXT")[0]
        said = dict(one.decode().split("=", 1) for one in text.strings)
        assert said["txtvers"] == "1"  # RFC 6763, 6.7
        assert (said["rs"], said["ty"], said["is"], said["duplex"]) == ("eSCL", "Feeder Two", "adf", "T")
        assert (said["UUID"], said["note"]) == (device.uuid, "by the door")
        assert all(len(one) <= 255 for one in text.strings)  # RFC 6763, 6.1
        (address,) = answers_to(line, dns.name.from_text(f"station-{port}.local."), "A")[0]
        assert socket.inet_ntoa(address.to_generic().data) == LOOPBACK
    finally:
        announcer.close()


def test_what_another_implementation_announces_is_heard_and_its_goodbye_too(line):
    """Unasked, with the address among the additional records; a lifetime of nothing is a goodbye (RFC 6762, 10.1)."""
    mine = dns.name.from_text("Attic glass", KIND)
    host = dns.name.from_text("attic.local.")

    def announce(ttl: int) -> None:
        told = dns.message.Message(id=0)
        told.flags = dns.flags.QR | dns.flags.AA
        told.answer = [
            dns.rrset.from_text(KIND, ttl, "IN", "PTR", mine.to_text()),
            dns.rrset.from_text(mine, ttl, "IN", "SRV", f"0 0 18354 {host.to_text()}"),
            dns.rrset.from_text(mine, ttl, "IN", "TXT", '"rs=eSCL" "ty=Attic" "note=under the roof" "UUID=77"'),
        ]
        told.additional = [dns.rrset.from_text(host, ttl, "IN", "A", LOOPBACK)]
        line.sendto(told.to_wire(), (GROUP, PORT))

    def heard() -> list[tuple[str, str, str, str]]:
        return [(one.name, one.place, one.uuid, one.address) for one in listening.there() if "Attic" in one.service]

    with Listening(interfaces_in([ip_network("127.0.0.0/8")])) as listening:
        announce(120)
        until(heard, 10, "the announcement to be heard")
        assert heard() == [("Attic", "under the roof", "77", "http://127.0.0.1:18354")]
        announce(0)
        until(lambda: not heard(), 10, "the goodbye to be heard")


def test_an_announcement_that_is_none_stops_no_listening(line):
    """A pointer to a name that is of no kind, and then one that is right."""

    def point_to(target: str) -> None:
        told = dns.message.Message(id=0)
        told.flags = dns.flags.QR | dns.flags.AA
        told.answer = [dns.rrset.from_text(KIND, 120, "IN", "PTR", target)]
        line.sendto(told.to_wire(), (GROUP, PORT))

    device, port = Device(MODELS[0], lambda _: None, lambda: 0.0), 18_355
    announcer = Announcer()
    try:
        with Listening(interfaces_in([ip_network("127.0.0.0/8")])) as listening:
            point_to("nosuchkind.")
            time.sleep(0.5)
            announcer.come(device, port)
            until(lambda: any(str(port) in one.service for one in listening.there()), 10, "the right one to be heard")
            assert not any("kind" in one.service for one in listening.there())
    finally:
        announcer.close()
