"""The test sheet, printed and recognised however it lies."""

import cv2
import numpy as np
import pypdfium2
import pytest
import segno

from hollowstack.core.bind.path_sheet import path_sheet
from hollowstack.core.bind.separator_sheet import separator_sheet
from hollowstack.core.measure.content.path_sheet import find_path_sheet
from hollowstack.core.measure.content.sheet_code import sheet_code
from hollowstack.core.page.errors import PaperError
from hollowstack.core.page.raster import Raster, as_pixels

BED = (216.0, 300.0)


def printed(paper: str = "A5", ppi: float = 150, pdf: bytes | None = None, scale: float = 1.0):
    """A sheet from the printer, made smaller about its middle where the printer fits it to its margins."""
    with pypdfium2.PdfDocument(pdf or path_sheet(paper)) as document:
        sheet = np.asarray(document[0].render(scale=ppi / 72, grayscale=True).to_pil())
    small = cv2.resize(sheet, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    top, left = (sheet.shape[0] - small.shape[0]) // 2, (sheet.shape[1] - small.shape[1]) // 2
    whole = np.full_like(sheet, 255)
    whole[top : top + small.shape[0], left : left + small.shape[1]] = small
    return whole


def lying(sheet, turn: int, x_mm: float, y_mm: float, ppi: float = 150, tilt: float = 0.0):
    """The sheet on a lid, turned clockwise by quarters, its upper left corner at a place in mm."""
    sheet = np.rot90(sheet, -turn // 90)
    page = np.full([round(side / 25.4 * ppi) for side in BED[::-1]], 60, np.uint8)
    y, x = round(y_mm / 25.4 * ppi), round(x_mm / 25.4 * ppi)
    page[y : y + sheet.shape[0], x : x + sheet.shape[1]] = sheet
    if tilt:
        middle = (x + sheet.shape[1] / 2, y + sheet.shape[0] / 2)
        page = cv2.warpAffine(page, cv2.getRotationMatrix2D(middle, -tilt, 1), page.shape[::-1], borderValue=60)
    return Raster(as_pixels(page), (ppi, ppi))


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
@pytest.mark.parametrize(("paper", "scale", "tilt"), [("A5", 1.0, 0.0), ("A5", 0.94, 2.5), ("A6", 0.97, -4.0)])
def test_a_sheet_is_found_however_it_lies_and_however_the_printer_has_scaled_it(turn, paper, scale, tilt):
    sheet = printed(paper, scale=scale)
    found = find_path_sheet(lying(sheet, turn, 4, 25, tilt=tilt))
    assert found is not None
    assert found.turn == turn
    wide, high = (side / 150 * 25.4 for side in np.rot90(sheet, turn // 90).shape[::-1])
    np.testing.assert_allclose(found.box_mm, (4, 25, 4 + wide, 25 + high), atol=2.0)


@pytest.mark.parametrize("ppi", [100, 300])
def test_its_place_is_told_at_any_resolution(ppi):
    found = find_path_sheet(lying(printed(ppi=ppi), 180, 40, 30, ppi))
    assert found is not None
    assert found.turn == 180
    np.testing.assert_allclose(found.box_mm, (40, 30, 188, 240), atol=1.0)


def test_a_bare_page_and_a_separator_sheet_are_none():
    assert find_path_sheet(Raster(as_pixels(np.full((900, 700), 240, np.uint8)), (100, 100))) is None
    assert find_path_sheet(lying(printed(pdf=separator_sheet("A5")), 0, 10, 10)) is None
    assert sheet_code(lying(printed(), 0, 10, 10)) == ""


def test_there_is_no_sheet_on_paper_that_has_no_name():
    with pytest.raises(PaperError, match="no paper size"):
        path_sheet("A99")


def test_another_code_that_names_a_paper_is_no_test_sheet():
    modules = np.array([list(row) for row in segno.make("A5", error="h", micro=False).matrix], np.uint8)
    code = np.kron(255 * (1 - modules), np.ones((10, 10), np.uint8))
    page = np.full((900, 700), 255, np.uint8)
    page[100 : 100 + code.shape[0], 100 : 100 + code.shape[1]] = code
    assert find_path_sheet(Raster(as_pixels(page), (100, 100))) is None
