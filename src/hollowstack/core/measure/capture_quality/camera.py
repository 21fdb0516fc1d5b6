"""Whether a camera saw the page: told by what is seen, as tags get lost on the way."""

import cv2
import numpy as np

from hollowstack.core.imaging.histogram import histogram_mode
from hollowstack.core.measure.layout.corners import find_corners
from hollowstack.core.measure.layout.edges import Edges
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster, as_pixels

OBLIQUE_DEG = 0.9
"""Angle by which a corner of a page differs from a right one where perspective made it so; pages on a glass stay below a
third of it, and cut askew they are paper, not perspective, up to it."""
THIRD_DEG = 0.55
"""The same for the third of the four corners."""
SIDES_RATIO = 1.012
"""Ratio of facing sides that are of one length on paper."""
SURE = 0.9
CORNERS_SURE = 0.6
"""Confidence of edges by colour, and of corners by edges alone, from which they are gone by."""
AROUND = 0.55
"""Share of the image's outermost ring that is something else than paper, where a table is seen around a page."""
_DIFFERS = 18


def seen_by_camera(image: Raster, edges: Edges) -> bool:
    """Whether an image shows a page in perspective.

    Args:
        image: Gray or colour, a reduction.
        edges: The page by its colour, as found.

    Source:
        A page on a glass is seen at right angles; common practice, no source. The limits are measured on drawn pages.
    """
    if edges.lid and edges.confidence >= SURE:
        return is_oblique(edges.quad) and _all_within(edges.quad, image)
    if not _table_around(image):
        return False
    corners = find_corners(image)
    return corners is not None and corners.confidence >= CORNERS_SURE and is_oblique(corners.quad)


def is_oblique(quad: Quad) -> bool:
    """Whether an outline is no rectangle: by its angles, or by facing sides of unlike lengths."""
    corners = quad.array()
    sides = np.roll(corners, -1, axis=0) - corners
    lengths = np.maximum(np.hypot(*sides.T), 1e-6)
    along = sides / lengths[:, None]
    off = np.degrees(np.arcsin(np.clip(np.abs((along * np.roll(along, 1, axis=0)).sum(axis=1)), 0, 1)))
    ratios = [max(lengths[i] / lengths[i + 2], lengths[i + 2] / lengths[i]) for i in (0, 1)]
    # Where one side alone lies askew, two corners are off: a gutter's bar, or paper that was torn.
    return bool(np.sort(off)[1] >= THIRD_DEG and off.max() >= OBLIQUE_DEG and max(ratios) >= SIDES_RATIO)


def _all_within(quad: Quad, image: Raster) -> bool:
    """Whether the whole page is in the image: what runs out of it has no corners to go by."""
    corners = quad.array()
    return bool((corners > 1).all() and (corners < np.array([image.width, image.height]) - 1).all())


def _table_around(image: Raster) -> bool:
    small = image.reduced(20.0)
    calm = as_pixels(cv2.medianBlur(np.ascontiguousarray(small.pixels), 3))
    rows, cols = calm.shape[:2]
    if min(rows, cols) < 12:
        return False
    middle = calm[rows // 4 : rows - rows // 4, cols // 4 : cols - cols // 4]
    paper = np.array(histogram_mode(np.ascontiguousarray(middle)), np.int16)
    ring = np.concatenate([part.reshape(-1, paper.size) for part in (calm[0], calm[-1], calm[:, 0], calm[:, -1])])
    return float((np.abs(ring.astype(np.int16) - paper).max(axis=1) > _DIFFERS).mean()) >= AROUND
