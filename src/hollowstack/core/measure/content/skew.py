"""How far text lines fall to the right."""

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.content.writing import Points, find_writing
from hollowstack.core.page.raster import Raster

RANGE_DEG = 15.0
_COARSE_POINTS = 15_000
_LEAST_POINTS = 200
_FAN_POINTS = 1500
_FAN_RANGE_DEG = 4.0
_FAN_PEAK_TO_MEDIAN = 1.25
"""How far the best direction of each half stands above all others."""
_LEAST_FAN_DEG, _MOST_FAN_DEG = 1.5, 6.0
"""Difference between the skews of a page's halves, from which its lines fan out, and at most."""


@dataclass(frozen=True, slots=True)
class Skew:
    """``degrees`` is positive where lines fall to the right; ``confidence`` runs from 0 to 1.

    ``peak_to_median`` is how far the best direction stands above all others: 1 on noise, well above it on lines.
    """

    degrees: float
    confidence: float
    peak_to_median: float = 0.0


def measure_skew(page: Raster) -> Skew:
    """Skew of an upright gray page without its surround, within 15 degrees either way; see ``skew_of``."""
    writing = find_writing(page)
    return skew_of(writing.across, writing.px_mm)


def skew_of(points: Points, px_mm: float) -> Skew:
    """Skew of lines of ink that run across: swept roughly, then refined to about 0.01 degrees.

    Args:
        points: Ink in pixels from the page's middle, in the order of chance.
        px_mm: Pixels a millimetre.

    Returns:
        0 with confidence 0 where there is too little ink to tell.
    """
    return refined_skew(points, px_mm, rough_skew(points, px_mm))


def rough_skew(points: Points, px_mm: float) -> Skew:
    """Skew to half a degree, with all that is to be known of how sure it is; arguments as of ``skew_of``.

    Ink is projected along every candidate direction; where the direction is that of the lines, the profile is
    sharpest (largest sum of squared steps between neighbouring rows).

    Source:
        W. Postl, Detection of linear oblique structures and skew scan in digitized documents, ICPR 1986.
    """
    if len(points) < _LEAST_POINTS:
        return Skew(0.0, 0.0)
    line = _line_px(px_mm)
    coarse = np.arange(-RANGE_DEG, RANGE_DEG + 0.01, 0.5)
    few = points[:_COARSE_POINTS]
    scores = np.array([_sharpness(few, angle, 2 * line) for angle in coarse])
    peak_to_median = float(scores.max()) / max(float(np.median(scores)), 1e-9)
    confidence = float(np.clip((peak_to_median - 1.15) / 0.85, 0.0, 1.0))
    return Skew(float(coarse[scores.argmax()]), round(confidence, 3), round(peak_to_median, 3))


def refined_skew(points: Points, px_mm: float, rough: Skew) -> Skew:
    """A rough skew of the same points to about 0.01 degrees; as it is where there was too little ink to tell."""
    if len(points) < _LEAST_POINTS:
        return rough
    if (middle := _fanned(points, px_mm, rough)) is not None:
        return middle
    best, line = rough.degrees, _line_px(px_mm)
    for step, width in ((0.1, line), (0.02, max(1.0, line / 2))):
        angles = np.asarray(best + step * np.arange(-7, 8), dtype=np.float64)
        fine = np.array([_sharpness(points, angle, width) for angle in angles])
        best = _vertex(angles, fine)
    return replace(rough, degrees=round(float(np.clip(best, -RANGE_DEG, RANGE_DEG)), 3))


def _fanned(points: Points, px_mm: float, rough: Skew) -> Skew | None:
    """The skew in the middle of a page whose lines fan out from top to bottom, as a camera that is not level sees them.

    None where the upper and the lower half agree, or one of them has no lines: then one skew holds for the page.
    """
    few = points[: 2 * _COARSE_POINTS]
    halves = [half for half in (few[few[:, 1] < 0], few[few[:, 1] >= 0]) if len(half) >= _FAN_POINTS]
    if len(halves) < 2:
        return None
    angles = np.arange(-_FAN_RANGE_DEG, _FAN_RANGE_DEG + 0.01, 0.25)
    found = []
    for half in halves:
        scores = np.array([_sharpness(half, rough.degrees + angle, 2 * _line_px(px_mm)) for angle in angles])
        if float(scores.max()) < _FAN_PEAK_TO_MEDIAN * float(np.median(scores)):
            return None
        found.append(rough.degrees + _vertex(angles, scores))
    if not _LEAST_FAN_DEG <= abs(found[0] - found[1]) <= _MOST_FAN_DEG:
        return None
    return replace(rough, degrees=round(float(np.mean(found)), 3))


def _line_px(px_mm: float) -> float:
    return max(2.0, 0.25 * px_mm)


def _sharpness(points: Points, degrees: float, bin_px: float) -> float:
    angle = np.radians(degrees)
    down, right = np.float32(np.cos(angle) / bin_px), np.float32(np.sin(angle) / bin_px)
    across = points[:, 1] * down - points[:, 0] * right
    across -= across.min()
    rows = across.astype(np.int32)
    # Each point is shared between the two rows it lies between: half the noise of counting it in one.
    share = across - rows
    count = int(rows.max()) + 2
    profile = np.bincount(rows, weights=1 - share, minlength=count) + np.bincount(rows + 1, weights=share, minlength=count)
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
