"""The true shape of a photographed page, from its four corners alone."""

import math

import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.paper_sizes import PaperSize, nearest_size

_SNAP = 0.02


def page_aspect(quad: Quad, width: int, height: int) -> float:
    """Width over height of the flat page behind four corners, as a camera with its axis in the picture's middle sees it.

    Args:
        quad: Corners in reading order of the upright page, in pixels of the picture.
        width: Of the picture; it must not have been cut, or the axis is elsewhere.
        height: Of the picture.

    Source:
        Z. Zhang and L.-W. He, Whiteboard scanning and image enhancement, Digital Signal Processing 17 (2007), section 3.
        Where the sides are parallel in the picture nothing can be told of the lens, and the shape is that of the picture.
    """
    corners = np.hstack([quad.array() - [width / 2, height / 2], np.ones((4, 1))])
    m1, m2, m4, m3 = corners  # the paper's order: top-left, top-right, bottom-left, bottom-right
    k2 = np.dot(np.cross(m1, m4), m3) / np.dot(np.cross(m2, m4), m3)
    k3 = np.dot(np.cross(m1, m4), m2) / np.dot(np.cross(m3, m4), m2)
    n2, n3 = k2 * m2 - m1, k3 * m3 - m1
    if abs(n2[2]) < 1e-4 or abs(n3[2]) < 1e-4:
        return _seen(n2, n3, None)
    focal2 = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2])
    # Lenses are between a tenth and ten times as long as the picture is wide; anything else is noise in the corners.
    if not 0.1 < focal2 / max(width, height) ** 2 < 100:
        return _seen(n2, n3, None)
    return _seen(n2, n3, float(focal2))


def snapped(aspect: float) -> tuple[float, PaperSize | None]:
    """The aspect of the paper size that is within 2 %, with that size; the same aspect and None where there is none.

    All ISO A and B sizes share one shape: of them A4 is named, the commonest.
    """
    upright = min(aspect, 1 / aspect)
    for name_mm in ((210.0, 297.0), (215.9, 279.4), (215.9, 355.6)):
        if abs(upright / (name_mm[0] / name_mm[1]) - 1) <= _SNAP:
            known = name_mm[0] / name_mm[1]
            return (known if aspect <= 1 else 1 / known), nearest_size(*name_mm)
    return aspect, None


def _seen(across: npt.NDArray[np.float64], down: npt.NDArray[np.float64], focal2: float | None) -> float:
    def length2(side: npt.NDArray[np.float64]) -> float:
        plane = side[0] ** 2 + side[1] ** 2
        return float(plane if focal2 is None else plane / focal2 + side[2] ** 2)

    return math.sqrt(length2(across) / length2(down))
