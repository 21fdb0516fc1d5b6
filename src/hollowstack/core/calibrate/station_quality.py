"""How well a station captures, by its image of the quality target: each figure against what is borne."""

import math
import tomllib
from functools import cache
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict

from hollowstack.core.calibrate import target_sheet as sheet
from hollowstack.core.calibrate.calibration import sampled
from hollowstack.core.calibrate.cgats import PatchFile
from hollowstack.core.calibrate.colorimetry import (
    Colours,
    delta_e_2000,
    lab_from_xyz,
    linear_from_srgb,
    xyz_from_lab,
    xyz_from_srgb,
)
from hollowstack.core.calibrate.slanted_edge import Edge, Values, measure_edge
from hollowstack.core.calibrate.target_sheet import Lying
from hollowstack.core.page.errors import CalibrationError
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import MM_PER_INCH, Raster

_GREYS = 12
_EDGE_TALL, _EDGE_WIDE = 10.0, 7.0
"""Part of the sheet around the middle of an edge that is looked at, in mm along and across it."""
_BAR_MM = 4.0
"""How far from where the codes say a bar of the scale is looked for."""


class Tolerance(NamedTuple):
    """What is borne of a figure; one of ``most`` and ``least`` is given."""

    name: str
    unit: str
    most: float | None = None
    least: float | None = None

    def bears(self, value: float) -> bool:
        """Whether a value is borne."""
        return (self.most is None or value <= self.most) and (self.least is None or value >= self.least)


