"""The flavours of PDF/A that documents are written in, and what each may hold."""

from dataclasses import dataclass
from typing import Final, Literal

Flavour = Literal["PDF/A-2u", "PDF/A-2b", "PDF/A-2a", "PDF/A-1b", "PDF/A-3u", "PDF/A-4"]


@dataclass(frozen=True, slots=True)
class Rules:
    """What tells one flavour from the others."""

    part: int
    """Of ISO 19005."""
    level: Literal["A", "B", "U", ""]
    """Of conformance: accessible, basic, with text as Unicode; part 4 has none."""
    pdf: str
    """Version of PDF that the file says it is."""
    purpose: str
    """In a line: for whom it is."""
    year: str = ""
    """Of the edition, where the file says it (part 4)."""

    @property
    def packed_objects(self) -> bool:
        """Whether objects may lie in compressed streams (not in PDF 1.4, which part 1 builds on)."""
        return self.part > 1

    @property
    def long_pages(self) -> bool:
        """Whether a page may have units of its own (not in PDF 1.4)."""
        return self.part > 1

    @property
    def jpeg2000(self) -> bool:
        """Whether images may be JPEG 2000 (not in PDF 1.4)."""
        return self.part > 1

    @property
    def tagged(self) -> bool:
        """Whether the file tells its structure."""
        return self.level == "A"

    @property
    def attached(self) -> bool:
        """Whether files of any kind may be attached."""
        return self.part == 3

    @property
    def described_twice(self) -> bool:
        """Whether the document information dictionary repeats the metadata (deprecated in PDF 2.0; ISO 19005-4, 6.1.3)."""
        return self.part < 4


FLAVOURS: Final[dict[Flavour, Rules]] = {
    "PDF/A-2u": Rules(2, "U", "1.7", "The usual one: small, and every word in it can be found and copied."),
    "PDF/A-2b": Rules(2, "B", "1.7", "As 2u, for archives that ask for level b by name."),
    "PDF/A-2a": Rules(2, "A", "1.7", "Tells headings, paragraphs, tables and pictures too, for readers who do not see."),
    "PDF/A-1b": Rules(1, "B", "1.4", "For archives that take nothing newer; larger, and no JPEG 2000."),
    "PDF/A-3u": Rules(3, "U", "1.7", "Carries its text with places, digests of the masters and the treatment as files."),
    "PDF/A-4": Rules(4, "", "2.0", "The latest part, on PDF 2.0; few archives ask for it yet.", "2020"),
}
DEFAULT: Final[Flavour] = "PDF/A-2u"
