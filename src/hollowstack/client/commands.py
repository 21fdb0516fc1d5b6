"""``hollowstack push`` and ``hollowstack pull``: scripts that bring files in and fetch what was bound."""

import argparse
import os
import sys
from collections.abc import Iterable
from pathlib import Path

from natsort import os_sorted

from hollowstack.client.pull import pull
from hollowstack.client.push import push
from hollowstack.client.server import Server
from hollowstack.core.page.errors import HollowStackError
from hollowstack.core.page.file_names import readable

_DONE, _SOME_NOT, _WRONG_USAGE, _NOTHING = 0, 1, 2, 3
_PATIENCE = 3600.0


def add_client(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Describe the commands' words."""
    pushing = commands.add_parser("push", help="take files in over the network", description=_push.__doc__)
    pushing.add_argument(
        "inputs", metavar="FOLDER", nargs="+", type=Path, help="folder of files in natural order, or a file"
    )
    pushing.add_argument("--to", metavar="URL", required=True, help="the server's address")
    pushing.add_argument("--stack", metavar="NAME", help="name of the stack (default: the first input's)")
    pushing.set_defaults(run=lambda words: _run("push", words))
    pulling = commands.add_parser("pull", help="fetch what was bound", description=_pull.__doc__)
    pulling.add_argument("folder", metavar="FOLDER", type=Path, help="where the documents go")
    pulling.add_argument("--from", metavar="URL", required=True, dest="to", help="the server's address")
    pulling.add_argument("--stack", metavar="NAME", help="documents of the stacks of this name (default: of all)")
    pulling.set_defaults(run=lambda words: _run("pull", words))
    for one in (pushing, pulling):
        one.add_argument("--token-file", metavar="FILE", type=Path, help="file with the token (default: HOLLOWSTACK_TOKEN)")
        one.add_argument(
            "--patience", metavar="SECONDS", type=float, default=_PATIENCE, help="how long a server is tried again"
        )


def _run(name: str, words: argparse.Namespace) -> int:
    try:
        token = words.token_file.read_text().strip() if words.token_file else os.environ.get("HOLLOWSTACK_TOKEN", "")
    except OSError as error:
        return _fail(name, f"The token cannot be read ({error.strerror}): check the file.", _WRONG_USAGE)
    if not token:
        return _fail(name, "A token is wanted: set HOLLOWSTACK_TOKEN, or name a file with --token-file.", _WRONG_USAGE)
    if not words.to.startswith(("http://", "https://")):
        return _fail(name, "The address begins with https:// or http://: give it whole.", _WRONG_USAGE)
    try:
        with Server(words.to, token, words.patience, _say) as server:
            return (_push if name == "push" else _pull)(server, words)
    except HollowStackError as error:
        return _fail(name, str(error), _NOTHING)
    except OSError as error:
        return _fail(name, f"{error.filename or 'A file'}: {error.strerror}.", _NOTHING)


def _push(server: Server, words: argparse.Namespace) -> int:
    """Take files in; begun again, it goes on where it stopped. Exit status: 0 all are in, 1 some were refused, 3 none is."""
    files = list(_files(words.inputs))
    if not files:
        return _fail("push", "There is no file in it: name another folder.", _WRONG_USAGE)
    first = words.inputs[0].resolve()
    name = words.stack or readable(first.name if first.is_dir() else first.stem)
    done = push(server, files, name, _say)
    for sentence in done.refused:
        print(sentence, file=sys.stderr)
    print(f"{server.address}/stacks/{done.stack}")
    _say(f"{done.taken} added, {done.there} in the stack already, {len(done.refused)} refused.")
    if done.refused:
        return _SOME_NOT if done.taken or done.there else _NOTHING
    return _DONE


def _pull(server: Server, words: argparse.Namespace) -> int:
    """Fetch bound documents; those that are there are left. Exit status: 0 all are there, 1 some are not bound, 3 failed."""
    done = pull(server, words.folder, words.stack, _say)
    for sentence in done.waiting:
        print(sentence, file=sys.stderr)
    for path in done.files:
        print(path)
    _say(f"{len(done.files)} fetched, {done.there} there already, {len(done.waiting)} not bound.")
    return _SOME_NOT if done.waiting else _DONE


def _files(inputs: Iterable[Path]) -> Iterable[Path]:
    for path in inputs:
        if path.is_dir():
            inside = [entry for entry in path.iterdir() if entry.is_file() and not entry.name.startswith(".")]
            yield from os_sorted(inside, key=lambda file: readable(file.name))
        else:
            yield path


def _say(sentence: str) -> None:
    print(sentence, file=sys.stderr, flush=True)


def _fail(name: str, sentence: str, status: int) -> int:
    print(f"hollowstack {name}: {sentence}", file=sys.stderr)
    return status
