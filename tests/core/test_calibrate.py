"""A device that sees colours wrongly is put right by its image of a target; what cannot be a target is refused."""

import numpy as np
import pytest
from pydantic import ValidationError

from hollowstack.core.calibrate import calibrate, read_patches
from hollowstack.core.calibrate.calibration import sampled
from hollowstack.core.calibrate.cgats import PatchFile
from hollowstack.core.calibrate.colorimetry import Colours, delta_e_2000, lab_from_xyz, xyz_from_lab, xyz_from_srgb
from hollowstack.core.imaging.colour_profile import calibrated
from hollowstack.core.measure import measure
from hollowstack.core.page.errors import CalibrationError
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment

ROWS, COLS, SIDE = 4, 8, 40
CORNERS = Quad.rectangle(30, 20, 30 + COLS * SIDE, 20 + ROWS * SIDE)
WRONG = np.array([[0.84, 0.10, 0.03], [0.05, 0.80, 0.06], [0.02, 0.12, 0.70]])
"""What the device makes of linear light: channels that leak into each other, and too little blue."""


def true_srgb() -> Colours:
    """Colours over the whole of a printed target, and a row of greys."""
    rng = np.random.default_rng(12)
    colours = rng.uniform(0.12, 0.85, (COLS * (ROWS - 1), 3))
    greys = np.repeat(np.linspace(0.08, 0.95, COLS)[:, None], 3, axis=1)
    return np.vstack([colours, greys])


def target() -> PatchFile:
    return read_patches(patch_text(lab_from_xyz(xyz_from_srgb(true_srgb()))))


def patch_text(lab: Colours) -> str:
    names = [f"{'ABCD'[i // COLS]}{i % COLS + 1}" for i in range(len(lab))]
    lines = [f"{name} {a:.3f} {b:.3f} {c:.3f}" for name, (a, b, c) in zip(names, lab, strict=True)]
    head = "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\n"
    return f"{head}NUMBER_OF_SETS {len(lab)}\nBEGIN_DATA\n" + "\n".join(lines) + "\nEND_DATA\n"


def captured_target() -> Raster:
    """As the device sees it: wrong primaries, a gamma of its own, a little noise."""
    light = true_srgb() ** 2.2 @ WRONG.T
    seen = 255 * np.clip(light, 0, 1) ** (1 / 1.9)
    image = np.full((ROWS * SIDE + 40, COLS * SIDE + 60, 3), 40.0)
    for index, colour in enumerate(seen):
        row, col = divmod(index, COLS)
        image[20 + row * SIDE : 20 + (row + 1) * SIDE, 30 + col * SIDE : 30 + (col + 1) * SIDE] = colour
    image += np.random.default_rng(2).normal(0, 1.5, image.shape)
    return Raster(np.clip(image + 0.5, 0, 255).astype(np.uint8), (300.0, 300.0))


def test_colours_are_put_right():
    made = calibrate(captured_target(), CORNERS, target(), "Glass A4")
    assert made.before[0] > 6
    assert made.after[0] < 0.8
    assert made.after[1] < 4
    assert made.patches == ROWS * COLS
    assert made == calibrate(captured_target(), CORNERS, target(), "Glass A4")


def test_a_device_that_sees_rightly_is_left_alone():
    rgb = true_srgb()
    image = np.repeat(np.repeat((255 * rgb).reshape(ROWS, COLS, 3), SIDE, axis=0), SIDE, axis=1)
    made = calibrate(
        Raster(np.rint(image).astype(np.uint8)), Quad.rectangle(0, 0, COLS * SIDE, ROWS * SIDE), target(), "right"
    )
    assert made.before[0] < 0.3
    assert made.after[0] < 0.7


def test_a_page_is_rendered_through_the_profile():
    made = calibrate(captured_target(), CORNERS, target(), "Glass A4")
    image = captured_target()
    done = calibrated(image, made.icc)
    lab = lab_from_xyz(xyz_from_srgb(sampled(done, CORNERS, target()) / 255))
    assert np.mean(delta_e_2000(lab, target().lab)) < 1.0
    assert np.array_equal(calibrated(image.gray(), made.icc).pixels, image.gray().pixels)
    found = measure(image)
    plan = plan_page(found, Treatment(colour="colour", calibration=made, even_tone=False), Override(quad=CORNERS))
    assert plan.icc == made.icc
    assert plan_page(found, Treatment(colour="grey", calibration=made)).icc == ""
    page = render(image, plan)
    middle = lab_from_xyz(xyz_from_srgb(page.pixels[SIDE // 2, SIDE // 2][None] / 255))
    assert delta_e_2000(middle, target().lab[:1])[0] < 3


def test_patches_are_placed_by_their_names():
    found = target()
    assert (found.rows, found.cols) == (ROWS, COLS)
    assert found.places[0] == (0, 0)
    assert found.places[COLS + 2] == (1, 2)
    assert np.allclose(xyz_from_lab(found.lab), xyz_from_srgb(true_srgb()), atol=2e-4)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("hello", "no patch file"),
        (patch_text(np.array([[50.0, 0, 0]])).replace("LAB_L", "XYZ_X"), "has no LAB_L"),
        (patch_text(np.array([[50.0, 0, 0]])).replace("A1 ", "1 "), "not named by row and column"),
        (patch_text(np.array([[50.0, 0, 0]])).replace(" 0.000 0.000", " 0.000"), "3 values instead of 4"),
        (patch_text(np.array([[50.0, 0, 0]])).replace("50.000", "fifty"), "no number"),
        (patch_text(np.array([[500.0, 0, 0]])), "no colour has"),
        (patch_text(np.array([[50.0, 0, 0]])).replace("A1 50.000 0.000 0.000\n", ""), "0 patches"),
    ],
)
def test_other_files_are_refused_in_words(text, why):
    with pytest.raises(CalibrationError, match=why):
        read_patches(text)


def test_what_cannot_be_the_target_is_refused():
    with pytest.raises(CalibrationError, match="grey"):
        calibrate(captured_target().gray(), CORNERS, target(), "x")
    noise = np.random.default_rng(1).integers(0, 256, captured_target().pixels.shape, dtype=np.uint8)
    with pytest.raises(CalibrationError, match="corners"):
        calibrate(Raster(noise), CORNERS, target(), "x")
    few = target()._replace(names=("A1", "A2"), lab=target().lab[:2], places=((0, 0), (0, 1)))
    with pytest.raises(CalibrationError, match="2 patches"):
        calibrate(captured_target(), CORNERS, few, "x")


@pytest.mark.parametrize("icc", ["", "hello", "aGVsbG8="])
def test_a_treatment_whose_profile_is_none_is_refused(icc):
    made = calibrate(captured_target(), CORNERS, target(), "Glass A4")
    with pytest.raises(ValidationError, match="no ICC profile"):
        Treatment.model_validate({"calibration": {**made.model_dump(), "icc": icc}})
