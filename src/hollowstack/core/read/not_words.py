"""Words that are none: ruled lines, specks, edges and stamps that the engine took for letters."""

from collections.abc import Sequence
from statistics import median

from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.read.lines import leaving_out

_RULE = "|"
_SURE, _SINGLE, _DOUBTFUL = 80.0, 60.0, 40.0
"""Confidence from which a word is a word; from which a letter alone is one; below which even size and signs tell."""
_A_WORD = 4
"""Letters from which on a word of the engine's list is no chance."""
_LONG, _UPRIGHT = 12.0, 5.0
"""Heights of letters that a rule across is long at least; widths of a letter that one down is high."""
_THIN, _SPECK, _HUGE = 0.3, 0.35, 3.5
"""Heights of the page's letters: a rule, or a row of dots, is lower, a speck smaller both ways, and nothing among text is as
large."""
_FEW_WORDS = 8
"""With fewer words a page does not tell how large its letters are."""
_ALONE = 3.0
"""Heights of letters to the next word from which on a mark stands alone."""
_LETTERS = 0.5
"""Share of letters and figures below which a text is marks."""


def without_marks(reading: Reading) -> Reading:
    """A reading without what is no text; that is kept as ``left_out``.

    A mark is told by several signs together, never by the engine's doubt alone: real words may be doubtful.
    """
    tall = _letters_of(reading.words)
    if tall is None:
        return reading
    count = len(reading.words)
    left = leaving_out(reading, lambda line: [_is_mark(line, at, tall, count) for at in range(len(line.words))])
    blocks = [
        block_of([Line(words=[_without_rule(word) for word in line.words], baseline=line.baseline) for line in block.lines],
                 block.kind) if block.lines else block
        for block in left.blocks
    ]  # fmt: skip
    return left.model_copy(update={"blocks": blocks})


def _letters_of(words: Sequence[Word]) -> float | None:
    """How high words stand on a page: the sure ones, where there are enough words; None where nothing tells."""
    heights = [_height(word) for word in words if word.confidence >= _SURE or len(words) < _FEW_WORDS]
    return median(heights) if heights else None


def _is_mark(line: Line, at: int, tall: float, count: int) -> bool:
    word = line.words[at]
    if set(word.text) == {_RULE} and (_is_alone(line, at, tall) or at in (0, len(line.words) - 1)):
        return True  # however sure the engine is: the edge of a cell beside what stands in it
    letters = sum(char.isalnum() for char in word.text)
    if letters > 1 and _height(word) < _THIN * tall:
        return True  # a row of dots, read as words that there are
    if word.confidence >= _SURE or (letters >= _A_WORD and word.known):
        return False
    width, height = word.box[2] - word.box[0], _height(word)
    a_letter = max(1.0, width / len(word.text))
    # By its size: a rule across, a rule down, a speck, a stamp.
    across = min(a_letter, height) < _THIN * tall and (letters < 3 or max(width, height) > _LONG * tall)
    down = height > _UPRIGHT * a_letter and height > 2 * tall
    speck = max(width, height) < _SPECK * tall
    stamp = count >= _FEW_WORDS and height > _HUGE * tall and word.confidence < _DOUBTFUL
    if across or down or speck or stamp:
        return True
    # By what it is: signs rather than letters, or a letter that belongs to nothing.
    if letters < _LETTERS * len(word.text):
        return word.confidence < _DOUBTFUL or _is_alone(line, at, tall)
    return letters <= 1 and word.confidence < _SINGLE and _is_alone(line, at, tall)


def _without_rule(word: Word) -> Word:
    """A word beside a rule that the engine took for its first or last letter."""
    inside = word.text.strip(_RULE)
    if inside == word.text or sum(char.isalnum() for char in inside) < 2:
        return word
    return word.model_copy(update={"text": inside, "alternatives": tuple(dict.fromkeys((*word.alternatives, word.text)))})


def _is_alone(line: Line, at: int, tall: float) -> bool:
    """Whether no other word of the line is near."""
    box = line.words[at].box
    before = at > 0 and box[0] - line.words[at - 1].box[2] <= _ALONE * tall
    after = at + 1 < len(line.words) and line.words[at + 1].box[0] - box[2] <= _ALONE * tall
    return not before and not after


def _height(word: Word) -> int:
    return word.box[3] - word.box[1]
