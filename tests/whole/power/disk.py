"""A disk that may lose what was not synced: the state after a power cut, from the calls before it.

What POSIX promises and no more, but for two things that every file system with a journal does: a rename is one act, and
names in one folder change in their order.

Source:
    POSIX.1-2017, fsync, rename, write; T. S. Pillai et al., "All File Systems Are Not Created Equal: On the Complexity of
    Crafting Crash-Consistent Applications", OSDI 2014, for which states to try: any part of what is under way, torn writes.
"""

import random
from dataclasses import dataclass, field
from pathlib import Path, PurePosixPath

from tests.whole.power.calls import Call

_SECTOR = 512


@dataclass(slots=True)
class Change:
    """Bytes written at an offset, or where ``data`` is None a new length."""

    ended: int
    offset: int
    data: bytes | None


@dataclass(slots=True)
class File:
    """What is safely on the disk, what may or may not be, and where the next write without an offset goes."""

    safe: bytearray = field(default_factory=bytearray)
    pending: list[Change] = field(default_factory=list)
    at: int = 0

    def length(self) -> int:
        """As the program sees it."""
        size = len(self.safe)
        for change in self.pending:
            size = change.offset if change.data is None else max(size, change.offset + len(change.data))
        return size

    def sync(self, before: int) -> None:
        """What was written before some place in the record is safe now."""
        kept = []
        for change in self.pending:
            if change.ended < before:
                _apply(self.safe, change)
            else:
                kept.append(change)
        self.pending = kept


@dataclass(slots=True)
class Folder:
    """Names as the program sees them."""

    names: dict[str, "File | Folder"] = field(default_factory=dict)


@dataclass(slots=True)
class NameChange:
    """A name taken away and a name given, in one act."""

    ended: int
    gone: tuple[Folder, str] | None
    new: tuple[Folder, str, "File | Folder"] | None
    synced: bool = False

    def folders(self) -> list[int]:
        """Those whose names change."""
        return [id(one[0]) for one in (self.gone, self.new) if one is not None]


class Disk:
    """Takes calls; tells at any time what a power cut would leave."""

    def __init__(self, path: Path, as_it_was: Path) -> None:
        """``path`` is where the program had it, ``as_it_was`` a copy of it from before, all of it safe."""
        self._path = PurePosixPath(path)
        self._root = _read(as_it_was)
        self._safe = {id(folder): dict(folder.names) for folder in _folders(self._root)}
        self._pending: list[NameChange] = []

    def take(self, call: Call) -> None:
        """Note what a call did."""
        match call.name:
            case "open":
                self._open(call)
            case "write":
                self._write(call)
            case "ftruncate":
                self._file(call).pending.append(Change(call.ended, call.number, None))
            case "lseek":
                if isinstance(there := self._find(call.paths[0]), File):
                    there.at = call.number
            case "sync":
                self._sync(call)
            case "mkdir":
                self._name(call, new=(call.paths[0], Folder()))
            case "link":
                self._name(call, new=(call.paths[1], self._there(call.paths[0])))
            case "rename":
                self._name(call, gone=call.paths[0], new=(call.paths[1], self._there(call.paths[0])))
            case "unlink" | "rmdir":
                self._name(call, gone=call.paths[0])

    def as_seen(self, target: Path) -> None:
        """Write the folder as the program sees it: for comparing the model with the world."""
        _write_out(self._root, target, lambda folder: folder.names, _everything)

    def cut(self, target: Path, chance: random.Random) -> None:
        """Write the folder as it may be after a power cut now: of what was not synced some, all or nothing is there."""
        keep = chance.choice((0.0, 0.0, 0.5, 0.9))
        names = {key: dict(value) for key, value in self._safe.items()}
        broken: set[int] = set()
        for change in self._pending:
            if not change.synced and (not broken.isdisjoint(change.folders()) or chance.random() >= keep):
                broken.update(change.folders())
                continue
            _rename(names, change)
        lossy = {}

        def content(file: File) -> bytes:
            """One file may have several names."""
            if id(file) not in lossy:
                lossy[id(file)] = _lossy(file, keep, chance)
            return lossy[id(file)]

        _write_out(self._root, target, lambda folder: names.get(id(folder), {}), content)

    def _open(self, call: Call) -> None:
        there = self._find(call.paths[0])
        if there is None:
            assert "O_CREAT" in call.flags, call
            there = File()
            self._name(call, new=(call.paths[0], there))
        if isinstance(there, File):
            if "O_TRUNC" in call.flags and there.length():
                there.pending.append(Change(call.ended, 0, None))
            there.at = there.length() if "O_APPEND" in call.flags else 0

    def _write(self, call: Call) -> None:
        file = self._file(call)
        offset = file.at if call.number < 0 else call.number
        file.pending.append(Change(call.ended, offset, call.data))
        if call.number < 0:
            file.at = offset + len(call.data)

    def _sync(self, call: Call) -> None:
        there = self._find(call.paths[0])
        if isinstance(there, File):
            there.sync(call.begun)
        elif there is not None:
            for change in self._pending:
                if change.ended < call.begun and id(there) in change.folders():
                    change.synced = True
            while self._pending and self._pending[0].synced:
                _rename(self._safe, self._pending.pop(0))

    def _name(self, call: Call, *, gone: str = "", new: tuple[str, "File | Folder"] | None = None) -> None:
        before = after = None
        if gone:
            folder, name = self._parent(gone)
            folder.names.pop(name)
            before = (folder, name)
        if new is not None:
            folder, name = self._parent(new[0])
            folder.names[name] = new[1]
            after = (folder, name, new[1])
        self._pending.append(NameChange(call.ended, before, after))

    def _file(self, call: Call) -> File:
        """One that has lost its names is written to no end."""
        there = self._find(call.paths[0])
        return there if isinstance(there, File) else File()

    def _there(self, path: str) -> "File | Folder":
        there = self._find(path)
        assert there is not None, path
        return there

    def _find(self, path: str) -> "File | Folder | None":
        there: File | Folder | None = self._root
        for part in self._inside(path):
            there = there.names.get(part) if isinstance(there, Folder) else None
        return there

    def _parent(self, path: str) -> tuple[Folder, str]:
        *parts, name = self._inside(path)
        folder = self._find(str(self._path.joinpath(*parts)))
        assert isinstance(folder, Folder), path
        return folder, name

    def _inside(self, path: str) -> tuple[str, ...]:
        return PurePosixPath(path).relative_to(self._path).parts


