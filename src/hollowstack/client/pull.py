"""Bound documents from a server into a folder. What is there already is left; what broke off goes on where it stopped."""

from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

from hollowstack.client.server import Server, ServerError
from hollowstack.client.stacks import stacks
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import settle
from hollowstack.core.page.name_patterns import file_name


class Pulled(NamedTuple):
    """What was fetched, and what is not bound yet or could not be."""

    files: list[Path]
    there: int
    """Had been fetched before."""
    waiting: list[str]


def pull(server: Server, folder: Path, stack_name: str | None, say: Callable[[str], None]) -> Pulled:
    """Fetch all documents of the stacks of a name, or of all stacks; each is compared with its digest.

    Raises:
        ServerError: The server does not answer, or there is no such stack, or a document came otherwise than it was bound.
        OSError: The folder cannot be written.
    """
    folder.mkdir(parents=True, exist_ok=True)
    found, there, waiting = list[Path](), 0, list[str]()
    wanted = stacks(server, stack_name)
    if stack_name is not None and not wanted:
        raise ServerError(f"There is no stack called “{stack_name}” on the server: check its name.", "missing")
    known = {path: sha256_of(path) for path in folder.iterdir() if path.is_file() and not path.name.startswith(".")}
    for stack in wanted:
        for document in server.ask("GET", f"/stacks/{stack['id']}/documents"):
            if document["state"] != "bound":
                waiting.append(f"{document['title']}: {document['error'] or 'not bound yet'}")
            elif document["sha256"] in known.values():
                there += 1
            else:
                say(document["title"])
                path = _fetch(server, document, folder)
                known[path] = document["sha256"]
                found.append(path)
    return Pulled(found, there, waiting)


def _fetch(server: Server, document: dict[str, Any], folder: Path) -> Path:
    part = folder / f".{document['sha256']}.part"
    server.fetch(f"/documents/{document['id']}/file", part)
    if sha256_of(part) != document["sha256"]:
        part.unlink()
        raise ServerError(f"“{document['title']}” came otherwise than it was bound: try again.", "damaged")
    target = _free(folder, document["title"], document["suffix"])
    settle(part, target)
    return target


def _free(folder: Path, title: str, suffix: str) -> Path:
    """A file name of a document's title that nothing has yet."""
    name = file_name(title[:120], "")
    target, number = folder / f"{name}{suffix}", 2
    while target.exists():
        target, number = folder / f"{name} ({number}){suffix}", number + 1
    return target
