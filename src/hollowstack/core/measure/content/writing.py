"""What is written on a page, as points of ink and as boxes of letters: found once, for its tilt and its way up."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.imaging.ink_limit import PALEST, ink_limit, local_ink_limit
from hollowstack.core.imaging.noise import deviation
from hollowstack.core.page.raster import Pixels, Raster

PPI = 150.0
_INK = 0.7
_MOST_POINTS = 60_000
_LINE_MM = 14.0
"""No line of writing is higher."""
_RULE_MM = 240.0
_LETTER_MM = 12.0
_MOST_NOISE = 7.0
"""Deviation of grain, in gray values, from which it is as dark as pale print is."""
_PALE_LETTER = 0.62
"""Evened gray of a letter's darkest pixel, from which it is pale."""

Points = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Writing:
    """Coordinates in pixels of ``PPI`` an inch from the page's middle, x to the right and y down.

    ``across`` is ink in the order of chance, as far as it may belong to lines that run across the page; ``down`` the same
    for lines that run down it, already turned by 90 degrees counter-clockwise so that its lines run across too.
    ``letters`` are boxes (left, top, width, height) of pieces of the size of letters.
    """

    across: Points
    down: Points
    letters: Points
    px_mm: float
    scale: float
    """Pixels of the page for one of these."""
    limit: float
    """Evened gray below which a pixel was taken for ink."""
    pale_share: float = 0.0
    """Share of the letters that are pale at their darkest."""

    @property
    def in_pieces(self) -> bool:
        """Whether the writing is so pale that much of it is lighter than the limit."""
        return self.limit >= PALEST


def find_writing(page: Raster, paper: Pixels | None = None) -> Writing:
    """Ink that may be writing on a gray page without its surround: no large pictures, no specks.

    Args:
        page: Gray, cut to its edges.
        paper: Its paper, of any size; None fits it here.

    Source:
        Connected components of the evened page; sizes are common practice, no source.
    """
    small = page.reduced(PPI)
    px_mm = small.px(25.4) / 25.4
    light = background_normalised(small, paper)
    limit = ink_limit(light, _INK)
    here = local_ink_limit(light, px_mm, _INK) if deviation(small.pixels) <= _MOST_NOISE else _INK
    mask = (light < np.maximum(limit, here)).astype(np.uint8)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    left, top, wide, high, area = (stats[:, i] for i in range(5))
    enough = area >= max(2.0, (0.25 * px_mm) ** 2)
    enough[0] = False
    across = enough & (high <= _LINE_MM * px_mm) & (wide <= _RULE_MM * px_mm)
    down = enough & (wide <= _LINE_MM * px_mm) & (high <= _RULE_MM * px_mm)
    middle = (small.width / 2, small.height / 2)
    ink = np.flatnonzero(mask)
    piece = labels.ravel()[ink]
    rng = np.random.default_rng(7)
    points = _points(ink[across[piece]], small.width, middle, rng)
    # A quarter turn counter-clockwise: what was at the right comes to the top.
    turned = _points(ink[down[piece]], small.width, middle, rng)
    turned = np.column_stack([turned[:, 1], -turned[:, 0]])
    letter = enough & (np.maximum(wide, high) <= _LETTER_MM * px_mm) & (np.minimum(wide, high) >= 2)
    letters = np.column_stack([left - middle[0], top - middle[1], wide, high])[letter].astype(np.float32)
    darkest = np.full(len(area), 2.0, np.float32)
    np.minimum.at(darkest, piece, light.ravel()[ink])
    pale = float(np.mean(darkest[letter] > _PALE_LETTER)) if letter.any() else 0.0
    return Writing(points, turned, letters, px_mm, page.width / small.width, limit, pale)


def _points(ink: npt.NDArray[np.int64], width: int, middle: tuple[float, float], rng: np.random.Generator) -> Points:
    ink = rng.choice(ink, _MOST_POINTS, replace=False) if len(ink) > _MOST_POINTS else rng.permutation(ink)
    # Spread over their pixel: rows of the raster would otherwise favour an angle of exactly 0.
    jitter = rng.random((2, len(ink)), dtype=np.float32)
    x, y = ink % width + jitter[0] - middle[0], ink // width + jitter[1] - middle[1]
    return np.column_stack([x, y]).astype(np.float32)
