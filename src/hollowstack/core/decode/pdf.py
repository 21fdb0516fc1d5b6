"""Pages of a PDF of scans, each at its scan's own resolution, by PDFium."""

import ctypes
import math
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
import pypdfium2 as pdfium
import pypdfium2.raw as pdfium_c

from hollowstack.core.decode.colour import is_gray
from hollowstack.core.decode.limits import check_size
from hollowstack.core.errors import DecodeError
from hollowstack.core.raster import ASSUMED_PPI, Raster, as_pixels

POINTS_PER_INCH = 72.0
_COVERS = 0.5
"""Share of the page a picture must cover to be taken for its scan."""


def count_pages(path: Path) -> int:
    """How many pages a PDF has. Raises DecodeError where it cannot be opened or wants a password."""
    with _opened(path) as document:
        if len(document) == 0:
            raise DecodeError("The PDF has no pages.")
        return len(document)


def decode_page(path: Path, page_index: int) -> Raster:
    """One page as a raster: at the resolution of the scan that covers it, else at 300 ppi.

    Raises:
        DecodeError: The page cannot be drawn, or would be too large.
    """
    with _opened(path) as document:
        try:
            page = document[page_index]
        except (IndexError, pdfium.PdfiumError):
            raise DecodeError(f"Page {page_index + 1} of the PDF is damaged: print or scan it again.") from None
        width_pt, height_pt = page.get_size()
        ppi = _scan_ppi(page, width_pt * height_pt) or ASSUMED_PPI
        # The scan's own pixel count where the page is exactly its picture, so that it is drawn pixel for pixel.
        width, height = (max(1, round(v / POINTS_PER_INCH * ppi)) for v in (width_pt, height_pt))
        check_size(width, height)
        bitmap = pdfium.PdfBitmap.new_native(width, height, pdfium_c.FPDFBitmap_BGR)
        try:
            bitmap.fill_rect((255, 255, 255, 255), 0, 0, width, height)
            flags = pdfium_c.FPDF_ANNOT | pdfium_c.FPDF_REVERSE_BYTE_ORDER
            pdfium_c.FPDF_RenderPageBitmap(bitmap, page, 0, 0, width, height, 0, flags)
            pixels = as_pixels(bitmap.to_numpy()).copy()
        finally:
            bitmap.close()
        if is_gray(pixels):
            pixels = np.ascontiguousarray(pixels[..., 0])
        return Raster(pixels, (round(ppi, 2), round(ppi, 2)))


def _scan_ppi(page: pdfium.PdfPage, page_area: float) -> float | None:
    """Resolution of the picture that covers most of the page, in pixels an inch of paper; None without one."""
    best: tuple[float, float] | None = None
    for item in page.get_objects(filter=[pdfium_c.FPDF_PAGEOBJ_IMAGE], max_depth=3):
        a, b, c, d, _, _ = item.get_matrix().get()
        across, down = math.hypot(a, b), math.hypot(c, d)
        covered = abs(a * d - b * c)
        wide, high = ctypes.c_uint(), ctypes.c_uint()
        if not pdfium_c.FPDFImageObj_GetImagePixelSize(item, wide, high) or not across or not down:
            continue
        ppi = max(wide.value / across, high.value / down) * POINTS_PER_INCH
        if covered >= _COVERS * page_area and (best is None or covered > best[0]):
            best = (covered, ppi)
    return best[1] if best else None


@contextmanager
def _opened(path: Path) -> Iterator[pdfium.PdfDocument]:
    try:
        document = pdfium.PdfDocument(path)
    except pdfium.PdfiumError as error:
        if "password" in str(error).lower():
            raise DecodeError("The PDF is locked with a password: save it without one and add it again.") from None
        raise DecodeError("The PDF is damaged and cannot be opened: copy or scan it again.") from None
    try:
        yield document
    finally:
        document.close()
