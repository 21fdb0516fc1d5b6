"""Black in both corners of a side: between them the page has ended as well, where nothing black says so."""

import cv2
import numpy as np

from hollowstack.core.measure.layout.cut import Cut, Mask, SideView

LEAST_MM, MOST_MM = 0.8, 7.0
"""How deep such blocks are."""
ALIKE_MM = 1.2
"""By how much the depths of the two may differ."""
FILLED = 0.85
"""Share of a block that is black: torn and rounded corners are triangles."""
CORNER_MM = 1.0
"""How near to the image's corner a block begins."""
SPECK_MM = 1.0
"""Larger things that a cut would divide are the page's."""
SOILED = 0.05
"""Share of the strip's length at which something reaches the rim: more are the letters of a line that it cuts."""
EDGE_MM = 0.5
"""What lies in the strip without reaching the rim is the page's too, if it is wider than what the paper's edge leaves."""


def find_corner_blocks(side: SideView) -> Cut | None:
    """The strip between two black corners of the left side; None where there are none, or something is printed in it.

    Source:
        Common practice, no source: an open lid is black where no paper lies, and a device's threshold leaves the rest white.
    """
    most = min(round(MOST_MM * side.px_mm), side.dark.shape[1] // 4, side.dark.shape[0] // 4)
    if most < 2:
        return None
    depths = [_block(side.dark[::step], most, side.px_mm) for step in (1, -1)]
    if min(depths) < LEAST_MM * side.px_mm or abs(depths[0] - depths[1]) > ALIKE_MM * side.px_mm:
        return None
    depth = max(depths) + round(0.1 * side.px_mm)
    return Cut(float(depth), 0.0, "lid") if _bare(side.dark, depth, side.px_mm) else None


def _block(dark: Mask, most: int, px_mm: float) -> int:
    """How deep the block in the upper left corner is; 0 where there is none, or it goes on inwards."""
    corner = max(1, round(CORNER_MM * px_mm))
    # Without lines that the edge of the paper draws.
    size = max(2, round(LEAST_MM * px_mm))
    near = np.ascontiguousarray(dark[: 4 * most, : 2 * most]).astype(np.uint8)
    blocks = cv2.morphologyEx(near, cv2.MORPH_OPEN, np.ones((size, size), np.uint8), borderType=cv2.BORDER_REPLICATE)
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(blocks, connectivity=4)
    numbers = np.unique(pieces[:corner, :corner])
    for number in numbers[numbers > 0]:
        left, top, wide, high, area = (int(v) for v in stats[number])
        # At least as long along the side as half its depth: it is a corner's, not a bar of the next side.
        if left + wide <= most and 2 * high >= wide and area >= FILLED * wide * high and max(left, top) < corner:
            return left + wide
    return 0


def _bare(dark: Mask, depth: int, px_mm: float) -> bool:
    """Whether nothing of the page lies between the rim and a depth, blocks at both ends aside."""
    soiled = 0
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(dark.astype(np.uint8), connectivity=8)
    numbers = np.unique(pieces[:, :depth])
    for number in numbers[numbers > 0]:
        left, top, wide, high, _ = (int(v) for v in stats[number])
        beyond = left + wide - depth
        if beyond > 0 and wide > SPECK_MM * px_mm and not (left == 0 and beyond <= SPECK_MM * px_mm):
            return False
        if left > CORNER_MM * px_mm and wide > EDGE_MM * px_mm:
            return False
        soiled += high if left == 0 and top > 0 and top + high < len(dark) else 0
    return soiled <= SOILED * len(dark)
