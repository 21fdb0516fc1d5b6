"""Pixels of pages as files of pictures."""

import io
import struct
from collections.abc import Iterable, Iterator
from pathlib import Path

import imagecodecs
from PIL import Image, TiffImagePlugin

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.two_tones import is_two_tones
from hollowstack.core.calibrate.icc import gray_profile, srgb_profile
from hollowstack.core.export.forms import ExportOrder, ExportPage
from hollowstack.core.page.errors import ExportError
from hollowstack.core.page.raster import Pixels

_DOCUMENT_NAME, _PAGE_NAME, _PREDICTOR = 269, 285, 317
"""Tags of TIFF 6.0, sections 12 and 14."""
_METRES_PER_INCH = 0.0254
_MIDDLE = 128
_PACKINGS = {"Deflate": "tiff_adobe_deflate", "LZW": "tiff_lzw", "Group 4": "group4"}


def page_ppi(page: ExportPage) -> tuple[float, float]:
    """The resolution of a page's pixels."""
    return page.image.ppi_of(page.image.size_px, page.ppi)


def profile_of(page: ExportPage, pixels: Pixels) -> bytes:
    """By which its values are meant: its own profile, or the house's."""
    own = page.image.icc if isinstance(page.image, EncodedImage) else b""
    return own or (gray_profile() if pixels.ndim == 2 else srgb_profile())


def write_tiff(pages: Iterable[ExportPage], path: Path, order: ExportOrder) -> Iterator[int]:
    """One file of many images; yields the number of each that is written.

    Raises:
        ExportError: The file would be larger than TIFF can tell.

    Source:
        TIFF 6.0; two tones by ITU-T T.6 (compression 4), the others by LZW (5) or Deflate (8) with horizontal differencing.
    """
    try:
        with path.open("w+b") as file, TiffImagePlugin.AppendingTiffWriter(file) as made:
            for number, page in enumerate(pages, 1):
                _write_image(made, page, order)
                made.newFrame()
                yield number
    except (struct.error, OverflowError):
        raise ExportError("The TIFF would be larger than 4 GB, which is the most: export fewer pages at once.") from None


def _write_image(made: TiffImagePlugin.AppendingTiffWriter, page: ExportPage, order: ExportOrder) -> None:
    pixels, tags = pixels_of(page.image), TiffImagePlugin.ImageFileDirectory_v2()
    tags[_DOCUMENT_NAME], tags[_PAGE_NAME] = order.title, page.label
    image, fax = Image.fromarray(pixels), order.tiff_packing == "Group 4"
    if fax or is_two_tones(pixels):
        image = image.convert("L").point(lambda value: 255 * (value >= _MIDDLE)).convert("1", dither=Image.Dither.NONE)
        image.save(made, "TIFF", compression=_PACKINGS[order.tiff_packing], dpi=page_ppi(page), tiffinfo=tags)
        return
    tags[_PREDICTOR] = 2
    image.save(
        made, "TIFF", compression=_PACKINGS[order.tiff_packing], dpi=page_ppi(page), tiffinfo=tags,
        icc_profile=profile_of(page, pixels),
    )  # fmt: skip


def picture_of(page: ExportPage, order: ExportOrder) -> bytes:
    """A page as a PNG, JPEG or JPEG 2000 file, with its resolution and its profile.

    Source:
        PNG 3rd edition (pHYs, iCCP); JFIF and ICC.1 annex B.4; ISO/IEC 15444-1 (reversible 5/3 wavelet).
    """
    pixels, buffer = pixels_of(page.image), io.BytesIO()
    profile, ppi = profile_of(page, pixels), page_ppi(page)
    image = Image.fromarray(pixels)
    match order.form:
        case "png":
            if is_two_tones(pixels):
                image.convert("1", dither=Image.Dither.NONE).save(buffer, "PNG", dpi=ppi)
            else:
                image.save(buffer, "PNG", dpi=ppi, icc_profile=profile)
        case "jpeg":
            own = page.image
            if isinstance(own, EncodedImage) and own.filter == "DCTDecode":
                return own.data  # as it is: packed again it would lose
            dots = (round(ppi[0]), round(ppi[1]))
            image.save(buffer, "JPEG", quality=order.jpeg_quality, dpi=dots, icc_profile=profile, progressive=True)
        case _:
            packed = bytes(imagecodecs.jpeg2k_encode(pixels, level=0, codecformat="jp2", reversible=True))
            return with_resolution(packed, ppi)
    return buffer.getvalue()


def with_resolution(jp2: bytes, ppi: tuple[float, float]) -> bytes:
    """A JPEG 2000 file that tells its resolution, in a box of its header.

    Source:
        ISO/IEC 15444-1:2019, I.5.3.7 (superbox res, box resc: dots a metre down and across, as fractions with an exponent).
    """
    across, down = (round(one / _METRES_PER_INCH) for one in ppi)
    resc = struct.pack(">I4sHHHHbb", 26 - 8, b"resc", down, 1, across, 1, 0, 0)
    res = struct.pack(">I4s", 8 + len(resc), b"res ") + resc
    at = jp2.index(b"jp2h") - 4
    (length,) = struct.unpack_from(">I", jp2, at)
    return jp2[:at] + struct.pack(">I", length + len(res)) + jp2[at + 4 : at + length] + res + jp2[at + length :]
