"""Masters: the bytes as they came, stored once, never changed, put right where they were damaged."""

import os
from typing import NamedTuple

from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import make_folder, settle
from hollowstack.core.page.errors import DecodeError
from hollowstack.server.storage.places import master_path
from hollowstack.server.storage.spools import Spool


class Kept(NamedTuple):
    """A stored master; ``written`` where its file was not there, or damaged, and is now as it came."""

    sha256: str
    bytes: int
    written: bool


def keep_master(spool: Spool) -> Kept:
    """Store a spool's bytes under their digest; the spool is gone then, or left to its owner where they are there already.

    Raises:
        DecodeError: There are none.
        OSError: They cannot be stored; nothing is left behind then.
    """
    if spool.size == 0:
        raise DecodeError("The file is empty: copy or scan it again.")
    target = master_path(spool.sha256)
    sound = is_sound(spool.sha256)
    if not sound:
        make_folder(target.parent)
        spool.path.chmod(0o444)
        settle(spool.path, target)
    else:
        os.utime(target)  # come again just now: no left-over, though it may be in no stack yet
    return Kept(spool.sha256, spool.size, not sound)


def is_sound(sha256: str) -> bool:
    """Whether a master is there and as it came. Raises OSError where it is there and cannot be read."""
    try:
        return sha256_of(master_path(sha256)) == sha256
    except FileNotFoundError:
        return False
