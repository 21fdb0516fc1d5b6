"""What was read on a page: lines of words with their places and how sure the engine is of each."""

from pydantic import BaseModel, ConfigDict


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
