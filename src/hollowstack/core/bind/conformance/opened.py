"""A file as its rules look at it: bytes, objects, pages with what they use, metadata."""

import mmap
from collections.abc import Iterator
from contextlib import ExitStack
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from types import TracebackType
from typing import Self

import pikepdf
from pikepdf import Pdf

from hollowstack.core.bind.conformance.contents import Contents, read_contents
from hollowstack.core.bind.conformance.packet import Packet
from hollowstack.core.bind.conformance.scan import Scanned, scan
from hollowstack.core.page.errors import BindError


@dataclass(slots=True)
class Used:
    """Something that contents use: with the page where it is used first, from 1."""

    object: pikepdf.Object
    page: int
    modes: set[int] = field(default_factory=set)
    """Of a font: the rendering modes in which it is used."""
    codes: set[int] = field(default_factory=set)
    """Of a composite font: the codes that are shown."""


_ACCESS = pikepdf.AccessMode.stream
"""Data of images are read one by one, and not mapped: all of the file would count as memory in the end."""


class Opened:
    """A file that is being checked; a context that closes it."""

    def __init__(self, path: Path) -> None:
        """Raises BindError where it is no PDF file that can be read at all."""
        self.noted: dict[str, object] = {}
        """What rules have found for others."""
        self._open = ExitStack()
        try:
            file = self._open.enter_context(path.open("rb"))
            self.bytes = self._open.enter_context(mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ))
            """All of the file, read as it is looked at."""
            # By the open file: names of files may be any bytes, and the library wants text.
            data = self._open.enter_context(path.open("rb"))
            self.pdf = self._open.enter_context(
                Pdf.open(data, attempt_recovery=False, suppress_warnings=True, access_mode=_ACCESS)
            )
            self.part, self.level = self._claim()
        except (OSError, ValueError, pikepdf.PdfError) as error:
            self._open.close()
            raise BindError(f"{path.name} is no PDF file that can be read: {_first_line(error)}.") from error

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self.forget()
        self._open.close()

    def forget(self) -> None:
        """Let go of all objects, before the file is closed."""
        for name in ("objects", "pages", "used", "packet", "scanned"):
            self.__dict__.pop(name, None)

    def _claim(self) -> tuple[int, str]:
        claim = self.packet.claim if self.packet is not None else None
        part = int(claim.part) if claim is not None and claim.part in {"1", "2", "3", "4"} else 2
        level = claim.conformance if claim is not None and claim.conformance in {"A", "B", "U"} else "U" if part > 1 else "B"
        return part, level

    @cached_property
    def packet(self) -> Packet | None:
        """The document's metadata; None without."""
        stream = self.pdf.Root.get("/Metadata")
        return Packet(stream.read_bytes()) if isinstance(stream, pikepdf.Stream) else None

    @cached_property
    def scanned(self) -> Scanned:
        """Its objects, one behind the other as they stand in the file."""

        def length_of(number: int) -> int | None:
            try:
                return int(self.pdf.get_object(number, 0))
            except (ValueError, TypeError, pikepdf.PdfError):
                return None

        return scan(self.bytes, length_of)

    @cached_property
    def objects(self) -> list[pikepdf.Object]:
        """All indirect dictionaries and streams, arrays and the rest."""
        return [one for one in self.pdf.objects if isinstance(one, pikepdf.Object)]

    def everything(self) -> Iterator[pikepdf.Object]:
        """Each dictionary, stream and array, also those that lie in others; a stream as it is, for its dictionary."""
        for top in self.objects:
            waiting = [top]
            while waiting:
                one = waiting.pop()
                if isinstance(one, pikepdf.Dictionary | pikepdf.Stream):
                    yield one
                    waiting += [inner for inner in one.values() if _lies_within(inner)]
                elif isinstance(one, pikepdf.Array):
                    yield one
                    waiting += [inner for inner in one if _lies_within(inner)]

    @cached_property
    def pages(self) -> list[tuple[pikepdf.Object, Contents]]:
        """Each page with what its contents say; contents that cannot be read are told there."""
        return [(page.obj, read_contents(page.obj)) for page in self.pdf.pages]

    @cached_property
    def used(self) -> dict[str, list[Used]]:
        """What pages use, and what that uses: by ``fonts``, ``images``, ``forms``, ``states``, ``colours``."""
        return Gathered(self).found


