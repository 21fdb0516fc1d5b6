"""How long a station takes and how large its images get: learned from its own captures, beginning with what is common.

Time has a fixed part for each job (warm-up, the carriage going home), one for each image (a sheet drawn in), and one that
grows with the pixels. The three are found by least squares, drawn towards the common figures as long as captures are few
(ridge regression: Hoerl and Kennard, Technometrics 12, 1970), and none of them below nothing (Lawson and Hanson, 1974).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

import numpy as np

KEPT = 40
"""So many of the last captures of a source are remembered."""
Way = Literal["platen", "feeder", "slow feeder"]
"""What paper is laid on or in; a feeder that draws it in slowly has a pace of its own."""
_COLOURS = ("bitonal", "grey", "colour")
_A4_300 = 210 * 297 * (300 / 25.4) ** 2 / 1e6
"""Megapixels of A4 at 300 ppi."""
_COMMON: dict[Way, tuple[float, float, float]] = {
    "platen": (2.5, 0.5, 7.0 / _A4_300),
    "feeder": (2.0, 1.0, 1.5 / _A4_300),
    "slow feeder": (2.0, 2.0, 3.0 / _A4_300),
}
"""Seconds for a job, for an image, for a megapixel in colour (common practice, no source)."""
_SHARE = {"bitonal": 0.5, "grey": 0.5, "colour": 1.0}
"""What a pixel costs by colour, against one in colour (common practice, no source)."""
_BYTES = {"bitonal": 0.02, "grey": 0.22, "colour": 0.4}
"""For a pixel (common practice, no source)."""
_TRUST = (0.6, 0.6, 12.0)
"""How much the common figures weigh: as much as so many captures of one job, one image, and this many megapixels squared."""
_TRUST_PX = 6e6
"""For so many pixels, the common size is held against the station's own."""


@dataclass(frozen=True, slots=True)
class Took:
    """One capture as it went: how many jobs and images, their pixels and bytes in all, and how long it took."""

    colour: str
    jobs: int
    images: int
    megapixels: float
    seconds: float
    bytes: int


@dataclass(frozen=True, slots=True)
class Pace:
    """Seconds for a job, an image, a megapixel in colour; bytes for a pixel by colour; from how many captures."""

    job_s: float
    image_s: float
    megapixel_s: float
    pixel_bytes: dict[str, float]
    captures: int


def learned(way: Way, took: Sequence[Took]) -> Pace:
    """A source's pace from its captures; the common one where there are none."""
    job, image, megapixel = (round(float(value), 4) for value in _seconds(np.array(_COMMON[way]), took))
    sizes = {colour: _bytes(colour, took) for colour in _COLOURS}
    return Pace(job, image, megapixel, sizes, len(took))


def _seconds(common: np.ndarray, took: Sequence[Took]) -> np.ndarray:
    rows = np.array([(one.jobs, one.images, one.megapixels * _SHARE[one.colour]) for one in took]).reshape(-1, 3)
    trust = np.array(_TRUST)
    normal = rows.T @ rows + np.diag(trust)
    right = rows.T @ np.array([one.seconds for one in took]) + trust * common
    return _least(normal, right)


def _least(normal: np.ndarray, right: np.ndarray) -> np.ndarray:
    """The solution of least error that has nothing below zero: of three unknowns every set of them is tried."""
    best, least = np.zeros(3), np.inf
    for size in (3, 2, 1):
        for free in combinations(range(3), size):
            part = np.zeros(3)
            part[list(free)] = np.linalg.solve(normal[np.ix_(free, free)], right[list(free)])
            error = part @ normal @ part - 2 * right @ part
            if (part >= 0).all() and error < least:
                best, least = part, error
    return best


def _bytes(colour: str, took: Sequence[Took]) -> float:
    mine = [one for one in took if one.colour == colour]
    pixels = sum(one.megapixels for one in mine) * 1e6
    return round((sum(one.bytes for one in mine) + _TRUST_PX * _BYTES[colour]) / (pixels + _TRUST_PX), 4)
