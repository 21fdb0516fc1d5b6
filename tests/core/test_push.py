"""Pushing, where an answer is lost on the way back, and where stacks come and go while they are looked through."""

from pathlib import Path
from typing import Any

import pytest

from hollowstack.client.push import push
from hollowstack.client.server import ServerError
from hollowstack.client.stacks import stacks
from hollowstack.core.page.digest import sha256_of


class Forgetful:
    """A server that has taken the file in, or has not, and knows its upload no more."""

    def __init__(self, holds: list[str]) -> None:
        self.holds, self.asked = holds, list[str]()

    def ask(self, method: str, path: str, body: Any = None, **_: Any) -> Any:
        self.asked.append(f"{method} {path}")
        if path.endswith("/take-in"):
            self.taken = True
            raise ServerError("There is no such thing here: it may have been removed.", "missing")
        if path.endswith("/files"):
            return [{"sha256": one} for one in self.holds] if getattr(self, "taken", False) else []
        if method == "POST" and path.endswith("/uploads"):
            return [{"id": 7, "received": 0}]
        return {"count": 1, "stacks": [{"id": 1, "name": "Box"}]} if path == "/stacks" else []

    def append(self, upload: int, offset: int, piece: bytes) -> int:
        return offset + len(piece)


@pytest.mark.parametrize(("is_in", "taken", "refused"), [(True, 1, 0), (False, 0, 1)])
def test_a_lost_answer_is_looked_up(tmp_path: Path, is_in, taken, refused):
    file = tmp_path / "a.jpg"
    file.write_bytes(b"bytes")
    server = Forgetful([sha256_of(file)] if is_in else [])
    done = push(server, [file], "Box", lambda _: None)
    assert (done.taken, len(done.refused)) == (taken, refused)
    assert "DELETE /uploads/7" not in server.asked


class Busy:
    """A shelf of stacks, newest first; after a first part was asked for, something happens to it."""

    def __init__(self, there: range, after: range) -> None:
        self.there, self.after = there, after

    def ask(self, method: str, path: str, body: Any = None, params: Any = None) -> Any:
        assert (method, path) == ("GET", "/stacks")
        named = [pk for pk in reversed(self.there) if str(params.get("named", "")) in f"Box {pk}"]
        part = named[params["start"] : params["start"] + params["limit"]]
        self.there = self.after
        return {"count": len(named), "stacks": [{"id": pk, "name": f"Box {pk}"} for pk in part]}


@pytest.mark.parametrize("after", [range(450), range(470), range(5, 450), range(150), range(1)])
def test_all_stacks_are_found_while_some_come_and_go(after):
    found = [one["id"] for one in stacks(Busy(range(450), after))]
    assert found == list(reversed(after))


def test_a_shelf_with_nothing_on_it():
    assert stacks(Busy(range(0), range(0))) == []


@pytest.mark.parametrize(("name", "ids"), [("Box 7", [7]), ("Box", []), ("Box 451", [])])
def test_a_stack_is_found_by_its_whole_name(name, ids):
    """The server finds names that hold it: Box 7, but Box 70 and Box 71 too."""
    assert [one["id"] for one in stacks(Busy(range(450), range(450)), name)] == ids
