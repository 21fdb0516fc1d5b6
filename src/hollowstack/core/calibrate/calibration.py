"""How a device sees colour, from what it made of a target: curves and a matrix, kept as an ICC profile."""

import base64

import numpy as np

from hollowstack.core.calibrate.cgats import PatchFile
from hollowstack.core.calibrate.colorimetry import (
    Colours,
    delta_e_2000,
    lab_from_xyz,
    linear_from_srgb,
    xyz_from_lab,
    xyz_from_srgb,
)
from hollowstack.core.calibrate.icc import matrix_profile
from hollowstack.core.imaging.colour_profile import calibrated
from hollowstack.core.imaging.warp import warp
from hollowstack.core.page.errors import CalibrationError
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster
from hollowstack.core.settings.adjustments import Calibration

_CELL = 24
_INNER = 0.5
"""Share of a patch's side that is looked at: its rim may be another patch's, or a border."""
_NEUTRAL = 8.0
"""Chroma below which a patch is grey and says something of the curves."""
_FEWEST, _FEWEST_GREYS = 12, 4
_POINTS = 256
_SPREAD = 20.0
"""Deviation within a patch, in 8-bit steps, above which the corners cannot be right."""


def calibrate(image: Raster, corners: Quad, target: PatchFile, name: str) -> Calibration:
    """Profile a device from its image of a target.

    Args:
        image: The target as captured, in colour.
        corners: Outer corners of the field of patches, in reading order.
        target: What its patches are.
        name: To be written into the profile.

    Raises:
        CalibrationError: The image has no colour, there are too few patches, or the corners cannot be right.

    Source:
        Matrix and curves: ICC.1:2022, 8.3.3 (three-component matrix-based profiles). Curves from the grey patches, monotone;
        the matrix by least squares in XYZ, then by Gauss and Newton on CIEDE2000.
    """
    if image.is_gray:
        raise CalibrationError("The image of the target is grey: capture it in colour.")
    if len(target.names) < _FEWEST:
        raise CalibrationError(f"The target has {len(target.names)} patches: {_FEWEST} are the fewest that will do.")
    device = sampled(image, corners, target) / 255
    before = delta_e_2000(lab_from_xyz(xyz_from_srgb(device)), target.lab)
    curves = _curves(device, target.lab)
    light = np.column_stack([np.interp(device[:, c], np.linspace(0, 1, _POINTS), curves[:, c]) for c in range(3)])
    matrix = _matrix(light, target.lab)
    icc = base64.b64encode(matrix_profile(name, matrix, curves)).decode()
    # As pages come out: through the profile as it is stored, in 8 bits, within sRGB.
    patches = Raster(np.rint(device * 255).astype(np.uint8).reshape(1, -1, 3))
    corrected = calibrated(patches, icc).pixels.reshape(-1, 3) / 255
    after = delta_e_2000(lab_from_xyz(xyz_from_srgb(corrected)), target.lab)
    return Calibration(
        name=name,
        icc=icc,
        before=(round(float(before.mean()), 2), round(float(before.max()), 2)),
        after=(round(float(after.mean()), 2), round(float(after.max()), 2)),
        patches=len(target.names),
    )


def sampled(image: Raster, corners: Quad, target: PatchFile) -> Colours:
    """The mean of each patch's middle, (n, 3), 0 to 255. Raises CalibrationError where patches are not of one colour."""
    size = (target.cols * _CELL, target.rows * _CELL)
    laid = warp(image.pixels, corners, size, (0, 0, 0)).astype(np.float64)
    edge = round(_CELL * (1 - _INNER) / 2)
    parts = [
        laid[row * _CELL + edge : (row + 1) * _CELL - edge, col * _CELL + edge : (col + 1) * _CELL - edge].reshape(-1, 3)
        for row, col in target.places
    ]
    spread = float(np.median([part.std(axis=0).max() for part in parts]))
    if spread > _SPREAD:
        raise CalibrationError("The patches are not where the corners say: set them at the outer corners of the patches.")
    return np.array([np.median(part, axis=0) for part in parts])


def _curves(device: Colours, lab: Colours) -> Colours:
    """Linear light by device value, (256, 3): monotone through the grey patches; sRGB's where there are too few."""
    grid = np.linspace(0, 1, _POINTS)
    grey = np.hypot(lab[:, 1], lab[:, 2]) < _NEUTRAL
    if grey.sum() < _FEWEST_GREYS:
        return np.repeat(linear_from_srgb(grid[:, None]), 3, axis=1)
    light = xyz_from_lab(lab[grey])[:, 1]
    curves = np.empty((_POINTS, 3))
    for channel in range(3):
        order = np.argsort(device[grey][:, channel])
        x, y = device[grey][order, channel], np.maximum.accumulate(light[order])
        # Between patches the eye's own scale is straight, not light's.
        x, y = np.concatenate([[0.0], x, [1.0]]), np.concatenate([[min(y[0], x[0] ** 2.2)], y, [max(y[-1], _beyond(x, y))]])
        x, keep = np.unique(x, return_index=True)
        curves[:, channel] = np.interp(grid, x, np.cbrt(y[keep])) ** 3
    return curves


def _beyond(x: Colours, y: Colours) -> float:
    """Light at the very end of the scale, going on as the lightest patch has it with a gamma of 2.2."""
    return float(y[-1] / max(x[-1], 1e-3) ** 2.2)


def _matrix(light: Colours, lab: Colours) -> Colours:
    """From linear light to XYZ under D50, (3, 3)."""
    wanted = xyz_from_lab(lab)
    weight = 1 / (wanted[:, 1:2] + 0.05)  # as the eye: a step in the dark is a large one
    matrix = np.linalg.lstsq(light * weight, wanted * weight, rcond=None)[0].T
    best = float(delta_e_2000(lab_from_xyz(light @ matrix.T), lab).mean())
    damping = 1e-2
    for _ in range(40):
        now = delta_e_2000(lab_from_xyz(light @ matrix.T), lab)
        slope = np.empty((len(lab), 9))
        for index in range(9):
            step = np.zeros(9)
            step[index] = 1e-5
            slope[:, index] = (delta_e_2000(lab_from_xyz(light @ (matrix + step.reshape(3, 3)).T), lab) - now) / 1e-5
        normal = slope.T @ slope
        move = np.linalg.solve(normal + damping * np.diag(np.diag(normal) + 1e-9), -slope.T @ now).reshape(3, 3)
        mean = float(delta_e_2000(lab_from_xyz(light @ (matrix + move).T), lab).mean())
        if mean < best:
            matrix, best, damping = matrix + move, mean, damping / 3
        else:
            damping *= 4
    return np.asarray(matrix, dtype=np.float64)
