"""What was read on a page: lines of words with their places and how sure the engine is of each."""

import numpy as np
from pydantic import BaseModel, ConfigDict

from hollowstack.core.page.geometry import Transform


class Word(BaseModel):
    """A word: ``box`` is left, top, right, bottom in pixels of the clean page; ``confidence`` 0 to 100."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    text: str
    box: tuple[int, int, int, int]
    confidence: float


class Line(BaseModel):
    """Words from left to right; ``baseline`` is x1, y1, x2, y2."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    words: list[Word]
    baseline: tuple[float, float, float, float]
    starts_block: bool = False


class Reading(BaseModel):
    """The text of one clean page of ``size_px``, in reading order."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    language: str
    size_px: tuple[int, int]
    lines: list[Line]
    as_captured: bool = False
    """Whether it was read of the image as it came, which the engine was surer of than of the clean page."""

    def moved(self, onto: Transform, size_px: tuple[int, int]) -> "Reading":
        """The same reading laid on another image of the page; words whose middle lies beyond that are left out."""
        lines = []
        for line in self.lines:
            words = [moved for word in line.words if (moved := _moved(word, onto, size_px)) is not None]
            if words:
                (x1, y1), (x2, y2) = onto.apply(np.array(line.baseline).reshape(2, 2)).tolist()
                lines.append(Line(words=words, baseline=(x1, y1, x2, y2), starts_block=line.starts_block))
        return self.model_copy(update={"size_px": size_px, "lines": lines})

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
        parts = []
        for number, line in enumerate(self.lines):
            parts.append("\n" if line.starts_block and number else "")
            parts.append(" ".join(word.text for word in line.words) + "\n")
        return "".join(parts).strip()


def _moved(word: Word, onto: Transform, size_px: tuple[int, int]) -> Word | None:
    left, top, right, bottom = word.box
    corners = onto.apply([(left, top), (right, top), (right, bottom), (left, bottom)])
    (x0, y0), (x1, y1) = corners.min(axis=0), corners.max(axis=0)
    if not (0 <= (x0 + x1) / 2 <= size_px[0] and 0 <= (y0 + y1) / 2 <= size_px[1]):
        return None
    box = (max(0, round(x0)), max(0, round(y0)), min(size_px[0], round(x1)), min(size_px[1], round(y1)))
    return word.model_copy(update={"box": box})
