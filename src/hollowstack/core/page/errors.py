"""Everything the core refuses, as one tree. A message is one plain sentence: what is wrong and what to do."""

import errno
from typing import Literal


class HollowStackError(Exception):
    """Base of all refusals; ``str(error)`` is fit to be shown to the operator."""


class DecodeError(HollowStackError):
    """A file or one of its frames cannot be turned into a page image.

    ``size_px`` is the width and height that a viewer would show, where the file still tells.
    """

    def __init__(self, message: str, size_px: tuple[int, int] | None = None) -> None:
        super().__init__(message)
        self.size_px = size_px


class TreatmentError(HollowStackError):
    """A treatment file does not describe a treatment."""


class RenderError(HollowStackError):
    """A clean page cannot be made as it was planned."""


class ReadError(HollowStackError):
    """The text cannot be read, for example because a language model is missing."""


class BindError(HollowStackError):
    """A document cannot be bound from what was given."""


class ExportError(HollowStackError):
    """A document cannot be given out in a form."""


FaultKind = Literal["room", "storage", "memory", "time", "lost", "program"]
"""Where a fault lies that is not the page's: no room on the disk, files that cannot be read or written, want of memory or
time, a process that ended without an answer, and this program itself."""


class WorkerError(HollowStackError):
    """A page could not be worked on, by no fault of its own: ``kind`` tells what the machine was short of."""

    def __init__(self, message: str, kind: FaultKind = "program") -> None:
        super().__init__(message, kind)
        self.kind = kind

    def __str__(self) -> str:
        return str(self.args[0])


_DAMAGED = "What was made of a page has been damaged on the disk: it is made again."


class DamagedResultError(WorkerError):
    """What a step wrote is gone or changed; ``key`` names the result, which is to be made again."""

    def __init__(self, key: str) -> None:
        super().__init__(_DAMAGED, "storage")
        self.args = (key,)
        self.key = key

    def __str__(self) -> str:
        return _DAMAGED


_NO_ROOM = frozenset({errno.ENOSPC, errno.EDQUOT})


def is_full(error: OSError) -> bool:
    """Whether something could not be written because the disk, or somebody's share of it, is full."""
    return error.errno in _NO_ROOM


def fault_of(error: Exception) -> WorkerError:
    """What an unforeseen exception says of the machine, as one sentence.

    An error without a number is no answer of the operating system's but some library's word for a file it cannot make
    sense of: that is this program's to foresee.
    """
    if isinstance(error, MemoryError):
        return WorkerError("There was not enough memory for the page: close other programs, then try again.", "memory")
    if isinstance(error, OSError) and is_full(error):
        return WorkerError("There is no room left on the disk: make room, and it goes on by itself.", "room")
    if isinstance(error, OSError) and error.errno is not None:
        reason = error.strerror or str(error)
        return WorkerError(f"The page's files cannot be reached ({reason}): check the disk or share they lie on.", "storage")
    return WorkerError(f"The page could not be worked on ({type(error).__name__}: {error}): please report this.", "program")


class OrderError(HollowStackError):
    """Pages cannot be put in the order asked for."""


class PaperError(HollowStackError):
    """There is no paper size of that name."""


class CalibrationError(HollowStackError):
    """A colour target or its patch file cannot be used."""
