"""Sharpness by the slanted edge against closed forms; noise and colour against scikit-image; charts by textbook constants."""

import math

import cv2
import numpy as np
import pytest
from scipy.optimize import brentq
from scipy.special import erf
from skimage import color, util

from hollowstack.core.calibrate.colorimetry import delta_e_2000, srgb_from_lab, xyz_from_srgb
from hollowstack.core.calibrate.control_chart import D2, drift_of, limits_of
from hollowstack.core.calibrate.slanted_edge import measure_edge
from hollowstack.core.calibrate.station_quality import measure_station, nominal, tolerances
from hollowstack.core.page.errors import CalibrationError
from hollowstack.core.page.raster import Raster
from tests.targets import captured

FINE = 16


def edge(blur: float, angle: float = 5.0, rows: int = 120, cols: int = 80, noise: float = 0.0) -> np.ndarray:
    """An ideal edge from 0.2 to 0.8, blurred by a Gaussian of so many pixels and averaged over square pixels."""
    x = (np.arange(cols * FINE) + 0.5) / FINE
    y = (np.arange(rows * 4) + 0.5) / 4
    away = x[None, :] - cols / 2 - math.tan(math.radians(angle)) * (y[:, None] - rows / 2)
    away *= math.cos(math.radians(angle))
    light = 0.5 + 0.5 * erf(away / max(blur, 1e-6) / math.sqrt(2)) if blur else (away > 0).astype(float)
    pixels = light.reshape(rows, 4, cols, FINE).mean(axis=(1, 3))
    return 0.2 + 0.6 * pixels + np.random.default_rng(3).normal(0, noise, (rows, cols))


def expected(blur: float, modulation: float) -> float:
    """Fourier transform of a Gaussian by that of a square pixel, solved for a modulation."""
    return float(brentq(lambda f: math.exp(-2 * (math.pi * blur * f) ** 2) * np.sinc(f) - modulation, 1e-6, 0.9999))


@pytest.mark.parametrize("blur", [0.5, 0.8, 1.2, 2.0])
@pytest.mark.parametrize("angle", [3.0, 5.0, -8.0])
def test_a_blurred_edge_has_the_transfer_of_its_blur(blur: float, angle: float):
    found = measure_edge(edge(blur, angle))
    assert found.angle_deg == pytest.approx(angle, abs=0.1)
    assert found.frequency_at(0.5) == pytest.approx(expected(blur, 0.5), rel=0.03)
    assert found.frequency_at(0.1) == pytest.approx(expected(blur, 0.1), rel=0.04)


def test_a_sharp_edge_has_the_transfer_of_a_pixel():
    """A box: sinc(f), 0.6366 at half a cycle a pixel."""
    found = measure_edge(edge(0.0))
    at_nyquist = float(np.interp(0.5, found.frequencies, found.mtf))
    assert at_nyquist == pytest.approx(2 / math.pi, abs=0.03)


def test_noise_moves_it_little():
    assert measure_edge(edge(0.8, noise=0.01)).frequency_at(0.5) == pytest.approx(expected(0.8, 0.5), rel=0.05)


def test_the_edge_is_found_to_parts_of_a_pixel():
    moved = measure_edge(np.roll(edge(0.8), 7, axis=1)[:, 10:])
    assert moved.position - measure_edge(edge(0.8)).position == pytest.approx(7 - 10, abs=0.02)


@pytest.mark.parametrize(
    ("light", "told"),
    [
        (np.full((60, 60), 0.5), "There is no edge"),
        (edge(0.8)[:19], "too small"),
        (edge(0.8)[:, 33:48], "too small"),
        (edge(0.8, angle=0.3), "askew by 0.3°"),
        (edge(0.8, angle=20.0), "askew by 20"),
    ],
    ids=["even", "low", "narrow", "upright", "steep"],
)
def test_what_is_no_edge_is_refused(light, told):
    with pytest.raises(CalibrationError, match=told):
        measure_edge(light)


def test_colours_and_their_differences_are_those_of_a_reference_library():
    lab = nominal().lab
    rgb = srgb_from_lab(lab)
    assert np.abs(xyz_from_srgb(rgb) - color.rgb2xyz(rgb[None])[0] @ _ADAPT.T).max() < 2e-3
    other = lab + np.random.default_rng(1).normal(0, 3, lab.shape)
    assert np.allclose(delta_e_2000(lab, other), color.deltaE_ciede2000(lab, other), atol=1e-6)


_ADAPT = np.array(
    [[1.0478112, 0.0228866, -0.0501270], [0.0295424, 0.9904844, -0.0170491], [-0.0092345, 0.0150436, 0.7521316]]
)
"""D65 to D50 by Bradford (B. Lindbloom's tables, from memory)."""


