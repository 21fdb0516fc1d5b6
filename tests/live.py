"""The real program in processes of its own, with a data folder of its own, for tests that look from outside."""

import atexit
import contextlib
import json
import os
import shutil
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterable
from functools import cache
from http.cookiejar import CookieJar
from pathlib import Path
from typing import TYPE_CHECKING, Any
from urllib.parse import quote
from urllib.request import HTTPCookieProcessor, Request, build_opener

import psutil

if TYPE_CHECKING:
    from playwright.sync_api import Browser, Page

USER, PASSWORD = "keeper", "skerry-light"


class Live:
    """``hollowstack serve`` on a free port, with the demo's user signed in."""

    def __init__(self, data: Path, *, stations: bool = False, worked: Path | None = None, **settings: str) -> None:
        """``stations`` starts the simulated ones too, at ``self.stations``; ``worked`` is a data folder whose results it has."""
        port, *ports = free_ports(4 if stations else 1)
        self.stations = [f"http://127.0.0.1:{port}" for port in ports]
        self.address = f"http://127.0.0.1:{port}"
        self.data = data
        # Stations of other tests would be found.
        self._env = {**_environment(data), "HOLLOWSTACK_FIND_STATIONS": "false", **settings}
        if (data / "hollowstack.sqlite3").exists():  # filled beforehand
            _make_ready(self._env, data)
        else:
            shutil.copytree(_fresh(), data, dirs_exist_ok=True)
        if worked is not None:
            _give_results(worked, data)
        self.log = (data / "serve.log").open("w")
        command = [str(Path(sys.executable).parent / "hollowstack"), "serve", "--port", str(port)]
        if ports:
            command += ["--stations", *(str(one) for one in ports)]
        self._command = command
        self.process = self._start(command)
        self._jar = CookieJar()
        self._opener = build_opener(HTTPCookieProcessor(self._jar))
        self._csrf = ""
        until(lambda: self._answers(), 60, "the server to answer")
        self._sign_in()

    def _start(self, command: list[str]) -> subprocess.Popen[bytes]:
        return subprocess.Popen(command, env=self._env, stdout=self.log, stderr=subprocess.STDOUT)

    def _sign_in(self) -> None:
        self._csrf = self.call("GET", "/api/v1/session")["csrf"]
        self._csrf = self.call("POST", "/api/v1/session", {"user": USER, "password": PASSWORD})["csrf"]

    def new_session(self) -> str:
        """Sign the demo's user in anew, and return what the browser's cookie holds then; sessions before it stay."""
        self._jar.clear()
        self._csrf = ""
        self._sign_in()
        return next(cookie.value or "" for cookie in self._jar if cookie.name == "sessionid")

    def call(self, method: str, path: str, body: Any = None) -> Any:
        """An API call with a JSON body, or raw bytes."""
        data = body if isinstance(body, bytes) else None if body is None else json.dumps(body).encode()
        kind = "application/octet-stream" if isinstance(body, bytes) else "application/json"
        headers = {"X-CSRFToken": self._csrf, "Referer": self.address, "Content-Type": kind}
        request = Request(self.address + path, data=data, headers=headers, method=method)
        with self._opener.open(request, timeout=60) as response:
            content = response.read()
        kind = response.headers["Content-Type"] or ""
        return json.loads(content) if content and kind.startswith("application/json") else content

    def append(self, upload: int, offset: int, data: bytes) -> None:
        """Send a piece of an upload."""
        kinds = {"Content-Type": "application/offset+octet-stream", "Upload-Offset": str(offset), "Tus-Resumable": "1.0.0"}
        headers = {"X-CSRFToken": self._csrf, "Referer": self.address, **kinds}
        address = f"{self.address}/api/v1/uploads/{upload}"
        self._opener.open(Request(address, data=data, headers=headers, method="PATCH"), timeout=60).close()

    def control(self, station: int, **wish: Any) -> dict[str, Any]:
        """Lay paper in a simulated station, or make something go wrong with it."""
        request = Request(f"{self.stations[station]}/control", data=json.dumps(wish).encode(), method="POST")
        with build_opener().open(request, timeout=30) as response:
            return json.loads(response.read())

    def say_how_paper_goes_in(self) -> None:
        """What the first capture from each source would ask otherwise."""
        for one in self.call("GET", "/api/v1/stations"):
            for source in ("platen", "feeder"):
                if one[source]:
                    self.call("PUT", f"/api/v1/stations/{one['id']}/paper/{source}", one[source]["paper_proposed"])

    def take_in(self, name: str, files: Iterable[Path]) -> int:
        """A new stack of files; returns its number."""
        stack = self.call("POST", "/api/v1/stacks", {"name": name})["id"]
        load = self.call("POST", f"/api/v1/stacks/{stack}/batches", {})["id"]
        for index, file in enumerate(files):
            self.call("PUT", f"/api/v1/batches/{load}/files/{index}?name={quote(file.name)}", file.read_bytes())
        return stack

    def pages(self, stack: int) -> list[dict[str, Any]]:
        """The rows of a stack's pages, in order; one that came while they were told is told next time."""
        found = self.call("GET", f"/api/v1/stacks/{stack}/pages")
        rows = {row["id"]: row for row in found["pages"]}
        return [rows[page] for page in found["order"] if page in rows]

    def counts(self, stack: int) -> dict[str, int]:
        """Where they are."""
        return self.call("GET", f"/api/v1/stacks/{stack}/pages")["counts"]

    def settled(self, stack: int) -> bool:
        """Whether nothing is left to be done."""
        counts = self.counts(stack)
        return counts["pages"] > 0 and counts["ready"] + counts["aside"] + counts["failed"] == counts["pages"]

    def engine(self) -> psutil.Process | None:
        """The engine's process."""
        return self.process_of("engine")

    def process_of(self, command: str) -> psutil.Process | None:
        """One of the processes beside the server: engine or capture."""
        return next((process for process, words in self._children() if command in words), None)

    def page_workers(self) -> list[psutil.Process]:
        """The processes in which page work is done."""
        return [process for process, words in self._children() if "hollowstack.core.run.worker" in words]

    def cluster_workers(self) -> list[psutil.Process]:
        """The cluster's worker processes."""
        engine = self.engine()
        found = _told(engine.children()) if engine else []
        return [process for process, words in found if any("spawn_main" in word for word in words)]

    def _children(self) -> list[tuple[psutil.Process, list[str]]]:
        return _told(psutil.Process(self.process.pid).children(recursive=True))

    def restart(self) -> None:
        """End the program and start it again, as after a night."""
        self.process.terminate()
        self.process.wait(30)
        self.process = self._start(self._command)
        until(lambda: self._answers(), 60, "the server to answer again")

    def stop(self) -> int:
        """Ctrl-C; returns the exit status."""
        self.process.send_signal(2)
        try:
            return self.process.wait(40)
        finally:
            self.process.kill()
            self.log.close()

    def manage(self, *words: str) -> str:
        """A command about its data folder; returns what it printed."""
        return _manage(self._env, *words)

    def _answers(self) -> bool:
        try:
            return bool(self.call("GET", "/api/v1/session"))
        except OSError:
            return False


