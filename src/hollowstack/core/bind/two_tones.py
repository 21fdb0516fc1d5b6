"""Pages in two tones: JBIG2 or Group 4, and back."""

import io
import logging
import struct

import numpy as np
import pikepdf
import pypdfium2
from pikepdf import Dictionary, Name, Pdf, Stream
from PIL import Image, TiffImagePlugin

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.page.raster import Pixels
from hollowstack.core.settings.treatment import Packing

log = logging.getLogger(__name__)


def is_two_tones(pixels: Pixels) -> bool:
    """Whether there is nothing but black and white."""
    return pixels.ndim == 2 and bool(np.all((pixels == 0) | (pixels == 255)))


def encode_two_tones(pixels: Pixels, packing: Packing) -> EncodedImage:
    """Compress a page of black and white; every pixel comes back.

    What JBIG2 has made is decoded again by another program's decoder before anybody relies on it; where a pixel differed,
    the page is Group 4.

    Args:
        pixels: Gray; dark is ink.
        packing: How.

    Source:
        ITU-T T.88 (08/2018) and T.6 (11/88).
    """
    size = (pixels.shape[1], pixels.shape[0])
    if packing == "JBIG2":
        # Only where it is needed: its compiler takes half a second to load.
        from hollowstack.core.bind.jbig2 import encode_page

        ink = (pixels < _MIDDLE).astype(np.uint8)
        made = EncodedImage("JBIG2Decode", encode_page(ink), size, gray=True)
        if _comes_back(made, ink):
            return made
        log.error("a page of %d × %d pixels did not come back from JBIG2 as it was: it is kept as Group 4", *size)
    return EncodedImage("CCITTFaxDecode", _group4(pixels), size, gray=True)


_MIDDLE = 128


def _comes_back(image: EncodedImage, ink: Pixels) -> bool:
    try:
        return np.array_equal(decode_two_tones(image) < _MIDDLE, ink.astype(bool))
    except pypdfium2.PdfiumError:
        return False


def decode_two_tones(image: EncodedImage) -> Pixels:
    """The pixels of a page in two tones: 0 and 255."""
    if image.filter == "JBIG2Decode":
        return _by_viewer(image)
    with Image.open(io.BytesIO(_tiff_around(image))) as tiff:
        return np.asarray(tiff.convert("L"))


def _by_viewer(image: EncodedImage) -> Pixels:
    """Decoded as viewers do that are built on PDFium."""
    document = pypdfium2.PdfDocument(_pdf_around(image))
    try:
        bitmap = next(iter(document[0].get_objects())).get_bitmap(render=False)
        pixels: Pixels = np.array(bitmap.to_numpy()).reshape(image.size_px[1], image.size_px[0], -1)[:, :, 0]
        return pixels
    finally:
        document.close()


def _pdf_around(image: EncodedImage) -> bytes:
    """The smallest PDF that shows the image."""
    with Pdf.new() as pdf:
        pdf.add_blank_page(page_size=(72, 72))
        stream = Stream(pdf, image.data)
        stream.Type, stream.Subtype, stream.Width, stream.Height = Name.XObject, Name.Image, *image.size_px
        stream.ColorSpace, stream.BitsPerComponent, stream.Filter = Name.DeviceGray, 1, Name("/" + image.filter)
        page = pdf.pages[0]
        page.Resources = Dictionary(XObject=Dictionary(Im=pdf.make_indirect(stream)))
        page.Contents = Stream(pdf, b"72 0 0 72 0 0 cm /Im Do")
        buffer = io.BytesIO()
        pdf.save(buffer, stream_decode_level=pikepdf.StreamDecodeLevel.none)
    return buffer.getvalue()


def _group4(pixels: Pixels) -> bytes:
    """One strip of Group 4 data in which paper is coded by the short white runs, as the PDF filter expects."""
    buffer = io.BytesIO()
    # Stored inverted: the TIFF writer would code bit 0, its black, as white runs.
    ink = Image.fromarray(255 - pixels).convert("1", dither=Image.Dither.NONE)
    ink.save(buffer, "TIFF", compression="group4", strip_size=1 << 30)
    with Image.open(buffer) as tiff:
        assert isinstance(tiff, TiffImagePlugin.TiffImageFile)
        offsets, counts = tiff.tag_v2[273], tiff.tag_v2[279]
    data = buffer.getvalue()
    (start,), (length,) = offsets, counts
    return data[start : start + length]


def _tiff_around(image: EncodedImage) -> bytes:
    """The smallest TIFF file that holds one strip of Group 4 data (TIFF 6.0, sections 2 and 11)."""
    data, (width, height) = image.data, image.size_px
    entries = [
        (256, 4, width), (257, 4, height), (258, 3, 1), (259, 3, 4), (262, 3, int(image.black_is_one)),
        (273, 4, 8 + 2 + 9 * 12 + 4), (277, 3, 1), (278, 4, height), (279, 4, len(data)),
    ]  # fmt: skip
    directory = struct.pack("<H", len(entries))
    for tag, kind, value in entries:
        directory += struct.pack("<HHII", tag, kind, 1, value)
    return struct.pack("<2sHI", b"II", 42, 8) + directory + struct.pack("<I", 0) + data
