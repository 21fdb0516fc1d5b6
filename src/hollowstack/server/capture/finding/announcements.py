"""What a station says of itself on the network: DNS-SD (RFC 6763) over multicast DNS (RFC 6762).

Keys of the TXT record as in the Mopria Alliance's eSCL Technical Specification (version 2.97, from memory): ``rs`` the
path of eSCL's root, ``ty`` make and model, ``note`` where it stands, ``UUID``. Keys are compared without regard to case,
and a key without a value is present with none (RFC 6763, 6.4).
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from ipaddress import ip_address

PLAIN, SECURE = "_uscan._tcp.local.", "_uscans._tcp.local."
KINDS = (PLAIN, SECURE)
"""eSCL over HTTP, and over TLS."""
_ROOT = "eSCL"
_MOST = 80


@dataclass(frozen=True, slots=True)
class Announcement:
    """One announced station."""

    service: str
    """The full name of the service, which tells it from all others on the network."""
    name: str
    place: str
    """Where it stands, as whoever set it up wrote it down; often empty."""
    uuid: str
    address: str
    """As ``http://192.0.2.7:8080``: eSCL's root is ``/eSCL`` below it."""


def read(
    service: str, kind: str, properties: Mapping[bytes, bytes | None], addresses: Sequence[str], port: int | None
) -> Announcement | None:
    """An announcement in our words; None where it has no address, or leads to something else than eSCL."""
    said = {key.decode("ascii", "replace").lower(): _text(value) for key, value in properties.items()}
    root = said.get("rs", _ROOT).strip("/")
    if not addresses or not port or root.rsplit("/", 1)[-1] != _ROOT:
        return None
    scheme = "https" if kind == SECURE else "http"
    below = root.removesuffix(_ROOT).strip("/")
    name = said.get("ty") or service.removesuffix(f".{kind}")
    uuid = said.get("uuid", "").lower().removeprefix("urn:uuid:")
    at = f"{scheme}://{_host(addresses)}:{port}" + (f"/{below}" if below else "")
    return Announcement(service, _line(name) or "Station", _line(said.get("note", "")), uuid[:_MOST], at)


def _host(addresses: Sequence[str]) -> str:
    """IPv4 where there is one: it means the same on every interface."""
    found = sorted((ip_address(one.split("%")[0]) for one in addresses), key=lambda one: one.version)
    return f"[{found[0]}]" if found[0].version == 6 else str(found[0])


def _text(value: bytes | None) -> str:
    return (value or b"").decode("utf-8", "replace")


def _line(text: str) -> str:
    return " ".join(text.split())[:_MOST]
