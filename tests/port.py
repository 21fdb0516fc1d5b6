"""The browser's port of the live rules, run by Node over frames from Python."""

import json
import struct
import subprocess
from collections.abc import Iterable
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory, mkdtemp
from typing import Any, NamedTuple

import cv2
import numpy as np

from hollowstack.core.measure.layout.live_outline import LONGEST_PX
from hollowstack.core.page.raster import Pixels, as_pixels

ROOT = Path(__file__).parent.parent


class Shown(NamedTuple):
    """A frame, when it comes in seconds, and whether the camera is opened with it."""

    pixels: Pixels
    at: float
    first: bool = False


def reduced(pixels: Pixels) -> Pixels:
    """As small as the outline is looked for on."""
    scale = LONGEST_PX / max(pixels.shape[:2])
    return np.ascontiguousarray(as_pixels(cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)))


@cache
def _module() -> Path:
    """The port as one file that Node takes."""
    folder = mkdtemp(prefix="hollowstack-port-")
    build = ["exec", "--", "vite", "build", "--logLevel", "error", "--ssr", "src/engine/camera/session.ts"]
    subprocess.run(["bash", str(ROOT / "scripts/web.sh"), *build, "--outDir", folder], check=True, cwd=ROOT)
    return Path(folder) / "session.js"


def answers(frames: Iterable[Shown]) -> list[dict[str, Any]]:
    """What the port says of each frame; corners as shares of its sides."""
    return timed(frames)[0]


def timed(frames: Iterable[Shown]) -> tuple[list[dict[str, Any]], float]:
    """The same, and how many milliseconds a frame took."""
    module = _module()
    with TemporaryDirectory() as folder:
        file = Path(folder) / "frames"
        with file.open("wb") as out:
            for pixels, at, first in frames:
                out.write(struct.pack("<Id", first, at) + _picture(reduced(pixels)) + _picture(pixels))
        command = f"node {ROOT / 'tests/port.mjs'} {module} {file}"
        done = subprocess.run(
            ["bash", str(ROOT / "scripts/web.sh"), "exec", "-c", command], check=True, capture_output=True, text=True
        )
    return [json.loads(line) for line in done.stdout.splitlines()], float(done.stderr.split()[-4])


def _picture(pixels: Pixels) -> bytes:
    rows, cols = pixels.shape[:2]
    return struct.pack("<II", cols, rows) + np.dstack([pixels, np.full((rows, cols), 255, np.uint8)]).tobytes()
