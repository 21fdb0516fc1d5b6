"""The commands of docs/operating.md, run as they stand there."""

import os
import re
import shlex
import socket
import subprocess
import sys
from pathlib import Path

import pytest
from distributed import Client

from hollowstack.server.engine.tls import security
from tests.live import Live

BIN = Path(sys.executable).parent
TEXT = (Path(__file__).parents[2] / "docs" / "operating.md").read_text(encoding="utf-8")
COMMANDS = [line.strip() for line in re.findall(r"^    (\S.*)$", TEXT, re.MULTILINE)]
PASSWORD = "a lamp on the rock\n"


def words_of(command: str) -> list[str]:
    return shlex.split(command, comments=True)


def run(words: list[str], env: dict[str, str], given: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run([BIN / words[0], *words[1:]], env=env, input=given, capture_output=True, text=True, timeout=120)


def test_every_command_is_one_that_is_run_here():
    assert {words_of(command)[0] for command in COMMANDS} == {"hollowstack", "dask"}


def test_people_and_upkeep(tmp_path: Path):
    env = {**os.environ, "HOLLOWSTACK_DATA": str(tmp_path), "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings"}
    chosen = [words_of(one) for one in COMMANDS if words_of(one)[1] in {"person", "verify", "collect"}]
    assert len(chosen) == 10
    # Somebody else stays administrator while this one's role and access are taken away.
    run(words_of("hollowstack person add other --role administrator --password-stdin"), env, PASSWORD)
    for words in chosen:
        asks = words[1:3] in (["person", "add"], ["person", "password"])
        words = ["keeper" if word == "NAME" else word for word in words] + (["--password-stdin"] if asks else [])
        done = run(words, env, PASSWORD)
        assert done.returncode == 0, (words, done.stderr)


def test_scripts(tmp_path: Path, skerry: Path):
    live = Live(tmp_path / "data", HOLLOWSTACK_WORKERS="1")
    try:
        token = live.manage("person", "token", "keeper", "scripts").strip()
        env = {**os.environ, "HOLLOWSTACK_TOKEN": token}
        (tmp_path / "scans").mkdir()
        (tmp_path / "scans" / "card.jpg").write_bytes((skerry / "04 card 41.jpg").read_bytes())
        for command in COMMANDS:
            if (words := words_of(command))[1] in {"push", "pull"}:
                put = {"URL": live.address, "FOLDER": str(tmp_path / "scans")}
                done = run([put.get(word, word) for word in words], env)
                assert done.returncode == 0, (words, done.stderr)
    finally:
        live.stop()


def test_more_machines(tmp_path: Path, settings, monkeypatch: pytest.MonkeyPatch):
    settings.DATA = tmp_path
    keys = security()
    monkeypatch.chdir(tmp_path)
    with socket.create_server(("127.0.0.1", 0)) as probe:
        port = probe.getsockname()[1]
    begin, join = (words_of(one) for one in COMMANDS if one.startswith("dask"))
    join = [word.replace("SCHEDULER:8786", f"127.0.0.1:{port}") for word in join]
    here = ["--host", "127.0.0.1", "--no-dashboard"]
    started = [
        subprocess.Popen([BIN / "dask", *begin[1:], *here, "--port", str(port)], stderr=subprocess.DEVNULL),
        subprocess.Popen([BIN / "dask", *join[1:], *here], stderr=subprocess.DEVNULL),
    ]
    try:
        with Client(f"tls://127.0.0.1:{port}", security=keys, timeout=60) as client:
            client.wait_for_workers(1, timeout=60)
            assert client.submit(sum, [1, 2]).result(timeout=60) == 3
    finally:
        for process in reversed(started):
            process.terminate()
            process.wait(30)


def test_settings_that_do_not_go_together_keep_it_from_starting(tmp_path: Path):
    env = {**os.environ, "HOLLOWSTACK_DATA": str(tmp_path), "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings"}
    done = run(["hollowstack", "serve", "--port", "0"], {**env, "HOLLOWSTACK_PROXY": "true"})
    assert done.returncode == 2
    assert done.stderr == (
        "hollowstack serve: HOLLOWSTACK_PROXY says that a proxy speaks TLS: set HOLLOWSTACK_PUBLIC_URL to its https address too.\n"
    )
    assert not (tmp_path / "hollowstack.sqlite3").exists()


def test_what_is_served_passes_the_check_for_deployment(tmp_path: Path):
    # What the browser's tests set for themselves is none of an installation's.
    env = {
        **{name: value for name, value in os.environ.items() if name != "DJANGO_ALLOW_ASYNC_UNSAFE"},
        "HOLLOWSTACK_DATA": str(tmp_path),
        "HOLLOWSTACK_PUBLIC_URL": "https://papers.example.org",
        "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings",
    }
    command = ["-m", "hollowstack.server.manage", "check", "--deploy", "--fail-level", "WARNING"]
    done = subprocess.run([sys.executable, *command], env=env, capture_output=True, text=True, timeout=120)
    assert done.returncode == 0, done.stderr
