"""A station on the network: eSCL, a control endpoint, and a page of its own for what lies in it."""

import json
import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs

from pydantic import TypeAdapter, ValidationError

from hollowstack.core.page.paper_path import Edge, Face
from hollowstack.standins.station import escl, ipp
from hollowstack.standins.station.announcing import Announcer
from hollowstack.standins.station.bundles import bundles, from_file
from hollowstack.standins.station.device import Busy, Device, Empty, Faults, Model, Unfit
from hollowstack.standins.station.page import page

_MOST_BODY = 300_000_000
_CHUNKS = 24
_HANG_SECONDS = 3600.0
_LAID: TypeAdapter[tuple[Face, Edge]] = TypeAdapter(tuple[Face, Edge])


class Station(ThreadingHTTPServer):
    """One simulated station listening on loopback."""

    daemon_threads = True

    def __init__(self, model: Model, port: int = 0, *, serial: str = "0001", announcer: Announcer | None = None) -> None:
        super().__init__(("127.0.0.1", port), _Handler)
        self.device = Device(model, time.sleep, time.monotonic, serial)
        self.bundle = ""
        self._announcer = announcer

    @property
    def address(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.server_address[1]}"

    def lay(self, bundle: str) -> None:
        """Lay a bundle in."""
        _obey(self, {"load": bundle})

    def start(self) -> None:
        """Answer in a thread of its own."""
        threading.Thread(target=self.serve_forever, daemon=True).start()
        self.switch(on=True)

    def switch(self, *, on: bool) -> None:
        """Switch it on, or off: the network hears of both, where stations announce themselves."""
        self.device.faults = self.device.faults.model_copy(update={"offline": not on})
        if self._announcer and on:
            self._announcer.come(self.device, self.server_address[1])
        elif self._announcer:
            self._announcer.go(self.server_address[1])


