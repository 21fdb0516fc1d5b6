"""The places that tests send documents to: a folder, and three receivers that run in this process."""

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from typing import Any, NamedTuple

import pytest

from hollowstack.server.dispatch.carriers.sftp import host_key_of
from hollowstack.standins.receivers import mail, sftp, storage
from hollowstack.standins.receivers.mail import MailServer
from hollowstack.standins.receivers.sftp import SftpMachine
from hollowstack.standins.receivers.storage import ObjectStorage
from tests.live import free_ports

HOST = "127.0.0.1"


class Receivers(NamedTuple):
    """What runs, and what a destination says of it: its place, and its secret."""

    mail: MailServer
    sftp: SftpMachine
    storage: ObjectStorage
    folder: Path
    certificates: Path
    places: dict[str, tuple[dict[str, Any], str]]


@pytest.fixture(scope="session")
def receivers(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Receivers]:
    """All of them."""
    with started(tmp_path_factory.mktemp("receivers")) as found:
        yield found


def _apart(ask: Callable[..., str], *given: Any) -> str:
    """What is asked with a loop of its own: beside a browser another one is running in this thread."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(ask, *given).result()


@contextmanager
def started(home: Path) -> Iterator[Receivers]:
    """All of them, with what they keep in a folder."""
    posts = free_ports(3)
    certificates, folder = home / "mail.pem", home / "outgoing"
    folder.mkdir(exist_ok=True)
    running = (
        MailServer(posts[0], certificates), SftpMachine(posts[1], home / "sftp"), ObjectStorage(posts[2]),
    )  # fmt: skip
    places: dict[str, tuple[dict[str, Any], str]] = {
        "folder": ({"kind": "folder", "path": str(folder)}, ""),
        "sftp": (
            {
                "kind": "sftp", "host": HOST, "port": posts[1], "user": sftp.USER, "folder": "in",
                "host_key": _apart(host_key_of, HOST, posts[1]),
            },
            sftp.PASSWORD,
        ),
        "storage": (
            {
                "kind": "storage", "endpoint": running[2].address, "bucket": storage.BUCKET,
                "access_key": storage.ACCESS_KEY,
            },
            storage.SECRET,
        ),
        "mail": (
            {
                "kind": "mail", "host": HOST, "port": posts[0], "user": mail.USER, "sender": "desk@skerry.example.org",
                "recipients": ["keeper@skerry.example.org"],
            },
            mail.PASSWORD,
        ),
    }  # fmt: skip
    yield Receivers(*running, folder, certificates, places)
    for one in running:
        one.stop()


@pytest.fixture(autouse=True)
def nothing_goes_wrong(receivers: Receivers) -> None:
    """Mishaps of one test are not those of the next."""
    for one in (receivers.mail, receivers.sftp, receivers.storage):
        for mishap in one.mishaps.asked:
            one.mishaps.ask(mishap, 0)  # type: ignore[arg-type]
