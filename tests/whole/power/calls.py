"""What processes asked of the file system, as ``strace`` wrote it down: who wrote what where, and what was synced when.

One record of the whole program gives as many power cuts as are wanted. Times are those of the machine's clock, so that
whoever talked to the program from outside can say what had been told by then.
"""

import ast
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

# What changes files or their names, and what has them on the disk. Whatever else changes files is refused by the parser.
_WRITES = "write,pwrite64,writev,pwritev,pwritev2,sendfile,copy_file_range,splice"
_SIZES = "ftruncate,truncate,fallocate,lseek"
_NAMES = "open,openat,creat,mkdir,mkdirat,rename,renameat,renameat2,link,linkat,unlink,unlinkat,rmdir,symlink,symlinkat"
_SYNCS = "fsync,fdatasync,sync,syncfs,msync,sync_file_range"
TRACED = ["strace", "-D", "-f", "--seccomp-bpf", "-ttt", "-y", "-s", "99999999", "-e", "signal=none"]
ASKS_FOR_SHEET = "asks for a sheet"


def command(record: Path) -> list[str]:
    """What to put before a command so that it is recorded."""
    return [*TRACED, "-e", f"trace={_WRITES},{_SIZES},{_NAMES},{_SYNCS},sendto", "-o", str(record)]


@dataclass(frozen=True, slots=True)
class Call:
    """One call that went well. ``begun`` and ``ended`` are places in the record; ``at`` is when it began, in s."""

    name: str
    begun: int
    ended: int
    at: float
    paths: tuple[str, ...]
    """The file, or from where to where."""
    data: bytes = b""
    number: int = 0
    """Offset or length."""
    flags: str = ""


_LINE = re.compile(rb"(\d+) +(\d+\.\d+) (.*)")
_RESUMED = re.compile(rb"<\.\.\. (\w+) resumed>(.*)")
_RESULT = re.compile(rb"\) += (-?\d+|\?)(?:<(.*)>)?[^)]*$")
_FD = re.compile(rb"\d+<((?:[^>\\]|\\.)*)>")
_TEXT = re.compile(rb'"((?:[^"\\]|\\.)*)"')


def calls(record: Path, folder: Path) -> Iterator[Call]:
    """The calls that touched files in a folder, and requests for the next sheet, in the order in which they ended."""
    inside = str(folder).encode()
    open_: dict[bytes, tuple[int, float, bytes]] = {}
    with record.open("rb") as lines:
        for place, line in enumerate(lines):
            match = _LINE.match(line)
            if match is None:
                continue
            thread, at, said = match[1], float(match[2]), match[3]
            begun = place
            if said.endswith(b"<unfinished ...>"):
                open_[thread] = (place, at, said[: -len(b"<unfinished ...>")])
                continue
            if resumed := _RESUMED.match(said):
                begun, at, before = open_.pop(thread)
                said = before + resumed[2]
            if (call := _call(said, begun, place, at, inside)) is not None:
                yield call


def _call(said: bytes, begun: int, ended: int, at: float, inside: bytes) -> Call | None:
    name = said.split(b"(", 1)[0].decode()
    if name == "sendto":
        asks = b"/NextDocument HTTP" in said[:400]
        return Call(ASKS_FOR_SHEET, begun, ended, at, ()) if asks else None
    if inside not in (said[:400] if name in {"write", "pwrite64"} else said):
        return None
    result = _RESULT.search(said)
    if result is None or result[1] == b"?" or result[1].startswith(b"-"):
        return None
    arguments = said[len(name) + 1 : result.start()]
    call = _READERS[name](name, arguments, int(result[1]), result[2] or b"", (begun, ended, at))
    here = [path.startswith(f"{inside.decode()}/") or path == inside.decode() for path in call.paths]
    assert any(here) == all(here), f"a file comes from outside or goes there, which the model does not know: {call}"
    return call if any(here) else None


Place = tuple[int, int, float]


def _written(name: str, said: bytes, count: int, _: bytes, where: Place) -> Call:
    fd = _fd(said)
    text = _TEXT.search(said, fd.end())
    assert text is not None, said[:200]
    offset = int(said.rsplit(b",", 1)[1]) if name == "pwrite64" else -1
    return Call("write", *where, (_path(fd[1]),), _unescaped(text[1])[:count], offset)


def _sized(name: str, said: bytes, result: int, _: bytes, where: Place) -> Call:
    path = _path(_fd(said)[1])
    return Call(name, *where, (path,), number=result if name == "lseek" else int(said.rsplit(b",", 1)[1]))


def _opened(_: str, said: bytes, __: int, opened: bytes, where: Place) -> Call:
    return Call("open", *where, (_path(opened),), flags=said.rsplit(b'"', 1)[1].decode())


def _named(name: str, said: bytes, _: int, __: bytes, where: Place) -> Call:
    """Paths are absolute, or lie in the folder of the handle before them."""
    found = []
    for text in _TEXT.finditer(said):
        path = _path(text[1])
        handle = _FD.search(said[: text.start()].rsplit(b",", 2)[-2]) if b"," in said[: text.start()] else None
        found.append(path if path.startswith("/") else f"{_path(handle[1]) if handle else ''}/{path}")
    return Call(name.removesuffix("2").removesuffix("at"), *where, tuple(found), flags=said.rsplit(b'"', 1)[1].decode())


def _synced(_: str, said: bytes, __: int, ___: bytes, where: Place) -> Call:
    return Call("sync", *where, (_path(_fd(said)[1]),))


def _refused(name: str, said: bytes, *_: object) -> Call:
    raise AssertionError(f"the model of a disk does not know {name}({said[:200]!r})")


_READERS = {
    "write": _written,
    "pwrite64": _written,
    "ftruncate": _sized,
    "lseek": _sized,
    "fsync": _synced,
    "fdatasync": _synced,
    **dict.fromkeys(("open", "openat", "creat"), _opened),
    **dict.fromkeys(("mkdir", "mkdirat", "rename", "renameat", "renameat2", "link", "linkat"), _named),
    **dict.fromkeys(("unlink", "unlinkat", "rmdir"), _named),
    **dict.fromkeys(("writev", "pwritev", "pwritev2", "sendfile", "copy_file_range", "splice", "truncate"), _refused),
    **dict.fromkeys(("fallocate", "symlink", "symlinkat", "sync", "syncfs", "msync", "sync_file_range"), _refused),
}


def _fd(said: bytes) -> re.Match[bytes]:
    match = _FD.match(said)
    assert match is not None, said[:200]
    return match


def _path(escaped: bytes) -> str:
    return _unescaped(escaped).decode()


def _unescaped(text: bytes) -> bytes:
    if b"\\" not in text:
        return text
    return bytes(ast.literal_eval('b"' + text.decode("ascii") + '"'))


def times(found: Iterable[Call], name: str) -> list[float]:
    """When something happened."""
    return [call.at for call in found if call.name == name]
