"""Kill -9 of any process at random moments of the way from upload and capture to a bound document.

Afterwards no page is lost, none is doubled, and the bytes bound are those of a run that nobody disturbed.
``HOLLOWSTACK_KILLS`` sets how many processes are killed, ``HOLLOWSTACK_SEED`` which and when.
"""

import contextlib
import json
import os
import random
import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from http.client import HTTPException
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

import psutil
import pytest

from hollowstack.core.run.steps import bind_step
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station
from hollowstack.standins.station.server import _obey as obey
from tests.live import Live, until
from tests.whole.conftest import reduced

KILLS = int(os.environ.get("HOLLOWSTACK_KILLS", "10"))
SEED = int(os.environ.get("HOLLOWSTACK_SEED", "15"))
NAMES = ["01 letter 1a.jpg", "04 card 41.jpg", "04 card 42.jpg"]
A_ROUND = 6
"""Killed in one run: with more, nothing would ever be started long enough to do any work."""
SHEETS, TITLE = 8, "Letters"
_LATER = 0.2


class Mortal(Live):
    """The program, of which anything may die at any moment; what is asked of it is asked until it answers."""

    def restart_if_dead(self) -> None:
        """Start the server again where it was killed."""

        def answers() -> bool:
            if self.process.poll() is not None:  # it may be killed while it starts
                self.process = self._start(self._command)
            return self._answers()

        if self.process.poll() is not None:
            until(answers, 60, "the server to answer again")

    def ask(self, method: str, path: str, body: Any = None, *, unless: Callable[[], Any] = lambda: None) -> Any:
        """As ``call``, again and again; what was done though its answer was lost is found by ``unless``."""
        for attempt in range(200):
            try:
                if attempt and (there := unless()):
                    return there
                return self.call(method, path, body)
            except HTTPError as error:
                if error.code < 500:
                    raise
            except (OSError, HTTPException):
                self.restart_if_dead()
            time.sleep(_LATER)
        raise AssertionError(f"no answer to {method} {path}")


@pytest.fixture(scope="module")
def small(tmp_path_factory: pytest.TempPathFactory, skerry: Path) -> list[Path]:
    return reduced([skerry / name for name in NAMES], tmp_path_factory.mktemp("small"), 2)


@contextlib.contextmanager
def started(folder: Path) -> Iterator[tuple[Mortal, Station]]:
    """The program, and a station in this process, which nobody kills."""
    station = Station(MODELS[1])
    station.start()
    live = Mortal(folder, HOLLOWSTACK_WORKERS="1", HOLLOWSTACK_STATION_NETWORKS="127.0.0.0/8")
    try:
        yield live, station
    finally:
        live.stop()
        station.shutdown()
        station.server_close()


def the_way(live: Mortal, station: Station, files: list[Path]) -> int:
    """Upload, capture, correct, read, bind; returns the stack."""

    def stacks() -> list[dict[str, Any]]:
        return [one for one in live.ask("GET", "/api/v1/stacks")["stacks"] if one["name"] == "Box 7"]

    stack = live.ask("POST", "/api/v1/stacks", {"name": "Box 7"}, unless=lambda: stacks()[:1])
    number = (stack[0] if isinstance(stack, list) else stack)["id"]
    _upload(live, number, files)
    _capture(live, number, station)
    until(lambda: _settled(live, number), 240, "the pages to be worked through")
    documents = f"/api/v1/stacks/{number}/documents"
    live.ask("POST", documents, {"title": TITLE}, unless=lambda: live.ask("GET", documents))
    until(lambda: live.ask("GET", documents)[0]["state"] == "bound", 120, "the document to be bound")
    return number


