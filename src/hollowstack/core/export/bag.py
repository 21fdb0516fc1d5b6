"""A bag for an archive: masters, PDF/A, text and METS, with their digests, in one ZIP file."""

import hashlib
import zipfile
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import NamedTuple

from hollowstack.core.bind import Binding, BoundPage, Provenance, bind
from hollowstack.core.bind.description import Description, Event, description_of
from hollowstack.core.export.forms import ExportOrder, ExportPage
from hollowstack.core.export.mets import Happened, PackedFile, mets_of
from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.errors import ExportError
from hollowstack.core.page.file_names import safe_name
from hollowstack.core.read.texts import written

_CHUNK = 1 << 20
_TYPES = {
    ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".tif": "image/tiff", ".tiff": "image/tiff", ".png": "image/png",
    ".jp2": "image/jp2", ".pdf": "application/pdf", ".webp": "image/webp", ".bmp": "image/bmp", ".gif": "image/gif",
}  # fmt: skip
EPOCH = (1980, 1, 1, 0, 0, 0)
"""Of all files in the ZIP: the same pages make the same bytes."""


class _Source(NamedTuple):
    """Where a page comes from."""

    label: str
    master: Path | None
    name: str
    sha256: str


class Bag:
    """A bag that grows file by file."""

    def __init__(self, path: Path, folder: str) -> None:
        self._zip = zipfile.ZipFile(path, "w", allowZip64=True)
        self._folder = folder
        self._digests: dict[str, str] = {}
        self._bytes = 0

    @contextmanager
    def closed(self) -> Iterator["Bag"]:
        """Closes it in the end."""
        with self._zip:
            yield self

    def take(self, name: str, file: Path) -> tuple[int, str]:
        """A file into its payload; returns how many bytes that are, and their digest."""
        made, count = hashlib.sha256(), 0
        entry = zipfile.ZipInfo(f"{self._folder}/data/{name}", EPOCH)
        entry.file_size = file.stat().st_size
        with file.open("rb") as source, self._zip.open(entry, "w", force_zip64=True) as target:
            while chunk := source.read(_CHUNK):
                target.write(chunk)
                made.update(chunk)
                count += len(chunk)
        self._note(name, made.hexdigest(), count)
        return count, made.hexdigest()

    def put(self, name: str, data: bytes) -> tuple[int, str]:
        """Bytes as a file of its payload."""
        self._write(f"data/{name}", data)
        digest = hashlib.sha256(data).hexdigest()
        self._note(name, digest, len(data))
        return len(data), digest

    def _note(self, name: str, digest: str, count: int) -> None:
        self._digests[f"data/{name}"] = digest
        self._bytes += count

    def seal(self, told: dict[str, str]) -> None:
        """Write what makes it a bag.

        Source:
            RFC 8493, 2.1.1 (declaration), 2.1.3 (payload manifest), 2.2.1 (tag manifest), 2.2.2 (bag-info).
        """
        told = told | {"Payload-Oxum": f"{self._bytes}.{len(self._digests)}"}
        tags = {
            "bagit.txt": "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n",
            "bag-info.txt": "".join(f"{name}: {_one_line(value)}\n" for name, value in told.items() if value),
            "manifest-sha256.txt": _manifest(self._digests),
        }
        digests = {name: hashlib.sha256(text.encode()).hexdigest() for name, text in tags.items()}
        for name, text in {**tags, "tagmanifest-sha256.txt": _manifest(digests)}.items():
            self._write(name, text.encode())

    def _write(self, name: str, data: bytes) -> None:
        self._zip.writestr(zipfile.ZipInfo(f"{self._folder}/{name}", EPOCH), data, zipfile.ZIP_DEFLATED)


