"""Colour as the eye has it: CIE XYZ and L*a*b* under D50, sRGB, and the difference between two colours.

Arrays are (n, 3) of float64: L*a*b* with L* 0 to 100; XYZ relative to a perfect white of Y = 1; sRGB and its linear light
0 to 1.
"""

import numpy as np
import numpy.typing as npt

Colours = npt.NDArray[np.float64]

D50 = np.array([0.96422, 1.0, 0.82521])
"""White of the profile connection space (ICC.1:2022, 6.3.4.3, rounded)."""
LINEAR_SRGB_TO_XYZ = np.array(
    [[0.4360747, 0.3850649, 0.1430804], [0.2225045, 0.7168786, 0.0606169], [0.0139322, 0.0971045, 0.7141733]]
)
"""IEC 61966-2-1 primaries adapted to D50 by Bradford (B. Lindbloom's tables, from memory; checked against LittleCMS)."""
_E, _K = 216 / 24389, 24389 / 27


def xyz_from_lab(lab: Colours) -> Colours:
    """CIE 1976 L*a*b* to XYZ under D50 (ISO/CIE 11664-4:2019)."""
    y = (lab[:, 0] + 16) / 116
    f = np.column_stack([y + lab[:, 1] / 500, y, y - lab[:, 2] / 200])
    return np.asarray(np.where(f**3 > _E, f**3, (116 * f - 16) / _K) * D50, dtype=np.float64)


def lab_from_xyz(xyz: Colours) -> Colours:
    """XYZ under D50 to CIE 1976 L*a*b*."""
    ratio = xyz / D50
    f = np.where(ratio > _E, np.cbrt(ratio), (_K * ratio + 16) / 116)
    return np.column_stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])])


def xyz_from_srgb(rgb: Colours) -> Colours:
    """sRGB, encoded, to XYZ under D50."""
    return np.asarray(linear_from_srgb(rgb) @ LINEAR_SRGB_TO_XYZ.T, dtype=np.float64)


def linear_from_srgb(rgb: Colours) -> Colours:
    """The decoding curve of IEC 61966-2-1."""
    return np.asarray(np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4), dtype=np.float64)


def srgb_from_lab(lab: Colours) -> Colours:
    """L*a*b* to sRGB, encoded; what no screen shows is brought to the nearest value of each channel."""
    linear = np.clip(xyz_from_lab(lab) @ np.linalg.inv(LINEAR_SRGB_TO_XYZ).T, 0.0, 1.0)
    return np.asarray(np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055), dtype=np.float64)


def delta_e_2000(one: Colours, other: Colours) -> npt.NDArray[np.float64]:
    """CIEDE2000 between L*a*b* colours, row by row; all weights 1.

    Source:
        ISO/CIE 11664-6:2014; G. Sharma, W. Wu and E. N. Dalal, The CIEDE2000 color-difference formula: implementation
        notes, Color Research and Application 30 (2005).
    """
    l1, a1, b1 = one.T
    l2, a2, b2 = other.T
    mean_c = (np.hypot(a1, b1) + np.hypot(a2, b2)) / 2
    g = 0.5 * (1 - np.sqrt(mean_c**7 / (mean_c**7 + 25.0**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    gray = c1 * c2 == 0
    turn = np.where(gray, 0, (h2 - h1 + 180) % 360 - 180)
    dl, dc = l2 - l1, c2 - c1
    dh = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn / 2))
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    far = np.abs(h1 - h2) > 180
    mean_h = np.where(gray, h1 + h2, (h1 + h2) / 2 + np.where(far, np.where(h1 + h2 < 360, 180, -180), 0))
    t = (
        1 - 0.17 * np.cos(np.radians(mean_h - 30)) + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6)) - 0.20 * np.cos(np.radians(4 * mean_h - 63))
    )  # fmt: skip
    sl = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    sc, sh = 1 + 0.045 * mean_c, 1 + 0.015 * mean_c * t
    around = 30 * np.exp(-(((mean_h - 275) / 25) ** 2))
    rt = -2 * np.sqrt(mean_c**7 / (mean_c**7 + 25.0**7)) * np.sin(np.radians(2 * around))
    return np.asarray(
        np.sqrt((dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * (dc / sc) * (dh / sh)), dtype=np.float64
    )
