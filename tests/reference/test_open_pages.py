"""Pages that others have photographed: scikit-image's ``data.page`` and ``data.text`` (BSD licence), transcribed by eye."""

import numpy as np
import pytest
from skimage import data

from hollowstack.core.measure import measure
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.core.settings.treatment import Treatment

WRITTEN = (
    "Region-based segmentation Let us first determine markers of the coins and the background. These markers are pixels that "
    "we can label unambiguously as either object or background. Here, the markers are found at the two extreme parts of the "
    "histogram of grey values:"
)


def opened(name: str) -> Raster:
    return Raster(np.ascontiguousarray(getattr(data, name)()), None)


def planned(image: Raster, treatment: Treatment) -> Plan:
    return plan_page(measure(image), treatment)


def test_a_photographed_page_in_falling_light_is_read():
    """384 × 191 pixels, letters eight pixels high, one side three times as dark as the other; nothing says its resolution."""
    image = opened("page")
    plan = planned(image, Treatment())
    read = set(read_rendered(image, plan, "eng").text.split())
    assert np.mean([word in read for word in WRITTEN.split()]) >= 0.95
    assert plan.turn == 0
    assert abs(plan.skew_deg) < 2


@pytest.mark.parametrize("name", ["page", "text"])
@pytest.mark.parametrize("treatment", sorted(SHIPPED))
def test_photographs_of_writing_are_neither_blank_nor_cropped(name, treatment):
    image = opened(name)
    plan = planned(image, SHIPPED[treatment])
    assert plan.aside is None
    assert plan.size_px[0] * plan.size_px[1] >= 0.98 * image.width * image.height
