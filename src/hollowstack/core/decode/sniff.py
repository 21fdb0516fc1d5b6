"""What a file is, told from its first bytes and never from its name."""

import stat
from pathlib import Path
from typing import Literal

from hollowstack.core.page.errors import DecodeError

Format = Literal["TIFF", "PNG", "JPEG", "JPEG 2000", "WebP", "BMP", "PDF"]
FORMATS = "TIFF, PNG, JPEG, JPEG 2000, WebP, BMP or PDF"
MAX_BYTES = 2 * 1024**3

_SIGNATURES: tuple[tuple[bytes, Format], ...] = (
    (b"II*\0", "TIFF"),
    (b"MM\0*", "TIFF"),
    (b"II+\0", "TIFF"),
    (b"MM\0+", "TIFF"),
    (b"\x89PNG\r\n\x1a\n", "PNG"),
    (b"\xff\xd8\xff", "JPEG"),
    (b"\0\0\0\x0cjP  \r\n\x87\n", "JPEG 2000"),
    (b"\xff\x4f\xff\x51", "JPEG 2000"),
    (b"BM", "BMP"),
)
_NOT_TAKEN: tuple[tuple[int, bytes, str], ...] = (
    (0, b"GIF8", "GIF"),
    (4, b"ftyphei", "HEIC"),
    (4, b"ftyphev", "HEIC"),
    (4, b"ftypmif1", "HEIF"),
    (4, b"ftypavif", "AVIF"),
    (0, b"\0\0\0\x0cJXL ", "JPEG XL"),
    (0, b"\xff\x0a", "JPEG XL"),
    (0, b"\x97JB2", "JBIG2"),
    (0, b"AT&TFORM", "DjVu"),
)
"""Other images that people have, told by name: where it begins, with what, and what it is."""


def sniff(path: Path) -> Format:
    """The format of a file by its signature.

    Raises:
        DecodeError: It is missing, a folder, empty, over 2 GB, or none of the formats taken in.

    Source:
        The signatures are those of TIFF 6.0, BigTIFF, ISO/IEC 15948 (PNG), ITU-T T.81 (JPEG), ISO/IEC 15444-1
        (JPEG 2000), RFC 9649 (WebP) and ISO 32000-1, 7.5.2 (PDF, whose header may follow up to 1024 other bytes). Those of
        other images are the brands of ISO/IEC 23008-12 (HEIF) and its kin, GIF89a, ISO/IEC 18181-2 (JPEG XL), ITU-T T.88
        and DjVu 3, from memory.
    """
    try:
        if path.is_dir():
            raise DecodeError("This is a folder, not a file: give the files inside it.")
        about = path.stat()
        if not stat.S_ISREG(about.st_mode):
            raise DecodeError("This is no file but a device or a pipe: give a file.")
        size = about.st_size
        with path.open("rb") as file:
            head = file.read(1024)
    except OSError as error:
        raise DecodeError(f"The file cannot be opened ({error.strerror}): check that it exists and may be read.") from None
    if size == 0:
        raise DecodeError("The file is empty: copy or scan it again.")
    if size > MAX_BYTES:
        raise DecodeError(f"The file has {size / 1e9:.1f} GB; the most that can be added is 2 GB: split it first.")
    for signature, name in _SIGNATURES:
        if head.startswith(signature):
            return name
    if head[:4] == b"RIFF" and head[8:12] == b"WEBP":
        return "WebP"
    if b"%PDF-" in head:
        return "PDF"
    for start, signature, other in _NOT_TAKEN:
        if head.startswith(signature, start):
            raise DecodeError(f"{other} files cannot be added: save this one as {FORMATS}.")
    raise DecodeError(f"This is not an image or PDF whatever its name says: save it as {FORMATS}.")
