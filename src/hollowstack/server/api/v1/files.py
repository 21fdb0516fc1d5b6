"""Files over HTTP, whole or a part of them, so that a download that broke off goes on where it stopped.

Source:
    RFC 9110, 13.1.5 (If-Range), 14.2 (Range), 15.3.7 (206), 15.5.17 (416); one part at a time, as 14.2
    leaves to a server.
"""

import asyncio
import io
import re
import zipfile
from collections import Counter
from collections.abc import AsyncIterator, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from django.http import HttpRequest, HttpResponseBase, StreamingHttpResponse
from django.utils.http import content_disposition_header

from hollowstack.server.api.v1.problems import problem

_RANGE = re.compile(r"bytes=(\d*)-(\d*)")
_PIECE = 1 << 18


def file_response(
    request: HttpRequest, path: Path, name: str, media_type: str, digest: str, *, inline: bool = False
) -> HttpResponseBase:
    """A file under a name, or the part of it that the request asks for; ``digest`` is its strong entity tag.

    ``inline`` where a browser is to show it; otherwise it is kept as a file.

    A range of several parts, or one of a file that has changed since, is answered with the whole file.
    """
    size, tag = path.stat().st_size, f'"{digest}"'
    first, last, status = 0, size - 1, 200
    wanted = _RANGE.fullmatch(request.headers.get("Range", "").strip())
    if wanted is not None and any(wanted.groups()) and request.headers.get("If-Range", tag) == tag:
        first, last = _bounds(wanted[1], wanted[2], size)
        if first > last:
            return problem(
                "no-such-part", f"The file has {size:,} bytes: ask for a part of those.", Content_Range=f"bytes */{size}"
            )
        status = 206
    response = StreamingHttpResponse(_pieces(path, first, last + 1 - first), content_type=media_type, status=status)
    response.headers["Content-Length"] = str(last + 1 - first)
    response.headers["Accept-Ranges"] = "bytes"
    response.headers["ETag"] = tag
    response.headers["Content-Disposition"] = str(content_disposition_header(as_attachment=not inline, filename=name))
    if status == 206:
        response.headers["Content-Range"] = f"bytes {first}-{last}/{size}"
    return response


def _bounds(first: str, last: str, size: int) -> tuple[int, int]:
    """First and last byte; the last so many where only a number of bytes from the end is named."""
    if not first:
        return max(0, size - int(last)), size - 1
    return int(first), min(int(last), size - 1) if last else size - 1


async def _pieces(path: Path, start: int, count: int) -> AsyncIterator[bytes]:
    """A file bit by bit, so that a large document never stands in memory whole."""
    with path.open("rb") as file:
        file.seek(start)
        while count and (piece := await asyncio.to_thread(file.read, min(_PIECE, count))):
            count -= len(piece)
            yield piece


class FileName(NamedTuple):
    """A name and what stands behind it, which may have several dots as the name may."""

    stem: str
    suffix: str


def files_response(files: Sequence[tuple[FileName, Path]], name: str) -> HttpResponseBase:
    """Several files as one ZIP, not packed again, made while it goes out; a name that is there twice is numbered.

    Source:
        APPNOTE.TXT 6.3 of the ZIP format, 4.3.9 (lengths behind the data), by Python's zipfile.
    """
    response = StreamingHttpResponse(_zipped(_named_apart(files)), content_type="application/zip")
    response.headers["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=name)
    return response


def _named_apart(files: Sequence[tuple[FileName, Path]]) -> list[tuple[str, Path]]:
    taken: Counter[FileName] = Counter()
    found = []
    for name, path in files:
        taken[name] += 1
        numbered = f"{name.stem} ({taken[name]}){name.suffix}" if taken[name] > 1 else f"{name.stem}{name.suffix}"
        found.append((numbered, path))
    return found


async def _zipped(files: Sequence[tuple[str, Path]]) -> AsyncIterator[bytes]:
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_STORED, allowZip64=True) as made:
        for name, path in files:
            with path.open("rb") as file, made.open(zipfile.ZipInfo(name), "w", force_zip64=True) as target:
                while piece := await asyncio.to_thread(file.read, _PIECE):
                    target.write(piece)
                    yield sink.taken()
    yield sink.taken()


class _Sink(io.RawIOBase):
    """What is written is taken out again at once."""

    def __init__(self) -> None:
        self._pieces: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._pieces.append(bytes(data))
        return len(data)

    def taken(self) -> bytes:
        """What has been written since the last time."""
        data, self._pieces = b"".join(self._pieces), []
        return data
