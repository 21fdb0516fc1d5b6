"""Words that are none: ruled lines, specks, edges and stamps that the engine took for letters."""

from collections.abc import Sequence
from statistics import median

from hollowstack.core.ocr.model import Line, Reading, Word, block_of

_RULE = "|"
_SURE = 80.0
"""Confidence from which a word is a word."""
_THIN, _SPECK, _HUGE = 0.3, 0.35, 3.5
"""Heights of the page's letters: a rule is lower, a speck smaller both ways, and nothing among text is as large."""
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
    words = reading.words
    tall = (
        median(_height(word) for word in words if word.confidence >= _SURE or len(words) < _FEW_WORDS) if _any(words) else 0
    )
    blocks, gone = [], list(reading.left_out)
    for block in reading.blocks:
        lines = []
        for line in block.lines:
            kept = [word for at, word in enumerate(line.words) if not (tall and _is_mark(word, line, at, tall, len(words)))]
            gone += [word for word in line.words if word not in kept]
            if kept:
                lines.append(Line(words=[_without_rule(word) for word in kept], baseline=line.baseline))
        if lines:
            blocks.append(block_of(lines, block.kind))
        elif not block.lines:
            blocks.append(block)
    return reading.model_copy(update={"blocks": blocks, "left_out": gone})


def _any(words: Sequence[Word]) -> bool:
    return len(words) > 0 and (len(words) < _FEW_WORDS or any(word.confidence >= _SURE for word in words))


def _is_mark(word: Word, line: Line, at: int, tall: float, count: int) -> bool:
    if set(word.text) == {_RULE} and _is_alone(line, at, tall):
        return True  # however sure the engine is
    if word.confidence >= _SURE:
        return False
    letters = sum(char.isalnum() for char in word.text)
    width, height = word.box[2] - word.box[0], _height(word)
    if letters >= 4 and word.known:
        return False
    thin = min(width / max(1, len(word.text)), height) < _THIN * tall and (letters < 3 or max(width, height) > 12 * tall)
    speck = max(width, height) < _SPECK * tall
    huge = count >= _FEW_WORDS and height > _HUGE * tall and word.confidence < _SURE / 2
    marks = letters < _LETTERS * len(word.text)
    single = letters <= 1 and _is_alone(line, at, tall)
    upright = height > 2.5 * max(1, width / len(word.text)) * 2 and height > 2 * tall
    return (
        thin
        or speck
        or huge
        or upright
        or (marks and (_is_alone(line, at, tall) or word.confidence < _SURE / 2))
        or (single and word.confidence < _SURE * 0.75)
    )


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
