"""Pieces that stand beside each other on one height, as letters do, and specks do not."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

Box = tuple[int, int, int, int]
LETTER = 0.95
"""Heights of small letters that a letter is wide, with what is between it and the next."""
BESIDE = 3.2
"""Heights of small letters to the next letter of a row."""
LEVEL = 0.45
"""Of a letter's height: how far the middles of two letters of a row lie apart at most."""
ROW = 3
"""Letters from which on they are a row."""


class Row(NamedTuple):
    """Letters beside each other: left, top, right, bottom around them in pixels, and about how many they are."""

    box: Box
    letters: int


def in_rows(boxes: npt.NDArray[np.float64], small: float, least: int = ROW) -> list[Row]:
    """Boxes of letters that stand in rows of at least so many, each beside the next on one height.

    Args:
        boxes: Left, top, right, bottom of each in pixels, (n, 4).
        small: Height of small letters in pixels.
        least: A row has no fewer letters; letters that have run together are counted by their width.

    Source:
        Chaining of neighbouring components (common practice, no source).
    """
    boxes = boxes[np.argsort(boxes[:, 0])]
    middle, high = (boxes[:, 1] + boxes[:, 3]) / 2, boxes[:, 3] - boxes[:, 1]
    letters = np.maximum(1, np.rint((boxes[:, 2] - boxes[:, 0]) / (LETTER * small)))
    row = np.arange(len(boxes))
    for at in range(len(boxes)):
        # The letters that begin within reach behind this one ends.
        first, last = np.searchsorted(boxes[:, 0], [boxes[at, 0] + 1, boxes[at, 2] + BESIDE * small])
        near = np.arange(first, last)
        level = np.abs(middle[near] - middle[at]) <= LEVEL * np.maximum(high[near], high[at])
        row[near[level][:1]] = row[at]
    found = []
    for one in np.unique(row):
        mine = row == one
        if (count := int(letters[mine].sum())) >= least:
            (x0, y0), (x1, y1) = boxes[mine, :2].min(axis=0), boxes[mine, 2:].max(axis=0)
            found.append(Row((int(x0), int(y0), int(x1), int(y1)), count))
    return found
