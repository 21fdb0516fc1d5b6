"""The notices photographed on a table, well and badly: ``python -m hollowstack.standins.skerry.photographs DIR``."""

import argparse
import random
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from hollowstack.standins.skerry.notices import notice
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import View, photograph, save_photograph

_FIRST = datetime(2026, 6, 9, 10, 30)
"""By the camera's clock."""


@dataclass(frozen=True, slots=True)
class Shot:
    """A photograph to be made: of which notice, and how."""

    name: str
    notice: int
    view: View


SHOTS: tuple[Shot, ...] = (
    Shot("notice 1.jpg", 0, View(lean=(14.0, 4.0), turned_deg=-2.0)),
    Shot("notice 2, out of focus.jpg", 1, View(corner_blur_px=7.0)),
    Shot("notice 2, again.jpg", 1, View(turned_deg=0.6)),
    Shot("notice 3, cut off.jpg", 2, View(shift=(-0.16, 0.0), glare=0.28)),
)


def make(folder: Path, seed: int = 1927) -> list[Path]:
    """Take all photographs, each two minutes after the one before; the same ones every time."""
    folder.mkdir(parents=True, exist_ok=True)
    made = []
    for number, shot in enumerate(SHOTS):
        rng = np.random.default_rng(seed + number)
        surface = worn(notice(shot.notice, random.Random(seed)), (240, 238, 231), Wear(0.35, 0.2, 1), rng)
        pixels, _ = photograph(surface, shot.view, rng)
        save_photograph(folder / shot.name, pixels, _FIRST + timedelta(minutes=2 * number))
        made.append(folder / shot.name)
    return made


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    for path in make(parser.parse_args().folder):
        print(path)


if __name__ == "__main__":
    main()
