"""``make accuracy``: the measurements against drawn truth. Every row says its figure, its limit, and whether it is reached.

Every page is drawn, worn and captured by the stand-ins with fixed seeds, other ones than those that limits were set on, so
the figures are the same on every machine.
"""

import argparse
import time
from collections.abc import Callable

from benchmarks.accuracy import (
    blankness,
    border,
    camera,
    colour,
    content,
    correcting,
    decided,
    edges,
    expected,
    faults,
    gutter,
    languages,
    legibility,
    photographs,
    reading,
    real,
    resolution,
    skew,
    strips,
    turn,
)
from benchmarks.accuracy.truth import Row

SECTIONS: dict[str, Callable[[int, int], list[Row]]] = {
    "skew": skew.rows,
    "turn": turn.rows,
    "edges": edges.rows,
    "border": border.rows,
    "photographs": photographs.rows,
    "camera": camera.rows,
    "gutter": gutter.rows,
    "blankness": blankness.rows,
    "colour": colour.rows,
    "resolution": resolution.rows,
    "legibility": legibility.rows,
    "content": content.rows,
    "decided": decided.rows,
    "real": real.rows,
    "strips": strips.rows,
    "correcting": correcting.rows,
    "reading": reading.rows,
    "expected": expected.rows,
    "languages": languages.rows,
    "faults": faults.rows,
}
SEED = 90_000
"""Far from the seeds used while tuning."""


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("sections", nargs="*", default=list(SECTIONS), help="some of " + ", ".join(SECTIONS))
    parser.add_argument("--each", type=int, default=10, help="pages of each kind in each section")
    parser.add_argument("--seed", type=int, default=SEED)
    words = parser.parse_args()
    table: list[Row] = []
    for name in words.sections:
        start = time.perf_counter()
        found = SECTIONS[name](words.seed, words.each)
        table += found
        for row in found:
            print(f"{row}   ({time.perf_counter() - start:.0f} s)", flush=True)
    print(f"{sum(row.reached for row in table)} of {len(table)} rows reached")


if __name__ == "__main__":
    main()
