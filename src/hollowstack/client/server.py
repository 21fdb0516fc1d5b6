"""A Hollow Stack server as a script speaks to it: its API with a token, patiently."""

import time
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import Any, Self

import httpx

from hollowstack.core.page.errors import HollowStackError

_SECONDS = 60.0
_PASSING = frozenset({502, 503, 504, 507})
"""What the machine is short of comes back; what is wrong with a request does not."""
_WAITS = (1.0, 2.0, 4.0, 8.0, 16.0)
_TUS = {"Tus-Resumable": "1.0.0"}


class ServerError(HollowStackError):
    """The server refuses, or does not answer. ``code`` is its word for why; empty where it said nothing."""

    def __init__(self, sentence: str, code: str = "") -> None:
        super().__init__(sentence)
        self.code = code


class Server:
    """The API at an address."""

    def __init__(self, address: str, token: str, patience: float, say: Callable[[str], None]) -> None:
        """``patience`` is for how many seconds a server that does not answer, or has no room, is tried again."""
        self.address = address.rstrip("/")
        self._patience, self._say = patience, say
        self._http = httpx.Client(
            base_url=self.address, headers={"Authorization": f"Bearer {token}"}, timeout=_SECONDS, follow_redirects=False
        )

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self._http.close()

    def ask(self, method: str, path: str, body: Any = None, **given: Any) -> Any:
        """The answer to a question, as JSON; None where there is none. Raises ServerError."""
        answer = self._patiently(lambda: self._http.request(method, f"/api/v1{path}", json=body, **given))
        return answer.json() if answer.content else None

    def received(self, upload: int) -> int:
        """How many bytes of an upload have come. Raises ServerError."""
        answer = self._patiently(lambda: self._http.head(f"/api/v1/uploads/{upload}", headers=_TUS))
        return int(answer.headers["Upload-Offset"])

    def append(self, upload: int, offset: int, piece: bytes) -> int:
        """Send a piece of an upload; returns how many bytes have come. Raises ServerError."""
        headers = {**_TUS, "Upload-Offset": str(offset), "Content-Type": "application/offset+octet-stream"}
        try:
            answer = self._patiently(lambda: self._http.patch(f"/api/v1/uploads/{upload}", content=piece, headers=headers))
        except ServerError as error:
            if error.code != "conflict":
                raise
            return self.received(upload)  # it had come, though the answer was lost
        return int(answer.headers["Upload-Offset"])

    def fetch(self, path: str, into: Path) -> None:
        """Write a file, going on behind what is there of it already. Raises ServerError, OSError."""
        self._patiently(lambda: self._fetch(path, into))

    def _fetch(self, path: str, into: Path) -> httpx.Response:
        there = into.stat().st_size if into.exists() else 0
        headers = {"Range": f"bytes={there}-"} if there else {}
        with self._http.stream("GET", f"/api/v1{path}", headers=headers) as answer:
            if answer.status_code == 416:
                into.unlink()  # as long as the file or longer: not a part of it
                return self._fetch(path, into)
            if answer.is_success:
                with into.open("ab" if answer.status_code == 206 else "wb") as file:
                    for piece in answer.iter_bytes():
                        file.write(piece)
            else:
                answer.read()
            return answer

    def _patiently(self, asked: Callable[[], httpx.Response]) -> httpx.Response:
        """An answer that is none of passing trouble."""
        until, tries = time.monotonic() + self._patience, 0
        while True:
            try:
                answer = asked()
                if answer.is_success:
                    return answer
                error = _refusal(answer)
                if answer.status_code not in _PASSING:
                    raise error
            except httpx.TransportError as trouble:
                error = ServerError(f"{self.address} does not answer ({trouble}): check the address and the network.")
            wait = _WAITS[min(tries, len(_WAITS) - 1)]
            if time.monotonic() + wait > until:
                raise error
            self._say(f"{error} Tried again in {wait:.0f} s.")
            time.sleep(wait)
            tries += 1


def _refusal(answer: httpx.Response) -> ServerError:
    try:
        told = answer.json()
        return ServerError(told["detail"], told["code"])
    except (ValueError, KeyError, TypeError):
        return ServerError(
            f"What answers at {answer.url} is no Hollow Stack server ({answer.status_code}): check the address."
        )
