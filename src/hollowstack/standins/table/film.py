"""What the simulated camera sees, as a film for a browser: ``python -m hollowstack.standins.table.film FILE``.

A film is JPEG pictures one after the other (Motion JPEG without a container), thirty a second; Chromium plays it in a loop
(``--use-fake-device-for-media-stream --use-file-for-fake-video-capture=FILE``).
"""

import argparse
import io
import random
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image

from hollowstack.core.page.raster import Pixels
from hollowstack.standins.skerry.notices import notice
from hollowstack.standins.skerry.paper import Image3, Wear, worn
from hollowstack.standins.skerry.photograph import View
from hollowstack.standins.table.scene import Moment, Scene, laying

FPS = 30
"""What Chromium plays such a file at."""
DRAWN_FPS = 5
"""Frames that are drawn; each is shown as often as fills the second."""
STILL_S, AT_LAST_S = 2.5, 2.0
"""How long a page lies, and how long the table is empty before the film begins anew."""
_QUALITY = 82


def notices(count: int) -> list[Image3]:
    """Pages that are made up for it, each another."""
    return [
        worn(
            notice(number % 3, random.Random(40 + number)), (240, 238, 231), Wear(0.3, 0.2, 1), np.random.default_rng(number)
        )
        for number in range(count)
    ]


def film(path: Path, pages: Sequence[Image3], view: View, *, still_s: float = STILL_S) -> None:
    """A film in which page after page is laid, lies for a while, and is taken away.

    Args:
        path: Where it is written.
        pages: Their surfaces.
        view: How the camera looks.
        still_s: How long each lies.
    """
    still = round(still_s * DRAWN_FPS)
    moments: list[Moment] = []
    for number in range(len(pages)):
        moments += laying(number, still, fps=DRAWN_FPS, turned_deg=(-1.5, 2.0, 0.5)[number % 3])
    moments += [Moment(len(pages) - 1, (0.0, 1.5), frames=round(AT_LAST_S * DRAWN_FPS))]
    with path.open("wb") as file:
        for frame in Scene(pages, moments, view).frames():
            file.write(_jpeg(frame.pixels) * (FPS // DRAWN_FPS))


def _jpeg(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "JPEG", quality=_QUALITY)
    return out.getvalue()


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--pages", type=int, default=5)
    asked = parser.parse_args()
    film(asked.file, notices(asked.pages), View(size_px=(1280, 720), fills=0.9, lean=(6.0, 3.0), turned_deg=1.0))


if __name__ == "__main__":
    main()
