"""The demo's pages worked on once for a whole test run: what is made of a file is kept by the file's digest, so every other
application of the run finds it made, as it would a file that comes a second time."""

import fcntl
from collections.abc import Iterable
from pathlib import Path

from tests.live import Live, until


def worked(run: Path, files: Iterable[Path]) -> Path:
    """A data folder in which the pages of some files are made; the first of the run's processes fills it, the others wait.

    Args:
        run: A folder that all processes of the test run share.
        files: Scans of the demo.
    """
    data = run / "worked"
    with (run / "worked.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (data / "whole").exists():
            live = Live(data)
            try:
                stack = live.take_in("All", files)
                until(lambda: live.settled(stack), 500, "the demo's pages to be worked on")
            finally:
                live.stop()
            (data / "whole").touch()
    return data
