"""A power cut at any place of the way from upload and capture to a bound document: what had been told is there.

The real program is recorded once, with all that it asks of the file system. From the record a model of a disk tells what a
power cut leaves at any place of it; each such folder is opened and compared with what the program had told by then.
``HOLLOWSTACK_CUTS`` sets how many places are tried, ``HOLLOWSTACK_SEED`` which.
"""

import bisect
import hashlib
import json
import os
import random
import shutil
import subprocess
import sys
import time
from pathlib import Path
from typing import Any, NamedTuple

import pytest

from tests.live import Live, until
from tests.whole.conftest import reduced
from tests.whole.power import calls
from tests.whole.power.calls import ASKS_FOR_SHEET, Call
from tests.whole.power.disk import Disk
from tests.whole.power.facts import Fact

CUTS = int(os.environ.get("HOLLOWSTACK_CUTS", "200"))
SEED = int(os.environ.get("HOLLOWSTACK_SEED", "15"))
FEEDER = 1
NAMES = ["01 letter 1a.jpg", "04 card 41.jpg"]
CHANGEABLE = {"stack", "turned"}
"""Where a later value may be there already before it has been told."""


class Told(NamedTuple):
    at: float
    kind: str
    about: tuple[Any, ...]
    values: tuple[Any, ...]


class Recorded(Live):
    """The program with all that it asks of the file system written down, and what it told."""

    def __init__(self, folder: Path) -> None:
        self.before, self.record, self.told = folder / "before", folder / "record", list[Told]()
        super().__init__(folder / "data", stations=True, HOLLOWSTACK_WORKERS="1")

    def _start(self, command: list[str]) -> "subprocess.Popen[bytes]":
        shutil.copytree(self.data, self.before)
        return super()._start([*calls.command(self.record), *command])

    def tell(self, kind: str, about: tuple[Any, ...], *values: Any) -> None:
        self.told.append(Told(time.time(), kind, about, values))


def the_way(live: Recorded, files: list[Path]) -> None:
    """Upload, capture, correct, read, bind; whatever is told on the way is noted with its time."""
    stack = live.call("POST", "/api/v1/stacks", {"name": "Box 7"})["id"]
    live.tell("stack", (stack,), "Box 7")
    _upload(live, stack, files)
    _capture(live, stack)
    until(lambda: live.settled(stack), 240, "the pages to be worked through")
    live.call("PATCH", f"/api/v1/stacks/{stack}", {"name": "Box 7, letters"})
    live.tell("stack", (stack,), "Box 7, letters")
    seen = live.call("GET", f"/api/v1/stacks/{stack}/pages")
    page = seen["order"][0]
    live.tell("turned", (page,), 0)
    doing = {"do": "turn", "pages": [page], "degrees": 180}
    live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": seen["change"], "doing": doing})
    live.tell("turned", (page,), live.call("GET", f"/api/v1/pages/{page}")["override"]["turn"])
    until(lambda: live.settled(stack), 120, "the turned page to be worked through")
    document = live.call("POST", f"/api/v1/stacks/{stack}/documents", {"title": "Letters"})[0]["id"]
    bound = until(lambda: _bound(live, stack), 120, "the document to be bound")
    live.tell("bound", (document,), hashlib.sha256(bound).hexdigest())


def _upload(live: Recorded, stack: int, files: list[Path]) -> None:
    announced = live.call(
        "POST",
        f"/api/v1/stacks/{stack}/uploads",
        {"files": [{"name": file.name, "bytes": file.stat().st_size} for file in files]},
    )
    for index, (file, upload) in enumerate(zip(files, announced, strict=True)):
        data, about = file.read_bytes(), (1, index, upload["id"])
        live.tell("announced", about, 0)
        half = len(data) // 2
        live.append(upload["id"], 0, data[:half])
        live.tell("announced", about, half)
        live.append(upload["id"], half, data[half:])
        live.tell("announced", about, len(data))
        live.call("POST", f"/api/v1/uploads/{upload['id']}/take-in", {})
        live.tell("taken in", (1, index), hashlib.sha256(data).hexdigest())


def _capture(live: Recorded, stack: int) -> None:
    station = until(lambda: live.call("GET", "/api/v1/stations")[FEEDER:], 60, "the stations to be on the list")[0]["id"]
    live.control(FEEDER, load="register-8", speed=0)
    settings = {"source": "feeder", "ppi": 75, "colour": "grey", "name": "sheet"}
    run = live.call("POST", f"/api/v1/stacks/{stack}/runs", {"station": station, "settings": settings})["id"]

    def is_done() -> bool:
        now = live.call("GET", f"/api/v1/stacks/{stack}/runs")[0]
        live.tell("captured", (run,), now["received"])
        assert now["state"] in {"wanted", "running", "done"}, now
        return now["state"] == "done"

    until(is_done, 120, "the capture to be done")


