"""How far words are to be relied on: the chance that each is misread, and how many errors that makes on a page.

The engine's own confidence is no such chance: among words of confidence 90 one in a hundred may be wrong, or one in five, by
what kind of word it is and how the page was captured. The weights are of a logistic regression over drawn pages of eight
layouts and eight kinds of wear (``scripts/calibrate_reading.py`` finds them anew); accuracy is measured on other seeds.
"""

import math
from typing import NamedTuple

from hollowstack.core.ocr.model import Line, Reading, Word

DOUBTFUL = 0.25
"""Chance of being wrong from which on somebody should see the picture of a word."""


def with_doubts(reading: Reading) -> Reading:
    """A reading whose words carry the chance that each is misread.

    Source:
        Logistic regression, D. R. Cox 1958; the features are our own.
    """
    page = reading.mean_confidence
    blocks = [
        block.model_copy(update={"lines": [_judged(line, page) for line in block.lines]}) if block.lines else block
        for block in reading.blocks
    ]
    return reading.model_copy(update={"blocks": blocks})


def with_second_look(reading: Reading, other: Reading) -> Reading:
    """A reading whose words have what another reading of the same page holds in their place as their first alternative."""
    there = other.words

    def looked_up(word: Word) -> Word:
        second = next((one.text for one in there if _same_place(word, one)), None)
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
    """Character errors to be expected in a text as it stands, words put right by hand counting as right."""
    characters, errors, variance = 0, 0.0, 0.0
    for word in reading.words:
        length = len(word.text) + 1
        characters += length
        if word.mark:
            continue
        wrong = min(length, 1 + _A_CHARACTER * length)
        errors += word.doubt * wrong
        variance += word.doubt * (1 - word.doubt) * wrong * wrong
    # What holds for all words of a page alike, a type face say, is no matter of chance from word to word.
    return Expected(characters, round(errors, 2), round(math.sqrt(variance + (_COMMON * errors) ** 2), 2))


_A_CHARACTER = 0.25
_COMMON = 0.3


def _judged(line: Line, page: float) -> Line:
    return line.model_copy(update={"words": [word.model_copy(update={"doubt": _doubt(word, page)}) for word in line.words]})


def features(word: Word, page: float) -> list[float]:
    """What tells of a word, and of the page it is on, whether it is right: each from 0 to about 1."""
    letters = sum(char.isalpha() for char in word.text)
    figures = sum(char.isdigit() for char in word.text)
    return [
        1 - word.confidence / 100,
        max(0.0, 1 - word.confidence / 70),
        1 - word.margin,
        float(not word.known),
        float(len(word.text) <= 2),
        float(letters + figures < 0.6 * len(word.text)),
        float(figures > 0),
        1 - page / 100,
    ]


_WEIGHTS = (-4.0, 3.0, 2.0, 1.5, 1.0, 0.3, 0.5, 0.0, 3.0)
"""The first stands alone, the others for the features in turn."""


def _doubt(word: Word, page: float) -> float:
    first, *weights = _WEIGHTS
    total = first + sum(weight * value for weight, value in zip(weights, features(word, page), strict=True))
    return round(1 / (1 + math.exp(-total)), 3)


def _same_place(one: Word, other: Word) -> bool:
    """Whether each of two boxes covers more than half of the other."""
    wide = min(one.box[2], other.box[2]) - max(one.box[0], other.box[0])
    high = min(one.box[3], other.box[3]) - max(one.box[1], other.box[1])
    if wide <= 0 or high <= 0:
        return False
    most = max((box[2] - box[0]) * (box[3] - box[1]) for box in (one.box, other.box))
    return 2 * wide * high > most
