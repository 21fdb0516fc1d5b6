"""At which addresses stations may be: the server itself goes there, so it must not be led to what is nobody's business.

A name is looked up once, judged, and the connection goes to the address that was judged: a name that leads elsewhere the
next moment leads nowhere.
"""

import socket
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings

from hollowstack.server import networks
from hollowstack.server.errors import Refused
from hollowstack.server.networks import Address

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
    found = networks.addresses_of(parts.hostname, port, look_up)
    if not found:
        raise Refused(_UNKNOWN)
    good = [one for one in found if is_allowed(one)]
    if not good:
        raise Refused(_NOT_ALLOWED)
    literal = f"[{good[0]}]" if good[0].version == 6 else str(good[0])
    return Place(f"{parts.scheme}://{literal}:{port}{parts.path.rstrip('/')}", parts.netloc)


def is_allowed(address: Address) -> bool:
    """Whether the server may go to an address for a station."""
    return networks.is_allowed(address, settings.STATION_NETWORKS)