class Quality(BaseModel):
    """Figures by the names in ``tolerances.toml``, and what they come from."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    figures: dict[str, float]
    ppi: tuple[float, float]
    """Across and down, by the scale of the target."""
    said_ppi: tuple[float, float] | None
    mtf50: tuple[float, float]
    """Across and down in cycles a mm, the worse of the fields."""
    mtf10: tuple[float, float]
    greys: list[tuple[float, float]]
    """L* of each grey as it is, and as captured."""
    measured: bool
    """Whether a patch file said what the printed patches are; else they are taken for what was sent to the printer."""


@cache
def tolerances() -> tuple[str, dict[str, Tolerance]]:
    """The guideline that they follow, and what is borne of each figure."""
    told = tomllib.loads((Path(__file__).parent / "tolerances.toml").read_text(encoding="utf-8"))
    guideline = told.pop("guideline")
    return guideline, {key: Tolerance(**values) for key, values in told.items()}


def nominal() -> PatchFile:
    """The patches of the target as they are sent to the printer."""
    places = tuple((at // sheet.COLS, at % sheet.COLS) for at in range(len(sheet.NAMES)))
    return PatchFile(sheet.NAMES, sheet.NOMINAL_LAB, sheet.ROWS, sheet.COLS, places)


def measure_station(image: Raster, patches: PatchFile | None = None) -> Quality:
    """Measure a station by its image of the quality target.

    Args:
        image: As captured, in sRGB.
        patches: What the printed patches are, as somebody has measured them, by their names A1 to E6.

    Raises:
        CalibrationError: The image is grey, the target is not whole on it, or the patch file is another target's.

    Source:
        ISO 12233:2017 (edges), ISO 14524:2009 (tone response), ISO 15739:2023 (noise, here as deviation of L* within a
        grey), ISO 19264-1:2021 (the choice of figures, from memory).
    """
    if image.is_gray:
        raise CalibrationError("The image of the target is grey: capture it in colour.")
    known = patches or nominal()
    if set(known.names) != set(sheet.NAMES):
        raise CalibrationError("The patch file is another target's: the quality target has the patches A1 to E6.")
    lying = sheet.find_target(image)
    lab = known.lab[[known.names.index(name) for name in sheet.NAMES]]
    seen = _patches(image, lying)
    as_seen = lab_from_xyz(xyz_from_srgb(seen / 255))
    ppi = _scale(image, lying)
    across, down = _edges(image, lying, seen[:_GREYS], lab[:_GREYS])
    error = delta_e_2000(as_seen, lab)
    said = image.ppi
    # Without the image's own word there is no error of it.
    off = max(abs(true / told - 1) for true, told in zip(ppi, said, strict=True)) * 100 if said else 0.0
    half = tuple(value / MM_PER_INCH / 2 for value in ppi)
    mtf50 = _worst(across, 0.5, ppi[0]), _worst(down, 0.5, ppi[1])
    mtf10 = _worst(across, 0.1, ppi[0]), _worst(down, 0.1, ppi[1])
    greys = list(zip(lab[:_GREYS, 0].tolist(), as_seen[:_GREYS, 0].tolist(), strict=True))
    figures = {
        "sampling_error": off,
        "efficiency": 100 * min(one / of for one, of in zip(mtf10, half, strict=True)),
        "mtf50": 100 * min(one / of for one, of in zip(mtf50, half, strict=True)),
        "tone": max(abs(one - other) for one, other in greys),
        "noise": _noise(image, lying),
        "white_balance": float(np.hypot(*(as_seen[:_GREYS, 1:] - lab[:_GREYS, 1:]).T).max()),
        "evenness": _evenness(image, lying),
        "colour_mean": float(error.mean()),
        "colour_worst": float(error.max()),
        "misregistration": max(_apart(image, lying)),
    }
    return Quality(
        figures={name: round(value, 3) for name, value in figures.items()},
        ppi=(round(ppi[0], 2), round(ppi[1], 2)), said_ppi=said, mtf50=_rounded(mtf50), mtf10=_rounded(mtf10),
        greys=[(round(one, 2), round(other, 2)) for one, other in greys], measured=patches is not None,
    )  # fmt: skip


def _rounded(pair: tuple[float, float]) -> tuple[float, float]:
    return round(pair[0], 3), round(pair[1], 3)


def _patches(image: Raster, lying: Lying) -> Colours:
    left, top = sheet.PATCHES_MM
    right, bottom = left + sheet.COLS * sheet.PATCH_MM, top + sheet.ROWS * sheet.PATCH_MM
    corners = Quad.of(lying.at([(left, top), (right, top), (right, bottom), (left, bottom)]))
    return sampled(image, corners, nominal())


def _around(lying: Lying, middle: tuple[float, float], wide: float, high: float) -> tuple[slice, slice]:
    """Rows and columns of the image around a place of the sheet."""
    x, y = middle
    box = lying.at([(x - wide / 2, y - high / 2), (x + wide / 2, y - high / 2),
                    (x + wide / 2, y + high / 2), (x - wide / 2, y + high / 2)])  # fmt: skip
    (left, top), (right, bottom) = box.min(axis=0), box.max(axis=0)
    return slice(max(0, round(top)), round(bottom)), slice(max(0, round(left)), round(right))


def _light(part: Values, seen: Colours, lab: Colours) -> Values:
    """Light of a part of the image, by what the device made of the greys, each channel by itself (ISO 14524)."""
    true = xyz_from_lab(lab)[:, 1]
    light = np.empty(part.shape, dtype=np.float64)
    for channel in range(3):
        order = np.argsort(seen[:, channel])
        x, y = seen[order, channel], np.maximum.accumulate(true[order])
        x, keep = np.unique(x, return_index=True)
        # Between greys the eye's own scale is straight, and so it goes on beyond the lightest, to the paper's white.
        x, y = _going_on(x, np.cbrt(y[keep]))
        light[..., channel] = np.interp(part[..., channel], x, y) ** 3
    return light


def _going_on(x: Values, y: Values) -> tuple[Values, Values]:
    """A curve as straight lines, the first and the last of them going on to 0 and 255."""
    if len(x) < 2:
        raise CalibrationError("The greys of the target are all alike: capture it in its own tones.")
    start = max(0.0, y[0] - x[0] * (y[1] - y[0]) / (x[1] - x[0]))
    end = y[-1] + (255.0 - x[-1]) * (y[-1] - y[-2]) / (x[-1] - x[-2])
    return np.concatenate([[-1e-6], x, [255.0 + 1e-6]]), np.concatenate([[start], y, [end]])


_SIDES = ((-1.0, 0.0), (1.0, 0.0), (0.0, -1.0), (0.0, 1.0))


def _sides(image: Raster, lying: Lying) -> list[tuple[bool, Values]]:
    """Parts of the image with one edge each, as (whether it runs across the image's columns, part turned upright)."""
    turn = math.radians(sheet.EDGE_DEG)
    cos, sin = math.cos(turn), math.sin(turn)
    parts = []
    for x, y in sheet.EDGES_MM:
        for away_x, away_y in _SIDES:
            half = sheet.EDGE_MM / 2
            # A square that is askew: the middles of its sides are turned about its own.
            middle = (x + half * (away_x * cos - away_y * sin), y + half * (away_x * sin + away_y * cos))
            wide, high = (_EDGE_WIDE, _EDGE_TALL) if away_x else (_EDGE_TALL, _EDGE_WIDE)
            rows, cols = _around(lying, middle, wide, high)
            part = image.pixels[rows, cols].astype(np.float64)
            lies = part.shape[1] > part.shape[0]
            parts.append((lies, part.transpose(1, 0, 2) if lies else part))
    return parts


def _edges(image: Raster, lying: Lying, seen: Colours, lab: Colours) -> tuple[list[Edge], list[Edge]]:
    """The edges that tell how finely the image is sampled across, and those for down."""
    found: tuple[list[Edge], list[Edge]] = ([], [])
    for lies, part in _sides(image, lying):
        light = _light(part, seen, lab) @ np.array([0.2225, 0.7169, 0.0606])
        found[1 if lies else 0].append(measure_edge(light))
    return found


def _worst(edges: list[Edge], modulation: float, ppi: float) -> float:
    """In cycles a mm, of the worst field; the two sides of each are taken together, for sharpening acts on both alike."""
    return min(edge.frequency_at(modulation) for edge in edges) * ppi / MM_PER_INCH


def _apart(image: Raster, lying: Lying) -> list[float]:
    """How far red and blue lie from green, in pixels, at each edge."""
    apart = []
    for _, part in _sides(image, lying):
        red, green, blue = (measure_edge(linear_from_srgb(part[..., channel] / 255)).position for channel in range(3))
        apart.append(max(abs(red - green), abs(blue - green)))
    return apart


def _scale(image: Raster, lying: Lying) -> tuple[float, float]:
    """Pixels an inch across and down, by the bars of the scale, whose places are found to parts of a pixel."""
    upright = [_bar(image, lying, (x, sheet.SIZE_MM[1] / 2)) for x in sheet.ACROSS_MM]
    flat = [_bar(image, lying, (sheet.SIZE_MM[0] / 2, y)) for y in sheet.DOWN_MM]
    wide = float(np.hypot(*(upright[1] - upright[0]))) / (sheet.ACROSS_MM[1] - sheet.ACROSS_MM[0]) * MM_PER_INCH
    high = float(np.hypot(*(flat[1] - flat[0]))) / (sheet.DOWN_MM[1] - sheet.DOWN_MM[0]) * MM_PER_INCH
    # What is across on the sheet may be down in the image.
    turned = abs(upright[1][1] - upright[0][1]) > abs(upright[1][0] - upright[0][0])
    return (high, wide) if turned else (wide, high)


def _bar(image: Raster, lying: Lying, at: tuple[float, float]) -> Values:
    """The middle of a bar's darkness, near where the codes say that it is."""
    rows, cols = _around(lying, at, 2 * _BAR_MM, 2 * _BAR_MM)
    gray = cv2.cvtColor(np.ascontiguousarray(image.pixels[rows, cols]), cv2.COLOR_RGB2GRAY).astype(np.float64)
    dark = np.clip(np.percentile(gray, 90) - gray - 40.0, 0.0, None)
    if dark.sum() == 0:
        raise CalibrationError("The scale of the target is not where it should be: lay it in flat and whole.")
    y, x = np.mgrid[: gray.shape[0], : gray.shape[1]]
    return np.array([cols.start + (x * dark).sum() / dark.sum(), rows.start + (y * dark).sum() / dark.sum()])


def _noise(image: Raster, lying: Lying) -> float:
    """The median deviation of L* within the greys, whose slow changes are light, and no noise."""
    spread = []
    for at in range(_GREYS):
        row, col = divmod(at, sheet.COLS)
        middle = (sheet.PATCHES_MM[0] + (col + 0.5) * sheet.PATCH_MM, sheet.PATCHES_MM[1] + (row + 0.5) * sheet.PATCH_MM)
        rows, cols = _around(lying, middle, sheet.PATCH_MM / 2, sheet.PATCH_MM / 2)
        part = image.pixels[rows, cols]
        light = lab_from_xyz(xyz_from_srgb(part.reshape(-1, 3) / 255))[:, 0].reshape(part.shape[:2])
        slow = cv2.GaussianBlur(light, (0, 0), 6.0)
        spread.append(float((light - slow).std()))
    return float(np.median(spread))


def _evenness(image: Raster, lying: Lying) -> float:
    """The difference between the lightest and the darkest place of bare paper, in L*."""
    seen = []
    for at in sheet.WHITES_MM:
        rows, cols = _around(lying, at, sheet.WHITE_MM, sheet.WHITE_MM)
        mean = image.pixels[rows, cols].reshape(-1, 3).mean(axis=0, keepdims=True)
        seen.append(float(lab_from_xyz(xyz_from_srgb(mean / 255))[0, 0]))
    return max(seen) - min(seen)
