"""What carriers have in common: what they are given, what they tell, what can go wrong."""

import errno
import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import NamedTuple, Protocol

BLOCK = 256 * 1024
Sink = Callable[[bytes], object]


class CarrierFault(Exception):
    """Something could not be carried; its text is a sentence. What is ``lasting`` will not be better by itself."""

    def __init__(self, said: str, *, lasting: bool = False) -> None:
        super().__init__(said)
        self.said, self.lasting = said, lasting


class Taken(Exception):
    """Something else lies there under the name."""


class Gone(Exception):
    """There is nothing under the name."""


class Message(NamedTuple):
    """A mail as it was seen before it goes."""

    recipients: tuple[str, ...]
    subject: str
    text: str
    written: datetime
    attached: bool = True
    """Whether the file goes with it; its text has a link where it does not."""


@dataclass(frozen=True, slots=True)
class Parcel:
    """A file that is to be carried.

    ``mark`` is the delivery's own, the same however often it is tried: what was left half done is known by it.
    """

    file: Path
    name: str
    sha256: str
    mark: str
    message: Message | None = None


class Placed(NamedTuple):
    """Where something lies now, and what the other side said to it."""

    where: str
    answer: str = ""


class Carrier(Protocol):
    """A way to one place. Each call makes its own connection, and may be made again after one that was cut off."""

    reads_back: bool
    """Whether what was put there can be read again."""

    def put(self, parcel: Parcel) -> Placed:
        """Have it lie there whole, under its name, or not at all; nothing is done where it lies there already.

        Raises:
            Taken: Something else lies there.
            CarrierFault: It could not be done.
        """
        ...

    def fetch(self, name: str, sink: Sink) -> None:
        """Read what lies there again, block by block. Raises Gone, CarrierFault."""
        ...

    def remove(self, name: str) -> None:
        """Take it away; nothing is done where it is not there. Raises CarrierFault."""
        ...


def digest_there(carrier: Carrier, name: str) -> str:
    """SHA-256, in hex, of what lies at a place, read again. Raises Gone, CarrierFault."""
    found = hashlib.sha256()
    carrier.fetch(name, found.update)
    return found.hexdigest()


def digest_here(file: Path) -> str:
    """SHA-256, in hex, of a file of this machine. Raises OSError."""
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()


def of_system(error: OSError, place: str) -> CarrierFault:
    """What a fault of a file system means."""
    if error.errno in {errno.ENOSPC, errno.EDQUOT}:
        return CarrierFault(f"There is no room left in {place}: make some.")
    if error.errno in {errno.EACCES, errno.EPERM, errno.EROFS}:
        return CarrierFault(f"Writing to {place} is not allowed: give the server's account the right to.", lasting=True)
    if error.errno in {errno.ENAMETOOLONG, errno.EINVAL, errno.EILSEQ}:
        return CarrierFault(f"{place} takes no file of that name: change the pattern of names.", lasting=True)
    return CarrierFault(f"{place} does not answer ({error.strerror or error}): is it there, and mounted?")
