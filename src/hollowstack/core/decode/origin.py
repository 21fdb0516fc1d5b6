"""Where an image says it comes from: when it was taken, with what, and whether by a camera."""

import os
import re
import struct
import warnings
from datetime import datetime, timedelta, timezone
from pathlib import Path
from typing import Any

from PIL import Image
from pydantic import BaseModel, ConfigDict

from hollowstack.core.decode.images import PILLOW_NAMES
from hollowstack.core.decode.sniff import sniff
from hollowstack.core.page.errors import DecodeError

_EXIF_IFD = 0x8769
_MAKE, _MODEL = 0x010F, 0x0110
_TAKEN, _TAKEN_OFFSET = 0x9003, 0x9011
_CHANGED = 0x0132
_OF_A_CAMERA = (0x829A, 0x829D, 0x920A)
"""Exposure time, F number, focal length: a scanner has none of them."""
_FILE_SOURCE, _STILL_CAMERA = 0xA300, 3
"""Film scanners say 1 there, scanners of prints 2."""
_PNG_SIGNATURE_BYTES, _PNG_CHECKSUM_BYTES = 8, 4
_OFFSET = re.compile(r"([+-])(\d{2}):(\d{2})")


class Origin(BaseModel):
    """What the file's own tags say; every one may be missing, and none is vouched for."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    taken: datetime | None = None
    """When it was taken. Where the camera's zone is not given it is taken for UTC, as its clock cannot be placed."""
    device: str = ""
    """Maker and model."""
    photographed: bool = False
    """Whether tags are there that only a camera writes."""


def origin_of(path: Path) -> Origin:
    """What an image file says of its making; an empty ``Origin`` where it says nothing, or cannot be opened.

    Source:
        Exif 2.32 (CIPA DC-008-2019), 4.6.4 and 4.6.5; the zone of DateTimeOriginal is tag 0x9011. TIFF 6.0 for DateTime.
    """
    try:
        kind = sniff(path)
        if kind == "PDF":
            return Origin()
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(path, formats=[PILLOW_NAMES[kind]]) as image:
                exif = _png_exif(path, image) if kind == "PNG" else image.getexif()
                return _origin(exif, exif.get_ifd(_EXIF_IFD))
    # Tags are a courtesy: damaged ones, whatever the library makes of them, must not keep a page out.
    except (DecodeError, OSError, SyntaxError, ValueError, TypeError, KeyError, IndexError, EOFError, RuntimeError):
        return Origin()


def _png_exif(path: Path, image: Image.Image) -> Image.Exif:
    """The tags of a PNG, which may stand behind its pixels (PNG 3rd edition, 5.6), without decoding those."""
    with path.open("rb") as file:
        file.seek(_PNG_SIGNATURE_BYTES)
        while len(head := file.read(8)) == 8:
            length, name = struct.unpack(">I4s", head)
            if name == b"eXIf":
                image.info["exif"] = file.read(length)
                break
            file.seek(length + _PNG_CHECKSUM_BYTES, os.SEEK_CUR)
    return Image.Image.getexif(image)


def _origin(exif: Any, inner: Any) -> Origin:
    maker, model = (" ".join(str(exif.get(tag, "")).replace("\0", " ").split())[:80] for tag in (_MAKE, _MODEL))
    device = model if model.startswith(maker) else f"{maker} {model}".strip()
    taken = _moment(inner.get(_TAKEN), inner.get(_TAKEN_OFFSET)) or _moment(exif.get(_CHANGED), None)
    by_camera = any(tag in inner for tag in _OF_A_CAMERA) or _file_source(inner.get(_FILE_SOURCE)) == _STILL_CAMERA
    return Origin(taken=taken, device=device, photographed=by_camera)


def _file_source(value: Any) -> int | None:
    """A single byte of no stated type (Exif 2.32, 4.6.5); some write it as a number."""
    return value[0] if isinstance(value, bytes) and value else value if isinstance(value, int) else None


def _moment(text: object, offset: object) -> datetime | None:
    try:
        moment = datetime.strptime(str(text).strip("\0 "), "%Y:%m:%d %H:%M:%S")
    except ValueError:
        return None
    found = _OFFSET.fullmatch(str(offset or "").strip("\0 "))
    away = timedelta(0)
    if found:
        away = timedelta(hours=int(found[2]), minutes=int(found[3])) * (-1 if found[1] == "-" else 1)
    return moment.replace(tzinfo=timezone(away))
