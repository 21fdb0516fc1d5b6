"""Where the text of a page stands: the level rectangle around its letters."""

import numpy as np

from hollowstack.core.measure.content.writing import Writing
from hollowstack.core.page.geometry import Point, Quad, Transform
from hollowstack.core.page.raster import Raster

_CELL_MM = 6.0
_FEWEST = 4
"""Letters in a cell and its eight neighbours, from which on they are text and no specks."""


def find_text_block(page: Raster, writing: Writing, skew_deg: float) -> Quad | None:
    """The rectangle around the letters of a page, lying as its lines do; None where there is no text to speak of.

    Args:
        page: The page the writing was found on.
        writing: Its letters.
        tilt_deg: Of its lines.

    Returns:
        In pixels of ``page``.
    """
    letters = writing.letters
    if len(letters) < _FEWEST:
        return None
    level = Transform.rotation(-skew_deg, Point(0, 0))
    at = level.apply(letters[:, :2] + letters[:, 2:] / 2)
    cell = np.floor((at - at.min(axis=0)) / (_CELL_MM * writing.px_mm)).astype(int) + 1
    count = np.zeros(cell.max(axis=0) + 2, int)
    np.add.at(count, (cell[:, 0], cell[:, 1]), 1)
    around = sum(np.roll(count, (dx, dy), axis=(0, 1)) for dx in (-1, 0, 1) for dy in (-1, 0, 1))
    text = np.asarray(around)[cell[:, 0], cell[:, 1]] >= _FEWEST
    if not text.any():
        return None
    half = letters[text, 2:] / 2
    low, high = (at[text] - half).min(axis=0), (at[text] + half).max(axis=0)
    corners = level.inverse().quad(Quad.rectangle(low[0], low[1], high[0], high[1])).array()
    return Quad.of(corners * writing.scale + [page.width / 2, page.height / 2])