def test_noise_is_that_which_a_reference_library_makes():
    """Noise put on by skimage.util.random_noise, and its deviation in L* by skimage.color, patch by patch."""
    still = captured(noise=0.0)
    noisy = util.random_noise(still.pixels / 255, var=(3 / 255) ** 2, rng=4)
    told = measure_station(Raster(np.ascontiguousarray(np.round(noisy * 255).astype(np.uint8)), still.ppi)).figures["noise"]
    spread = []
    for grey in srgb_from_lab(nominal().lab[:12]):
        patch = util.random_noise(np.broadcast_to(grey, (200, 200, 3)), var=(3 / 255) ** 2, rng=5)
        spread.append(color.rgb2lab(np.round(patch * 255) / 255)[..., 0].std())
    assert told == pytest.approx(float(np.median(spread)), rel=0.05)


def test_limits_are_those_of_the_textbook():
    """D. C. Montgomery, Introduction to Statistical Quality Control, 6.4, worked example of loan costs (from memory: mean
    300.5, mean moving range 7.79, limits 321.22 and 279.78)."""
    costs = [310, 288, 297, 298, 307, 303, 294, 297, 308, 306, 294, 299, 297, 299, 314, 295, 293, 306, 301, 304]
    limits = limits_of(costs)
    assert limits is not None
    ranges = [abs(a - b) for a, b in zip(costs[1:], costs, strict=False)]
    assert sum(costs) / 20 == pytest.approx(300.5)
    assert sum(ranges) / 19 == pytest.approx(7.79, abs=0.005)
    assert limits.upper == pytest.approx(321.22, abs=0.01)
    assert limits.lower == pytest.approx(279.78, abs=0.01)
    assert D2 == 1.128


def test_chance_alone_seldom_looks_like_drift():
    """Three standard deviations are passed 27 times in ten thousand; eight in a row on one side come once in 128."""
    values = np.random.default_rng(8).normal(0, 1, (400, 20))
    alarms = sum(drift_of(list(row)) != "" for row in values)
    assert alarms / 400 < 0.06


@pytest.mark.parametrize(
    ("values", "drift"),
    [
        ([1, 2, 1, 2], ""),
        ([1, 2, 1, 2, 9], ""),  # that value itself widens what is usual, as long as so few are known
        (
            [1.0, 1.2, 0.9, 1.1, 1.0, 1.1, 0.9, 1.0, 1.1, 1.0, 1.1, 1.0, 0.9, 1.1, 1.0, 1.0, 0.9, 1.1, 1.0, 1.0, 2.5],
            "beyond",
        ),
        ([2, 0] * 10 + [1.2] * 7 + [0.9], ""),
        ([2, 0] * 10 + [1.2] * 8, "one side"),
        ([2, 0] * 10 + [1.2] * 7, ""),
    ],
)
def test_drift(values, drift):
    assert drift_of([float(value) for value in values]) == drift


def test_tolerances_name_their_guideline():
    guideline, known = tolerances()
    assert "from memory" in guideline
    assert set(known) == set(measure_station(captured()).figures)
    assert all((one.most is None) != (one.least is None) for one in known.values())
    assert known["noise"].bears(2.0)
    assert not known["noise"].bears(2.01)
    assert known["efficiency"].bears(80.0)
    assert not known["efficiency"].bears(79.9)


@pytest.mark.parametrize(
    "turn", [None, cv2.ROTATE_90_CLOCKWISE, cv2.ROTATE_180], ids=["upright", "on its side", "upside down"]
)
def test_a_station_is_measured_by_what_it_made_of_the_target(turn):
    """Blur of a known width, one colour a pixel aside, and a scale that is not what the file says."""
    found = measure_station(captured(blur=0.9, turn=turn))
    both = [expected(0.9, share) * 300 / 25.4 for share in (0.5, 0.1)]
    for share, told in zip(both, (found.mtf50, found.mtf10), strict=True):
        assert told == pytest.approx((share, share), rel=0.07)
    assert found.figures["sampling_error"] < 0.15
    assert found.figures["colour_mean"] < 1.0
    assert found.figures["misregistration"] < 0.1


@pytest.mark.parametrize(
    ("how", "name", "told"),
    [
        ({"aside": 1.0}, "misregistration", 1.0),
        ({"stretch": 1.03}, "sampling_error", 3.0),
        ({"falls": 0.1}, "evenness", 2.3),
    ],
    ids=["a colour aside", "stretched", "light that falls off"],
)
def test_what_is_wrong_shows_in_its_figure(how, name, told):
    assert measure_station(captured(**how)).figures[name] == pytest.approx(told, rel=0.12)


def test_what_is_not_the_target_is_refused():
    image = captured()
    with pytest.raises(CalibrationError, match="grey"):
        measure_station(image.gray())
    with pytest.raises(CalibrationError, match="whole quality target"):
        measure_station(type(image)(np.ascontiguousarray(image.pixels[: image.height // 2]), image.ppi))
    other = nominal()._replace(names=tuple(f"X{at}" for at in range(30)))
    with pytest.raises(CalibrationError, match="another target"):
        measure_station(image, other)
