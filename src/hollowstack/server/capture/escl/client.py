"""Talking to a station. Whatever it answers, what comes out is what was asked for, or a StationError with one sentence."""

import ssl
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Literal, Self, TypeVar
from urllib.parse import urljoin, urlsplit

import httpx

from hollowstack.core.page.durable import settle
from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.capture.escl import identifying, messages
from hollowstack.server.capture.escl.messages import Capabilities, NotEscl, ScanSettings, Status

T = TypeVar("T")
Kind = Literal["unreachable", "nonsense", "busy", "refused", "cut short"]
_MOST_MESSAGE = 2_000_000
_MOST_IMAGE = 2_000_000_000
_MOST_SECONDS = 3600.0
"""However slowly an image comes, it does not come for longer."""


class StationError(HollowStackError):
    """A station could not do what it was asked; ``kind`` says in which way."""

    def __init__(self, kind: Kind, sentence: str) -> None:
        super().__init__(sentence)
        self.kind = kind


@cache
def _trusted() -> ssl.SSLContext:
    """Whose certificates are believed: read once, since stations are asked every few seconds and there are many to read."""
    return httpx.create_ssl_context(trust_env=False)


class EsclClient:
    """One station at its address, for example http://192.0.2.7 (eSCL's root /eSCL is added); a context manager."""

    def __init__(self, address: str, *, host: str = "", patience: float = 60.0) -> None:
        """``patience`` is how many seconds an answer, or the next piece of an image, may take.

        ``host`` is as what the station is spoken to, where its address is that of the network alone.
        """
        self._root = address.rstrip("/") + "/eSCL/"
        self._patience = patience
        self._http = httpx.Client(
            timeout=httpx.Timeout(patience, connect=min(patience, 5.0)),
            trust_env=False,
            verify=_trusted(),
            headers={"Host": host} if host else None,
        )
        # Over TLS a station is known by its name, wherever the connection goes.
        self._extensions = {"sni_hostname": host.rsplit(":", 1)[0]} if host else {}

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self._http.close()

    def capabilities(self) -> Capabilities:
        """What it can do."""
        return self._message("ScannerCapabilities", messages.read_capabilities)

    def status(self) -> Status:
        """How it stands."""
        return self._message("ScannerStatus", messages.read_status)

    def start(self, settings: ScanSettings) -> str:
        """Begin a job; returns its address.

        Raises:
            StationError: "busy" where it has another job, "refused" where the settings or an empty feeder stand against it.
        """
        told = self._http.build_request(
            "POST",
            self._root + "ScanJobs",
            content=messages.write_settings(settings),
            headers={"Content-Type": "text/xml"},
            extensions=self._extensions,
        )
        with _spoken():
            answer = self._http.send(told, stream=True)
            answer.close()  # only its head is read: a station has nothing to say in its body
        if answer.status_code == 503:
            raise StationError("busy", "The station is busy or warming up: wait until it is ready.")
        if answer.status_code in {400, 409}:
            raise StationError("refused", "The station refuses these settings, or has no paper: check source and size.")
        place: str = answer.headers.get("Location", "")
        if answer.status_code != 201 or not place:
            raise _nonsense()
        # Only the path counts: behind a proxy a station may not know its own address.
        return urljoin(self._root, urlsplit(place).path)

    def next_document(self, job: str, into: Path, going_on: Callable[[], bool] = lambda: True) -> str | None:
        """Write a job's next image into a file; returns its media type, or None where there are no more.

        The file is complete under its name only once all of it has come; until then it has the ending ``.part`` and, to
        tell a complete one from a torn one after a crash, its length before that. ``going_on`` is asked between pieces.

        Raises:
            StationError: "cut short" where the image stops in the middle, or ``going_on`` says no.
        """
        with _spoken(), self._http.stream("GET", f"{job}/NextDocument", extensions=self._extensions) as answer:
            if answer.status_code in {404, 409, 410}:
                return None
            if answer.status_code == 503:
                raise StationError("busy", "The station is busy: wait until it is ready.")
            media_type: str = answer.headers.get("Content-Type", "").split(";")[0].strip()
            if answer.status_code != 200 or not (media_type.startswith("image/") or media_type == "application/pdf"):
                raise _nonsense()
            length = int(answer.headers.get("Content-Length") or 0)
            part = into.with_name(f"{into.name}.{length}.part")
            came, until = 0, time.monotonic() + _MOST_SECONDS
            with part.open("wb") as file:
                for piece in answer.iter_bytes(1 << 16):
                    came += len(piece)
                    file.write(piece)
                    if came > _MOST_IMAGE or time.monotonic() > until or not going_on():
                        raise StationError("cut short", "The image was not taken whole.")
            if came == 0 or (length and came != length):
                raise _cut_short()
            settle(part, into)
            return media_type

    def cancel(self, job: str) -> None:
        """End a job; one that is unknown is ended already."""
        with _spoken(), self._http.stream("DELETE", job, extensions=self._extensions):
            pass

    def identify(self, message: str) -> bool:
        """Have the device make itself known, with a message on its panel; False where it cannot."""
        return identifying.identify(self._http, self._root.removesuffix("/eSCL/"), message, self._extensions)

    def _message(self, name: str, read: Callable[[bytes], T]) -> T:
        content, until = bytearray(), time.monotonic() + 2 * self._patience
        with _spoken(), self._http.stream("GET", self._root + name, extensions=self._extensions) as answer:
            if answer.status_code == 503:
                raise StationError("busy", "The station is busy: wait until it is ready.")
            if answer.status_code != 200:
                raise _nonsense()
            for piece in answer.iter_bytes(1 << 14):
                content += piece
                if len(content) > _MOST_MESSAGE or time.monotonic() > until:
                    raise _nonsense()
        try:
            return read(bytes(content))
        except NotEscl:
            raise _nonsense() from None


@contextmanager
def _spoken() -> Iterator[None]:
    try:
        yield
    except httpx.TimeoutException:
        raise StationError("unreachable", "The station does not answer: switch it off and on, then try again.") from None
    except httpx.RemoteProtocolError as error:
        raise (_cut_short() if "peer closed" in str(error) else _offline()) from None
    except (httpx.HTTPError, httpx.InvalidURL):
        raise _offline() from None


def _offline() -> StationError:
    return StationError("unreachable", "The station cannot be reached: check its power, its cable and its address.")


def _cut_short() -> StationError:
    return StationError("cut short", "The station stopped in the middle of a page: capture that page again.")


def _nonsense() -> StationError:
    return StationError("nonsense", "What answers there does not speak eSCL: check the station's address.")
