"""What words look like: small pictures of them, by which those that were printed alike are found again."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.raster import Pixels

_WIDE, _HIGH = 24, 8
LOOK_BYTES = _WIDE * _HIGH
_BORDER = 0.08
"""Share of a word's height that is looked at beyond its box."""
ALIKE = 0.72
"""Likeness from which on two words that were read alike are taken to be printed alike; chosen on a few drawn pages, where
other words of four letters and more stay below 0.9, and most of them far below this."""

Looks = npt.NDArray[np.int8]


def looks_of(reading: Reading, page: Pixels) -> Looks:
    """A look of each word of a reading, in its order.

    Args:
        reading: Its boxes are in pixels of the page.
        page: Gray.

    Returns:
        One row of ``LOOK_BYTES`` values a word: 24 by 8 cells, darker ones above zero, scaled so that contrast is no matter.
    """
    rows, cols = page.shape
    made = np.zeros((len(reading.words), LOOK_BYTES), np.int8)
    for at, word in enumerate(reading.words):
        left, top, right, bottom = word.box
        more = max(1, round(_BORDER * (bottom - top)))
        part = page[max(0, top - more) : min(rows, bottom + more), max(0, left - more) : min(cols, right + more)]
        if part.size == 0:
            continue
        small = cv2.resize(part, (_WIDE, _HIGH), interpolation=cv2.INTER_AREA).astype(np.float32).ravel()
        dark = small.mean() - small
        strength = float(np.linalg.norm(dark))
        if strength > 0:
            made[at] = np.clip(np.rint(dark / strength * 400), -127, 127).astype(np.int8)
    return made


def likeness(one: bytes, others: list[bytes]) -> list[float]:
    """How alike a look is to others, from -1 to 1 where they are the same; 0 where there is no look."""
    if not one or not others:
        return [0.0] * len(others)
    mine = np.frombuffer(one, np.int8).astype(np.float32)
    theirs = np.array([np.frombuffer(other or bytes(LOOK_BYTES), np.int8) for other in others], np.float32)
    norms = np.linalg.norm(theirs, axis=1) * np.linalg.norm(mine)
    found = np.divide(theirs @ mine, norms, out=np.zeros(len(others), np.float32), where=norms > 0)
    return [round(float(value), 3) for value in found]
