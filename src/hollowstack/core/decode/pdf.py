"""Pages of a PDF of scans: taken out exactly where a page is one picture, else drawn at its scan's resolution."""

import ctypes
import math
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
import pikepdf
import pypdfium2 as pdfium
import pypdfium2.raw as pdfium_c

from hollowstack.core.decode.colour import is_gray
from hollowstack.core.decode.limits import check_size
from hollowstack.core.page.errors import DecodeError
from hollowstack.core.page.raster import ASSUMED_PPI, Pixels, Raster, as_pixels

POINTS_PER_INCH = 72.0
_NO_PAGES = "The PDF has no pages: save it again with them."
_COVERS = 0.5
"""Share of the page that pictures of one resolution must cover to be taken for its scan."""
_SAME_PPI = 1.03
_DEEPEST = 4
"""Forms within forms that are looked into."""
_INVISIBLE = 3
"""Text rendering mode of a text layer (ISO 32000-1, 9.3.6)."""
_FILLS_WITHIN = 0.75
"""Points by which a picture's edges may miss the page's for the page to be that picture."""
_ROUNDED = 3e-4
"""Share by which a resolution may miss a whole number for that to be rounding."""
_ALIKE = 8.0
"""Mean difference, in 8-bit steps, up to which a picture taken out is what the page shows: no mask, no odd colours."""


class _Picture(NamedTuple):
    """A picture on a page: its object, its place (a, b, c, d, e, f: ISO 32000-1, 8.3.3) and its size in pixels."""

    item: object
    place: tuple[float, float, float, float, float, float]
    size: tuple[int, int]

    @property
    def area(self) -> float:
        """In square points."""
        a, b, c, d, _, _ = self.place
        return abs(a * d - b * c)

    @property
    def ppi(self) -> float:
        """Pixels an inch, along the side that has more."""
        a, b, c, d, _, _ = self.place
        return max(self.size[0] / math.hypot(a, b), self.size[1] / math.hypot(c, d)) * POINTS_PER_INCH


def count_pages(path: Path) -> int:
    """How many pages a PDF has. Raises DecodeError where it cannot be opened or wants a password."""
    with _opened(path) as document:
        if len(document) == 0:
            raise DecodeError(_NO_PAGES)
        return len(document)


def decode_page(path: Path, page_index: int) -> Raster:
    """One page as a raster: its one picture pixel for pixel, or drawn at the highest resolution of what covers it.

    A page without pictures that cover it (text and lines only) is drawn at 300 ppi.

    Raises:
        DecodeError: The page cannot be drawn, or would be too large.
    """
    with _opened(path) as document:
        try:
            page = document[page_index]
        except (IndexError, pdfium.PdfiumError):
            raise DecodeError(f"Page {page_index + 1} of the PDF is damaged: print or scan it again.") from None
        unit = _user_unit(path, page_index)
        width_pt, height_pt = page.get_size()
        pictures, plain = _pictures(page)
        exact = _taken_out(page, pictures[0], unit) if plain and len(pictures) == 1 else None
        if exact is not None:
            return exact
        ppi = _scan_ppi(pictures, width_pt * height_pt) or ASSUMED_PPI * unit
        pixels = _drawn(page, (width_pt, height_pt), ppi)
        return Raster(pixels, (round(ppi / unit, 2), round(ppi / unit, 2)))


def _drawn(page: pdfium.PdfPage, size_pt: tuple[float, float], ppi: float) -> Pixels:
    width, height = (max(1, round(v / POINTS_PER_INCH * ppi)) for v in size_pt)
    check_size(width, height)
    bitmap = pdfium.PdfBitmap.new_native(width, height, pdfium_c.FPDFBitmap_BGR)
    try:
        bitmap.fill_rect((255, 255, 255, 255), 0, 0, width, height)
        flags = pdfium_c.FPDF_ANNOT | pdfium_c.FPDF_REVERSE_BYTE_ORDER
        pdfium_c.FPDF_RenderPageBitmap(bitmap, page, 0, 0, width, height, 0, flags)
        pixels = as_pixels(bitmap.to_numpy()).copy()
    finally:
        bitmap.close()
    return np.ascontiguousarray(pixels[..., 0]) if is_gray(pixels) else pixels


