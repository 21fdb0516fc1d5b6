"""A strip along one side of a page on a light lid, straightened: where the side lies, and what is on both sides of it."""

from dataclasses import dataclass, replace
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.cut import laid
from hollowstack.core.measure.layout.line_fit import Line, fit_line
from hollowstack.core.page.raster import MM_PER_INCH, Raster

Floats = npt.NDArray[np.float32]
ALONG_MM = 5.0
"""Tones are taken together over such a length along the side."""
RISE = 2.5
"""Gray values by which paper is lighter than what lies just outside, or more coloured, in one row."""
_END_MM = (2.0, 9.0)
"""Where a side ends, away from its rounded corner."""
_OUT_MM, _IN_MM, _SETTLE_MM = 8.0, 6.0, 1.0
"""How far a strip along a side reaches outward and inward of it, and around it where the side is settled."""
_NEAR, _RAMP, _LID, _NARROW_LID, _PAPER = (-0.9, -0.2), (-1.6, -0.9), (-7.0, -3.2), (-8.0, -1.2), (1.5, 5.0)
"""From, to, in mm inward of a side: what touches it, its shade, the lid beyond where there is room or not, the paper."""
_FAR_MM, _MUCH_DARKER = -2.6, 30.0
"""Beyond so far outward no page's shade falls; and gray values by which specks are darker than what they lie on."""
_LEAST_ROWS = 12
_BEYOND_IMAGE = -1000.0


def planes_of(image: Raster) -> tuple[Floats, Floats]:
    """Light, and how coloured: the difference between the channels."""
    gray = image.gray().pixels.astype(np.float32)
    if image.is_gray:
        return gray, np.zeros_like(gray)
    channels = cv2.split(image.pixels)
    coloured = np.maximum.reduce(channels) - np.minimum.reduce(channels)
    return gray, np.asarray(coloured, np.float32)


def rise_of(light: Floats, colour: Floats, along: int) -> Floats:
    """By how much each place is lighter and more coloured than what is two pixels outside of it, seen from the left."""
    light, colour = (cv2.blur(plane, (1, along), borderType=cv2.BORDER_REPLICATE) for plane in (light, colour))
    rise = np.zeros_like(light)
    rise[:, 1:-1] = np.maximum(light[:, 2:] - light[:, :-2], 0) + np.maximum(colour[:, 2:] - colour[:, :-2], 0)
    return rise


class View(NamedTuple):
    """What lies on both sides of one side of an outline."""

    seen: float
    ends: tuple[float, float]
    """The same of its two ends alone."""
    near: float
    ramp: float
    soiled: float
    """Share of what lies beyond that is much darker than most of it: dust on a lid, or print on paper."""
    lid: tuple[float, float]
    paper: tuple[float, float]
    """Light and colour, the medians of the lid beyond and of the paper within."""


@dataclass(frozen=True, slots=True)
class Strip:
    """A strip along a side, straightened: rows run along it, the line lies in the middle of column ``at``."""

    light: Floats
    colour: Floats
    line: Line
    side: int
    size: tuple[int, int]
    px_mm: float

    @classmethod
    def of(cls, fine: Raster, planes: tuple[Floats, Floats], side: int, line: Line) -> "Strip":
        """Around a line that an image laid with that side to the left has."""
        px_mm = sum(fine.scale_ppi) / 2 / MM_PER_INCH
        wide = round((_OUT_MM + _IN_MM) * px_mm)
        shear = np.array([[1, line[1], line[0] - _OUT_MM * px_mm], [0, 1, 0]])
        how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP

        def sheared(plane: Floats) -> Floats:
            lying = laid(plane, side)
            flat = cv2.warpAffine(lying, shear, (wide, len(lying)), flags=how, borderValue=_BEYOND_IMAGE)
            return np.asarray(flat, np.float32)

        return cls(sheared(planes[0]), sheared(planes[1]), line, side, (fine.width, fine.height), px_mm)

    @property
    def at(self) -> float:
        """Column in which the line lies."""
        return _OUT_MM * self.px_mm

    def rise(self) -> Floats:
        """By how much light and colour rise at each place; see ``rise_of``."""
        return rise_of(self.light, self.colour, max(3, round(ALONG_MM * self.px_mm)))

    def settled(self) -> "Strip":
        """With its line where light rises most, to a fraction of a pixel."""
        reach = round(_SETTLE_MM * self.px_mm)
        middle = round(self.at)
        strip = self.rise()[:, middle - reach : middle + reach + 1]
        clear = np.flatnonzero(strip.max(axis=1) >= RISE)
        if len(clear) < _LEAST_ROWS:
            return self
        off = strip[clear].argmax(axis=1) + (middle - reach) + 0.5 - self.at
        (offset, slope), _ = fit_line((clear + 0.5).astype(np.float64), off.astype(np.float64), tolerance=1.0)
        return replace(self, line=(self.line[0] + offset, self.line[1] + slope))

    def in_image(self) -> Line:
        """The line in the image as it is."""
        offset, slope = self.line
        return (self.size[self.side % 2] - offset, -slope) if self.side >= 2 else (offset, slope)

    def view(self, first: float, last: float) -> View | None:
        """What lies on both sides, between two places along it; None where that is too short, or all lid is too narrow."""
        rows = slice(max(0, round(first) + 4), max(0, round(last) - 4))
        light, colour = self.light[rows], self.colour[rows]
        if len(light) < 3 * _END_MM[1] * self.px_mm:
            return None
        reach = round(_SETTLE_MM * self.px_mm)
        near = self.rise()[rows, round(self.at) - reach : round(self.at) + reach + 1]
        rises = near.max(axis=1) >= RISE
        away, reaches = (round(mm * self.px_mm) for mm in _END_MM)
        ends = float(rises[away:reaches].mean()), float(rises[len(rises) - reaches : len(rises) - away].mean())

        def band(plane: Floats, between: tuple[float, float]) -> float | None:
            low, high = (round(self.at + mm * self.px_mm) for mm in between)
            values = plane[:, max(0, low) : max(low + 1, high)]
            values = values[light[:, max(0, low) : max(low + 1, high)] >= 0]
            return float(np.median(values)) if values.size >= len(light) // 4 else None

        for lid in (_LID, _NARROW_LID):
            if (tone := band(light, lid)) is not None:
                far = (tone, band(colour, lid) or 0.0)
                break
        else:
            return None
        beyond = light[:, : max(1, round(self.at + _FAR_MM * self.px_mm))]
        beyond = beyond[beyond >= 0]
        soiled = float(np.mean(beyond < far[0] - _MUCH_DARKER)) if beyond.size else 0.0
        inner = (band(light, _PAPER) or 0.0, band(colour, _PAPER) or 0.0)
        touching = band(light, _NEAR)
        ramp = band(light, _RAMP)
        return View(
            seen=float(rises.mean()),
            ends=ends,
            near=far[0] if touching is None else touching,
            ramp=far[0] if ramp is None else ramp,
            soiled=soiled,
            lid=far,
            paper=inner,
        )