def bound_alone(pages: Iterable[BoundPage], path: Path, order: ExportOrder, software: str) -> int:
    """Pages as a PDF/A of their own, checked as every one is; returns how many. Raises BindError."""
    about = description_of(order.described, order.created, order.language, order.title)
    done = Provenance(software, (Event("bound", order.created, "PDF/A-2u"),))
    return bind(pages, path, Binding(about, provenance=done)).pages


def write_bag(pages: Iterable[ExportPage], path: Path, order: ExportOrder, software: str) -> Iterator[int]:
    """A submission package: masters as they came, the PDF/A bound of the pages, their text as ALTO, and METS; yields pages.

    Raises:
        ExportError: A master is not there.
        BindError: The pages cannot be bound.
    """
    about = description_of(order.described, order.created, order.language, order.title)
    chosen: list[_Source] = []
    readings: list[Reading] = []
    folder = safe_name(order.title, "document")
    with TemporaryDirectory(dir=path.parent) as work, Bag(path, folder).closed() as bag:
        files: list[PackedFile] = []

        def bound() -> Iterator[BoundPage]:
            for page in pages:
                chosen.append(_Source(page.label, page.master, page.master_name, page.master_sha256))
                readings.append(page.reading or Reading(language="und", size_px=page.image.size_px, blocks=[]))
                yield BoundPage(page.image, page.ppi, page.reading, page.label)

        document = Path(work) / "document.pdf"
        bound_alone(bound(), document, order, software)
        count, digest = bag.take(f"{folder}.pdf", document)
        files.append(PackedFile(f"{folder}.pdf", "archive", "application/pdf", count, digest))
        count, digest = bag.put(f"{folder}.alto.xml", written("alto", readings, order.title))
        files.append(PackedFile(f"{folder}.alto.xml", "text", "application/xml", count, digest))
        files += _masters(bag, chosen)
        events = [
            Happened("ingestion", order.created, "masters taken as they came"),
            Happened("migration", order.created, f"{len(chosen)} pages corrected and bound as PDF/A-2u"),
            Happened("message digest calculation", order.created, "SHA-256 of every file"),
        ]
        bag.put("mets.xml", mets_of(about, files, [page.label for page in chosen], events, software))
        bag.seal(_information(about, software))
        yield len(chosen)


def _masters(bag: Bag, pages: list[_Source]) -> Iterator[PackedFile]:
    """Each master once, whatever pages it has; named as it was called, behind its number."""
    by_digest: dict[str, list[int]] = {}
    for at, page in enumerate(pages):
        by_digest.setdefault(page.sha256, []).append(at)
    for number, (sha256, places) in enumerate(by_digest.items(), 1):
        page = pages[places[0]]
        if page.master is None or not page.master.exists():
            raise ExportError(f"The master of page {places[0] + 1} is not there: check the store, then try again.")
        suffix = Path(page.name).suffix.lower()
        name = f"masters/{number:04d} {safe_name(Path(page.name).stem, 'page')}{suffix}"
        count, digest = bag.take(name, page.master)
        if digest != sha256:
            raise ExportError(f"The master of page {places[0] + 1} is damaged on the disk: add the same file again.")
        yield PackedFile(
            name, "master", _TYPES.get(suffix, "application/octet-stream"), count, digest, tuple(places), page.name
        )


def _information(about: Description, software: str) -> dict[str, str]:
    """RFC 8493, 2.2.2: labels that it reserves."""
    return {
        "Bagging-Date": about.created.date().isoformat(), "Bag-Software-Agent": software,
        "External-Identifier": about.identifier, "External-Description": about.description or about.title,
    }  # fmt: skip


def _manifest(digests: dict[str, str]) -> str:
    """A line for each file; line ends and percent signs in names are escaped (RFC 8493, 2.1.3)."""

    def escaped(name: str) -> str:
        return name.replace("%", "%25").replace("\n", "%0A").replace("\r", "%0D")

    return "".join(f"{digest}  {escaped(name)}\n" for name, digest in sorted(digests.items()))


def _one_line(text: str) -> str:
    return " ".join(text.split())
