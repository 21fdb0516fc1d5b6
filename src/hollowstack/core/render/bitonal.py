"""A page in two tones: three thresholds, and what is a speck."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import PAPER_CODE, over_paper
from hollowstack.core.imaging.noise import smoothed
from hollowstack.core.imaging.threshold import otsu
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.settings.treatment import BitonalMethod

_LOW, _HIGH = 0.42, 0.80
"""Shares of bare paper's light between which ink ends, where that is looked for here."""
_WEAK_STROKE, _LEAST_WEAK_STROKE_MM, _MOST_WEAK_STROKE_MM = 0.6, 0.17, 0.65
"""How far towards bare paper a stroke may fade that goes on from a black one; sides of squares as large as such a piece."""
_WINDOW_MM = 3.2
_K, _RANGE = 0.2, 128.0
_DUST_MM, _SPECK_MM, _NEAR_MM, _PART_MM = 0.14, 0.25, 1.6, 0.2
"""Smaller than the first is dust, but where a letter is as near as the last: it is the tail of a comma then. A full stop is
larger; alone on the page, farther than the third from any letter, so small a thing is a speck too, if below the second."""
Mask = npt.NDArray[np.bool_]


def to_bitonal(
    page: Raster,
    method: BitonalMethod = "evened",
    level: Pixels | None = None,
    *,
    limit: float | None = None,
    smooth_mm: float = 0.0,
    despeckle: bool = True,
    strengthen: float = 0.0,
    weak_strokes: bool = True,
) -> Raster:
    """A gray page in two tones, 0 and 255.

    Args:
        page: Gray, evened or not.
        method: "evened" divides by the local paper and takes one threshold; "local" compares every pixel with mean and
            deviation around it; "global" takes one threshold for the page as it is.
        level: The paper on a coarse grid over the page; None fits it here.
        limit: For "evened" the share of bare paper's light at which ink ends, for "global" that of white; None looks for it
            on the page.
        smooth_mm: Deviation of a Gaussian against heavy grain, which would come out as specks.
        despeckle: Whether specks are dropped.
        strengthen: 0 to 1: fainter strokes than otherwise become black.
        weak_strokes: Whether "evened" keeps faint strokes that go on from black ones.

    Source:
        N. Otsu, A threshold selection method from gray-level histograms, IEEE SMC 9 (1979), for "global" and "evened";
        J. Sauvola and M. Pietikäinen, Adaptive document image binarization, Pattern Recognition 33 (2000), for "local".
    """
    page = Raster(smoothed(page, smooth_mm), page.ppi) if smooth_mm else page
    if method == "evened":
        black = _evened(page, level, limit, strengthen, weak_strokes=weak_strokes)
    else:
        black = _local(page, strengthen) if method == "local" else _global(page, limit, strengthen)
    if despeckle:
        black = _without_specks(black, page)
    return Raster(as_pixels((1 - black) * 255), page.ppi)


def _evened(page: Raster, level: Pixels | None, share: float | None, strengthen: float, *, weak_strokes: bool) -> Pixels:
    even = over_paper(page, level)
    # Nearly bare pages have no second peak for Otsu: keep the threshold where ink ends.
    share = float(np.clip(otsu(even[::2, ::2]) / PAPER_CODE, _LOW, _HIGH)) if share is None else share
    limit = share * PAPER_CODE
    bare = max(limit, 0.88 * PAPER_CODE)
    limit += 0.7 * strengthen * (bare - limit)
    black = _darker(even, limit)
    return _with_weak_strokes(black, _darker(even, limit + _WEAK_STROKE * (bare - limit)), page) if weak_strokes else black


def _darker(pixels: Pixels, limit: float | npt.NDArray[np.float32]) -> Pixels:
    return as_pixels((pixels <= limit).astype(np.uint8))


def _with_weak_strokes(black: Pixels, weak: Pixels, page: Raster) -> Pixels:
    """Faint strokes that go on from black ones are black too: the tail of a comma, a hairline.

    The rim of every stroke is as faint as they are and stays as it is: only what reaches beyond it is a stroke of its own.

    Source:
        Hysteresis, after J. Canny, A computational approach to edge detection, IEEE PAMI 8 (1986).
    """
    kernel = np.ones((3, 3), np.uint8)
    rim = cv2.dilate(black, kernel)
    beyond = as_pixels(weak & (1 - rim))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(beyond, connectivity=8)
    area = stats[:, cv2.CC_STAT_AREA]
    goes_on = np.zeros(count, bool)
    goes_on[labels[(beyond & cv2.dilate(rim, kernel)) > 0]] = True
    weak_strokes = goes_on & (area >= page.px(_LEAST_WEAK_STROKE_MM) ** 2) & (area <= page.px(_MOST_WEAK_STROKE_MM) ** 2)
    return as_pixels(black | (cv2.dilate(_chosen(beyond, labels, weak_strokes), kernel) & weak))


def _chosen(mask: Pixels, labels: npt.NDArray[np.int32], chosen: Mask) -> Pixels:
    """What of a mask is in the pieces that were chosen; looked up where the mask is only, as most of a page is bare."""
    at = np.flatnonzero(mask)
    found = np.zeros_like(mask)
    found.ravel()[at] = chosen[labels.ravel()[at]]
    return found


def _local(page: Raster, strengthen: float) -> Pixels:
    return _darker(page.pixels, sauvola(page, _K * (1 - 0.8 * strengthen)))


def _global(page: Raster, share: float | None, strengthen: float) -> Pixels:
    limit = otsu(page.pixels) if share is None else share * 255
    return _darker(page.pixels, limit + strengthen * 0.3 * (255 - limit))


def sauvola(page: Raster, k: float = _K) -> npt.NDArray[np.float32]:
    """The threshold at every pixel: mean · (1 + k · (deviation / 128 − 1)) over a square window of 3.2 mm."""
    window = max(3, page.px(_WINDOW_MM) | 1)
    size = (window, window)
    values = page.pixels.astype(np.float32)
    mean = cv2.boxFilter(values, -1, size, borderType=cv2.BORDER_REFLECT)
    square = cv2.sqrBoxFilter(page.pixels, cv2.CV_32F, size, borderType=cv2.BORDER_REFLECT)
    spread = cv2.sqrt(cv2.max(square - mean * mean, 0))
    return np.asarray(mean * (1 + k * (spread / _RANGE - 1)), dtype=np.float32)


def _without_specks(black: Pixels, page: Raster) -> Pixels:
    """Dust goes; small pieces stay where a letter is near, so dots and commas do."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(black, connectivity=8)
    if count < 2:
        return black
    area = stats[:, cv2.CC_STAT_AREA]
    dust, speck = max(1, page.px(_DUST_MM)) ** 2, max(1, page.px(_SPECK_MM)) ** 2
    keep = area > speck
    keep[0] = False
    doubtful = area <= speck
    doubtful[0] = False
    if doubtful.any():
        letters = cv2.distanceTransform(1 - _chosen(black, labels, keep), cv2.DIST_L2, 3)
        x, y = stats[:, cv2.CC_STAT_LEFT], stats[:, cv2.CC_STAT_TOP]
        keep |= doubtful & (letters[y, x] <= np.where(area > dust, page.px(_NEAR_MM), page.px(_PART_MM)))
    return _chosen(black, labels, keep)