class _Handler(BaseHTTPRequestHandler):
    protocol_version = "HTTP/1.1"
    server: Station

    def log_message(self, *_: Any) -> None:
        """Say nothing: what is asked is no event."""

    def handle_one_request(self) -> None:
        """A connection that breaks is the other side's matter."""
        try:
            super().handle_one_request()
        except (BrokenPipeError, ConnectionResetError, TimeoutError):
            self.close_connection = True

    def do_GET(self) -> None:
        """ScannerCapabilities, ScannerStatus, NextDocument; the station's own page and state."""
        device = self.server.device
        if self.path == "/":
            return self._send(200, page(self.server.device, self.server.bundle), "text/html; charset=utf-8")
        if self.path == "/control":
            return self._send(200, json.dumps(_state(self.server)), "application/json")
        if self._out_of_order():
            return None
        match self.path.strip("/").split("/"):
            case ["eSCL", "ScannerCapabilities"]:
                self._send(200, escl.capabilities(device, self.server.address), "text/xml")
            case ["eSCL", "ScannerStatus"]:
                self._send(200, escl.status(device), "text/xml")
            case ["eSCL", "ScanJobs", number, "NextDocument"] if number.isdigit() and int(number) in device.jobs:
                self._next_document(int(number))
            case _:
                self._send(404)
        return None

    def do_POST(self) -> None:
        """ScanJobs; control; the page's buttons; files to lay in."""
        body = self.rfile.read(min(_MOST_BODY, int(self.headers.get("Content-Length", 0))))
        if self.path == "/eSCL/ScanJobs":
            if not self._out_of_order():
                self._start(body)
        elif self.path == "/ipp/scan":
            if not self._out_of_order():
                self._identify(body)
        elif self.path == "/control":
            self._control(body)
        elif self.path == "/tray":
            _obey(self.server, {key: values[0] for key, values in parse_qs(body.decode(), keep_blank_values=True).items()})
            self._send(303, headers={"Location": "/"})
        elif self.path == "/tray/file":
            self._lay_file(body)
        else:
            self._send(404)

    def do_DELETE(self) -> None:
        """Cancel a job."""
        number = self.path.rsplit("/", 1)[-1]
        if number.isdigit() and int(number) in self.server.device.jobs:
            self.server.device.cancel(int(number))
            self._send(200)
        else:
            self._send(404)

    def _out_of_order(self) -> bool:
        faults = self.server.device.faults
        if faults.offline:
            self.close_connection = True
            self.connection.close()
            return True
        if faults.hang:
            time.sleep(_HANG_SECONDS)
        time.sleep(faults.slow_s)
        if faults.nonsense:
            self._send(200, "<html><title>Welcome to the toaster</title>", "text/html")
            return True
        return False

    def _start(self, body: bytes) -> None:
        try:
            job = self.server.device.start(escl.order_from(body))
        except Busy:
            self._send(503, headers={"Retry-After": "2"})
        except (Empty, Unfit):
            self._send(409)
        else:
            self._send(201, headers={"Location": f"{self.server.address}/eSCL/ScanJobs/{job.number}"})

    def _identify(self, body: bytes) -> None:
        status, shown = ipp.identified(body)
        if shown is not None:
            self.server.device.shown = shown
        self._send(200, ipp.answer(body, status), "application/ipp")

    def _next_document(self, number: int) -> None:
        device = self.server.device
        data = device.next_image(number)
        job = device.jobs[number]
        if data is None:
            return self._send(404)
        self.send_response(200)
        self.send_header("Content-Type", job.order.media_type)
        self.send_header("Content-Length", str(len(data)))
        self.send_header("Content-Location", f"/eSCL/ScanJobs/{number}/{job.made + 1}")
        self.end_headers()
        if device.faults.cut_short == job.made + 1:
            device.faults = device.faults.model_copy(update={"cut_short": None})
            self.wfile.write(data[: len(data) // 2])
            self.close_connection = True
            return None
        step = max(1, len(data) // _CHUNKS)
        for start in range(0, len(data), step):
            if start // step == _CHUNKS // 2:
                time.sleep(device.faults.silent_s)
            self.wfile.write(data[start : start + step])
            if device.faults.speed and job.order.ppi <= 100:
                time.sleep(0.05 / device.faults.speed)  # a prescan is sent while the lamp travels
        device.taken(number)
        return None

    def _control(self, body: bytes) -> None:
        try:
            _obey(self.server, json.loads(body or b"{}"))
        except (ValueError, KeyError, ValidationError) as error:
            self._send(400, json.dumps({"message": str(error)}), "application/json")
        else:
            self._send(200, json.dumps(_state(self.server)), "application/json")

    def _lay_file(self, body: bytes) -> None:
        try:
            self.server.device.load([*self.server.device.tray, from_file(body)])
        except OSError:
            self._send(400, "That is not an image.", "text/plain")
        else:
            self._send(200)

    def _send(
        self, code: int, body: str | bytes = "", kind: str = "text/plain", headers: dict[str, str] | None = None
    ) -> None:
        data = body.encode() if isinstance(body, str) else body
        self.send_response(code)
        for name, value in {"Content-Type": kind, "Content-Length": str(len(data)), **(headers or {})}.items():
            self.send_header(name, value)
        self.end_headers()
        half = len(data) // 2
        self.wfile.write(data[:half])
        time.sleep(self.server.device.faults.silent_s)
        self.wfile.write(data[half:])


def _obey(station: Station, wish: dict[str, Any]) -> None:
    """``load`` a bundle, ``clear`` a jam, ``cancel`` what it is at, ``start``: its start key.

    A bundle may be ``flipped``, turned over, and ``laid`` some other way than the station wants ("up top": its face, and the
    edge ahead); ``pick`` takes some of its sheets.

    ``power`` on or off, what its panel shows ``seen``; all else are faults.
    """
    device = station.device
    wish = dict(wish)
    flipped = bool(wish.pop("flipped", False))
    pick = wish.pop("pick", None)
    laid = wish.pop("laid", None)
    if (key := wish.pop("load", None)) is not None:
        leaves = bundles()[key][1] if key else []
        if pick is not None:
            leaves = [leaves[place] for place in pick]
        device.load(leaves, flipped=flipped, laid=_laid(laid) if laid else None)
        station.bundle = key
    if wish.pop("clear", False):
        device.clear()
    if wish.pop("cancel", False) and device.busy:
        device.cancel(device.busy.number)
    if wish.pop("start", False):
        device.keys += 1
    if (power := wish.pop("power", None)) is not None:
        station.switch(on=power == "on")
    if wish.pop("seen", False):
        device.shown = ""
    if wish:
        if float(wish.get("warm_up_s", 0)):
            device.warm_up(float(wish["warm_up_s"]))
        device.faults = Faults.model_validate({**device.faults.model_dump(), **wish})


def _laid(words: str) -> tuple[Face, Edge]:
    return _LAID.validate_python(tuple(words.split()))


def _state(station: Station) -> dict[str, Any]:
    device = station.device
    return {
        "model": device.model.name,
        "bundle": station.bundle,
        "tray": [leaf.name for leaf in device.tray],
        "state": device.state,
        "feeder": device.adf_state,
        "shown": device.shown,
        "keys": device.keys,
        "faults": device.faults.model_dump(),
        "delivered": device.truth,
    }
