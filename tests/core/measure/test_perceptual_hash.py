"""The same page is known again however it was captured, and other pages of the same kind are not taken for it."""

import random

import numpy as np
import pytest

from hollowstack.core.measure import measure
from hollowstack.core.measure.content.perceptual_hash import alike
from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry import cards, letters
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Glass, scan


def similarity(sheet, paper: int, seed: int, **how: object) -> str:
    rng = np.random.default_rng(seed)
    surface = worn(sheet, (240, 238, 231), Wear(0.3, 0.2), np.random.default_rng(paper))
    glass = Glass(margins_mm=(9, 8, 11, 9), lid=34, **how)
    return measure(Raster(scan(surface, sheet.words, glass, sheet.ppi, rng).pixels, (sheet.ppi, sheet.ppi))).perceptual_hash


@pytest.fixture(scope="module")
def captures() -> list[str]:
    made = []
    for number in range(2):
        made.append(similarity(letters.letter(number, random.Random(number)), number, 1, skew=1.2))
        made.append(similarity(letters.letter(number, random.Random(number)), number, 2, skew=-1.4, noise=4.0))
        made.append(similarity(cards.card(number, random.Random(number)), 10 + number, 1, skew=-2.0))
        made.append(similarity(cards.card(number, random.Random(number)), 10 + number, 2, skew=1.0, noise=4.0))
    return made


def test_only_the_same_pages_are_alike(captures):
    assert [(a, b) for a, b, _ in alike(captures)] == [(0, 1), (2, 3), (4, 5), (6, 7)]


def test_pages_without_a_likeness_are_like_nothing(captures):
    assert alike(["", captures[0], "", captures[0]]) == [(1, 3, 0.0)]
    assert alike([]) == alike([captures[0]]) == []
