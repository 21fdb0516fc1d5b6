"""How quickly the browser's port looks at a frame, by Node on one core: ``python benchmarks/camera.py``."""

import random

import numpy as np

from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View
from hollowstack.standins.skerry.specimens import LAYOUTS
from hollowstack.standins.table.scene import Scene, laying
from tests.port import Shown, timed

LIMIT_MS = 100
"""Ten outlines a second."""


def main() -> None:
    """Frames of 1280 × 720 with a page that is laid, lies, and is taken away, again and again."""
    page = worn(LAYOUTS["ledger"](random.Random(1)), (240, 238, 231), Wear(0.3, 0.2, 1), np.random.default_rng(1))
    frames = list(Scene([page], laying(0, 12, fps=6), View(size_px=(1280, 720), fills=0.85)).frames())
    shown = [Shown(frame.pixels, number * 0.1, first=not number) for number, frame in enumerate([*frames, *frames, *frames])]
    _, took = timed(shown)
    verdict = "reached" if took <= LIMIT_MS else "NOT YET"
    print(
        f"{verdict:8} a frame before the camera is looked at in {took:.0f} ms, of {len(shown)} frames   limit: {LIMIT_MS} ms"
    )


if __name__ == "__main__":
    main()
