"""How far text lines fall to the right."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.ground import evened
from hollowstack.core.raster import Raster

RANGE_DEG = 15.0
_PPI = 150.0
_INK = 0.7
_MOST_POINTS = 60_000


@dataclass(frozen=True, slots=True)
class Tilt:
    """``degrees`` is positive where lines fall to the right; ``confidence`` runs from 0 to 1."""

    degrees: float
    confidence: float


def measure_tilt(page: Raster) -> Tilt:
    """Tilt of an upright gray page, within 15 degrees either way.

    Ink is projected along every candidate direction; where the direction is that of the lines, the profile is
    sharpest (largest sum of squared steps between neighbouring rows). A coarse sweep is refined to about 0.01 degrees.

    Args:
        page: Gray, upright, without its surround.

    Returns:
        0 with confidence 0 where there is too little ink to tell.

    Source:
        W. Postl, Detection of linear oblique structures and skew scan in digitized documents, ICPR 1986.
    """
    small = page.reduced(_PPI)
    points = _ink_points(small)
    if len(points) < 200:
        return Tilt(0.0, 0.0)
    line = max(2.0, small.px(0.5) / 2)
    coarse = np.arange(-RANGE_DEG, RANGE_DEG + 0.01, 0.5)
    scores = np.array([_sharpness(points, angle, 2 * line) for angle in coarse])
    best = float(coarse[scores.argmax()])
    # How far the best stands above the field: 0 on noise, well above 1 on text.
    spread = float(np.median(scores))
    standing = float(scores.max()) / max(spread, 1e-9)
    for step, width in ((0.1, line), (0.02, max(1.0, line / 2))):
        angles = np.asarray(best + step * np.arange(-7, 8), dtype=np.float64)
        fine = np.array([_sharpness(points, angle, width) for angle in angles])
        best = _vertex(angles, fine)
    confidence = float(np.clip((standing - 1.15) / 0.85, 0.0, 1.0))
    return Tilt(round(float(np.clip(best, -RANGE_DEG, RANGE_DEG)), 3), round(confidence, 3))


def _ink_points(small: Raster) -> npt.NDArray[np.float32]:
    """x and y of ink that may be writing: no large pictures, no specks."""
    mask = (evened(small) < _INK).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    heights, widths, areas = stats[:, cv2.CC_STAT_HEIGHT], stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_AREA]
    keep = (heights <= small.px(14)) & (areas >= max(2, small.px(0.25) ** 2)) & (widths <= small.px(240))
    keep[0] = False
    ys, xs = np.nonzero(keep[labels]) if count > 1 else (np.array([]), np.array([]))
    rng = np.random.default_rng(7)
    if len(xs) > _MOST_POINTS:
        chosen = rng.choice(len(xs), _MOST_POINTS, replace=False)
        xs, ys = xs[chosen], ys[chosen]
    # Spread over their pixel: rows of the raster would otherwise favour an angle of exactly 0.
    jitter = rng.random((2, len(xs)), dtype=np.float32)
    return np.column_stack([xs + jitter[0] - small.width / 2, ys + jitter[1] - small.height / 2]).astype(np.float32)


def _sharpness(points: npt.NDArray[np.float32], degrees: float, bin_px: float) -> float:
    angle = np.radians(degrees)
    across = (points[:, 1] * np.cos(angle) - points[:, 0] * np.sin(angle)) / bin_px
    low = float(across.min())
    rows = (across - low).astype(np.int32)
    profile = np.bincount(rows).astype(np.float64)
    steps = np.diff(profile)
    return float(np.dot(steps, steps))


def _vertex(angles: npt.NDArray[np.float64], scores: npt.NDArray[np.float64]) -> float:
    """The highest point of the parabola through the scores around their maximum."""
    top = int(scores.argmax())
    low, high = max(0, top - 3), min(len(scores), top + 4)
    if high - low < 4:
        return float(angles[top])
    a, b, _ = np.polyfit(angles[low:high] - angles[top], scores[low:high], 2)
    if a >= 0:
        return float(angles[top])
    shift = float(np.clip(-b / (2 * a), angles[0] - angles[top], angles[-1] - angles[top]))
    return float(angles[top]) + shift
