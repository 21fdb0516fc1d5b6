"""Tilt against the finders of Leptonica and of scikit-image's Radon transform."""

import numpy as np
import pytest
from skimage.transform import radon

from benchmarks.accuracy import leptonica
from benchmarks.accuracy.truth import drawn, gray
from hollowstack.core.decode import decode
from hollowstack.core.imaging.background import background_normalised
from hollowstack.core.measure.content.skew import measure_skew
from hollowstack.standins.skerry.scan import Glass


@pytest.mark.parametrize(
    ("layout", "skew", "bitonal"),
    [("prose", -12.3, False), ("columns", 7.04, True), ("table", -0.42, False), ("Greek", 2.95, True)],
)
def test_tilt_is_leptonicas(layout, skew, bitonal):
    """D. Bloomberg and others, SPIE 2422, 1995, as in ``benchmarks.accuracy.leptonica``."""
    _, made = drawn(layout, 517, Glass(skew=skew, noise=2.5))
    page = gray(made, bitonal=bitonal)
    theirs, confidence = leptonica.skew(page.pixels)
    assert confidence > 3  # below this Leptonica itself asks not to be believed
    assert measure_skew(page).degrees == pytest.approx(theirs, abs=0.05)


@pytest.mark.parametrize("name", ["06 notices.pdf", "01 letter 3a.jpg"])
def test_tilt_agrees_with_a_radon_transform(skerry, name):
    """scikit-image's Radon transform: the angle whose projection varies most, to its own grid of 0.1 degrees."""
    page = decode(skerry / name).gray()
    ink = np.clip(1 - background_normalised(page.reduced(60)), 0, 1)
    side = min(ink.shape)
    ink = ink[:side, :side] * _disc(side)
    angles = np.arange(-3, 3.01, 0.1)
    sharpness = radon(ink, theta=angles + 90).var(axis=0)
    assert measure_skew(page).degrees == pytest.approx(-angles[sharpness.argmax()], abs=0.15)


def _disc(side: int) -> np.ndarray:
    y, x = np.mgrid[:side, :side] - (side - 1) / 2
    return np.hypot(x, y) < side / 2 - 2
