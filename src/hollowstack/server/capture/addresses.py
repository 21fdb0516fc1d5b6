"""At which addresses stations may be: the server itself goes there, so it must not be led to what is nobody's business.

A name is looked up once, judged, and the connection goes to the address that was judged: a name that leads elsewhere the
next moment leads nowhere.
"""

import socket
from collections.abc import Callable
from dataclasses import dataclass
from ipaddress import IPv4Address, IPv6Address, ip_address
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings

from hollowstack.server.errors import Refused

Address = IPv4Address | IPv6Address
_NOT_ALLOWED = (
    "Stations in this network have not been allowed: whoever runs the server names it in HOLLOWSTACK_STATION_NETWORKS."
)
_UNKNOWN = "No station answers there: check its power, its cable and its address."
_STRANGE = "This is no address of a station: give it as http://192.0.2.7 or by its name."


@dataclass(frozen=True, slots=True)
class Place:
    """A judged address: where the connection goes, and as what the station is spoken to."""

    root: str
    host: str


def allowed(address: str, look_up: Callable[..., Any] = socket.getaddrinfo) -> Place:
    """Where a station is spoken to. Raises Refused where it may not be, or is not known."""
    try:
        parts = urlsplit(address)
        port = parts.port or (443 if parts.scheme == "https" else 80)
    except ValueError:
        raise Refused(_STRANGE) from None
    if parts.scheme not in {"http", "https"} or not parts.hostname or parts.username or parts.query or parts.fragment:
        raise Refused(_STRANGE)
    try:
        found = [ip_address(row[4][0]) for row in look_up(parts.hostname, port, type=socket.SOCK_STREAM)]
    except (OSError, UnicodeError, ValueError):
        raise Refused(_UNKNOWN) from None
    good = [one for one in found if is_allowed(one)]
    if not good:
        raise Refused(_NOT_ALLOWED)
    literal = f"[{good[0]}]" if good[0].version == 6 else str(good[0])
    return Place(f"{parts.scheme}://{literal}:{port}{parts.path.rstrip('/')}", parts.netloc)


def is_allowed(address: Address) -> bool:
    """Whether the server may go to an address for a station: any in the open, others where their network is named."""
    plain = address.ipv4_mapped if isinstance(address, IPv6Address) and address.ipv4_mapped else address
    named = any(plain in network for network in settings.STATION_NETWORKS if network.version == plain.version)
    return named or (plain.is_global and not plain.is_multicast)
