"""Words that an engine reads in pictures: letters stand on plain paper, and what was taken for them does not."""

from statistics import median

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.ocr.model import Box, Reading, Word
from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.core.read.lines import leaving_out

_OUT, _IN = 0.6, 0.15
"""Heights of a word between which lies the ring around it that is looked at."""
_PAPER = 0.85
"""Share of the ring's lightest tones (its 90th percentile) from which it is paper."""
_CLEAR, _NEARLY = 0.7, 0.93
"""Share of the ring that is paper around words: of drawn text in any layout 0.75 and more; of pictures 0.8 and less."""
_SURE, _VERY_SURE = 80.0, 88.0
"""Confidence of a word that is one wherever it stands: a title may be printed over a picture."""
_LEAST = 3
"""Fewer such words are doubts and no picture."""
_NEAR, _BESIDE, _AMID = 2.5, 4.0, 0.4
"""Heights of words up and down, and to the sides, within which words are near; share of those near that lie in the picture,
too: smeared lines of text hold some such words, a picture hardly any other."""


def without_pictures(reading: Reading, ground: Pixels) -> Reading:
    """A reading without what was read in pictures; that is kept as ``left_out``.

    Args:
        reading: What was read.
        ground: The page in gray that its words lie on.

    Source:
        The figures are ours, set on drawn plates and pages of every layout.
    """
    found = {id(word): clear_around(ground, word.box) for word in reading.words}
    suspects = [word for word in reading.words if word.confidence < _SURE and found[id(word)] < _CLEAR]
    noise = _among_their_like(suspects, reading.words)
    if len(noise) < _LEAST:
        return reading
    there = _around(noise, ground)
    known = {id(word) for word in noise}

    def is_noise(word: Word) -> bool:
        clear = found[id(word)]
        if id(word) in known:
            return True
        left, top, right, bottom = word.box
        x, y = min((left + right) // 2, there.shape[1] - 1), min((top + bottom) // 2, there.shape[0] - 1)
        return bool(there[y, x]) and word.confidence < _VERY_SURE and clear < _NEARLY

    return leaving_out(reading, lambda line: [is_noise(word) for word in line.words])


def _among_their_like(suspects: list[Word], words: list[Word]) -> list[Word]:
    """Those of the suspects that have others near them rather than words."""
    if len(suspects) < _LEAST:
        return []
    tall = median(word.box[3] - word.box[1] for word in suspects)
    boxes, theirs = (np.array([word.box for word in some], np.float64) for some in (words, suspects))

    def near(of: npt.NDArray[np.float64]) -> npt.NDArray[np.int64]:
        """How many of some boxes are near each suspect, itself left aside."""
        aside = np.maximum(of[None, :, 0] - theirs[:, None, 2], theirs[:, None, 0] - of[None, :, 2])
        middles = (of[:, 1] + of[:, 3]) / 2, (theirs[:, 1] + theirs[:, 3]) / 2
        away = np.abs(middles[0][None, :] - middles[1][:, None])
        count: npt.NDArray[np.int64] = np.sum((aside <= _BESIDE * tall) & (away <= _NEAR * tall), axis=1) - 1
        return count

    like, all_near = near(theirs), near(boxes)
    enough = (like >= _AMID * all_near) | (all_near - like < _LEAST)
    return [word for word, one in zip(suspects, enough, strict=True) if one]


def clear_around(ground: Pixels, box: Box) -> float:
    """How much of the ring around a word is as light as paper, 0 to 1."""
    left, top, right, bottom = box
    out, inner = (max(least, round(share * (bottom - top))) for share, least in ((_OUT, 2), (_IN, 1)))
    y0, x0 = max(0, top - out), max(0, left - out)
    part = ground[y0 : bottom + out, x0 : right + out]
    ring = np.ones(part.shape, bool)
    ring[max(0, top - inner - y0) : bottom + inner - y0, max(0, left - inner - x0) : right + inner - x0] = False
    values = part[ring]
    if not values.size:
        return 1.0
    return float(np.mean(values >= _PAPER * np.percentile(values, 90)))


def _around(words: list[Word], ground: Pixels) -> Pixels:
    """1 over words and between those that lie near each other."""
    tall = round(median(word.box[3] - word.box[1] for word in words))
    mask = np.zeros(ground.shape[:2], np.uint8)
    for left, top, right, bottom in (word.box for word in words):
        mask[max(0, top) : bottom, max(0, left) : right] = 1
    size = 2 * tall + 1
    return as_pixels(cv2.dilate(mask, np.ones((size, size), np.uint8)))
