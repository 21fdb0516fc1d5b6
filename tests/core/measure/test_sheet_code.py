"""Separator and cover sheets are known however they come back from the printer, and nothing else is taken for them."""

import cv2
import numpy as np
import pypdfium2
import pytest
import segno

from hollowstack.core.bind.separator_sheet import separator_sheet
from hollowstack.core.measure import measure
from hollowstack.core.measure.content.sheet_code import COVER
from hollowstack.core.page.errors import PaperError
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment


def printed(paper: str = "A4", ppi: float = 150) -> np.ndarray:
    document = pypdfium2.PdfDocument(separator_sheet(paper))
    return np.asarray(document[0].render(scale=ppi / 72, grayscale=True).to_pil())


@pytest.fixture
def printed_cover(typed_page):
    """A typed page with a code of 40 mm in its upper right corner, as a browser prints a cover sheet."""

    def make(whose, says=None, ppi=150):
        page = typed_page().pixels.copy()
        rows = segno.make(COVER + whose if says is None else says, error="h", micro=False).matrix_iter(border=4)
        code = np.array([[0 if dark else 255 for dark in row] for row in rows], np.uint8)
        side = round(40 / 25.4 * ppi)
        small = cv2.resize(code, (side, side), interpolation=cv2.INTER_AREA)
        page[40 : 40 + side, -80 - side : -80] = small[..., None] if page.ndim == 3 else small
        return Raster(page, (ppi, ppi))

    return make


@pytest.mark.parametrize("turn", [0, 1, 2, 3])
@pytest.mark.parametrize("skew", [0.0, 7.0])
def test_however_it_lies(turn, skew):
    sheet = np.rot90(printed(), turn)
    matrix = cv2.getRotationMatrix2D((sheet.shape[1] / 2, sheet.shape[0] / 2), skew, 1)
    tilted = cv2.warpAffine(np.ascontiguousarray(sheet), matrix, sheet.shape[::-1], borderValue=60)
    assert measure(Raster(tilted, (150, 150))).separator


@pytest.mark.parametrize("ppi", [75, 100, 200, 300, 600])
def test_at_any_resolution(ppi):
    assert measure(Raster(printed(ppi=ppi), (ppi, ppi))).separator


def test_faint_dirty_and_half_covered():
    sheet = printed().astype(np.float32)
    rng = np.random.default_rng(4)
    faint = 120 + sheet * 0.35 + rng.normal(0, 9, sheet.shape)
    faint[: sheet.shape[0] // 3] = 90  # one of the two codes is enough
    assert measure(Raster(np.clip(faint, 0, 255).astype(np.uint8), (150, 150))).separator


def test_it_goes_aside_and_can_be_kept():
    found = measure(Raster(printed(), (150, 150)))
    assert plan_page(found, Treatment()).aside == "separator"
    assert plan_page(found, Treatment(), Override(aside=False)).aside is None


def test_a_letter_is_none(typed_page):
    assert not measure(typed_page()).separator


def test_on_paper_that_does_not_exist():
    with pytest.raises(PaperError, match="no paper size “A99”"):
        separator_sheet("A99")


def test_a_cover_sheet_says_whose_papers_lie_under_it_and_goes_aside(printed_cover):
    found = measure(printed_cover("7 3FA9C07B11E2"))
    assert (found.separator, found.cover, found.lies_between) == (False, "7 3FA9C07B11E2", True)
    assert plan_page(found, Treatment()).aside == "cover sheet"
    assert plan_page(found, Treatment(), Override(aside=False)).aside is None


def test_a_code_of_something_else_is_no_sheet_of_ours(printed_cover):
    found = measure(printed_cover("", says="https://example.org/7"))
    assert (found.separator, found.cover, found.lies_between) == (False, "", False)
