"""Stations that say on the network that they are there: DNS-SD (RFC 6763), on this machine alone.

Keys of the TXT record as in the Mopria Alliance's eSCL Technical Specification (version 2.97, from memory).
"""

import socket

from zeroconf import ServiceInfo, Zeroconf

from hollowstack.standins.station.device import Device

KIND = "_uscan._tcp.local."
_LOOPBACK = "127.0.0.1"


class Announcer:
    """Says of stations that they have come and gone. Raises OSError where this machine cannot."""

    def __init__(self) -> None:
        self._zeroconf = Zeroconf(interfaces=[_LOOPBACK])
        self._said: dict[int, ServiceInfo] = {}

    def come(self, device: Device, port: int) -> None:
        """Announce a device at a port; one that is announced already stays so."""
        if port not in self._said:
            self._said[port] = announcement(device, port)
            self._zeroconf.register_service(self._said[port], allow_name_change=True)

    def go(self, port: int) -> None:
        """Say goodbye for whatever is at a port, as a device does that is switched off."""
        if info := self._said.pop(port, None):
            self._zeroconf.unregister_service(info)

    def close(self) -> None:
        """Say goodbye for all."""
        self._zeroconf.close()


def announcement(device: Device, port: int) -> ServiceInfo:
    """What a device says of itself."""
    model = device.model
    sources = [name for name, there in (("platen", model.platen), ("adf", model.feeder)) if there]
    return ServiceInfo(
        KIND,
        f"{model.name} ({port}).{KIND}",
        addresses=[socket.inet_aton(_LOOPBACK)],
        port=port,
        server=f"station-{port}.local.",
        properties={
            "txtvers": "1",
            "vers": "2.63",
            "rs": "eSCL",
            "ty": model.name,
            "note": model.place,
            "UUID": device.uuid,
            "is": ",".join(sources),
            "duplex": "T" if model.duplex else "F",
            "cs": "color,grayscale,binary",
            "pdl": "image/jpeg,image/tiff,image/png,application/pdf",
        },
    )
