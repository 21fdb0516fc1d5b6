"""Bookmarks: the contents of a document as viewers show them beside its pages."""

from collections.abc import Sequence
from dataclasses import dataclass

from pikepdf import OutlineItem, Pdf

from hollowstack.core.bind.plain import plain
from hollowstack.core.ocr.model import Reading
from hollowstack.core.read.headings import heading_level, usual_height

_MOST_TITLE = 120


@dataclass(frozen=True, slots=True)
class Bookmark:
    """A place in a document; ``level`` 0 is a part of it, deeper ones lie under the one before."""

    title: str
    page: int
    """From 0."""
    level: int = 0


def write_bookmarks(pdf: Pdf, bookmarks: Sequence[Bookmark]) -> None:
    """Write them in the order of their pages; those of pages that are not there are left out.

    Source:
        ISO 32000-1:2008, 12.3.3 (outlines) and 12.3.2.2 (destinations: the page, whole).
    """
    kept = sorted((one for one in bookmarks if 0 <= one.page < len(pdf.pages)), key=lambda one: one.page)
    with pdf.open_outline() as outline:
        above: list[OutlineItem] = []
        for one in kept:
            item = OutlineItem(plain(one.title) or str(one.page + 1), one.page, "Fit")
            depth = min(one.level, len(above))
            (above[depth - 1].children if depth else outline.root).append(item)
            above[depth:] = [item]


def heading_bookmarks(reading: Reading, page: int, level: int = 0) -> list[Bookmark]:
    """A bookmark for each heading on a page; ``level`` is that of headings of the first rank."""
    usual = usual_height(reading)
    found = []
    for block in reading.blocks:
        if rank := heading_level(block, usual):
            title = " ".join(line.text for line in block.lines)
            found.append(Bookmark(title[:_MOST_TITLE], page, level + rank - 1))
    return found
