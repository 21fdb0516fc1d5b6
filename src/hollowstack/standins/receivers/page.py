"""The receivers' own page: what arrived at each, and mishaps that can be made to happen."""

import html
import threading
from collections.abc import Iterator, Mapping
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import NamedTuple
from urllib.parse import parse_qs

from hollowstack.standins.receivers.mail import MailServer
from hollowstack.standins.receivers.mishaps import MISHAPS, Mishap, Mishaps
from hollowstack.standins.receivers.sftp import SftpMachine
from hollowstack.standins.receivers.storage import ObjectStorage

_STYLE = """
:root { color-scheme: light dark }
body { font: 15px/1.5 system-ui, sans-serif; max-width: 62rem; margin: 2rem auto; padding: 0 1.5rem;
  background: light-dark(#f7f7f5, #1b1d1e); color: light-dark(#16181a, #ecedeb) }
h1 { font-size: 1.75rem } h2 { font-size: 1.1rem; margin: 2rem 0 .25rem }
table { border-collapse: collapse; width: 100% } td { padding: .2rem .75rem .2rem 0; vertical-align: top;
  border-top: 1px solid light-dark(#d8d8d4, #3a3e40) } td.n { text-align: right; font-family: ui-monospace, monospace }
button { font: inherit; margin: .15rem .15rem .15rem 0; min-height: 2rem }
p { color: light-dark(#4a4f52, #b4b8b8) }
"""
_SHOWN = 60
_TIMES: dict[str, int] = {"password": 3}
"""A sign-in is tried in so many ways at once."""


class Running(NamedTuple):
    """The receivers."""

    mail: MailServer
    sftp: SftpMachine
    storage: ObjectStorage


class _Shown(NamedTuple):
    title: str
    purpose: str
    mishaps: Mishaps
    offered: tuple[Mishap, ...]
    rows: list[tuple[str, str, int]]


class Page:
    """Runs in a thread of its own until it is stopped."""

    def __init__(self, port: int, running: Running, host: str = "127.0.0.1") -> None:
        """Of these receivers."""
        self._server = ThreadingHTTPServer((host, port), _handler(running))
        self.address = f"http://{host}:{port}"
        threading.Thread(target=self._server.serve_forever, name="receivers", daemon=True).start()

    def stop(self) -> None:
        """No longer."""
        self._server.shutdown()
        self._server.server_close()


def _shown(running: Running) -> dict[str, _Shown]:
    everything = tuple(MISHAPS)
    mails = [
        (f"{one.message['Subject']}", f"to {', '.join(one.recipients)} at {one.came:%H:%M:%S} UTC", len(bytes(one.message)))
        for one in reversed(running.mail.mails)
    ]
    files = [
        (str(one.relative_to(running.sftp.folder)), "", one.stat().st_size)
        for one in sorted(running.sftp.folder.rglob("*"))
        if one.is_file()
    ]
    objects = [(key, "", size) for key, size in running.storage.objects()]
    return {
        "mail": _Shown("Mail", "keeps each message", running.mail.mishaps, everything[:-1], mails),
        "sftp": _Shown("SFTP", "keeps files in a folder", running.sftp.mishaps, everything, files),
        "storage": _Shown("Object storage", "holds objects in memory", running.storage.mishaps, everything, objects),
    }


def _page(receivers: Mapping[str, _Shown]) -> str:
    parts = "".join(part for name, one in receivers.items() for part in _section(name, one))
    return (
        f"<!doctype html><html lang=en><meta charset=utf-8><title>Simulated receivers</title><style>{_STYLE}</style>"
        f"<h1>Simulated receivers</h1><p>Places that documents are sent to, for trying out.</p>{parts}</html>"
    )


def _section(name: str, one: _Shown) -> Iterator[str]:
    yield f"<h2>{one.title}</h2><p>It {one.purpose}; {len(one.rows)} so far.</p><form method=post>"
    asked = one.mishaps.asked
    for mishap in one.offered:
        waits = " (waits to happen)" if mishap in asked else ""
        yield f"<button name={name} value={mishap}>{MISHAPS[mishap]}{waits}</button>"
    yield f"<button name={name} value=none>No mishaps</button></form><table>"
    for title, about, size in one.rows[:_SHOWN]:
        yield f"<tr><td>{html.escape(title)}<td>{html.escape(about)}<td class=n>{size:,} B"
    yield "</table>"


def _handler(running: Running) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            body = _page(_shown(running)).encode()
            self.send_response(200)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            self.wfile.write(body)

        def do_POST(self) -> None:
            told = parse_qs(self.rfile.read(int(self.headers.get("Content-Length", 0))).decode())
            for name, (value, *_) in told.items():
                _obey(_shown(running)[name].mishaps, value)
            self.send_response(303)
            self.send_header("Location", "/")
            self.end_headers()

        def log_message(self, format: str, *args: object) -> None:
            """Nobody wants to read of each request."""

    return Handler


def _obey(mishaps: Mishaps, wanted: str) -> None:
    if wanted in MISHAPS:
        mishaps.ask(wanted, _TIMES.get(wanted, 1))
        return
    for mishap in MISHAPS:
        mishaps.ask(mishap, 0)
