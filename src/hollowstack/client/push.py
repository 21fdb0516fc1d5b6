"""Files into a stack on a server. Begun again after a break it goes on where it stopped, and sends nothing twice."""

from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, NamedTuple

from hollowstack.client.server import Server, ServerError
from hollowstack.client.stacks import stacks
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.file_names import readable

PIECE = 8 << 20
"""Bytes that are sent at once; so many at most are sent again after a break."""


class Pushed(NamedTuple):
    """What became of the files."""

    stack: int
    taken: int
    there: int
    """Had been in the stack before."""
    refused: list[str]
    """One sentence for each file, or file in an archive, that was not taken in."""


class _Sent(NamedTuple):
    path: Path
    upload: int
    received: int


def push(server: Server, files: Sequence[Path], stack_name: str, say: Callable[[str], None]) -> Pushed:
    """Send files, in their order, to the stack of a name, which is made where there is none.

    Raises:
        ServerError: The server does not answer, or refuses everything.
        OSError: A file cannot be read.
    """
    stack = _stack(server, stack_name)
    known = _held(server, stack)
    wanted = [file for file in files if sha256_of(file) not in known]
    taken, refused, there = 0, list[str](), len(files) - len(wanted)
    sent = _announced(server, stack, wanted)
    for number, one in enumerate(sent, 1):
        say(f"{number}/{len(sent)} {readable(one.path.name)}")
        try:
            _send(server, one)
            answer = server.ask("POST", f"/uploads/{one.upload}/take-in", {})
        except ServerError as error:
            if not error.code:
                raise
            if error.code == "missing" and sha256_of(one.path) in _held(server, stack):
                taken += 1  # it is in, though the answer that said so was lost
                continue
            if error.code == "duplicate":  # twice in the folder
                there += 1
            else:
                refused.append(f"{readable(one.path.name)}: {error}")
            if error.code != "missing":
                server.ask("DELETE", f"/uploads/{one.upload}")
            continue
        taken += 1
        refused += answer["left_out"]
    return Pushed(stack, taken, there, refused)


def _held(server: Server, stack: int) -> set[str]:
    """The digests of the files that a stack has."""
    return {file["sha256"] for file in server.ask("GET", f"/stacks/{stack}/files")}


def _stack(server: Server, name: str) -> int:
    """The newest stack of a name, or a new one."""
    known = stacks(server, name)
    return int((known[0] if known else server.ask("POST", "/stacks", {"name": name}))["id"])


def _announced(server: Server, stack: int, files: Sequence[Path]) -> list[_Sent]:
    """Each file with its upload: one that was begun before, where there is one."""
    begun = {_key(one): one for one in server.ask("GET", f"/stacks/{stack}/uploads")}
    told = [_told(file) for file in files]
    going_on = [begun.pop(_key(one), None) for one in told]  # each once, though two may look alike
    fresh = [one for one, there in zip(told, going_on, strict=True) if there is None]
    made = iter(server.ask("POST", f"/stacks/{stack}/uploads", {"files": fresh}) if fresh else [])
    uploads = [there or next(made) for there in going_on]
    return [_Sent(file, one["id"], one["received"]) for file, one in zip(files, uploads, strict=True)]


def _key(told: dict[str, Any]) -> tuple[str, int, float]:
    """By what a file is known again: its name, its size, and when it was written."""
    return told["name"], told["bytes"], _moment(told["modified_at"])


def _told(file: Path) -> dict[str, Any]:
    about = file.stat()
    modified = datetime.fromtimestamp(int(about.st_mtime), UTC).isoformat()
    return {"name": readable(file.name), "bytes": about.st_size, "modified_at": modified}


def _moment(text: str | None) -> float:
    return datetime.fromisoformat(text).timestamp() if text else 0.0


def _send(server: Server, one: _Sent) -> None:
    with one.path.open("rb") as file:
        offset = one.received
        file.seek(offset)
        while piece := file.read(PIECE):
            offset = server.append(one.upload, offset, piece)
            file.seek(offset)
