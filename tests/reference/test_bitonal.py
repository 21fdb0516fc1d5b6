"""Thresholds against scikit-image, and area averaging against Pillow's box filter."""

import numpy as np
import pytest
from PIL import Image
from skimage.filters import threshold_otsu, threshold_sauvola

from hollowstack.core.imaging.threshold import otsu
from hollowstack.core.imaging.warp import warp
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.render.bitonal import sauvola
from tests.conftest import captured, typed_sheet

PAGE = Raster(captured(typed_sheet()).pixels, (150.0, 150.0)).gray()


def test_otsu():
    """N. Otsu 1979; scikit-image 0.25 or later, ``threshold_otsu``."""
    assert otsu(PAGE.pixels) == pytest.approx(threshold_otsu(PAGE.pixels), abs=1)


def test_sauvola():
    """J. Sauvola and M. Pietikäinen 2000; scikit-image, ``threshold_sauvola`` with the same window, k and range."""
    window = max(3, PAGE.px(3.2) | 1)
    theirs = threshold_sauvola(PAGE.pixels, window_size=window, k=0.2, r=128)
    inside = np.s_[window:-window, window:-window]
    assert np.abs(sauvola(PAGE) - theirs)[inside].max() < 0.1


def test_shrinking_is_the_mean_over_each_pixels_area():
    """Pillow's box filter over whole numbers of pixels."""
    size = (PAGE.width // 4, PAGE.height // 4)
    whole = np.ascontiguousarray(PAGE.pixels[: size[1] * 4, : size[0] * 4])
    ours = warp(whole, Quad.rectangle(0, 0, size[0] * 4, size[1] * 4), size, (255,))
    theirs = np.asarray(Image.fromarray(whole).resize(size, Image.Resampling.BOX))
    assert np.abs(ours.astype(int) - theirs).max() <= 1
    # Moved by a hair it is sampled, not copied: still the same mean but for what lies between two pixels.
    moved = warp(whole, Quad.rectangle(0.01, 0.01, size[0] * 4 - 0.01, size[1] * 4 - 0.01), size, (255,))
    assert np.abs(moved.astype(int) - theirs).mean() < 1.5
