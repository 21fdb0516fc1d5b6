"""What the program takes of a core while nothing is to be done and three browsers watch a stack. ``make bench`` prints it."""

import contextlib
import sys
import tempfile
import threading
import time
from http.client import HTTPException, HTTPResponse
from http.cookiejar import CookieJar
from pathlib import Path
from urllib.request import HTTPCookieProcessor, build_opener

import psutil

from tests.live import Live

LIMIT = 2.0
SETTLE, WATCHED = 12.0, 30.0


def seconds(live: Live) -> float:
    """CPU time of all its processes so far."""
    main = psutil.Process(live.process.pid)
    times = [process.cpu_times() for process in [main, *main.children(recursive=True)]]
    return sum(one.user + one.system for one in times)


def _listen(line: HTTPResponse) -> None:
    with contextlib.suppress(OSError, HTTPException):  # it ends with the server
        line.read()


def main() -> int:
    live = Live(Path(tempfile.mkdtemp(prefix="hollowstack-idle-")) / "data")
    try:
        stack = live.call("POST", "/api/v1/stacks", {"name": "Watched"})["id"]
        opener = build_opener(HTTPCookieProcessor(CookieJar()))
        opener.addheaders = [("Authorization", f"Bearer {live.manage('person', 'token', 'keeper', 'idle').strip()}")]
        lines = [opener.open(f"{live.address}/api/v1/stacks/{stack}/events") for _ in range(3)]
        for line in lines:
            threading.Thread(target=_listen, args=(line,), daemon=True).start()
        time.sleep(SETTLE)
        before = seconds(live)
        time.sleep(WATCHED)
        taken = (seconds(live) - before) / WATCHED * 100
    finally:
        live.stop()
    print(
        f"{'idle, three browsers watching, of a core':<58}{taken:>9.1f} %   limit {LIMIT:>7.0f}  {'' if taken <= LIMIT else 'NOT REACHED'}"
    )
    return taken > LIMIT


if __name__ == "__main__":
    sys.exit(main())
