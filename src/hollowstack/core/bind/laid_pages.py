"""A page with its words, first laid down on the disk, then hung into the document."""

from dataclasses import dataclass

import imagecodecs
import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf

from hollowstack.core.bind.drawing import Painter
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.font import TextFont
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.spool import Spool
from hollowstack.core.bind.tags import PageTags
from hollowstack.core.bind.text_layer import page_content
from hollowstack.core.ocr.model import Reading

_POINTS_PER_INCH = 72
_EFFORT = 10
"""Of packing what is written on a page, 0 to 12: from 10 on all ways are tried, which takes a tenth less in 10 ms a page."""
MOST_POINTS = 14_400
"""A page's longest side in default units (ISO 32000-1, annex C; PDF/A-2, 6.1.13)."""


@dataclass(frozen=True, slots=True)
class LaidPage:
    """What is on the disk of a page: ``box`` is its size in units of ``unit`` points, the others are numbers of objects."""

    box: tuple[float, float]
    unit: float
    objects: dict[str, int]
    contents: int


def points(size_px: tuple[int, int], ppi: tuple[float, float]) -> tuple[float, float]:
    """Width and height of a page in points of PDF, from its pixels and its resolution."""
    return size_px[0] / ppi[0] * _POINTS_PER_INCH, size_px[1] / ppi[1] * _POINTS_PER_INCH


class PageLayer:
    """Lays pages down, with a font for the words of all of them."""

    def __init__(self, spool: Spool) -> None:
        self._spool, self._painter, self._font = spool, Painter(spool), TextFont()

    def lay(
        self,
        image: EncodedImage | Layered,
        size_pt: tuple[float, float],
        reading: Reading | None,
        tags: PageTags | None = None,
    ) -> LaidPage:
        """One more page.

        Args:
            image: What is seen.
            size_pt: Of the page in points; one too long for plain points is given larger units (UserUnit).
            reading: Its words, in pixels of the whole page.
            tags: Takes note of what stands where, for a document that tells its structure.
        """
        unit = max(1.0, max(size_pt) / MOST_POINTS)
        box = (round(size_pt[0] / unit, 4), round(size_pt[1] / unit, 4))
        drawn = self._painter.draw(image, box)
        content = page_content(box, drawn.instructions, reading, self._font, tags)
        packed = bytes(imagecodecs.deflate_encode(content, _EFFORT))
        return LaidPage(box, unit, drawn.objects, self._spool.put("/Filter /FlateDecode", packed))

    def hang(self, pdf: Pdf, pages: list[LaidPage]) -> None:
        """Make pages of what was laid down, in order."""
        font = pdf.make_indirect(Dictionary())
        self._font.build(pdf, font)
        for laid in pages:
            pdf.pages.append(pikepdf.Page(_page(pdf, laid, font)))


def _page(pdf: Pdf, laid: LaidPage, font: pikepdf.Object) -> pikepdf.Object:
    seen = Dictionary()
    for name, number in laid.objects.items():
        seen[f"/{name}"] = pdf.get_object((number, 0))
    entry = pdf.make_indirect(
        Dictionary(
            Type=Name.Page, MediaBox=Array([0, 0, *laid.box]),
            Resources=Dictionary(XObject=seen, Font=Dictionary(F=font)), Contents=pdf.get_object((laid.contents, 0)),
        )
    )  # fmt: skip
    if laid.unit > 1:
        entry.UserUnit = round(laid.unit, 6)
    return entry
