"""The least mode that keeps what is on the page."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.content.colour import measure_colour
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear
from hollowstack.standins.skerry.sheet import PENCIL, RED, Sheet
from tests.conftest import captured, typed_sheet

YELLOWED = (236, 222, 184)
PINK = (243, 202, 200)
CLEAN = Wear(age=0.2, foxing=0.1, show_through=0)


def sheet_300() -> Sheet:
    return typed_sheet(12, ppi=300)


def content(sheet: Sheet, paper=YELLOWED, wear: Wear = CLEAN) -> str:
    return measure_colour(Raster(captured(sheet, wear=wear, paper=paper).pixels, (300, 300))).content


def test_type_on_yellowed_paper_is_two_toned():
    assert content(sheet_300()) == "bitonal"


def test_dyed_paper_is_colour():
    assert content(sheet_300(), PINK) == "colour"


def test_a_red_stamp_is_colour():
    sheet = sheet_300()
    sheet.print(100, 16, "PAID", "LeagueGothic-Regular", 22, RED, "ls", 190)
    assert content(sheet) == "colour"


def test_a_blue_signature_is_colour():
    sheet = sheet_300()
    sheet.write(80, 195, "A. Merriwether", random.Random(1), 24, (30, 50, 150))
    assert content(sheet) == "colour"


def test_pencil_needs_grey():
    sheet = Sheet(148, 210, 300)
    for line in range(6):
        sheet.write(16, 40 + 16 * line, "wind backing, glass falling slowly", random.Random(line), 20, PENCIL, 150)
    assert content(sheet) == "grey"


def test_a_photograph_needs_grey():
    ramp = np.tile(np.linspace(40, 220, 1200), (900, 1)).astype(np.uint8)
    page = np.full((1800, 1600), 238, np.uint8)
    page[300:1200, 200:1400] = (
        cv2.GaussianBlur(np.random.default_rng(1).integers(0, 60, ramp.shape, dtype=np.uint8), (0, 0), 9) + ramp // 2
    )
    assert measure_colour(Raster(page, (300, 300))).content == "grey"


def test_a_two_valued_scan_stays_so():
    page = np.where(np.random.default_rng(3).random((900, 700)) > 0.1, 255, 0).astype(np.uint8)
    assert measure_colour(Raster(page, (200, 200))).content == "bitonal"


@pytest.mark.parametrize("cast", [(0, 0, 0), (6, 0, -8), (-6, 2, 6)])
def test_a_slight_cast_is_not_colour(cast):
    grey = captured(sheet_300(), wear=CLEAN, paper=(238, 238, 238)).pixels.astype(int) + cast
    assert measure_colour(Raster(np.clip(grey, 0, 255).astype(np.uint8), (300, 300))).content == "bitonal"
