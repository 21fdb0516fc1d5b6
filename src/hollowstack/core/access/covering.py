"""What is covered on a page is gone: its pixels, its words, and the same words in what is said of the document."""

import math
import re
from collections.abc import Iterable, Mapping, Sequence

from hollowstack.core.access.marks import Mark
from hollowstack.core.ocr.model import Block, Box, Reading, Word
from hollowstack.core.page.raster import Pixels

_GRAZED = 0.15
"""Share of a word's height up to which a cover over the next line may reach into its box: all of it can still be read."""
_LEAST_LETTERS = 4
"""A covered word that is taken out of titles by itself has as many, or a figure: shorter ones are in every title."""
GONE = "\u2026"
"""What stands for words that are covered."""


def without_pixels(pixels: Pixels, marks: Iterable[Mark]) -> Pixels:
    """The same image, black where it is covered, to whole pixels outwards."""
    height, width = pixels.shape[:2]
    made = pixels.copy()
    for mark in marks:
        if mark.kind == "cover":
            left, top, right, bottom = mark.on((width, height))
            made[int(top) : math.ceil(bottom), int(left) : math.ceil(right)] = 0
    return made


def without_words(reading: Reading, marks: Sequence[Mark]) -> tuple[Reading, list[list[str]]]:
    """The same reading without what is covered, and the words that are gone, those together that stood side by side."""
    boxes = [mark.on(reading.size_px) for mark in marks if mark.kind == "cover"]
    if not boxes:
        return reading, []
    blocks: list[Block] = []
    gone: list[list[str]] = []
    for block in reading.blocks:
        lines = []
        for line in block.lines:
            kept, run = [], []
            for word in line.words:
                if _hidden(word.box, boxes):
                    run.append(word.text)
                    continue
                gone, run = ([*gone, run] if run else gone), []
                kept.append(word)
            gone = [*gone, run] if run else gone
            if kept:
                lines.append(line.model_copy(update={"words": kept}))
        if lines or not block.lines:
            blocks.append(block.model_copy(update={"lines": lines}))
    left_out: list[Word] = [word for word in reading.left_out if not _hidden(word.box, boxes)]
    return reading.model_copy(update={"blocks": blocks, "left_out": left_out}), gone


def _hidden(word: Box, covers: Iterable[tuple[float, float, float, float]]) -> bool:
    """Whether any of a word lies under a cover: what is half covered can be guessed by its text."""
    left, top, right, bottom = word
    return any(
        left < cover[2] and cover[0] < right
        and min(bottom, cover[3]) - max(top, cover[1]) > _GRAZED * (bottom - top)
        for cover in covers
    )  # fmt: skip


class Covered:
    """All words that are covered in a document."""

    def __init__(self) -> None:
        self._runs: set[tuple[str, ...]] = set()

    def add(self, gone: Iterable[Sequence[str]]) -> None:
        """Some more of them, side by side."""
        for run in gone:
            words = tuple(filter(None, map(_bare, run)))
            if len(words) > 1:
                self._runs.add(words)
            self._runs.update((word,) for word in words if len(word) >= _LEAST_LETTERS or any(map(str.isdigit, word)))

    def taken_out(self, text: str) -> str:
        """A text in which covered words, and words side by side, are not any more."""
        for run in sorted(self._runs, key=len, reverse=True):
            between = r"[\W_]+"
            text = re.sub(rf"(?<!\w){between.join(map(re.escape, run))}(?!\w)", GONE, text, flags=re.IGNORECASE)
        return text

    def also_in(self, words: Mapping[str, str]) -> list[str]:
        """Covered words that are among those that can be read on a page: names and figures, no words of every day."""
        return sorted({words[run[0]] for run in self._runs if len(run) == 1 and run[0] in words})


def words_of(reading: Reading) -> dict[str, str]:
    """The words of a page by which covered ones are known again, in small letters and as they stand there.

    Those that begin with a capital or hold a figure.
    """
    texts = {word.text for word in reading.words}
    told = (text for text in texts if text[:1].isupper() or any(map(str.isdigit, text)))
    return {_bare(text): _stripped(text) for text in told if _bare(text)}


def _bare(text: str) -> str:
    """A word without the marks around it, in small letters."""
    return _stripped(text).casefold()


def _stripped(text: str) -> str:
    return re.sub(r"^[\W_]+|[\W_]+$", "", text)
