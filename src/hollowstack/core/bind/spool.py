"""Images and contents of a document on the disk until all of it is written: memory holds none of them.

The library that writes the document takes streams into memory, but reads those of a file only when it copies them. So they
are written into a file of the same kind first, and that file, opened, becomes the document.
"""

from pathlib import Path
from types import TracebackType
from typing import Self

import pikepdf

_HEAD = b"%PDF-1.7\n%\xe2\xe3\xcf\xd3\n"
_CATALOG, _PAGES = 1, 2


class Spool:
    """A file of streams that grows; a context that removes it in the end.

    Source:
        ISO 32000-1:2008, 7.3.8 (streams) and 7.5 (structure of a file).
    """

    def __init__(self, path: Path) -> None:
        """Raises OSError where it cannot be written."""
        self._path = path
        self._file = path.open("w+b")
        self._places = [0, 0, 0]
        """Where each object begins, by its number; the first ones are written last."""
        self._file.write(_HEAD)

    def __enter__(self) -> Self:
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self._file.close()
        self._path.unlink(missing_ok=True)

    def put(self, entries: str, data: bytes) -> int:
        """A stream with the entries of its dictionary, but for its length; returns the number of its object."""
        number = len(self._places)
        self._places.append(self._file.tell())
        self._file.write(f"{number} 0 obj\n<< {entries} /Length {len(data)} >>\nstream\n".encode("ascii"))
        self._file.write(data)
        self._file.write(b"\nendstream\nendobj\n")
        return number

    def opened(self) -> pikepdf.Pdf:
        """All of it as a document without pages; close that before the spool."""
        self._object(_CATALOG, f"<< /Type /Catalog /Pages {_PAGES} 0 R >>")
        self._object(_PAGES, "<< /Type /Pages /Kids [] /Count 0 >>")
        start = self._file.tell()
        count = len(self._places)
        rows = "".join(f"{place:010} 00000 n \n" for place in self._places[1:])
        self._file.write(f"xref\n0 {count}\n0000000000 65535 f \n{rows}".encode("ascii"))
        self._file.write(f"trailer\n<< /Size {count} /Root {_CATALOG} 0 R >>\nstartxref\n{start}\n%%EOF\n".encode("ascii"))
        self._file.flush()
        return pikepdf.open(self._file, access_mode=pikepdf.AccessMode.stream, attempt_recovery=False)

    def _object(self, number: int, text: str) -> None:
        self._places[number] = self._file.tell()
        self._file.write(f"{number} 0 obj\n{text}\nendobj\n".encode("ascii"))
