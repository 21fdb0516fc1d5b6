"""Blank is blank, and the least mark is a mark."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.measure import measure
from hollowstack.core.measure.content.blankness import measure_blankness
from hollowstack.core.page.raster import Raster
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.paper import Wear
from hollowstack.standins.skerry.scan import Glass
from hollowstack.standins.skerry.sheet import PENCIL, RED, Sheet
from tests.conftest import captured, typed_sheet

LIMIT = Treatment().blank_below


def ink(sheet: Sheet, **how) -> float:
    made = captured(sheet, Glass(skew=0.6), **how)
    return measure_blankness(Raster(made.pixels, (150, 150)).gray()).ink_percent


def empty() -> Sheet:
    return Sheet(148, 210, 150)


@pytest.mark.parametrize("seed", range(6))
def test_a_worn_back_with_show_through_is_blank(seed):
    wear = Wear(age=0.6, foxing=0.5, folds=2, show_through=1.0)
    assert ink(empty(), wear=wear, back=typed_sheet(20), seed=seed) < LIMIT


def test_punch_holes_are_not_marks():
    rng = np.random.default_rng(4)
    page = np.clip(rng.normal(236, 2, (1240, 874)), 0, 255).astype(np.uint8)
    for y in (380, 850):
        cv2.circle(page, (65, y), 16, 40, -1, cv2.LINE_AA)
    assert measure_blankness(Raster(page, (150, 150))).ink_percent == 0


def test_dust_and_edge_shadow_are_not_marks():
    rng = np.random.default_rng(5)
    page = np.clip(rng.normal(236, 2, (1240, 874)), 0, 255).astype(np.uint8)
    for _ in range(60):
        y, x = rng.integers(20, 1200), rng.integers(20, 850)
        page[y : y + 2, x : x + 2] = 90
    page[:, :9] = 60
    page[-5:] = 100
    assert measure_blankness(Raster(page, (150, 150))).ink_percent == 0


def page_number(sheet: Sheet) -> None:
    sheet.print(74, 200, "7", "OldStandardTT-Regular", 10)


def pencil_note(sheet: Sheet) -> None:
    sheet.write(40, 90, "see over", random.Random(1), 15, PENCIL, 180)


def stamp(sheet: Sheet) -> None:
    sheet.print(100, 30, "PAID", "LeagueGothic-Regular", 16, RED, "ls", 130)


def signature(sheet: Sheet) -> None:
    sheet.write(80, 180, "E. Harrow", random.Random(1), 20)


@pytest.mark.parametrize("mark", [page_number, pencil_note, stamp, signature])
@pytest.mark.parametrize("seed", range(3))
def test_the_least_mark_counts(mark, seed):
    sheet = empty()
    mark(sheet)
    assert ink(sheet, wear=Wear(age=0.5, foxing=0.3, show_through=0.6), back=typed_sheet(), seed=seed) >= LIMIT


def test_a_typed_page_is_far_from_blank():
    assert ink(typed_sheet()) > 100 * LIMIT


@pytest.mark.parametrize("contrast", [0.4, 0.3, 0.2])
def test_a_page_of_faint_writing_is_not_blank(contrast):
    """The palest is lighter than the core of a lone mark must be; that it is lines of text tells."""
    page = captured(typed_sheet(), wear=Wear(age=0.1, foxing=0, fade=0)).pixels
    pale = np.clip(230 + (page - 230.0) * contrast, 0, 255).astype(np.uint8)
    assert measure(Raster(pale, (150.0, 150.0))).ink_percent >= LIMIT
