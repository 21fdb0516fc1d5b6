"""Whatever an image holds, and however small or long it is, it is measured, planned, checked and made into a page."""

import numpy as np
import pytest

from hollowstack.core.check import check_page
from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.core.settings.treatment import Treatment

RESOLUTIONS = (None, (72.0, 72.0), (150.0, 150.0), (300.0, 300.0), (600.0, 600.0), (204.0, 98.0))
TREATMENTS = [Treatment(clear_surround="always"), *SHIPPED.values()]


def heap(rng: np.random.Generator) -> Raster:
    """Rectangles thrown on a ground, often with noise, in any shape down to a single pixel."""
    rows, cols = (int(rng.integers(1, 12 if rng.random() < 0.15 else 600)) for _ in range(2))
    channels = (3,) if rng.random() < 0.5 else ()
    image = np.full((rows, cols, *channels), int(rng.integers(256)), np.uint8)
    for _ in range(rng.integers(0, 8)):
        (left, right), (top, bottom) = (sorted(rng.integers(0, side + 1, 2)) for side in (cols, rows))
        image[top:bottom, left:right] = rng.integers(0, 256, channels)
    if rng.random() < 0.5:
        image = np.clip(image + rng.normal(0, rng.integers(1, 40), image.shape), 0, 255).astype(np.uint8)
    return Raster(image, RESOLUTIONS[rng.integers(len(RESOLUTIONS))])


@pytest.mark.parametrize("photographed", [False, True])
@pytest.mark.parametrize("seed", range(0, 40, 5))
def test_any_image_becomes_a_page(seed, photographed):
    for number in range(seed, seed + 5):
        image = heap(np.random.default_rng(number))
        found = measure(image, photographed=photographed)
        for treatment in (TREATMENTS[0], TREATMENTS[1 + number % len(SHIPPED)]):
            plan = plan_page(found, treatment)
            page = render(image, plan)
            assert (page.width, page.height) == plan.size_px
            check_page(found, plan, None)