def _environment(data: Path) -> dict[str, str]:
    return {**os.environ, "HOLLOWSTACK_DATA": str(data), "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings"}


def _manage(environment: dict[str, str], *words: str) -> str:
    command = [sys.executable, "-m", "hollowstack.server.manage", *words]
    return subprocess.run(command, env=environment, check=True, capture_output=True, text=True).stdout


@cache
def _fresh() -> Path:
    """A data folder with the demo's user and an empty stack, made once in a process and copied for each application."""
    folder = Path(tempfile.mkdtemp(prefix="hollowstack-fresh-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    _make_ready(_environment(folder / "data"), folder)
    return folder / "data"


def _make_ready(environment: dict[str, str], folder: Path) -> None:
    """The demo's user and an empty stack in the data folder that an environment names."""
    none = folder / "none"
    none.mkdir(parents=True, exist_ok=True)
    _manage(environment, "migrate", "--verbosity", "0", "--skip-checks")
    _manage(environment, "demo", str(none), "--name", "Empty box")


def _give_results(worked: Path, data: Path) -> None:
    """What is made is kept by what it is made of: a file that is known there is known here."""
    shutil.copytree(worked / "results", data / "results")
    with contextlib.closing(sqlite3.connect(data / "hollowstack.sqlite3")) as database:
        database.execute("ATTACH ? AS other", (str(worked / "hollowstack.sqlite3"),))
        database.execute("INSERT INTO results_result SELECT * FROM other.results_result WHERE state = 'made'")
        database.commit()


def free_ports(count: int) -> list[int]:
    probes = [socket.socket() for _ in range(count)]
    for probe in probes:
        probe.bind(("127.0.0.1", 0))
    ports = [probe.getsockname()[1] for probe in probes]
    for probe in probes:
        probe.close()
    return ports


def _told(processes: Iterable[psutil.Process]) -> list[tuple[psutil.Process, list[str]]]:
    """Processes with their command lines; any of them may end while it is asked."""
    found = []
    for process in processes:
        with contextlib.suppress(psutil.Error):
            found.append((process, process.cmdline()))
    return found


def until(test: Callable[[], Any], seconds: float, what: str) -> Any:
    """Wait for something to be true; returns it."""
    deadline, pause = time.monotonic() + seconds, 0.05
    while time.monotonic() < deadline:
        if found := test():
            return found
        time.sleep(pause)
        # Whoever asks often takes the time of the one who works.
        pause = min(0.6, 1.3 * pause)
    raise AssertionError(f"waited {seconds:.0f} s in vain for {what}")


def looking(browser: "Browser", live: Live) -> "Page":
    """A tab at 1280 × 800 in which the demo's user is signed in."""
    page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)
    page.goto("/")
    page.get_by_label("User name").fill(USER)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="New stack").wait_for()
    return page
