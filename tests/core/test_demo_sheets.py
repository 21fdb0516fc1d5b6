"""The demo's sheets with more than text on them: what is solid, in tone or dyed comes through as it is."""

import cv2
import numpy as np

from hollowstack.core.decode import decode
from hollowstack.core.measure import measure
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.settings.shipped import SHIPPED


def placed(
    plan: Plan, page: np.ndarray, quad: Quad, box_mm: tuple[float, float, float, float], sheet_mm: tuple[float, float]
):
    """Part of a clean page, by millimetres of the sheet that was drawn."""
    onto = Transform.onto(Quad.rectangle(0, 0, *sheet_mm), 1, 1).then(Transform.onto(quad, 1, 1).inverse())
    there = onto.then(Transform.onto(plan.quad, *plan.size_px)).quad(Quad.rectangle(*box_mm)).array()
    (left, top), (right, bottom) = there.min(axis=0).astype(int), there.max(axis=0).astype(int)
    return page[top:bottom, left:right]


def test_the_storm_warning_keeps_its_letters_and_its_photograph(skerry, truth):
    image = decode(skerry / "08 storm warning.jpg")
    found = measure(image)
    page, plan, (finding, *_), _ = render_guarded(image, plan_page(found, SHIPPED["everyday"]))
    assert finding.verdict == "pass"
    assert plan.colour == "colour"
    quad = Quad.of(truth["08 storm warning.jpg"][0]["quad_px"])

    def part(*box: float) -> np.ndarray:
        return placed(plan, page.pixels, quad, box, (180, 250))

    band, block = part(16, 14, 164, 26), part(24, 206, 50, 232)
    assert np.median(band[..., 0]) - np.median(band[..., 1]) > 60  # red through and through
    assert np.mean(band.min(axis=2) > 200) < 0.05
    assert np.median(block) < 70
    assert np.mean(block > 200) < 0.05
    photograph = cv2.GaussianBlur(part(24, 106, 108, 168), (0, 0), 6)
    assert np.mean(photograph.min(axis=2) >= 250) < 0.1  # no more than the sky's own lights
    assert photograph.std() > 35
    kinds = {region.kind for region in found.regions}
    assert {"picture", "solid", "text"} <= kinds


def test_the_green_divider_is_bound_in_its_colour(skerry):
    image = decode(skerry / "09 divider.jpg")
    page, plan, (finding, *_), _ = render_guarded(image, plan_page(measure(image), SHIPPED["everyday"]))
    assert (plan.aside, plan.colour) == (None, "colour")
    red, green, blue = (float(np.median(page.pixels[..., channel])) for channel in range(3))
    assert green - red > 20
    assert green - blue > 10
    assert finding.value == 0
