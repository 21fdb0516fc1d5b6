"""Clean pages and their readings to one archival document."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf

from hollowstack.core.bind.attachments import Attachment, attach
from hollowstack.core.bind.bookmarks import Bookmark, heading_bookmarks, write_bookmarks
from hollowstack.core.bind.conformance import Conformance, check_conformance
from hollowstack.core.bind.description import Description, Provenance
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.flavours import DEFAULT, FLAVOURS, Flavour
from hollowstack.core.bind.labels import label_tree
from hollowstack.core.bind.laid_pages import MOST_POINTS, LaidPage, PageLayer, points
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.looking import Looked
from hollowstack.core.bind.metadata import describe
from hollowstack.core.bind.spool import Spool
from hollowstack.core.bind.structure import Structure
from hollowstack.core.bind.tags import PageTags
from hollowstack.core.bind.without_jpeg2000 import without_jpeg2000
from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.durable import settle
from hollowstack.core.page.errors import BindError

_POINTS_PER_INCH = 72
_LEAST_POINTS = 3


@dataclass(frozen=True, slots=True)
class BoundPage:
    """One page of a document; ``label`` is what viewers show as its number."""

    image: EncodedImage | Layered
    ppi: tuple[float, float]
    reading: Reading | None
    label: str = ""
    alternatives: tuple[str, ...] = ()
    """What its pictures show, in words, in order; captions near by where none is told."""


@dataclass(frozen=True, slots=True)
class Binding:
    """How a document is made of its pages."""

    about: Description
    flavour: Flavour = DEFAULT
    bookmarks: tuple[Bookmark, ...] = ()
    """Its parts."""
    mark_headings: bool = False
    """Whether headings are bookmarked, too."""
    provenance: Provenance | None = None
    attachments: Callable[[], Sequence[Attachment]] = tuple
    """Files that it carries, where the flavour has room for them; asked for when all pages are bound."""


@dataclass(frozen=True, slots=True)
class Bound:
    """What came of binding: how many pages, and all that was checked of the file."""

    pages: int
    conformance: Conformance


def bind(pages: Iterable[BoundPage], path: Path, how: Binding) -> Bound:
    """Write a PDF/A: each page its image, with its words invisibly over it.

    The file appears under its name only once it is whole, has been found to conform and looks as it was made. The same pages
    and binding give the same bytes.

    Args:
        pages: In order; taken one at a time.
        path: Where to write; a file that is there is replaced.
        how: Flavour, description, bookmarks.

    Raises:
        BindError: There are no pages, one cannot be held by a PDF of that flavour, the file cannot be written, it would not
            conform, or a viewer would show it otherwise than it was made.

    Source:
        ISO 19005 in the part and level of the flavour; ISO 32000-1:2008.
    """
    rules = FLAVOURS[how.flavour]
    part = path.with_name(path.name + ".part")
    try:
        with Spool(path.with_name(path.name + ".streams")) as spool:
            book = _Book(spool, how)
            for page in pages:
                book.add(page)
            if not book.labels:
                raise BindError("There is no page to bind: every page is aside or failed.")
            with spool.opened() as pdf:
                book.finish(pdf)
                pdf.save(
                    part, deterministic_id=True, compress_streams=True, force_version=rules.pdf,
                    object_stream_mode=pikepdf.ObjectStreamMode[_OBJECTS[rules.packed_objects]], recompress_flate=False,
                    fix_metadata_version=False,
                )  # fmt: skip
        found = check_conformance(part, how.flavour)
        if not found.holds:
            raise BindError(_refused(found, how.flavour))
        if fault := next(book.looked.faults(part), None):
            raise BindError(f"{fault} The document was not kept: choose another profile, and report it.")
        settle(part, path)
    except OSError as error:
        raise BindError(f"The document cannot be written to {path}: {error.strerror or error}.") from error
    finally:
        part.unlink(missing_ok=True)
    return Bound(len(book.labels), found)


def _refused(found: Conformance, flavour: Flavour) -> str:
    clause = found.broken[0]
    return (
        f"The document would not conform to {flavour} and was not kept: {clause.faults[0].rstrip('.')} "
        f"(clause {clause.clause}). Choose another flavour; if that does not help, report it."
    )


_OBJECTS = {True: "generate", False: "disable"}


def check_bindable(size_px: tuple[int, int], ppi: tuple[float, float]) -> None:
    """Refuse a page that no PDF can hold.

    Raises:
        BindError: It is smaller than 3 points on a side (ISO 19005-2, 6.1.13).
    """
    size = points(size_px, ppi)
    if min(size) / max(1.0, max(size) / MOST_POINTS) < _LEAST_POINTS:
        raise BindError(f"A page of {size[0]:.1f} × {size[1]:.1f} points is too small for a PDF: check its resolution.")


class _Book:
    """A document that grows page by page."""

    def __init__(self, spool: Spool, how: Binding) -> None:
        self._how, self._rules, self._layer = how, FLAVOURS[how.flavour], PageLayer(spool)
        self._laid: list[LaidPage] = []
        self._tagged: list[tuple[PageTags, tuple[str, ...]]] = []
        """Of a document that tells its structure: what is on each page."""
        self._headings: list[Bookmark] = []
        self.labels: list[str] = []
        self.looked = Looked()

    def add(self, page: BoundPage) -> None:
        """One more page."""
        size = points(page.image.size_px, page.ppi)
        image = page.image if self._rules.jpeg2000 else without_jpeg2000(page.image)
        check_bindable(page.image.size_px, page.ppi)
        if max(size) > MOST_POINTS and not self._rules.long_pages:
            raise BindError(
                f"Page {len(self.labels) + 1} is {max(size) / _POINTS_PER_INCH:.0f} inches long, and PDF/A-1 ends at 200: "
                "choose another flavour."
            )
        tags = PageTags(page.reading) if self._rules.tagged else None
        self._laid.append(self._layer.lay(image, size, page.reading, tags))
        if tags is not None:
            self._tagged.append((tags, page.alternatives))
        if self._how.mark_headings and page.reading is not None:
            self._headings += heading_bookmarks(page.reading, len(self.labels), level=1 if self._how.bookmarks else 0)
        self.labels.append(page.label)
        self.looked.note(len(self.labels), image)

    def finish(self, pdf: Pdf) -> None:
        """The pages, and everything that a document has once."""
        how = self._how
        self._layer.hang(pdf, self._laid)
        pdf.Root.PageLabels = pdf.make_indirect(Dictionary(Nums=label_tree(self.labels)))
        if marks := in_order(how.bookmarks, self._headings):
            write_bookmarks(pdf, marks)
            pdf.Root.PageMode = Name.UseOutlines
        if self._rules.tagged:
            self._tell_structure(pdf)
        if self._rules.attached:
            attach(pdf, how.attachments(), how.about.created)
        # Opens on its first page, all of it in view.
        pdf.Root.OpenAction = Array([pdf.pages[0].obj, Name.Fit])
        describe(pdf, how.about, self._rules, how.provenance)

    def _tell_structure(self, pdf: Pdf) -> None:
        parts = {one.page: one.title for one in self._how.bookmarks if one.level == 0}
        structure = Structure(pdf)
        for at, (page, (tags, alternatives)) in enumerate(zip(pdf.pages, self._tagged, strict=True)):
            if at in parts:
                structure.begin_part(parts[at])
            structure.add_page(page.obj, tags, alternatives)
        structure.finish()


def in_order(parts: Sequence[Bookmark], headings: Sequence[Bookmark]) -> list[Bookmark]:
    """Parts, and under each the headings of its pages."""

    def merged() -> Iterator[tuple[int, int, int, Bookmark]]:
        yield from ((one.page, 0, at, one) for at, one in enumerate(parts))
        yield from ((one.page, 1, at, one) for at, one in enumerate(headings))

    return [one for *_, one in sorted(merged(), key=lambda entry: entry[:3])]
