"""At which addresses the server may go by itself: it must not be led to what is nobody's business."""

import socket
from collections.abc import Callable, Iterable
from ipaddress import IPv4Address, IPv4Network, IPv6Address, IPv6Network, ip_address
from typing import Any

Address = IPv4Address | IPv6Address
Network = IPv4Network | IPv6Network


def is_allowed(address: Address, networks: Iterable[Network]) -> bool:
    """Any address in the open; others where their network is named."""
    plain = address.ipv4_mapped if isinstance(address, IPv6Address) and address.ipv4_mapped else address
    named = any(plain in network for network in networks if network.version == plain.version)
    return named or (plain.is_global and not plain.is_multicast)


def addresses_of(host: str, port: int, look_up: Callable[..., Any] = socket.getaddrinfo) -> list[Address]:
    """Where a name leads; none where it leads nowhere."""
    try:
        return [ip_address(row[4][0]) for row in look_up(host, port, type=socket.SOCK_STREAM)]
    except (OSError, UnicodeError, ValueError):
        return []