def _read(path: Path) -> Folder:
    folder = Folder()
    for entry in path.iterdir():
        folder.names[entry.name] = _read(entry) if entry.is_dir() else File(bytearray(entry.read_bytes()))
    return folder


def _folders(folder: Folder) -> list[Folder]:
    inside = [one for one in folder.names.values() if isinstance(one, Folder)]
    return [folder, *(one for each in inside for one in _folders(each))]


def _rename(names: dict[int, dict[str, "File | Folder"]], change: NameChange) -> None:
    if change.gone is not None:
        names.setdefault(id(change.gone[0]), {}).pop(change.gone[1], None)
    if change.new is not None:
        names.setdefault(id(change.new[0]), {})[change.new[1]] = change.new[2]


def _apply(content: bytearray, change: Change) -> None:
    if change.data is None:
        del content[change.offset :]
        content.extend(bytes(change.offset - len(content)))
        return
    content.extend(bytes(max(0, change.offset - len(content))))
    content[change.offset : change.offset + len(change.data)] = change.data


def _everything(file: File) -> bytes:
    content = bytearray(file.safe)
    for change in file.pending:
        _apply(content, change)
    return bytes(content)


def _lossy(file: File, keep: float, chance: random.Random) -> bytes:
    content = bytearray(file.safe)
    for change in file.pending:
        if chance.random() >= keep:
            continue
        if change.data is not None and chance.random() < 0.2:
            whole = chance.randrange(0, len(change.data) + 1) // _SECTOR * _SECTOR
            _apply(content, Change(change.ended, change.offset, change.data[:whole]))
        else:
            _apply(content, change)
    return bytes(content)


def _write_out(folder: Folder, target: Path, names_of, content_of) -> None:
    target.mkdir(parents=True, exist_ok=True)
    for name, there in names_of(folder).items():
        if name.endswith("-shm"):
            continue  # memory that is shared while the database is open; whoever opens it first makes it anew
        if isinstance(there, Folder):
            _write_out(there, target / name, names_of, content_of)
        else:
            (target / name).write_bytes(content_of(there))
