"""Pushing, where an answer is lost on the way back."""

from pathlib import Path
from typing import Any

import pytest

from hollowstack.client.push import push
from hollowstack.client.server import ServerError
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
        return [{"id": 1, "name": "Box"}] if path == "/stacks" else []

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