def _taken_out(page: pdfium.PdfPage, picture: _Picture, unit: float) -> Raster | None:
    """The pixels of the one picture that is the whole page; None where it is not, or shows otherwise than it is stored."""
    a, b, c, d, e, f = picture.place
    left, bottom, right, top = page.get_mediabox()
    turn = page.get_rotation()
    upright = abs(b) < 1e-3 and abs(c) < 1e-3 and a > 0 and d > 0
    fills = max(abs(e - left), abs(f - bottom), abs(e + a - right), abs(f + d - top)) <= _FILLS_WITHIN
    if not upright or not fills or tuple(page.get_cropbox()) != tuple(page.get_mediabox()):
        return None
    check_size(*picture.size)
    raw = pdfium_c.FPDFImageObj_GetBitmap(picture.item)
    if not raw:
        return None
    bitmap = pdfium.PdfBitmap.from_raw(raw)  # frees what it wraps when nobody looks at it any more
    if bitmap.format not in (pdfium_c.FPDFBitmap_Gray, pdfium_c.FPDFBitmap_BGR, pdfium_c.FPDFBitmap_BGRx):
        return None
    values = np.asarray(bitmap.to_numpy()).copy()
    if values.ndim == 3 and values.shape[2] >= 3:
        values = values[..., 2::-1]
    pixels = as_pixels(np.ascontiguousarray(np.rot90(values.squeeze(), -turn // 90)))
    if pixels.ndim == 3 and is_gray(pixels):
        pixels = np.ascontiguousarray(pixels[..., 0])
    if not _shown_so(page, pixels):
        return None
    ppi = (picture.size[0] / a * POINTS_PER_INCH / unit, picture.size[1] / d * POINTS_PER_INCH / unit)
    ppi = ppi if turn % 180 == 0 else ppi[::-1]
    return Raster(pixels, (_tidy(ppi[0]), _tidy(ppi[1])))


def _tidy(ppi: float) -> float:
    """Boxes are rounded to hundredths of a point, so that 300 comes as 299.96."""
    return float(round(ppi)) if abs(ppi - round(ppi)) < _ROUNDED * ppi else round(ppi, 2)


def _shown_so(page: pdfium.PdfPage, pixels: Pixels) -> bool:
    """Whether the page, drawn small, looks as the pixels do."""
    width_pt, height_pt = page.get_size()
    ppi = 64 / max(width_pt, height_pt, 1) * POINTS_PER_INCH * 2
    drawn = _drawn(page, (width_pt, height_pt), ppi)
    small = cv2.resize(pixels, drawn.shape[1::-1], interpolation=cv2.INTER_AREA)
    one, other = (values if values.ndim == 2 else cv2.cvtColor(values, cv2.COLOR_RGB2GRAY) for values in (drawn, small))
    if drawn.ndim == 3 and small.ndim == 3:
        one, other = drawn, small
    return float(np.mean(cv2.absdiff(as_pixels(one), as_pixels(other)))) <= _ALIKE


def _pictures(page: pdfium.PdfPage) -> tuple[list[_Picture], bool]:
    """All pictures of a page, those in forms too, and whether nothing else is seen on it."""
    found: list[_Picture] = []
    plain = pdfium_c.FPDFPage_GetAnnotCount(page) == 0
    count = pdfium_c.FPDFPage_CountObjects(page)
    items = ((pdfium_c.FPDFPage_GetObject(page, index), (1.0, 0.0, 0.0, 1.0, 0.0, 0.0), 0) for index in range(count))
    queue = list(items)
    while queue:
        item, outer, depth = queue.pop(0)
        kind = pdfium_c.FPDFPageObj_GetType(item)
        place = _times(_matrix(item), outer)
        if kind == pdfium_c.FPDF_PAGEOBJ_FORM:
            if depth < _DEEPEST:
                inner = range(pdfium_c.FPDFFormObj_CountObjects(item))
                queue += [(pdfium_c.FPDFFormObj_GetObject(item, index), place, depth + 1) for index in inner]
            else:
                plain = False
        elif kind == pdfium_c.FPDF_PAGEOBJ_IMAGE:
            wide, high = ctypes.c_uint(), ctypes.c_uint()
            a, b, c, d, _, _ = place
            if pdfium_c.FPDFImageObj_GetImagePixelSize(item, wide, high) and math.hypot(a, b) and math.hypot(c, d):
                found.append(_Picture(item, place, (wide.value, high.value)))
        elif kind != pdfium_c.FPDF_PAGEOBJ_TEXT or pdfium_c.FPDFTextObj_GetTextRenderMode(item) != _INVISIBLE:
            plain = False
    return found, plain


def _matrix(item: object) -> tuple[float, float, float, float, float, float]:
    matrix = pdfium_c.FS_MATRIX()
    if not pdfium_c.FPDFPageObj_GetMatrix(item, matrix):
        return 1.0, 0.0, 0.0, 1.0, 0.0, 0.0
    return matrix.a, matrix.b, matrix.c, matrix.d, matrix.e, matrix.f


def _times(
    one: tuple[float, float, float, float, float, float], outer: tuple[float, float, float, float, float, float]
) -> tuple[float, float, float, float, float, float]:
    """A matrix within another's space (ISO 32000-1, 8.3.4)."""
    a, b, c, d, e, f = one
    p, q, r, s, t, u = outer
    return a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s, e * p + f * r + t, e * q + f * s + u


def _scan_ppi(pictures: list[_Picture], page_area: float) -> float | None:
    """The highest resolution of which pictures cover most of the page, layers and strips alike; None without one."""
    for picture in sorted(pictures, key=lambda picture: -picture.ppi):
        covered = sum(
            other.area for other in pictures if 1 / _SAME_PPI <= other.ppi / picture.ppi <= _SAME_PPI
        )  # fmt: skip
        if covered >= _COVERS * page_area:
            return picture.ppi
    return None


def _user_unit(path: Path, page_index: int) -> float:
    """Points of a page for one of the default ones (ISO 32000-1, 14.11.2 and table 30)."""
    try:
        with pikepdf.open(path) as pdf:
            return max(1.0, float(pdf.pages[page_index].obj.get("/UserUnit", 1)))
    except (pikepdf.PdfError, IndexError, ValueError, TypeError):
        return 1.0


@contextmanager
def _opened(path: Path) -> Iterator[pdfium.PdfDocument]:
    try:
        document = pdfium.PdfDocument(path)
    except pdfium.PdfiumError:
        raise DecodeError(_why_closed(path)) from None
    try:
        yield document
    finally:
        document.close()


def _why_closed(path: Path) -> str:
    """Why a PDF does not open, by a second library: of one without pages PDFium gives the error of the file before it."""
    try:
        with pikepdf.open(path) as pdf:
            if len(pdf.pages) == 0:
                return _NO_PAGES
    except pikepdf.PasswordError:
        return "The PDF is locked with a password: save it without one and add it again."
    except (pikepdf.PdfError, OSError, ValueError, TypeError):
        pass
    return "The PDF is damaged and cannot be opened: copy or scan it again."