def _upload(live: Mortal, stack: int, files: list[Path]) -> None:
    address = f"/api/v1/stacks/{stack}/uploads"
    new = {"files": [{"name": file.name, "bytes": file.stat().st_size} for file in files]}
    live.ask("POST", address, new, unless=lambda: live.ask("GET", address))
    while expected := live.ask("GET", address):
        one = expected[0]
        data = next(file for file in files if file.name == one["name"]).read_bytes()
        try:
            if (offset := one["received"]) < len(data):
                live.append(one["id"], offset, data[offset : offset + len(data) // 2 + 1])
            else:
                live.call("POST", f"/api/v1/uploads/{one['id']}/take-in", {})
        except (OSError, HTTPException):
            live.restart_if_dead()
            time.sleep(_LATER)


def _capture(live: Mortal, stack: int, station: Station) -> None:
    def listed() -> list[dict[str, Any]]:
        return live.ask("GET", "/api/v1/stations")

    live.ask("POST", "/api/v1/stations", {"address": station.address}, unless=listed)
    settings = {"source": "feeder", "ppi": 75, "colour": "grey", "name": "sheet"}
    address = f"/api/v1/stacks/{stack}/runs"
    wish = {"station": listed()[0]["id"], "settings": settings}
    live.ask("POST", address, wish, unless=lambda: live.ask("GET", address))

    def last() -> dict[str, Any]:
        return live.ask("GET", address)[0]

    def is_over() -> bool:
        now = last()
        # An image that the station had handed out to a process that died is gone for good; that is said.
        assert now["state"] in {"wanted", "running", "done"} or "lost on the way" in now["problem"], now
        return now["state"] in {"done", "stopped"}

    until(is_over, 240, "the capture to be done")
    while (run := last())["state"] == "stopped":
        # What somebody does who is told to: discard what came, and load all of it again.
        live.ask("POST", f"/api/v1/runs/{run['id']}/cancel", {}, unless=lambda: last()["state"] != "stopped")
        until(lambda: last()["state"] == "cancelled", 60, "what came to be discarded")
        obey(station, {"load": "register-8"})
        live.ask("POST", address, wish, unless=lambda: last()["state"] != "cancelled")
        until(is_over, 240, "the capture to be done")


def _settled(live: Mortal, stack: int) -> bool:
    """Whatever waits for a person, because its worker was killed too often, is tried again by one."""
    if live.ask("GET", f"/api/v1/stacks/{stack}/pages")["counts"]["failed"]:
        live.ask("POST", f"/api/v1/stacks/{stack}/retry", {})
    return live.ask("GET", f"/api/v1/stacks/{stack}/pages")["engine"] is not None and _is_settled(live, stack)


def _is_settled(live: Mortal, stack: int) -> bool:
    counts = live.ask("GET", f"/api/v1/stacks/{stack}/pages")["counts"]
    return counts["pages"] > 0 and counts["ready"] + counts["aside"] == counts["pages"]


class Killer(threading.Thread):
    """Kills one process of the program after another."""

    def __init__(self, live: Mortal, chance: random.Random, most: int) -> None:
        super().__init__(daemon=True)
        self._live, self._chance, self._most = live, chance, most
        self.killed: list[str] = []
        self.over = threading.Event()

    def run(self) -> None:
        """Until it is over, or enough are dead."""
        while len(self.killed) < self._most and not self.over.wait(self._chance.uniform(0.2, 4.0)):
            kinds = self._kinds()
            if not kinds:
                continue
            kind = self._chance.choice(sorted(kinds))
            with contextlib.suppress(psutil.Error):
                self._chance.choice(kinds[kind]).kill()
                self.killed.append(kind)

    def _kinds(self) -> dict[str, list[psutil.Process]]:
        live, found = self._live, dict[str, list[psutil.Process]]()
        with contextlib.suppress(psutil.Error):
            for kind, processes in (
                ("server", [psutil.Process(live.process.pid)]),
                ("engine", [live.engine()]),
                ("capture", [live.process_of("capture")]),
                ("cluster worker", live.cluster_workers()),
                ("page worker", live.page_workers()),
            ):
                if there := [one for one in processes if one is not None and one.is_running()]:
                    found[kind] = there
        return found


def outcome(live: Live, stack: int) -> list[dict[str, Any]]:
    """What came of each page, in the order of the stack."""
    of_interest = ("source", "frame", "state", "clean", "bytes", "words", "confidence", "error")
    return [{name: row[name] for name in of_interest} for row in live.pages(stack)]


@pytest.fixture(scope="module")
def undisturbed(tmp_path_factory: pytest.TempPathFactory, small: list[Path]) -> tuple[Path, list[dict[str, Any]]]:
    """The data folder of a run that nobody disturbed, and what came of its pages."""
    folder = tmp_path_factory.mktemp("undisturbed") / "data"
    with started(folder) as (live, station):
        obey(station, {"load": "register-8", "speed": 2})
        rows = outcome(live, the_way(live, station, small))
    assert len(rows) == len(small) + SHEETS
    assert {row["state"] for row in rows} <= {"ready", "aside"}
    return folder, rows


def bound_again(order: str, document: list[sqlite3.Row], undisturbed: Path, target: Path) -> bytes:
    """The same document, bound as it was ordered from what the undisturbed run made of its pages."""
    database = sqlite3.connect(undisturbed / "hollowstack.sqlite3")

    def made(key: str) -> Any:
        return json.loads(database.execute("SELECT body FROM results_result WHERE key = ?", [key]).fetchone()[0])

    def folder(step: str, key: str) -> str:
        return str(undisturbed / "results" / step / key[:2] / key)

    pages = [
        {
            "folder": folder("render", page["rendered"]),
            "clean": made(page["rendered"]),
            "ppi": (page["x_ppi"], page["y_ppi"]),
            "reading": folder("read", page["reading"]),
            "read": made(page["reading"]),
            "master": page["master"],
        }
        for page in document
    ]
    database.close()
    bind_step(pages, str(target), json.loads(order))
    return target.read_bytes()


def test_killed_at_random_moments(undisturbed, small: list[Path], tmp_path: Path):
    before, expected = undisturbed
    chance, killed = random.Random(SEED), list[str]()
    while len(killed) < KILLS:
        folder = tmp_path / f"round {len(killed)}" / "data"
        with started(folder) as (live, station):
            obey(station, {"load": "register-8", "speed": 2})
            killer = Killer(live, chance, min(A_ROUND, KILLS - len(killed)))
            killer.start()
            try:
                stack = the_way(live, station, small)
            finally:
                killer.over.set()
                killer.join(10)
            live.restart_if_dead()
            killed += killer.killed
            assert outcome(live, stack) == expected, killed
        with contextlib.closing(sqlite3.connect(folder / "hollowstack.sqlite3")) as database:
            database.row_factory = sqlite3.Row
            (document,) = database.execute("SELECT * FROM documents_document").fetchall()
            pages = database.execute("SELECT * FROM documents_documentpage ORDER BY number").fetchall()
        bound = (folder / "documents" / document["key"][:2] / document["key"]).read_bytes()
        assert bound == bound_again(document["order"], pages, before, tmp_path / "again.pdf"), killed
    print(f"killed: {', '.join(killed)}")
