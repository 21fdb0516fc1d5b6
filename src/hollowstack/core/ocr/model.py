"""What was read on a page: blocks of lines of words, with their places and how far each is to be relied on."""

from collections.abc import Iterable, Sequence
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, model_validator

from hollowstack.core.page.geometry import Transform

Box = tuple[int, int, int, int]
"""Left, top, right, bottom in pixels of the clean page."""
BlockKind = Literal["text", "table", "picture", "not read"]
"""``not read``: left out by hand."""
Mark = Literal["", "corrected", "unreadable"]
"""What a hand has said of a word: nothing, what it is, or that nobody can tell."""

ILLEGIBLE = "[illegible]"
"""What stands in a text for a word that cannot be read (common practice of editors, no source)."""


class Word(BaseModel):
    """A word: ``confidence`` is the engine's own, 0 to 100; ``doubt`` the chance, 0 to 1, that it is not what is written."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    text: str
    box: Box
    confidence: float
    doubt: float = 0.0
    alternatives: tuple[str, ...] = ()
    """Other readings, the likeliest first."""
    margin: float = 1.0
    """By how much the engine preferred its least sure character to the next one, 0 to 1."""
    known: bool = False
    """Whether the engine's word list has it, or it is a number as numbers are written."""
    language: str = ""
    """By whose model it was read, where there were several."""
    mark: Mark = ""

    @property
    def shown(self) -> str:
        """What stands for it in a text."""
        return ILLEGIBLE if self.mark == "unreadable" else self.text


class Line(BaseModel):
    """Words from left to right; ``baseline`` is x1, y1, x2, y2."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    words: list[Word]
    baseline: tuple[float, float, float, float]

    @property
    def box(self) -> Box:
        """Around its words."""
        return around(word.box for word in self.words)

    @property
    def text(self) -> str:
        """Its words, a space between them."""
        return " ".join(word.shown for word in self.words)


class Block(BaseModel):
    """Lines that belong together; a table's lines are its rows. Pictures, and what is not to be read, have none."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: BlockKind = "text"
    box: Box
    lines: list[Line] = []


class Guess(BaseModel):
    """In what a page seems to be written: ISO 15924, the engine's code of the language, and how sure that is, 0 to 1."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    script: str
    language: str
    sure: float


class Reading(BaseModel):
    """The text of one clean page of ``size_px``, in reading order."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    language: str
    size_px: tuple[int, int]
    blocks: list[Block]
    left_out: list[Word] = []
    """What the engine took for words and is none: rules, specks, stamps."""
    unread: int = 0
    """About how many letters stand where no word was read."""
    guess: Guess | None = None
    """In what it seems to be written, whatever it was read in; None where that cannot be told."""
    as_captured: bool = False
    """Whether it was read of the image as it came, which the engine was surer of than of the clean page."""

    @model_validator(mode="before")
    @classmethod
    def _of_former_shape(cls, data: Any) -> Any:
        """Readings of documents bound before there were blocks hold lines that say whether one begins with them."""
        if not isinstance(data, dict) or "lines" not in data:
            return data
        given = dict(data)
        parts: list[list[Line]] = []
        for line in given.pop("lines"):
            fields = line.model_dump() if isinstance(line, Line) else dict(line)
            if fields.pop("starts_block", False) or not parts:
                parts.append([])
            parts[-1].append(Line.model_validate(fields))
        given["blocks"] = [block_of(lines) for lines in parts]
        return given

    @property
    def lines(self) -> list[Line]:
        """All lines in reading order."""
        return [line for block in self.blocks for line in block.lines]

    @property
    def words(self) -> list[Word]:
        """All words in reading order."""
        return [word for line in self.lines for word in line.words]

    @property
    def mean_confidence(self) -> float:
        """Over all words, 0 to 100; 0 where there are none."""
        words = self.words
        return round(sum(w.confidence for w in words) / len(words), 1) if words else 0.0

    @property
    def text(self) -> str:
        """Plain text: a line a line, an empty line between blocks."""
        return "\n\n".join("\n".join(line.text for line in block.lines) for block in self.blocks if block.lines)

    def moved(self, onto: Transform, size_px: tuple[int, int]) -> "Reading":
        """The same reading laid on another image of the page; words whose middle lies beyond that are left out."""
        blocks = []
        for block in self.blocks:
            lines = [line for one in block.lines if (line := _moved_line(one, onto, size_px)) is not None]
            box = moved_box(block.box, onto, size_px)
            if lines or (box is not None and not block.lines):
                blocks.append(block.model_copy(update={"lines": lines, "box": box or around(line.box for line in lines)}))
        left_out = [word for one in self.left_out if (word := _moved_word(one, onto, size_px)) is not None]
        return self.model_copy(update={"size_px": size_px, "blocks": blocks, "left_out": left_out})


def block_of(lines: Sequence[Line], kind: BlockKind = "text") -> Block:
    """A block around some lines, at least one."""
    return Block(kind=kind, box=around(line.box for line in lines), lines=list(lines))


def around(boxes: Iterable[Box]) -> Box:
    """The smallest box around others; nothing at the corner of the page where there are none."""
    found = list(boxes)
    if not found:
        return (0, 0, 0, 0)
    left, top, right, bottom = zip(*found, strict=True)
    return (min(left), min(top), max(right), max(bottom))


def covered(one: Box, other: Box) -> float:
    """How much of a box another one covers, 0 to 1."""
    wide = min(one[2], other[2]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[1], other[1])
    return max(0, wide) * max(0, high) / max(1, (one[2] - one[0]) * (one[3] - one[1]))


def moved_box(box: Box, onto: Transform, size_px: tuple[int, int]) -> Box | None:
    """A box laid on another image of so many pixels; None where its middle lies beyond that."""
    left, top, right, bottom = box
    corners = onto.apply([(left, top), (right, top), (right, bottom), (left, bottom)])
    (x0, y0), (x1, y1) = corners.min(axis=0), corners.max(axis=0)
    if not (0 <= (x0 + x1) / 2 <= size_px[0] and 0 <= (y0 + y1) / 2 <= size_px[1]):
        return None
    return (max(0, round(x0)), max(0, round(y0)), min(size_px[0], round(x1)), min(size_px[1], round(y1)))


def _moved_line(line: Line, onto: Transform, size_px: tuple[int, int]) -> Line | None:
    words = [moved for word in line.words if (moved := _moved_word(word, onto, size_px)) is not None]
    if not words:
        return None
    (x1, y1), (x2, y2) = onto.apply(np.array(line.baseline).reshape(2, 2)).tolist()
    return Line(words=words, baseline=(x1, y1, x2, y2))


def _moved_word(word: Word, onto: Transform, size_px: tuple[int, int]) -> Word | None:
    box = moved_box(word.box, onto, size_px)
    return None if box is None else word.model_copy(update={"box": box})
