"""Listening for announcements on the networks in which stations may be, and on no other."""

import logging
import threading
from collections.abc import Callable
from ipaddress import IPv4Network, IPv6Network, ip_address
from types import TracebackType
from typing import Self

import ifaddr
from zeroconf import Error, ServiceBrowser, ServiceListener, Zeroconf

from hollowstack.server.capture.finding.announcements import KINDS, Announcement, read

log = logging.getLogger("hollowstack.capture")
_ANSWER_MS = 3000


class Listening:
    """What is announced now; ``changed`` is called from another thread whenever that is something else."""

    def __init__(self, interfaces: list[str], changed: Callable[[], None] = lambda: None) -> None:
        """Listen on the interfaces with these addresses. Raises OSError where that cannot be."""
        self._there: dict[str, Announcement] = {}
        self._lock = threading.Lock()
        self._changed = changed
        self._zeroconf = Zeroconf(interfaces=interfaces)
        self._browser = ServiceBrowser(self._zeroconf, list(KINDS), _Ear(self))

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self._browser.cancel()
        self._zeroconf.close()

    def there(self) -> list[Announcement]:
        """All that is announced now, by its name."""
        with self._lock:
            return [one for _, one in sorted(self._there.items())]

    def heard(self, zeroconf: Zeroconf, kind: str, service: str) -> None:
        """A station has come, or says something else of itself."""
        try:
            said = zeroconf.get_service_info(kind, service, _ANSWER_MS)
        except Error as error:  # what is said on a network may be anything
            log.info("%r announces itself as a station, and is none: %s", service, error)
            return None
        found = said and read(service, kind, said.properties, said.parsed_addresses(), said.port)
        if not found:
            log.info("%s announces itself as a station, and says too little to be spoken to", service)
            return self.gone(service)
        with self._lock:
            self._there[service] = found
        self._changed()
        return None

    def gone(self, service: str) -> None:
        """A station has said goodbye, or was not heard of for as long as its announcement lasts."""
        with self._lock:
            self._there.pop(service, None)
        self._changed()


class _Ear(ServiceListener):
    def __init__(self, listening: Listening) -> None:
        self._listening = listening

    def add_service(self, zc: Zeroconf, type_: str, name: str) -> None:
        self._listening.heard(zc, type_, name)

    def update_service(self, zc: Zeroconf, type_: str, name: str) -> None:
        self._listening.heard(zc, type_, name)

    def remove_service(self, zc: Zeroconf, type_: str, name: str) -> None:
        self._listening.gone(name)


def interfaces_in(networks: list[IPv4Network | IPv6Network]) -> list[str]:
    """This machine's IPv4 addresses within networks: where it pays to listen, as elsewhere no station is spoken to."""
    own = (ip.ip for adapter in ifaddr.get_adapters() for ip in adapter.ips if isinstance(ip.ip, str))
    return sorted({ip for ip in own if any(ip_address(ip) in network for network in networks)})
