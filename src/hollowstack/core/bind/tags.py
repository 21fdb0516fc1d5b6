"""What stands where on a page of a document that tells its structure: marked content with numbers."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from hollowstack.core.bind.drawing import number
from hollowstack.core.ocr.model import Block, Line, Reading


@dataclass(frozen=True, slots=True)
class Tagged:
    """Marked content of a page: its number there, and what it shows; ``line`` is None of a picture.

    Of a table's row, each cell is marked by itself.
    """

    mcid: int
    block: Block
    line: Line | None


@dataclass(slots=True)
class PageTags:
    """Numbers what is shown on a page, in reading order."""

    reading: Reading | None
    found: list[Tagged] = field(default_factory=list)

    def seen(self, size_pt: tuple[float, float], drawing: Sequence[str]) -> Iterator[str]:
        """The page as it is seen, which says nothing that its words do not; then its pictures, each by itself.

        A picture is drawn once more through a window of its size: nothing looks different, and it can be spoken of.

        Source:
            ISO 32000-1:2008, 14.8.2.2 (artifacts) and 14.6 (marked content).
        """
        yield from ("/Artifact BMC", *drawing, "EMC")
        if self.reading is None:
            return
        across, down = size_pt[0] / self.reading.size_px[0], size_pt[1] / self.reading.size_px[1]
        for block in self.reading.blocks:
            if block.kind == "picture":
                left, top, right, bottom = block.box
                window = (left * across, size_pt[1] - bottom * down, (right - left) * across, (bottom - top) * down)
                yield self._begun("Figure", block, None)
                yield from ("q " + " ".join(number(one) for one in window) + " re W n", *drawing, "Q", "EMC")

    def said(self, block: Block, line: Line, pieces: Sequence[str]) -> Iterator[str]:
        """A line of words, or the words of a cell."""
        if pieces:
            yield from (self._begun("Span", block, line), *pieces, "EMC")

    def _begun(self, tag: str, block: Block, line: Line | None) -> str:
        self.found.append(Tagged(len(self.found), block, line))
        return f"/{tag} <</MCID {len(self.found) - 1}>> BDC"
