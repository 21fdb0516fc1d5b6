"""Scripts: ``hollowstack push`` and ``pull`` with a token, broken off and begun again; a tus client of somebody else's."""

import hashlib
import json
import os
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

from tests.live import USER, Live, until
from tests.whole.conftest import reduced

HOLLOWSTACK = Path(sys.executable).parent / "hollowstack"
WEB = Path(__file__).parents[2] / "web"


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("scripts") / "data", HOLLOWSTACK_WORKERS="1")
    yield made
    made.stop()


@pytest.fixture(scope="module")
def token(live: Live) -> str:
    made = live.manage("person", "token", USER, "nightly", "--role", "technician", "--days", "2")
    return made.strip()


@pytest.fixture
def box(tmp_path: Path, skerry: Path) -> Path:
    """A folder of three small pages, one of them twice, and something that is no page."""
    folder = tmp_path / "Box 9"
    folder.mkdir()
    reduced([skerry / name for name in ("01 letter 1a.jpg", "04 card 41.jpg")], folder, 3)
    (folder / "04 card 41 again.jpg").write_bytes((folder / "04 card 41.jpg").read_bytes())
    (folder / "empty.jpg").touch()
    (folder / ".hidden").write_text("x")
    return folder


def hollowstack(token: str, *words: str | Path) -> subprocess.CompletedProcess[str]:
    env = {**os.environ, "HOLLOWSTACK_TOKEN": token}
    return subprocess.run([HOLLOWSTACK, *words], env=env, capture_output=True, text=True, timeout=240)


@contextmanager
def cut_off(address: str, after: int) -> Iterator[str]:
    """The server behind a line that breaks in the middle of what is sent, once; afterwards nobody answers there."""
    host, port = address.removeprefix("http://").split(":")
    listener = socket.create_server(("127.0.0.1", 0))
    left = [after]

    def pass_on(source: socket.socket, target: socket.socket, counted: bool) -> None:
        try:
            while data := source.recv(4096):
                if counted:
                    left[0] -= len(data)
                    if left[0] < 0:
                        break
                target.sendall(data)
        except OSError:
            pass
        for one in (source, target):
            one.close()
        if counted and left[0] < 0:
            listener.close()

    def accept() -> None:
        while True:
            try:
                near, _ = listener.accept()
            except OSError:
                return
            far = socket.create_connection((host, int(port)))
            threading.Thread(target=pass_on, args=(near, far, True), daemon=True).start()
            threading.Thread(target=pass_on, args=(far, near, False), daemon=True).start()

    threading.Thread(target=accept, daemon=True).start()
    yield f"http://127.0.0.1:{listener.getsockname()[1]}"
    listener.close()


def test_a_folder_goes_there_and_its_document_comes_back(live: Live, token: str, box: Path, tmp_path: Path):
    with cut_off(live.address, 60_000) as line:
        broken = hollowstack(token, "push", box, "--to", line, "--patience", "1")
    assert (broken.returncode, "does not answer" in broken.stderr) == (3, True), broken.stderr
    again = hollowstack(token, "push", box, "--to", live.address)
    assert again.returncode == 1, again.stderr
    assert "empty.jpg: The file is empty: copy or scan it again." in again.stderr
    assert "2 added, 1 in the stack already, 1 refused." in again.stderr
    number = int(again.stdout.strip().removeprefix(f"{live.address}/stacks/"))
    assert [row["source"] for row in live.pages(number)] == ["01 letter 1a.jpg", "04 card 41.jpg"]
    # Once more: nothing is sent twice, and nobody doubles a stack.
    third = hollowstack(token, "push", box, "--to", live.address)
    assert "0 added, 3 in the stack already, 1 refused." in third.stderr
    assert [one["name"] for one in live.call("GET", "/api/v1/stacks")["stacks"]].count("Box 9") == 1
    assert live.call("GET", f"/api/v1/stacks/{number}/uploads") == []

    target = tmp_path / "bound"
    until(lambda: live.settled(number), 120, "the pages to be worked through")
    live.call("POST", f"/api/v1/stacks/{number}/documents", {"title": "Box 9: letters"})
    documents = f"/api/v1/stacks/{number}/documents"
    (document,) = until(
        lambda: [one for one in live.call("GET", documents) if one["state"] == "bound"], 60, "the document to be bound"
    )
    target.mkdir()
    whole = live.call("GET", f"/api/v1/documents/{document['id']}/file")
    (target / f".{document['sha256']}.part").write_bytes(whole[:5000])  # of a pull that broke off
    fetched = hollowstack(token, "pull", target, "--from", live.address, "--stack", "Box 9")
    assert fetched.returncode == 0, fetched.stderr
    assert fetched.stdout.strip() == str(target / "Box 9_ letters.pdf")
    assert hashlib.sha256((target / "Box 9_ letters.pdf").read_bytes()).hexdigest() == document["sha256"]
    assert "1 there already" in hollowstack(token, "pull", target, "--from", live.address).stderr
    assert [file.name for file in target.iterdir()] == ["Box 9_ letters.pdf"]


