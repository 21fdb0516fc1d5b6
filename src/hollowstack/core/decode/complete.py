"""Whether a file that somebody is still writing has its end already."""

import os
import zipfile
from pathlib import Path

import tifffile

from hollowstack.core.decode.archive import is_zip
from hollowstack.core.decode.images import count_frames
from hollowstack.core.decode.sniff import Format, sniff
from hollowstack.core.page.errors import DecodeError

_WEAK_STROKE = 2048
_ENDS: dict[Format, bytes] = {"JPEG": b"\xff\xd9", "PNG": b"IEND\xae\x42\x60\x82", "PDF": b"%%EOF"}


def is_complete(path: Path) -> bool:
    """Whether the file ends as its format does; for formats without an end of their own, whether it can be opened.

    A file that is none of those taken in counts as complete: waiting would not make it one.

    Source:
        ITU-T T.81, B.1.1.3 (EOI); ISO/IEC 15948, 11.2.5 (IEND); ISO 32000-1, 7.5.5 (%%EOF); the lengths of RIFF
        (RFC 9649) and BMP; the end of central directory of ZIP. A TIFF is followed through all its directories.
    """
    size = path.stat().st_size
    if size == 0:
        return False
    with path.open("rb") as file:
        head = file.read(12)
        file.seek(max(0, size - _WEAK_STROKE), os.SEEK_SET)
        tail = file.read()
    if is_zip(head[:4]):
        return zipfile.is_zipfile(path)
    try:
        kind = sniff(path)
    except DecodeError:
        return True
    if kind in _ENDS:
        return _ENDS[kind] in tail
    if kind in {"WebP", "BMP"}:
        length = int.from_bytes(head[4:8], "little") + 8 if kind == "WebP" else int.from_bytes(head[2:6], "little")
        return size >= length
    try:
        return _reach(path, kind) <= size
    except (DecodeError, ValueError, TypeError, OSError, EOFError, SyntaxError):
        return False


def _reach(path: Path, kind: Format) -> int:
    """The byte behind the last that the file's own directory speaks of, where it has one."""
    if kind != "TIFF":
        count_frames(path, kind)
        return 0
    last = 0
    with tifffile.TiffFile(path) as tiff:
        for page in tiff.pages:
            ends = (start + count for start, count in zip(page.dataoffsets, page.databytecounts, strict=True))
            last = max(last, *ends)
    return last
