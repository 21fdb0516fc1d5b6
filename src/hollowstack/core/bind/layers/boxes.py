"""Boxes around what is marked on a page, none of which lies on another."""

import cv2
import numpy as np

from hollowstack.core.bind.layers.parts import Box
from hollowstack.core.page.raster import Pixels

_MOST = 60
"""Each box is an image of its own, which takes some hundred bytes; beyond so many they are put together."""


def boxes_around(marked: Pixels, least: int, around: int) -> list[Box]:
    """Boxes with some room around what is marked.

    Args:
        marked: 1 where something is.
        least: Marks of fewer pixels, connected, are left aside.
        around: Pixels of room on each side.

    Returns:
        From the top down; boxes that met are one.
    """
    count, _, stats, _ = cv2.connectedComponentsWithStats(marked, connectivity=8)
    height, width = marked.shape
    boxes = [
        Box(max(0, left - around), max(0, top - around), min(width, left + wide + around), min(height, top + high + around))
        for left, top, wide, high, area in stats[1:count].tolist()
        if area >= least
    ]
    apart = 0
    while True:
        boxes = _merged(boxes, apart)
        if len(boxes) <= _MOST:
            return sorted(boxes, key=lambda box: (box.top, box.left))
        apart = 2 * apart + 1


def within(box: Box, other: Box) -> bool:
    """Whether a box lies wholly in another one."""
    return box.left >= other.left and box.top >= other.top and box.right <= other.right and box.bottom <= other.bottom


def _merged(boxes: list[Box], apart: int) -> list[Box]:
    """Boxes that lie no farther apart than that as one, until none do."""
    rest = np.array(boxes, np.int64).reshape(-1, 4)
    done: list[Box] = []
    while len(rest):
        one, rest = rest[0], rest[1:]
        while True:
            near = (rest[:, 0] <= one[2] + apart) & (rest[:, 2] >= one[0] - apart)
            near &= (rest[:, 1] <= one[3] + apart) & (rest[:, 3] >= one[1] - apart)
            if not near.any():
                break
            met = np.vstack([one, rest[near]])
            one, rest = np.concatenate([met[:, :2].min(axis=0), met[:, 2:].max(axis=0)]), rest[~near]
        # What is done already may lie beside what this one has grown to.
        grown = [box for box in done if _meet(box, one, apart)]
        if grown:
            done = [box for box in done if box not in grown]
            rest = np.vstack([rest, np.array(grown, np.int64), one])
        else:
            done.append(Box(*(int(side) for side in one)))
    return done


def _meet(box: Box, other: np.ndarray, apart: int) -> bool:
    return bool(
        box.left <= other[2] + apart and box.right >= other[0] - apart
        and box.top <= other[3] + apart and box.bottom >= other[1] - apart
    )  # fmt: skip
