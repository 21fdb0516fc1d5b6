"""TIFF pages that Pillow does not read, or reads wrongly: floating samples, 32 bits, 16 bits in planes; by tifffile."""

from pathlib import Path

import numpy as np
import tifffile
from PIL import Image

from hollowstack.core.decode.colour import eight_bits, over_white
from hollowstack.core.decode.damage import CUT_SHORT, DAMAGED, TOO_LARGE
from hollowstack.core.decode.limits import check_size
from hollowstack.core.decode.turns import SIDEWAYS, TURN
from hollowstack.core.page.errors import DecodeError

# TIFF 6.0, section 8 and the sections on SampleFormat and ExtraSamples.
_WHITE_IS_ZERO, _BLACK_IS_ZERO, _RGB = 0, 1, 2
_UNCOMPRESSED, _PLANES, _FLOATING = 1, 2, 3
_INCH, _CENTIMETRE = 2, 3
_TRANSPARENCY = (1, 2)
_ASSOCIATED = 1
_REDUCED = 1
_PROFILE = 34675


def deep_page(path: Path, frame: int) -> Image.Image | None:
    """A page brought to 8 bits, with its resolution, turn and profile; None where Pillow reads it as it should.

    Raises:
        DecodeError: Nobody reads what it stores.
    """
    try:
        with tifffile.TiffFile(path) as tiff:
            page = full_pages(tiff)[frame]
            return _decoded(page, path.stat().st_size) if isinstance(page, tifffile.TiffPage) and _misread(page) else None
    except DAMAGED:
        return None  # Pillow says how


def deep_pages(path: Path) -> int:
    """How many pages a file holds whose first one Pillow does not read; 0 where it does, or nobody reads it."""
    try:
        with tifffile.TiffFile(path) as tiff:
            first = tiff.pages[0]
            return len(full_pages(tiff)) if isinstance(first, tifffile.TiffPage) and _misread(first) else 0
    except DAMAGED:
        return 0


def full_pages(tiff: tifffile.TiffFile) -> list[tifffile.TiffPage]:
    """The pages of a file without reduced copies of others, which are none of their own (TIFF 6.0, NewSubfileType)."""
    return [page.aspage() for page in tiff.pages if not int(page.aspage().subfiletype) & _REDUCED]


def page_numbers(path: Path) -> list[int] | None:
    """At which places of a file its pages stand, where some of its images are reduced copies; None where none is."""
    try:
        with tifffile.TiffFile(path) as tiff:
            places = [n for n, page in enumerate(tiff.pages) if not int(page.aspage().subfiletype) & _REDUCED]
            return places if places and len(places) < len(tiff.pages) else None
    except DAMAGED:
        return None


def _decoded(page: tifffile.TiffPage, file_bytes: int) -> Image.Image:
    size = (page.imagewidth, page.imagelength)
    check_size(*size)
    size = size[::-1] if _turn(page) in SIDEWAYS else size
    try:
        if max(map(sum, zip(page.dataoffsets, page.databytecounts, strict=True))) > file_bytes:
            raise DecodeError(CUT_SHORT, size)
        return _as_image(page, np.asarray(page.asarray()))
    except MemoryError:
        raise DecodeError(TOO_LARGE, size) from None
    except DAMAGED:
        how = f"{page.bitspersample} bits a channel" + (", floating" if page.sampleformat == _FLOATING else "")
        what = f"The TIFF stores {how} in a way that is not read: save it with 8 or 16 bits a channel."
        raise DecodeError(what, size) from None


def _misread(page: tifffile.TiffPage) -> bool:
    if page.photometric not in {_WHITE_IS_ZERO, _BLACK_IS_ZERO, _RGB}:
        return False
    if page.sampleformat == _FLOATING:
        return bool(page.bitspersample != 32 or page.samplesperpixel > 1)
    in_planes = page.planarconfig == _PLANES and page.compression == _UNCOMPRESSED and page.samplesperpixel > 1
    odd = page.bitspersample not in {1, 2, 4, 8, 16}  # 12 and 14 bits, as better cameras and old film scanners have
    return bool(odd or page.bitspersample > 16 or (page.bitspersample == 16 and in_planes))


def _as_image(page: tifffile.TiffPage, samples: np.ndarray[tuple[int, ...], np.dtype[np.generic]]) -> Image.Image:
    if page.planarconfig == _PLANES and samples.ndim == 3:
        samples = np.moveaxis(samples, 0, 2)
    if samples.dtype == np.uint32:
        samples = np.right_shift(samples, 16).astype(np.uint16)
    if np.issubdtype(samples.dtype, np.unsignedinteger) and 8 < page.bitspersample < 16:
        samples = (samples.astype(np.uint32) * 65535 // ((1 << page.bitspersample) - 1)).astype(np.uint16)
    colours = 3 if page.photometric == _RGB else 1
    extra = page.extrasamples
    if extra and extra[0] == _ASSOCIATED and np.issubdtype(samples.dtype, np.floating) and samples.shape[-1] > colours:
        # Colours were multiplied by their opacity: on white paper, what is left of that is added.
        opacity = np.nan_to_num(samples[..., colours : colours + 1])
        samples = np.nan_to_num(samples[..., :colours]) + (1 - np.clip(opacity, 0, 1))
        samples, extra = np.squeeze(samples, axis=-1) if colours == 1 else samples, ()
    pixels = eight_bits(samples)
    pixels = pixels[..., None] if pixels.ndim == 2 else pixels
    plain = pixels[..., :colours] if colours == 3 else pixels[..., 0]
    if page.photometric == _WHITE_IS_ZERO:
        plain = 255 - plain
    if extra and extra[0] in _TRANSPARENCY and pixels.shape[2] > colours:
        plain = over_white(plain, pixels[..., colours])
    image = Image.fromarray(np.ascontiguousarray(plain))
    unit = {_INCH: 1.0, _CENTIMETRE: 2.54}.get(int(page.resolutionunit))
    if unit and 282 in page.tags:
        image.info["dpi"] = tuple(value * unit for value in page.resolution)
    if _PROFILE in page.tags:
        image.info["icc_profile"] = page.tags[_PROFILE].value
    image.getexif()[TURN] = _turn(page)
    return image


def _turn(page: tifffile.TiffPage) -> int:
    return int(page.tags[TURN].value) if TURN in page.tags else 1