def _bound(live: Live, stack: int) -> bytes | None:
    (document,) = live.call("GET", f"/api/v1/stacks/{stack}/documents")
    assert document["state"] != "failed", document
    return live.call("GET", f"/api/v1/documents/{document['id']}/file") if document["state"] == "bound" else None


@pytest.fixture(scope="module")
def small(tmp_path_factory: pytest.TempPathFactory, skerry: Path) -> list[Path]:
    return reduced([skerry / name for name in NAMES], tmp_path_factory.mktemp("small"), 3)


@pytest.fixture(scope="module")
def recorded(tmp_path_factory: pytest.TempPathFactory, small: list[Path]) -> tuple[Recorded, list[Call]]:
    live = Recorded(tmp_path_factory.mktemp("power"))
    try:
        the_way(live, small)
    finally:
        live.stop()
    found = sorted(calls.calls(live.record, live.data), key=lambda call: call.ended)
    # A sheet is asked for when those before it are safe: each request tells that so many have been taken over.
    asked = calls.times(found, ASKS_FOR_SHEET)
    run = next(one.about for one in live.told if one.kind == "captured")
    live.told += [Told(at, "captured", run, (sheets,)) for sheets, at in enumerate(asked)]
    live.told.sort(key=lambda one: one.at)
    return live, [call for call in found if call.name != ASKS_FOR_SHEET]


def facts(told: list[Told], at: float) -> list[Fact]:
    """What has to hold at a time."""
    by_then = told[: bisect.bisect_left(told, at, key=lambda one: one.at)]
    latest = {(one.kind, one.about): one for one in by_then}
    found = []
    for (kind, about), one in latest.items():
        if kind in CHANGEABLE:
            to_come = [later.values[0] for later in told if (later.kind, later.about) == (kind, about) and later.at >= at]
            found.append((kind, [*about, one.values[0], *to_come]))
        else:
            most = max(o.values[0] for o in by_then if (o.kind, o.about) == (kind, about))
            found.append((kind, [*about, most]))
    return found


def same(one: Path, other: Path) -> list[str]:
    """Files that differ, by name."""

    def held(folder: Path) -> dict[str, bytes]:
        files = [file for file in folder.rglob("*") if file.is_file() and not file.name.endswith("-shm")]
        return {str(file.relative_to(folder)): file.read_bytes() for file in files}

    mine, theirs = held(one), held(other)
    return [name for name in mine.keys() | theirs.keys() if mine.get(name) != theirs.get(name)]


def test_the_model_of_the_disk_is_the_world(recorded, tmp_path: Path):
    """With nothing lost, the record gives the folder as it is: no call is missing from it."""
    live, found = recorded
    disk = Disk(live.data, live.before)
    for call in found:
        disk.take(call)
    disk.as_seen(tmp_path / "seen")
    (tmp_path / "seen" / "serve.log").unlink(missing_ok=True)
    assert [name for name in same(tmp_path / "seen", live.data) if name != "serve.log"] == []


def test_what_was_told_is_there_after_a_power_cut(recorded, tmp_path: Path):
    live, found = recorded
    chance = random.Random(SEED)
    places = sorted(chance.sample(range(1, len(found)), CUTS))
    disk, lost = Disk(live.data, live.before), []
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings"}
    looker = subprocess.Popen(
        [sys.executable, "-m", "tests.whole.power.facts"], env=env, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )
    assert looker.stdin is not None
    assert looker.stdout is not None
    for place, call in enumerate(found):
        if places and places[0] == place:
            folder = tmp_path / f"cut {place}"
            disk.cut(folder, chance)
            had_been_told = facts(live.told, call.at)
            looker.stdin.write(json.dumps({"folder": str(folder), "facts": had_been_told}) + "\n")
            looker.stdin.flush()
            missing = json.loads(looker.stdout.readline())
            if missing:
                lost.append((place, missing))
            else:
                shutil.rmtree(folder)
            places.pop(0)
        disk.take(call)
    looker.stdin.close()
    assert looker.wait(30) == 0
    looker.stdout.close()
    assert lost == [], "\n".join(f"at {place}: {missing}" for place, missing in lost)
