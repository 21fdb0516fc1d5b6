"""The structure of a document: its parts, headings, paragraphs, tables and pictures, as a tree over marked content."""

from collections.abc import Iterable, Sequence
from itertools import groupby
from typing import Final

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, String

from hollowstack.core.bind.plain import plain
from hollowstack.core.bind.tags import PageTags, Tagged
from hollowstack.core.ocr.model import Block, Reading
from hollowstack.core.read.headings import heading_level, usual_height
from hollowstack.core.read.languages import language_tag

_NO_CAPTION: Final = "Picture without a caption"
_NEAR = 0.06
"""Share of a page's height below or above a picture within which its caption begins."""
_MOST_CAPTION_LINES = 4


class Structure:
    """Grows page by page; pages of one part follow each other."""

    def __init__(self, pdf: Pdf) -> None:
        self._pdf = pdf
        self._root = pdf.make_indirect(Dictionary(Type=Name.StructTreeRoot))
        self._document = self._element(self._root, "Document")
        self._root.K = self._document
        self._part = self._document
        self._parents: list[object] = []
        self._pages = 0

    def begin_part(self, title: str) -> None:
        """The pages to come belong to another part of the document."""
        self._part = self._element(self._document, "Part")
        self._part.T = String(plain(title))
        self._document.K.append(self._part)

    def add_page(self, page: pikepdf.Object, tags: PageTags, alternatives: Sequence[str] = ()) -> None:
        """Hang a page's marked content into the tree.

        Args:
            page: Its page object.
            tags: What was marked on it.
            alternatives: What its pictures show, in words, in order; where they end, captions near by are taken.
        """
        under = [self._document] * len(tags.found)
        usual = usual_height(tags.reading) if tags.reading else 0.0
        told = list(alternatives)
        # Text runs in the order of its reading; pictures were drawn before it and stand where their blocks do.
        order = {id(block): at for at, block in enumerate(tags.reading.blocks)} if tags.reading else {}
        found = sorted(tags.found, key=lambda one: (order[id(one.block)], one.mcid))
        for _, marked in groupby(found, key=lambda one: id(one.block)):
            group = list(marked)
            block = group[0].block
            if block.kind == "picture":
                alternative = told.pop(0) if told else caption_of(block, tags.reading)
                holders = [self._picture(page, tags, block, alternative)]
            elif block.kind == "table":
                holders = self._table(page, group)
            else:
                level = heading_level(block, usual)
                holders = [self._under(self._part, f"H{level}" if level else "P", page)] * len(group)
            for one, holder in zip(group, holders, strict=True):
                holder.K.append(one.mcid)
                under[one.mcid] = holder
        if tags.reading and (language := language_tag(tags.reading.language)) != "und":
            for holder in {id(one): one for one in under if one is not self._document}.values():
                holder.Lang = String(language)
        if under:
            page.StructParents = self._pages
            self._parents += [self._pages, self._pdf.make_indirect(Array(under))]
            self._pages += 1

    def finish(self) -> None:
        """Write the tree into the document.

        Source:
            ISO 32000-1:2008, 14.7 and 14.8; ISO 19005-2:2011, 6.7.
        """
        self._root.ParentTree = self._pdf.make_indirect(Dictionary(Nums=Array(self._parents)))
        self._root.ParentTreeNextKey = self._pages
        self._pdf.Root.StructTreeRoot = self._root
        self._pdf.Root.MarkInfo = Dictionary(Marked=True)

    def _table(self, page: pikepdf.Object, cells: Iterable[Tagged]) -> list[pikepdf.Object]:
        """A cell for each marked content, in rows as they stand on the page."""
        table = self._under(self._part, "Table", page)
        holders, row, last = [], None, None
        for cell in cells:
            assert cell.line is not None
            at = cell.line.baseline
            if row is None or at != last:
                row, last = self._under(table, "TR", page), at
            holders.append(self._under(row, "TD", page))
        return holders

    def _picture(self, page: pikepdf.Object, tags: PageTags, block: Block, alternative: str) -> pikepdf.Object:
        figure = self._under(self._part, "Figure", page)
        figure.Alt = String(plain(alternative) or _NO_CAPTION)
        assert tags.reading is not None
        width, height = float(page.MediaBox[2]), float(page.MediaBox[3])
        across, down = width / tags.reading.size_px[0], height / tags.reading.size_px[1]
        left, top, right, bottom = block.box
        box = (left * across, height - bottom * down, right * across, height - top * down)
        figure.A = Dictionary(O=Name.Layout, Placement=Name.Block, BBox=Array(round(side, 2) for side in box))
        return figure

    def _under(self, parent: pikepdf.Object, kind: str, page: pikepdf.Object) -> pikepdf.Object:
        made = self._element(parent, kind)
        made.Pg = page
        parent.K.append(made)
        return made

    def _element(self, parent: pikepdf.Object, kind: str) -> pikepdf.Object:
        return self._pdf.make_indirect(Dictionary(Type=Name.StructElem, S=Name("/" + kind), P=parent, K=Array()))


def caption_of(picture: Block, reading: Reading | None) -> str:
    """What stands right below a picture, or else right above it, in few lines; empty where nothing does.

    Source:
        Captions stand below pictures as a rule: common practice, no source.
    """
    if reading is None:
        return ""
    near = _NEAR * reading.size_px[1]
    texts = [
        block
        for block in reading.blocks
        if block.kind == "text" and 0 < len(block.lines) <= _MOST_CAPTION_LINES
        and min(block.box[2], picture.box[2]) > max(block.box[0], picture.box[0])
    ]  # fmt: skip
    below = [(block.box[1] - picture.box[3], block) for block in texts if -near / 4 <= block.box[1] - picture.box[3] <= near]
    above = [(picture.box[1] - block.box[3], block) for block in texts if -near / 4 <= picture.box[1] - block.box[3] <= near]
    for found in (below, above):
        if found:
            _, block = min(found, key=lambda one: one[0])
            return " ".join(line.text for line in block.lines)
    return ""
