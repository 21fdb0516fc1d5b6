"""Paper to white, ink to black."""

import math

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.background import PAPER_CODE, over_paper
from hollowstack.core.page.raster import MM_PER_INCH, Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Tone

_THROUGH, _STROKE = 0.93, 0.74
"""What shines through from the other side lies between; strokes of this side have a core below the second."""
_FAR_MM = 5.0
_GAIN_MM = 1.5
_LEAST_INK, _SURE_INK = 0.06, 0.16
"""How much darker than paper a place must be for its strokes to be strengthened: not at all, fully."""
_TARGET = 0.80
"""How much darker than paper strengthened strokes are."""
_MOST_GAIN = 6.0
_GAIN_PPI = 100.0
_GRAIN_CODES = 8


def apply_tone(
    page: Raster,
    tone: Tone,
    level: Pixels | None = None,
    content: Pixels | None = None,
    *,
    reduce_show_through: bool = False,
    strengthen: float = 0.0,
) -> Raster:
    """Even the page to its local paper, calm the grain of bare paper, and bring ink to black.

    The ratio of page to paper is what counts, channel by channel, so light that falls off and yellowing go, and the ink's
    hue stays. Ratios near 1 are paper with its grain and become exactly paper: that is also what makes the file small.
    Where there is content (pictures, solids, fills) tones get the paper's gain and nothing more.

    Args:
        page: Gray or colour.
        tone: What to bring where.
        level: The paper on a coarse grid over the page; None fits it here.
        content: Where there is content, on the same grid; None where there is none.
        reduce_show_through: Whether what is faint and hangs on no stroke becomes paper.
        strengthen: 0 to 1, how far faint strokes are brought to the darkness of strong ones.
    """
    plain = over_paper(page, level)
    relative = plain.copy() if content is not None and content.any() else plain
    if reduce_show_through:
        relative = without_show_through(relative)
    if strengthen > 0:
        relative = strengthened(Raster(relative, page.ppi), strengthen).pixels
    ratio = np.arange(256) / PAPER_CODE
    # Smoothstep between grain and writing, so that faint strokes keep their soft rims.
    faint, grain = tone.grain
    t = np.clip((ratio - faint) / (grain - faint), 0, 1)
    lifted = np.minimum(ratio + (1 - ratio) * t * t * (3 - 2 * t), 1.0)
    curve = np.clip((lifted - tone.ink) / (1 - tone.ink), 0, 1)
    channels = 1 if page.is_gray else 3
    paper = np.array(tone.paper if len(tone.paper) == channels else (tone.paper[0],) * channels)
    done = as_pixels(cv2.LUT(relative, _table(curve, paper), dst=relative))
    if content is not None and content.any():
        _gained(done, plain, content, _table(np.minimum(ratio, 1.0), paper))
    return Raster(done, page.ppi)


def _table(curve: npt.NDArray[np.float64], paper: npt.NDArray[np.int64]) -> Pixels:
    table = np.rint(curve[:, None] * paper).astype(np.uint8)
    return as_pixels(table.reshape(256, 1, len(paper)))


def _gained(done: Pixels, plain: Pixels, content: Pixels, table: Pixels) -> None:
    """Put what lies under content into a page in place, by another table; only as far as there is any."""
    rows, cols = done.shape[:2]
    across, down = cols / content.shape[1], rows / content.shape[0]
    count, _, stats, _ = cv2.connectedComponentsWithStats(content, connectivity=8)
    for left, top, wide, high, _ in stats[1:count]:
        x0, y0 = int(left * across), int(top * down)
        x1, y1 = min(cols, math.ceil((left + wide) * across)), min(rows, math.ceil((top + high) * down))
        part = content[top : top + high, left : left + wide]
        mask = cv2.resize(part, (x1 - x0, y1 - y0), interpolation=cv2.INTER_NEAREST)
        values = cv2.LUT(np.ascontiguousarray(plain[y0:y1, x0:x1]), table)
        target = done[y0:y1, x0:x1]
        target[mask > 0] = values[mask > 0]


def without_show_through(relative: Pixels) -> Pixels:
    """Evened pixels with faint marks that touch no stroke made paper.

    Source:
        Threshold with hysteresis after Canny 1986: the back of a sheet never reaches the darkness of a stroke's core.
    """
    darkest = relative if relative.ndim == 2 else relative.min(axis=2)
    faint = as_pixels((darkest < _THROUGH * PAPER_CODE).astype(np.uint8))
    count, labels = cv2.connectedComponents(faint, connectivity=8)
    strokes = np.zeros(count, bool)
    strokes[np.unique(labels[darkest < _STROKE * PAPER_CODE])] = True
    strokes[0] = False
    # A margin around strokes, so that their soft rims stay.
    kept = cv2.dilate(strokes[labels].astype(np.uint8), np.ones((3, 3), np.uint8))
    out = relative.copy()
    out[kept == 0] = np.maximum(out[kept == 0], PAPER_CODE)
    return out


def strengthened(relative: Raster, amount: float) -> Raster:
    """Evened pixels whose faint strokes are darkened; where there is no stroke nothing changes.

    The darkest ink around every place tells how faint its strokes are. The distance from paper is multiplied by what brings
    them to full strength, or by a part of that; where nothing is darker than the grain of paper it stays as it is.

    Args:
        relative: Evened so that bare paper has the code ``PAPER_CODE``.
        amount: 0 to 1.
    """
    step = max(1, round(sum(relative.scale_ppi) / 2 / _GAIN_PPI))
    # Small neighbourhoods' median, so that a speck does not stand for strokes; and no mean, which would thin them.
    calm = cv2.medianBlur(relative.gray().pixels, 3)
    small = cv2.erode(calm, np.ones((step, step), np.uint8))[::step, ::step]
    px_mm = sum(relative.scale_ppi) / 2 / step / MM_PER_INCH
    far = max(3, round(_FAR_MM * px_mm) | 1)
    darkest = cv2.erode(small, np.ones((far, far), np.uint8), borderType=cv2.BORDER_REPLICATE)
    ink = np.maximum(1 - darkest.astype(np.float32) / PAPER_CODE, 0)
    full = np.clip(_TARGET / np.maximum(ink, 0.01), 1.0, _MOST_GAIN)
    sure = np.clip((ink - _LEAST_INK) / (_SURE_INK - _LEAST_INK), 0, 1)
    gain = 1 + amount * sure * (full - 1)
    gain = cv2.GaussianBlur(gain, (0, 0), max(1.0, _GAIN_MM * px_mm))
    gain = cv2.resize(gain, (relative.width, relative.height), interpolation=cv2.INTER_LINEAR)
    if not relative.is_gray:
        gain = cv2.merge([gain, gain, gain])
    distance = cv2.subtract(np.full_like(relative.pixels, PAPER_CODE), relative.pixels)
    # The grain of paper is not multiplied.
    beyond = cv2.subtract(distance, np.full_like(distance, _GRAIN_CODES))
    grown = cv2.multiply(beyond, gain, dtype=cv2.CV_8U)
    distance = as_pixels(cv2.add(cv2.min(distance, np.full_like(distance, _GRAIN_CODES)), grown))
    lighter = cv2.max(relative.pixels, np.full_like(relative.pixels, PAPER_CODE))
    return Raster(as_pixels(cv2.subtract(lighter, distance)), relative.ppi)