@pytest.mark.parametrize(
    ("token_given", "words", "status", "says"),
    [
        ("", ["--to", "{}"], 2, "A token is wanted"),
        ("hs_nonsense", ["--to", "{}"], 3, "You are not signed in"),
        ("x", ["--to", "example.org"], 2, "The address begins with https:// or http://"),
        ("x", ["--to", "http://127.0.0.1:9", "--patience", "0"], 3, "does not answer"),
    ],
)
def test_what_cannot_be_pushed_is_said(live: Live, box: Path, token_given, words, status, says):
    done = hollowstack(token_given, "push", box, *(word.format(live.address) for word in words))
    assert (done.returncode, says in done.stderr, done.stderr.count("\n")) == (status, True, 1), done.stderr


def test_a_reader_pulls_and_does_not_push(live: Live, box: Path, tmp_path: Path):
    reader = live.manage("person", "token", USER, "reading", "--role", "reader").strip()
    refused = hollowstack(reader, "push", box, "--to", live.address)
    assert (refused.returncode, "Only technicians and administrators may do that" in refused.stderr) == (3, True)
    assert hollowstack(reader, "pull", tmp_path / "out", "--from", live.address, "--stack", "none such").returncode == 3


def test_any_tus_client_brings_a_file_in(live: Live, token: str, box: Path):
    """The outside check: tus-js-client, by itself, knowing nothing but an address and a token."""
    stack = live.call("POST", "/api/v1/stacks", {"name": "By tus"})["id"]
    batch = live.call("POST", f"/api/v1/stacks/{stack}/batches", {})["id"]
    script = """
      import { Upload } from 'tus-js-client';
      import { readFileSync } from 'node:fs';
      const [endpoint, token, ...paths] = process.argv.slice(2);
      for (const path of paths) {
        await new Promise((resolve) => new Upload(readFileSync(path), {
          endpoint, chunkSize: 20000, retryDelays: [], metadata: { filename: path.split('/').at(-1) },
          headers: { Authorization: `Bearer ${token}` },
          onError: (error) => { console.log(error.originalResponse?.getStatus()); resolve(); },
          onSuccess: () => { console.log('in'); resolve(); },
        }).start());
      }
    """
    file = WEB / "tus-check.tmp.mjs"
    file.write_text(script)
    try:
        done = subprocess.run(
            ["bash", WEB.parent / "scripts" / "web.sh", "exec", "--", "node", file, f"{live.address}/api/v1/batches/{batch}/uploads",
             token, box / "01 letter 1a.jpg", box / "04 card 41.jpg", box / "04 card 41 again.jpg"],
            capture_output=True, text=True, timeout=120,
        )  # fmt: skip
    finally:
        file.unlink()
    assert done.stdout.split() == ["in", "in", "422"], done.stderr
    assert [row["source"] for row in live.pages(stack)] == ["01 letter 1a.jpg", "04 card 41.jpg"]
    (left,) = live.call("GET", f"/api/v1/stacks/{stack}/uploads")
    assert (left["name"], left["received"]) == ("04 card 41 again.jpg", left["bytes"])
    taken = json.loads(json.dumps(live.call("POST", f"/api/v1/uploads/{left['id']}/take-in?again=true", {})))
    assert len(taken["pages"]) == 1