def _lies_within(value: object) -> bool:
    """Whether it is a container without a number of its own: one with a number comes by itself."""
    return isinstance(value, pikepdf.Object) and not value.is_indirect


def _first_line(error: Exception) -> str:
    text = str(error).splitlines()
    return (text[0] if text else type(error).__name__).rstrip(".")


class Gathered:
    """Goes through the pages, the forms on them and the appearances of their annotations."""

    def __init__(self, file: Opened) -> None:
        self.found: dict[str, list[Used]] = {
            kind: [] for kind in ("fonts", "images", "forms", "states", "colours", "patterns")
        }
        self._seen: dict[tuple[str, tuple[int, int]], Used] = {}
        for number, (page, contents) in enumerate(file.pages, 1):
            self._use(contents, page.get("/Resources"), number)
            for annotation in page.get("/Annots", []):
                self._appearances(annotation.get("/AP"), number)

    def _appearances(self, value: object, page: int) -> None:
        if isinstance(value, pikepdf.Stream):
            self._form(value, page)
        elif isinstance(value, pikepdf.Dictionary):
            for inner in value.values():
                self._appearances(inner, page)

    def _use(self, contents: Contents, resources: object, page: int) -> None:
        if not isinstance(resources, pikepdf.Dictionary):
            return
        for name, (modes, codes) in contents.fonts.items():
            one = self._note("fonts", _entry(resources, "/Font", name), page)
            if one is not None:
                one.modes |= modes
                one.codes |= codes
        for name in contents.states:
            self._note("states", _entry(resources, "/ExtGState", name), page)
        for name in contents.spaces:
            self._note("colours", _entry(resources, "/ColorSpace", name), page)
        for name in contents.patterns:
            pattern = _entry(resources, "/Pattern", name)
            if not isinstance(pattern, pikepdf.Object) or self._known("patterns", pattern):
                continue
            self._note("patterns", pattern, page)
            if isinstance(pattern, pikepdf.Stream):
                self._use(read_contents(pattern), pattern.get("/Resources", resources), page)
        for name in contents.xobjects:
            drawn = _entry(resources, "/XObject", name)
            if isinstance(drawn, pikepdf.Stream) and drawn.get("/Subtype") == "/Image":
                self._image(drawn, page)
            elif isinstance(drawn, pikepdf.Stream):
                self._form(drawn, page, resources)

    def _image(self, image: pikepdf.Object, page: int) -> None:
        if self._known("images", image):
            return
        self._note("images", image, page)
        for name in ("/SMask", "/Mask"):
            if isinstance(image.get(name), pikepdf.Stream):
                self._image(image[name], page)
        if image.get("/ImageMask") is not True:
            self._note("colours", image.get("/ColorSpace"), page)

    def _form(self, form: pikepdf.Object, page: int, resources: object = None) -> None:
        if self._known("forms", form):
            return
        self._note("forms", form, page)
        self._use(read_contents(form), form.get("/Resources", resources), page)

    def _known(self, kind: str, one: pikepdf.Object) -> bool:
        return (kind, one.objgen) in self._seen and one.is_indirect

    def _note(self, kind: str, one: object, page: int) -> Used | None:
        if isinstance(one, pikepdf.Name | str):  # the name of a device colour space
            self.found[kind].append(Used(pikepdf.Array([pikepdf.Name(str(one))]), page))
            return None
        if not isinstance(one, pikepdf.Object):
            return None
        key = (kind, one.objgen)
        if one.is_indirect and key in self._seen:
            return self._seen[key]
        made = Used(one, page)
        self.found[kind].append(made)
        if one.is_indirect:
            self._seen[key] = made
        return made


def _entry(resources: pikepdf.Object, kind: str, name: str) -> object:
    entries = resources.get(kind)
    return entries.get(name) if isinstance(entries, pikepdf.Dictionary) else None
