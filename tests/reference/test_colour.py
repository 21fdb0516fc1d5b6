"""Colour differences, spaces and profiles against the published pairs, scikit-image and LittleCMS."""

import base64
import io

import numpy as np
import pytest
from PIL import Image, ImageCms
from skimage.color import deltaE_ciede2000, lab2xyz

from hollowstack.core.calibrate.calibration import calibrate, sampled
from hollowstack.core.calibrate.colorimetry import D50, delta_e_2000, lab_from_xyz, xyz_from_lab, xyz_from_srgb
from hollowstack.core.page.raster import Raster
from tests.core.test_calibrate import CORNERS, captured_target, target

# G. Sharma, W. Wu and E. N. Dalal, Color Research and Application 30 (2005), table 1: pairs 1 to 10, 13, 17 to 20, 25 and 34
# (from memory; each was checked with scikit-image).
PAIRS = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.0200), (50, 0, -82.7485), 3.4412),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
    ((50, -1.1848, -84.8006), (50, 0, -82.7485), 1.0000),
    ((50, -0.9009, -85.5211), (50, 0, -82.7485), 1.0000),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, -1, 2), (50, 0, 0), 2.3669),
    ((50, 2.4900, -0.0010), (50, -2.4900, 0.0009), 7.1792),
    ((50, 2.4900, -0.0010), (50, -2.4900, 0.0010), 7.1792),
    ((50, -0.0010, 2.4900), (50, 0.0009, -2.4900), 4.8045),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((50, 2.5, 0), (56, -27, -3), 31.9030),
    ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((2.0776, 0.0795, -1.1350), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("one", "other", "difference"), PAIRS)
def test_the_published_pairs(one, other, difference):
    assert delta_e_2000(np.array([one], float), np.array([other], float))[0] == pytest.approx(difference, abs=5e-5)


def test_any_pair_is_as_scikit_image_has_it():
    rng = np.random.default_rng(3)
    one, other = (np.column_stack([rng.uniform(0, 100, 3000), rng.uniform(-100, 100, (3000, 2))]) for _ in range(2))
    assert np.allclose(delta_e_2000(one, other), deltaE_ciede2000(one, other), atol=1e-9)


def test_lab_is_as_scikit_image_has_it():
    rng = np.random.default_rng(4)
    lab = np.column_stack([rng.uniform(2, 100, 500), rng.uniform(-40, 40, (500, 2))])
    theirs = lab2xyz(lab, illuminant="D50")
    assert np.allclose(xyz_from_lab(lab) / D50, theirs / lab2xyz(np.array([[100.0, 0, 0]]), illuminant="D50"), atol=2e-3)
    assert np.allclose(lab_from_xyz(xyz_from_lab(lab)), lab, atol=1e-9)


def test_srgb_is_as_littlecms_has_it():
    """LittleCMS 2: from its own sRGB profile to L*a*b* under D50."""
    rng = np.random.default_rng(5)
    rgb = rng.integers(0, 256, (40, 50, 3), dtype=np.uint8)
    to_lab = ImageCms.buildTransform(
        ImageCms.createProfile("sRGB"), ImageCms.createProfile("LAB"), "RGB", "LAB", renderingIntent=1
    )
    theirs = np.asarray(ImageCms.applyTransform(Image.fromarray(rgb), to_lab)).astype(float)
    ours = lab_from_xyz(xyz_from_srgb(rgb.reshape(-1, 3) / 255)).reshape(rgb.shape)
    signed = np.where(theirs[..., 1:] > 127, theirs[..., 1:] - 256, theirs[..., 1:])
    # Pillow's L*a*b* has whole numbers, and a brightness of 0 to 255.
    assert np.abs(theirs[..., 0] / 2.55 - ours[..., 0]).max() < 0.5
    assert np.abs(signed - ours[..., 1:]).max() < 1.5


def test_the_profile_is_read_by_littlecms_and_does_what_it_says():
    """LittleCMS 2 applies it: the captured target then has the colours of its patch file."""
    image, patches = captured_target(), target()
    made = calibrate(image, CORNERS, patches, "Glass A4")
    profile = ImageCms.ImageCmsProfile(io.BytesIO(base64.b64decode(made.icc)))
    assert ImageCms.getProfileDescription(profile).strip() == "Glass A4"
    to_srgb = ImageCms.buildTransform(profile, ImageCms.createProfile("sRGB"), "RGB", "RGB", renderingIntent=1)
    done = Raster(np.asarray(ImageCms.applyTransform(Image.fromarray(image.pixels), to_srgb)))
    lab = lab_from_xyz(xyz_from_srgb(sampled(done, CORNERS, patches) / 255))
    within = delta_e_2000(lab, patches.lab)
    assert within.mean() < 1.0
    assert made.after[0] < 0.8
    assert made.before[0] > 5 * made.after[0]
