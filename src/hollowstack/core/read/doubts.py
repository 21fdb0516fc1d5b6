"""How far words are to be relied on: the chance that each is misread, and how many errors that makes on a page.

The engine's own confidence is no such chance: among words of confidence 90 one in a hundred may be wrong, or one in five, by
what kind of word it is and how the page was captured. The weights are of a logistic regression over 270 drawn pages of ten
layouts and twelve kinds of wear, as ``scripts/calibrate_reading.py`` makes one; accuracy is measured on other seeds.
"""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from hollowstack.core.ocr.model import Line, Reading, Word, covered

DOUBTFUL = 0.25
"""Chance of being wrong from which on somebody should see the picture of a word."""


def with_doubts(reading: Reading) -> Reading:
    """A reading whose words carry the chance that each is misread.

    Source:
        Logistic regression, D. R. Cox 1958; the features are our own.
    """
    words = reading.words
    if not words:
        return reading
    judged = iter(_chances(features(words)).tolist())
    blocks = []
    for block in reading.blocks:
        lines = []
        for line in block.lines:
            told = [word.model_copy(update={"doubt": round(next(judged), 3)}) for word in line.words]
            lines.append(line.model_copy(update={"words": told}))
        blocks.append(block.model_copy(update={"lines": lines}))
    return reading.model_copy(update={"blocks": blocks})


def with_second_look(reading: Reading, other: Reading) -> Reading:
    """A reading whose words have what another reading of the same page holds in their place as their first alternative."""
    there = other.words

    def looked_up(word: Word) -> Word:
        second = next((one.text for one in there if min(covered(word.box, one.box), covered(one.box, word.box)) > 0.5), None)
        if second is None or second == word.text:
            return word
        rest = [text for text in word.alternatives if text != second]
        return word.model_copy(update={"alternatives": (second, *rest)[:5]})

    def line(one: Line) -> Line:
        return one.model_copy(update={"words": [looked_up(word) for word in one.words]})

    blocks = [block.model_copy(update={"lines": [line(one) for one in block.lines]}) for block in reading.blocks]
    return reading.model_copy(update={"blocks": blocks})


class Expected(NamedTuple):
    """How many of a text's ``characters`` are expected to be wrong, and the standard deviation of that."""

    characters: int
    errors: float
    spread: float

    @property
    def rate(self) -> float:
        """Errors a character, 0 to 1."""
        return min(1.0, self.errors / self.characters) if self.characters else 0.0


def expected_errors(reading: Reading) -> Expected:
    """Character errors to be expected in a text as it stands: misread ones, and letters that were not read at all.

    Words put right by hand count as right.
    """
    characters, errors, variance = 0, 0.0, 0.0
    noise = reading.mean_confidence < _NOISE
    for word in reading.words:
        length = len(word.text) + 1
        characters += length
        if word.mark:
            continue
        share = _NOISE_SHARE if noise else _LEAST_SHARE + _MORE_SHARE * word.doubt
        wrong = max(1.0, share * length)
        errors += word.doubt * wrong
        variance += word.doubt * (1 - word.doubt) * wrong * wrong
    # What holds for all words of a page alike, a type face say, is no matter of chance from word to word.
    missing = round(_UNSEEN * reading.unread)
    common = _COMMON * (errors + missing)
    spread = math.sqrt(variance + common**2 + _LEAST_SPREAD**2)
    return Expected(characters + missing, round(errors + missing, 2), round(spread, 2))


_LEAST_SHARE, _MORE_SHARE = 0.2, 0.25
"""Share of a misread word's characters that are wrong, its gap among them: the more, the more doubtful it is."""
_NOISE, _NOISE_SHARE = 55.0, 0.87
"""Mean confidence of a page below which its words are noise, and how much of each is wrong then."""
_UNSEEN = 2.0
"""Letters that were not read for each that is seen to stand unread: of pale and blurred rows only some are seen (set, as the
shares above, on drawn pages of every wear)."""
_COMMON = 0.6
"""Share of the errors of a page by which all of them together may be fewer or more."""
_LEAST_SPREAD = 1.5
"""Characters: no reading is as sure as its figures."""


def features(words: Sequence[Word]) -> npt.NDArray[np.float64]:
    """What tells of each word of a page whether it is right: one row a word, each value from 0 to about 1.

    By the engine's confidence, by how near it came to another character, by its list of words, by what kind of text the word
    is, by the page that it is on, and by how unlike the other words of the page it is set.
    """
    sure = np.array([word.confidence / 100 for word in words])
    near = np.array([1 - word.margin for word in words])
    strange = np.array([float(not word.known) for word in words])
    length = np.array([len(word.text) for word in words], np.float64)
    letters = np.array([sum(char.isalnum() for char in word.text) for word in words])
    figures = np.array([any(char.isdigit() for char in word.text) for word in words], np.float64)
    capitals = np.array([any(a.islower() and b.isupper() for a, b in pairwise(word.text)) for word in words], np.float64)
    signs = np.array([any(not char.isalnum() and char not in _USUAL for char in word.text) for word in words], np.float64)
    wide = np.array([max(1, word.box[2] - word.box[0]) / len(word.text) for word in words])
    high = np.array([max(1, word.box[3] - word.box[1]) for word in words], np.float64)
    page = np.broadcast_to(
        [1 - sure.mean(), strange.mean(), (sure < 0.8).mean(), (near > 0.7).mean()], (len(words), 4)
    )  # fmt: skip
    own = [
        1 - sure, np.maximum(0, 1 - sure / 0.7), np.log(np.clip(1 - sure, 1e-3, 1)) / 7,
        near, near**2, strange, strange * near, length <= 2, length == 1, letters < 0.6 * length, figures, capitals, signs,
    ]  # fmt: skip
    unlike = [np.minimum(np.abs(np.log(size / np.median(size))), 1.5) for size in (wide, high)]
    return np.column_stack([*own, page, *unlike]).astype(np.float64)


_USUAL = "£.,:;-'’()&"
"""Signs that stand in words anyway."""
_WEIGHTS = np.array([
    -3.34, 1.60, -0.26, 5.30, 3.10, -0.99, 0.97, 1.88, -0.25, 2.50,
    0.27, 1.03, 0.57, 4.10, 1.20, 3.98, 0.87, -0.45, 2.94, 0.23,
])  # fmt: skip
"""The first stands alone, the others for the features in turn."""


def _chances(rows: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    return np.asarray(1 / (1 + np.exp(-(_WEIGHTS[0] + rows @ _WEIGHTS[1:]))), np.float64)
