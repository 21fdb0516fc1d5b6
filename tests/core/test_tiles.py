"""Long strips read in tiles: every word once, lines whole, and in the places where they stand."""

import itertools
import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.ocr import tiles
from hollowstack.core.ocr.model import Line, Word
from hollowstack.core.ocr.reading import read_page
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.sheet import Sheet, fitted


@given(st.integers(1, 120_000))
def test_every_place_is_one_tiles_own(length):
    found = list(tiles.tiles(length))
    assert (found[0].start, found[-1].end) == (0, length)
    for before, after in itertools.pairwise(found):
        assert before.own_end == after.own_start
        assert after.start < before.own_end < before.end
    assert max(tile.end - tile.start for tile in found) <= max(tiles.FROM_PX, 2 * tiles.LONG_PX)


@pytest.mark.parametrize(("length", "count"), [(tiles.FROM_PX, 1), (tiles.FROM_PX + 1, 2)])
def test_a_page_is_one_tile_up_to_the_limit(length, count):
    assert len(list(tiles.tiles(length))) == count


def line(*boxes: tuple[int, int, int, int]) -> tiles.FoundLine:
    words = [Word(text=str(box[0]), box=box, confidence=90) for box in boxes]
    return tiles.FoundLine(Line(words=words, baseline=(boxes[0][0], boxes[0][3], boxes[-1][2], boxes[-1][3])))


@pytest.mark.parametrize(
    ("second", "count"),
    [((110, 0, 150, 10), 1), ((130, 0, 150, 10), 1), ((131, 0, 150, 10), 2), ((110, 7, 150, 17), 2), ((90, 0, 150, 10), 2)],
    ids=["next word", "at the limit", "too far", "another line", "overlapping"],
)
def test_what_a_seam_cuts_is_one_line_again(second, count):
    whole = tiles.joined([[line((0, 0, 40, 10), (60, 0, 100, 10))], [line(second)]], across=True)
    assert len(whole) == count
    assert [word.box for part in whole for word in part.line.words] == [(0, 0, 40, 10), (60, 0, 100, 10), second]


def test_tiles_one_below_the_other_have_no_lines_in_common():
    parts = [[line((0, 0, 40, 10))], [line((50, 0, 90, 10))]]
    assert len(tiles.joined(parts, across=False)) == 2


@pytest.mark.parametrize("across", [True, False], ids=["across", "down"])
def test_a_strip_reads_as_it_does_whole(monkeypatch, across):
    rng = random.Random(4)
    words = [word for paragraph in REPORT for word in paragraph.split()]
    sheet = Sheet(240, 60) if across else Sheet(80, 200)
    for number, text in enumerate(
        fitted(sheet, " ".join(rng.choice(words) for _ in range(150)), "OldStandardTT-Regular", 11, sheet.width_mm - 20)
    ):
        if 12 + 6 * number < sheet.height_mm - 5:
            sheet.print(10, 12 + 6 * number, text, "OldStandardTT-Regular", 11)
    ((_, layer),) = sheet.layers.items()
    page = Raster(255 - np.asarray(layer), (300.0, 300.0))
    whole = read_page(page)
    monkeypatch.setattr(tiles, "FROM_PX", 1000)
    monkeypatch.setattr(tiles, "LONG_PX", 1000)
    monkeypatch.setattr(tiles, "OVERLAP_PX", 500)
    cut = read_page(page)
    assert sorted(word.text for word in cut.words) == sorted(word.text for word in whole.words)
    assert cut.text.split() == whole.text.split()
    places = {word.box: word.text for word in whole.words}
    for word in cut.words:
        nearest = min(places, key=lambda box, word=word: sum(abs(a - b) for a, b in zip(box, word.box, strict=True)))
        assert places[nearest] == word.text
        assert max(abs(a - b) for a, b in zip(nearest, word.box, strict=True)) <= 6
