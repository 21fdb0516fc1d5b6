"""Straight sides: a line through most of some points, and where four lines cross."""

import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Quad

Line = tuple[float, float]
"""Offset and slope of a nearly upright line x = offset + slope * y (left, right), or the same with x and y swapped."""


def fit_line(at: npt.NDArray[np.float64], value: npt.NDArray[np.float64], tolerance: float) -> tuple[Line, float]:
    """Trimmed least squares: value = offset + slope * at; and the share of points within twice the tolerance.

    Source:
        P. Rousseeuw and A. Leroy, Robust Regression and Outlier Detection, 1987.
    """
    keep = np.abs(value - np.median(value)) <= max(3 * tolerance, 2 * float(np.median(np.abs(value - np.median(value)))))
    line = (float(np.median(value)), 0.0)
    for _ in range(6):
        if keep.sum() < 4:
            break
        slope, offset = np.polyfit(at[keep], value[keep], 1)
        line = (float(offset), float(slope))
        residual = np.abs(value - offset - slope * at)
        keep = residual <= max(tolerance, 1.5 * float(np.median(residual)))
    share = float(np.mean(np.abs(value - line[0] - line[1] * at) <= 2 * tolerance))
    return line, share


def corners_of(lines: list[Line], scale: npt.NDArray[np.float64], frame: Quad) -> Quad:
    """Where four sides (left, top, right, bottom) cross, times a scale, within a frame."""
    left, top, right, bottom = lines
    corners = [cross(top, left), cross(top, right), cross(bottom, right), cross(bottom, left)]
    return Quad.of(np.clip(np.array(corners) * scale, 0, frame.bottom_right))


def cross(flat: Line, upright: Line) -> tuple[float, float]:
    """Where y = a + b x meets x = c + d y."""
    a, b = flat
    c, d = upright
    x = (c + d * a) / (1 - b * d)
    return x, a + b * x


def line_of(quad: Quad, side: int) -> Line:
    """A side of a quad as a line: 0 left, 1 top, 2 right, 3 bottom."""
    a, b, c, d = quad
    (x1, y1), (x2, y2) = ((a, d), (a, b), (b, c), (d, c))[side]
    if side in (1, 3):
        x1, y1, x2, y2 = y1, x1, y2, x2
    slope = (x2 - x1) / max(y2 - y1, 1e-6)
    return x1 - slope * y1, slope
