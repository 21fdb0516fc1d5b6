"""What is written where a border would be cleared is found; a clean bar, a torn corner and cut-off writing are told apart."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.check.border import check_border
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry.scan import Glass
from tests.conftest import captured, typed_sheet

GUTTER = Glass(skew=0.6, margins_mm=(9, 7, 8, 7), lid=30, gutter="left")
CLEARING = Treatment(clear_surround="always")


def bound(note: str = "") -> Raster:
    sheet = typed_sheet()
    if note:
        sheet.write(2.0, 90, note, random.Random(2), 16, (40, 40, 44), 230)
    return Raster(captured(sheet, GUTTER).pixels, (150.0, 150.0))


def said(image: Raster, treatment: Treatment = CLEARING, override: Override | None = None) -> dict[str, str]:
    found = measure(image)
    return {finding.check: finding.message for finding in check_border(found, plan_page(found, treatment, override))}


def test_a_clean_bar_is_cleared_without_a_word():
    found = measure(bound())
    assert found.border_ink == ()
    assert said(bound()) == {}


@pytest.mark.parametrize("lid", [70, 100, 150])
def test_the_edge_of_a_page_on_a_grey_lid_is_no_writing(lid):
    askew = captured(typed_sheet(), Glass(skew=-0.8, margins_mm=(9, 12, 11, 11), lid=lid, gutter="left"))
    assert measure(Raster(askew.pixels, (150.0, 150.0))).border_ink == ()


def test_a_note_in_the_bar_is_kept_and_said():
    with_note, without = bound("see 14"), bound()
    found = measure(with_note)
    plan = plan_page(found, CLEARING)
    assert len(found.border_ink) == 1
    assert "left there" in said(with_note)["border"]
    page, bare = render(with_note, plan), render(without, plan.model_copy(update={"protected": ()}))
    # The note's ink is on the page, although the border beside it was cleared.
    x, y = np.mean(found.border_ink[0], axis=0)
    note = Transform.onto(Quad.of(plan.quad), *plan.size_px).apply([(x, y)])[0]
    around = np.s_[int(note[1]) - 20 : int(note[1]) + 20, max(0, int(note[0]) - 40) : int(note[0]) + 40]
    assert page.gray().pixels[around].min() < 110
    assert bare.gray().pixels[around].min() > 190
    assert x < np.array(plan.quad).mean(axis=0)[0]
    assert abs(int(page.height) - int(bare.height)) <= 1
    spot = {f.check: f for f in check_border(found, plan)}["border"].spot
    assert spot is not None
    left, top, wide, high = spot
    assert left <= x <= left + wide
    assert top <= y <= top + high


def test_borders_by_hand_over_a_note_ask_for_a_look():
    found = measure(bound("see 14"))
    assert "look whether it is lost" in said(bound("see 14"), override=Override(plain=found.bright_quad))["border"]


def test_kept_borders_have_nothing_to_say():
    assert said(bound("see 14"), Treatment(clear_surround="never")) == {}


@pytest.mark.parametrize("corner", [0, 1, 2, 3])
def test_a_missing_corner_is_said(corner):
    made = captured(typed_sheet(), Glass(skew=0.5, margins_mm=(8, 8, 8, 8), lid=40))
    pixels = made.pixels.copy()
    at = made.quad.array()[corner]
    middle = made.quad.array().mean(axis=0)
    inward = np.sign(middle - at)
    torn = at + inward * np.array([[-8, -8], [90, -8], [-8, 90]])
    cv2.fillPoly(pixels, [np.rint(torn).astype(np.int32)], (40, 40, 40))
    messages = said(Raster(pixels, (150.0, 150.0)))
    assert messages["corner"].startswith("A corner of the page is missing")
    assert said(Raster(made.pixels, (150.0, 150.0))) == {}


def test_writing_that_runs_off_the_image_is_said():
    sheet = typed_sheet()
    made = captured(sheet).pixels
    left = int(min(word.box[0] for word in sheet.words)) + 6
    assert "runs off the image" in said(Raster(np.ascontiguousarray(made[:, left:]), (150.0, 150.0)))["cut off"]
    assert said(Raster(made, (150.0, 150.0))) == {}
