"""A folder of this machine, or one that is mounted there."""

import contextlib
import os
import shutil
from pathlib import Path

from hollowstack.core.page.durable import sync
from hollowstack.server.dispatch.carriers.carrying import (
    BLOCK,
    CarrierFault,
    Gone,
    Parcel,
    Placed,
    Sink,
    Taken,
    digest_here,
    of_system,
)
from hollowstack.server.dispatch.places import FolderPlace


class FolderCarrier:
    """Writes under another name, synced, then linked to its own: what lies there is whole, and nothing is written over."""

    reads_back = True

    def __init__(self, place: FolderPlace, secret: str = "") -> None:
        self._root = Path(place.path)

    def put(self, parcel: Parcel) -> Placed:  # noqa: D102
        target = self._at(parcel.name)
        part = target.with_name(f".{parcel.mark}.part")
        try:
            if not self._root.is_dir():
                raise CarrierFault(f"The folder {self._root} is not there: is it mounted?")
            target.parent.mkdir(parents=True, exist_ok=True)
            if target.exists() and digest_here(target) != parcel.sha256:
                raise Taken(parcel.name)
            if not target.exists():
                _copy(parcel.file, part)
                _settle(part, target)
        except (FileExistsError, IsADirectoryError, NotADirectoryError):
            raise Taken(parcel.name) from None
        except OSError as error:
            raise of_system(error, f"the folder {self._root}") from error
        finally:
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)
        return Placed(str(target))

    def fetch(self, name: str, sink: Sink) -> None:  # noqa: D102
        target = self._at(name)
        try:
            if not self._root.is_dir():
                raise CarrierFault(f"The folder {self._root} is not there: is it mounted?")
            with target.open("rb") as file:
                while block := file.read(BLOCK):
                    sink(block)
        except FileNotFoundError:
            raise Gone(name) from None
        except OSError as error:
            raise of_system(error, f"the folder {self._root}") from error

    def remove(self, name: str) -> None:  # noqa: D102
        try:
            self._at(name).unlink(missing_ok=True)
        except OSError as error:
            raise of_system(error, f"the folder {self._root}") from error

    def _at(self, name: str) -> Path:
        target = self._root / name
        if not target.resolve().is_relative_to(self._root.resolve()):
            raise CarrierFault(f"{name} leads out of the folder: change the pattern of names.", lasting=True)
        return target


def _copy(file: Path, part: Path) -> None:
    with file.open("rb") as source, part.open("wb") as made:
        shutil.copyfileobj(source, made, BLOCK)
    sync(part)


def _settle(part: Path, target: Path) -> None:
    """Under its name, where nothing is written over. Raises FileExistsError."""
    try:
        os.link(part, target)
    except PermissionError:
        # File systems without links (exFAT, some shares): nobody else names files here between the two.
        if target.exists():
            raise FileExistsError(target) from None
        part.replace(target)
    sync(target.parent)
