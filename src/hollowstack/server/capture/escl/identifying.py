"""Having a device make itself known to whoever stands before it: IPP's Identify-Printer.

The request is encoded as RFC 8010 has it (section 3.1); the operation is of PWG 5100.13 (IPP Driver Replacement
Extensions, from memory), asked for at the address of PWG 5100.17 (IPP Scan Service), and then of a printer's.
"""

import struct
from collections.abc import Mapping
from contextlib import closing, suppress
from typing import Any
from urllib.parse import urlsplit

import httpx

IDENTIFY = 0x003C
_VERSION, _REQUEST = (2, 0), 1
_OPERATION_ATTRIBUTES, _END = 0x01, 0x03
_CHARSET, _LANGUAGE, _URI, _KEYWORD, _NAME, _TEXT = 0x47, 0x48, 0x45, 0x44, 0x42, 0x41
_PLACES = ((None, "/ipp/scan"), (631, "/ipp/scan"), (631, "/ipp/print"))
"""Ports (None: the one at which the device speaks eSCL) and paths at which it is tried, one after the other."""
_MOST_ANSWER = 65_536


def request(uri: str, actions: tuple[str, ...], message: str) -> bytes:
    """An Identify-Printer request; ``actions`` of display, flash, sound, speak; ``message`` is for its panel."""
    return (
        struct.pack(">BBHI", *_VERSION, IDENTIFY, _REQUEST)
        + bytes([_OPERATION_ATTRIBUTES])
        + _attribute(_CHARSET, "attributes-charset", "utf-8")
        + _attribute(_LANGUAGE, "attributes-natural-language", "en")
        + _attribute(_URI, "printer-uri", uri)
        + _attribute(_NAME, "requesting-user-name", "hollowstack")
        + _attribute(_KEYWORD, "identify-actions", *actions)
        + _attribute(_TEXT, "message", message)
        + bytes([_END])
    )


def succeeded(answer: bytes) -> bool:
    """Whether an answer says that it was done: status codes below 0x0100 (RFC 8011, appendix B)."""
    return len(answer) >= 8 and answer[0] in {1, 2} and struct.unpack(">H", answer[2:4])[0] < 0x0100


def identify(http: httpx.Client, address: str, message: str, extensions: Mapping[str, Any]) -> bool:
    """Ask the device at an address to make itself known; False where it cannot."""
    parts = urlsplit(address)
    name = f"[{parts.hostname}]" if ":" in (parts.hostname or "") else (parts.hostname or "")
    for port, path in _PLACES:
        place = f"{parts.scheme}://{name}:{port or parts.port}{path}"
        told = http.build_request(
            "POST",
            place,
            content=request(f"ipp://{name}{path}", ("flash", "display"), message),
            headers={"Content-Type": "application/ipp"},
            extensions=dict(extensions),
        )
        with suppress(httpx.HTTPError), closing(http.send(told, stream=True)) as answer:
            if answer.status_code == 200 and succeeded(_head(answer)):
                return True
    return False


def _head(answer: httpx.Response) -> bytes:
    came = bytearray()
    for piece in answer.iter_bytes(1 << 12):
        came += piece
        if len(came) > _MOST_ANSWER:
            break
    return bytes(came)


def _attribute(tag: int, name: str, *values: str) -> bytes:
    """One attribute; values after the first have no name (RFC 8010, 3.1.5)."""
    names = [name, *[""] * (len(values) - 1)]
    return b"".join(
        struct.pack(">B", tag) + _counted(called) + _counted(value) for called, value in zip(names, values, strict=True)
    )


def _counted(text: str) -> bytes:
    data = text.encode()
    return struct.pack(">H", len(data)) + data
