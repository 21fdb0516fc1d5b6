"""What hands have put right in the text of a page: kept by place on the image as captured, laid over each new reading."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal, NamedTuple

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.ocr.model import Block, Box, Line, Mark, Reading, Word, around, block_of, covered
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.read.order import by_hand

Kind = Literal["word", "unreadable", "not text", "area", "order"]
"""A word is ``after``; nobody can read it; it is no text; nothing is read in an area; blocks are read in this order."""

_COVERED = 0.5
"""Share of a word that lies within a correction's place where that is meant."""
_SAME_LINE = 0.5
"""Share of a height by which the middles of two words of a line are apart at most."""
_NEAR = 0.12
"""On another image of the page the word is looked for within this share of the page's sides."""


class Correction(BaseModel):
    """One thing put right. ``place`` is in pixels of the image as captured, ``at`` its middle in shares of the page."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: Kind = "word"
    image: str
    """Names the image that the place is on."""
    place: Quad
    at: tuple[float, float]
    before: str = ""
    after: str = Field("", max_length=400)
    order: tuple[tuple[float, float], ...] = ()
    """Of an order alone: a place in each block, on the image as captured."""
    by: str = ""


class Laid(NamedTuple):
    """A reading with the corrections that found their place, which ones did not, and which word is by which of them."""

    reading: Reading
    lost: tuple[str, ...]
    keys: dict[Box, str]
    """By the place of a word, or of an area that is left out, on the clean page."""


def lay_over(reading: Reading, corrections: Mapping[str, Correction], onto: Transform, image: str) -> Laid:
    """Lay what was put right by hand over a reading.

    A place that holds words gives them its text; one that the engine found nothing in gets the word all the same, for
    somebody has read it there. A correction whose place is beyond the page, or amid one long word, has lost it.

    Args:
        reading: As the engine and the rules left it.
        corrections: By their keys, in the order in which they were made.
        onto: From the image as captured to the clean page.
        image: Names the image that was read.
    """
    lost: list[str] = []
    keys: dict[Box, str] = {}
    # Areas first, for what lies in them is no word; then the order of the blocks that were found.
    for key, one in sorted(corrections.items(), key=lambda pair: _RANK[pair[1].kind]):
        box = _place(reading, one, onto, image)
        if box is None:
            if one.kind != "not text":  # where nothing is read any more, nothing is to be left out
                lost.append(key)
        elif one.kind == "order":
            places = [(x, y) for x, y in onto.apply(one.order).tolist()]
            reading = reading.model_copy(update={"blocks": by_hand(reading.blocks, places)})
        elif one.kind == "area":
            reading = _without(reading, box)
            keys[box] = key
        elif any(block.kind == "not read" and covered(box, block.box) >= _COVERED for block in reading.blocks):
            continue  # the word went with the area that it lies in
        elif one.kind == "not text":
            reading = _left_out(reading, box)
        elif (placed := _placed(reading, one, box)) is None:
            lost.append(key)
        else:
            reading, where = placed
            keys[where] = key
    return Laid(reading, tuple(lost), keys)


def laid_again(reading: Reading, fixed: Mapping[str, Any]) -> Reading:
    """A reading with corrections that were put down with all it takes: {image, onto, corrections}."""
    corrections = {key: Correction.model_validate(one) for key, one in fixed["corrections"].items()}
    return lay_over(reading, corrections, Transform(np.array(fixed["onto"], np.float64)), fixed["image"]).reading


_RANK: dict[Kind, int] = {"area": 0, "order": 1, "word": 2, "unreadable": 2, "not text": 2}


def _place(reading: Reading, one: Correction, onto: Transform, image: str) -> Box | None:
    """Where a correction goes on the clean page; None where it has no place there any more."""
    if one.image != image:
        return None if one.kind in ("area", "order") else _found_again(reading, one)
    corners = onto.quad(one.place).array()
    (left, top), (right, bottom) = corners.min(axis=0).tolist(), corners.max(axis=0).tolist()
    width, height = reading.size_px
    if not (0 <= (left + right) / 2 <= width and 0 <= (top + bottom) / 2 <= height):
        return None
    return (max(0, round(left)), max(0, round(top)), min(width, round(right)), min(height, round(bottom)))


def _found_again(reading: Reading, one: Correction) -> Box | None:
    """On another image of the page: the word that reads as it did before, or as it was put right, nearest to its place."""
    width, height = reading.size_px
    best: tuple[float, Box] | None = None
    for word in reading.words:
        if word.text not in (one.before, one.after):
            continue
        x, y = (word.box[0] + word.box[2]) / 2 / width, (word.box[1] + word.box[3]) / 2 / height
        away = max(abs(x - one.at[0]), abs(y - one.at[1]))
        if away <= _NEAR and (best is None or away < best[0]):
            best = away, word.box
    return None if best is None else best[1]


def _placed(reading: Reading, one: Correction, box: Box) -> tuple[Reading, Box] | None:
    """A reading with a word put right, and where that stands; None where it has no place."""
    mark: Mark = "unreadable" if one.kind == "unreadable" else "corrected"
    meant = [word for word in reading.words if covered(word.box, box) >= _COVERED]
    if meant:
        made = _made(one, mark, meant)
        return _exchanged(reading, meant, made), made.box
    longer = next((word for word in reading.words if covered(box, word.box) >= _COVERED), None)
    if longer is not None:
        if one.kind == "unreadable" or not one.before or one.before not in longer.text:
            return None
        text = longer.text.replace(one.before, one.after, 1)
        made = longer.model_copy(update={"text": text, "mark": mark, "doubt": 0.0, "confidence": 100.0})
        return _exchanged(reading, [longer], made), made.box
    made = Word(text=one.after or one.before, box=box, confidence=100.0, known=True, mark=mark)
    return _inserted(reading, made), box


def _made(one: Correction, mark: Mark, meant: Sequence[Word]) -> Word:
    box = around(word.box for word in meant)
    read = " ".join(word.text for word in meant)
    text = one.after if mark == "corrected" else read
    options = tuple(option for option in (read, *meant[0].alternatives) if option != text) if len(meant) == 1 else (read,)
    return Word(
        text=text, box=box, confidence=100.0, alternatives=options, known=True, language=meant[0].language, mark=mark
    )


def _exchanged(reading: Reading, meant: Sequence[Word], made: Word) -> Reading:
    """One word in the place of the first of several."""

    def words(line: Line) -> list[Word]:
        return [made if word is meant[0] else word for word in line.words if word is meant[0] or not _among(word, meant)]

    return _with_lines(reading, words)


def _among(word: Word, some: Sequence[Word]) -> bool:
    return any(word is other for other in some)


def _inserted(reading: Reading, made: Word) -> Reading:
    """A word more, in the line at its height that is nearest; as a block of its own where there is none."""
    middle, height = (made.box[1] + made.box[3]) / 2, made.box[3] - made.box[1]
    beside = [
        (max(line.box[0] - made.box[2], made.box[0] - line.box[2], 0), at, index)
        for at, block in enumerate(reading.blocks)
        for index, line in enumerate(block.lines)
        if abs((line.box[1] + line.box[3]) / 2 - middle) <= _SAME_LINE * max(height, line.box[3] - line.box[1])
    ]
    near = min(beside, default=None)
    if near is None or near[0] > 4 * height:
        line = Line(words=[made], baseline=(made.box[0], made.box[3], made.box[2], made.box[3]))
        blocks = [*reading.blocks]
        blocks.insert(sum(block.box[1] <= made.box[1] for block in blocks), block_of([line]))
        return reading.model_copy(update={"blocks": blocks})
    _, at, index = near
    block = reading.blocks[at]
    line = block.lines[index]
    lines = [*block.lines]
    lines[index] = line.model_copy(update={"words": sorted([*line.words, made], key=lambda word: word.box[0])})
    blocks = [*reading.blocks]
    blocks[at] = block_of(lines, block.kind)
    return reading.model_copy(update={"blocks": blocks})


def _left_out(reading: Reading, box: Box) -> Reading:
    """Without the words at a place, which are no text."""
    gone = [word for word in reading.words if covered(word.box, box) >= _COVERED]
    kept = _with_lines(reading, lambda line: [word for word in line.words if not _among(word, gone)])
    return kept.model_copy(update={"left_out": [*reading.left_out, *gone]})


def _without(reading: Reading, box: Box) -> Reading:
    """Without what was read in an area, which is a block of its own that nothing is read in."""
    kept = _with_lines(reading, lambda line: [word for word in line.words if covered(word.box, box) < _COVERED])
    return kept.model_copy(update={"blocks": [*kept.blocks, Block(kind="not read", box=box)]})


def _with_lines(reading: Reading, words: Callable[[Line], list[Word]]) -> Reading:
    """A reading with other words in its lines; lines and blocks that lose all of theirs are left out."""
    blocks = []
    for block in reading.blocks:
        if not block.lines:
            blocks.append(block)
            continue
        changed = [(line, words(line)) for line in block.lines]
        if all(new == line.words for line, new in changed):
            blocks.append(block)
            continue
        lines = [line.model_copy(update={"words": new}) for line, new in changed if new]
        if lines:
            blocks.append(block_of(lines, block.kind))
    return reading.model_copy(update={"blocks": blocks})
