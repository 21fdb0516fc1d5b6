"""Pages to an access copy."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf

from hollowstack.core.access.annotations import annotate
from hollowstack.core.access.covering import Covered, without_words, words_of
from hollowstack.core.access.locking import Passwords, check_passwords, lock_of
from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.access.picture import access_image
from hollowstack.core.access.proving import Expected, prove
from hollowstack.core.bind import Bookmark, BoundPage
from hollowstack.core.bind.bookmarks import heading_bookmarks, write_bookmarks
from hollowstack.core.bind.conformance import Checked
from hollowstack.core.bind.description import Description, description_of
from hollowstack.core.bind.document import in_order
from hollowstack.core.bind.labels import label_tree
from hollowstack.core.bind.laid_pages import LaidPage, PageLayer, points
from hollowstack.core.bind.metadata import describe
from hollowstack.core.bind.spool import Spool
from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.durable import settle
from hollowstack.core.page.errors import BindError

_SAID = "Access copy, not for keeping."
_MOST_LABELS = 12
_MOST_WORDS = 3


@dataclass(frozen=True, slots=True)
class AccessPage:
    """A page of a document as it is bound, and the marks on it."""

    bound: BoundPage
    marks: tuple[Mark, ...] = ()


@dataclass(frozen=True, slots=True)
class Copied:
    """What came of it: how many pages and covers, what was proven of the file, and what a person should know."""

    pages: int
    covers: int
    page_bytes: tuple[int, ...]
    checked: tuple[Checked, ...]
    remarks: tuple[str, ...]
    """Sentences: covered words that stand elsewhere too, titles that lost some."""


def make_access_copy(
    pages: Iterable[AccessPage],
    path: Path,
    order: AccessOrder,
    passwords: Passwords = Passwords(),  # noqa: B008
) -> Copied:
    """Write a copy for people to look at. It appears under its name once what is covered has been proven to be gone.

    Args:
        pages: Those that it has, in order; taken one at a time.
        path: Where to write; a file that is there is replaced.
        order: How it is made.
        passwords: None by default.

    Raises:
        BindError: There are no pages, the passwords will not do, the file cannot be written, or something that is covered
            would still be in it.
        ValueError: The description will not do.

    Source:
        ISO 32000-1:2008 and, for its encryption, ISO 32000-2:2020.
    """
    check_passwords(passwords)
    about = description_of(order.described, order.created, order.language, order.title)
    part = path.with_name(path.name + ".part")
    try:
        with Spool(path.with_name(path.name + ".streams")) as spool:
            copy = _Copy(spool, order)
            for page in pages:
                copy.add(page)
            if not copy.sizes:
                raise BindError("There is no page to copy: every page is left out.")
            lock = lock_of(passwords, printing=order.printing, copying=order.copying)
            with spool.opened() as pdf:
                remarks = copy.finish(pdf, about)
                pdf.save(part, encryption=lock or False, object_stream_mode=pikepdf.ObjectStreamMode.generate)
        checked = prove(part, passwords, Expected(copy.covers, order.printing, order.copying, lock is not None))
        if broken := [fault for one in checked for fault in one.faults]:
            raise BindError(f"The copy would not be as it should and was not kept: {broken[0]} Report it.")
        settle(part, path)
    except OSError as error:
        raise BindError(f"The copy cannot be written to {path}: {error.strerror or error}.") from error
    finally:
        part.unlink(missing_ok=True)
    covers = sum(len(marks) for marks in copy.covers.values())
    return Copied(len(copy.sizes), covers, tuple(copy.sizes), checked, remarks)


class _Copy:
    """A copy that grows page by page."""

    def __init__(self, spool: Spool, order: AccessOrder) -> None:
        self._order, self._layer = order, PageLayer(spool)
        self._laid: list[LaidPage] = []
        self._marks: list[tuple[Mark, ...]] = []
        self._covered, self._words = Covered(), list[dict[str, str]]()
        self._headings: list[Bookmark] = []
        self.covers: dict[int, list[Mark]] = {}
        """By page, from 0."""
        self.sizes: list[int] = []
        """Bytes of each page's image."""

    def add(self, page: AccessPage) -> None:
        """One more page."""
        bound, marks, at = page.bound, page.marks, len(self.sizes)
        image = access_image(bound.image, bound.ppi, marks, self._order)
        reading = self._uncovered(bound.reading, marks)
        self._laid.append(self._layer.lay(image, points(bound.image.size_px, bound.ppi), reading))
        self._marks.append(marks)
        if covers := [mark for mark in marks if mark.kind == "cover"]:
            self.covers[at] = covers
        if self._order.mark_headings and reading is not None:
            self._headings += heading_bookmarks(reading, at, level=1 if self._order.parts else 0)
        self.sizes.append(image.bytes)

    def _uncovered(self, reading: Reading | None, marks: Sequence[Mark]) -> Reading | None:
        if reading is None:
            self._words.append({})
            return None
        kept, gone = without_words(reading, marks)
        self._covered.add(gone)
        self._words.append(words_of(kept))
        return kept

    def finish(self, pdf: Pdf, about: Description) -> tuple[str, ...]:
        """The pages with their marks, and everything that a copy has once; returns what there is to say of it."""
        order, clean = self._order, self._covered.taken_out
        self._layer.hang(pdf, self._laid)
        for page, laid, marks in zip(pdf.pages, self._laid, self._marks, strict=True):
            annotate(pdf, page.obj, laid.box, [one.model_copy(update={"text": clean(one.text)}) for one in marks], order)
        pdf.Root.PageLabels = pdf.make_indirect(Dictionary(Nums=label_tree(order.labels)))
        bookmarks = in_order(order.parts, self._headings)
        if bookmarks:
            write_bookmarks(pdf, [replace(one, title=clean(one.title)) for one in bookmarks])
            pdf.Root.PageMode = Name.UseOutlines
        pdf.Root.OpenAction = Array([pdf.pages[0].obj, Name.Fit])
        said = replace(
            about, title=clean(about.title), creators=tuple(map(clean, about.creators)), identifier=clean(about.identifier),
            subjects=tuple(map(clean, about.subjects)), description=clean(about.description), date=clean(about.date),
            rights=clean(about.rights), type=clean(about.type), relations=tuple(map(clean, about.relations)),
        )  # fmt: skip
        lost = said != about or any(clean(one.title) != one.title for one in bookmarks)
        told = " ".join(filter(None, [said.description, _SAID, self._left_out()]))
        describe(pdf, replace(said, title=f"{said.title} (access copy)", description=told), None)
        remarks = ["Titles or descriptions held words that are covered, and are without them in the copy."] if lost else []
        return (*remarks, *self._elsewhere())

    def _left_out(self) -> str:
        labels = self._order.left_out
        if not labels:
            return ""
        return f"Left out: {_listed(labels)}."

    def _elsewhere(self) -> Iterable[str]:
        """Covered names and figures that can be read on pages where nobody covered them."""
        found: dict[str, list[str]] = {}
        for label, there in zip(self._order.labels, self._words, strict=True):
            for word in self._covered.also_in(there):
                found.setdefault(word, []).append(label)
        if found:
            pages = list(dict.fromkeys(label for labels in found.values() for label in labels))
            words = ", ".join(f"\u201c{word}\u201d" for word in list(found)[:_MOST_WORDS])
            more = " and others" if len(found) > _MOST_WORDS else ""
            yield f"Covered words can still be read elsewhere: {words}{more}, on {_listed(pages)}."


def _listed(labels: Sequence[str]) -> str:
    """Pages by their labels, the first of them."""
    more = len(labels) - _MOST_LABELS
    shown = ", ".join(labels[:_MOST_LABELS]) + (f" and {more} more" if more > 0 else "")
    return f"{'page' if len(labels) == 1 else 'pages'} {shown}"
