"""How finely a device sees: the modulation transfer function, by an edge that lies a little askew to its pixels."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from hollowstack.core.page.errors import CalibrationError

Values = npt.NDArray[np.float64]

_BINS = 4
"""Places in which each pixel's width is told apart, because every row meets the edge at another one."""
_LEAST_ROWS, _LEAST_COLS = 20, 16
_LEAST_STEP = 0.02
"""Of the light between both sides, below which there is no edge."""
_FLATTEST, _STEEPEST = 1.0, 15.0
"""Degrees by which the edge may be askew: less, and rows are all alike; more, and they do not fit."""


class Edge(NamedTuple):
    """What an edge tells. Frequencies are in cycles a pixel, from 0 up to 1."""

    frequencies: Values
    mtf: Values
    """Modulation at each, 1 at 0."""
    angle_deg: float
    """By which it is askew to the columns."""
    position: float
    """Where it meets the middle row, in pixels from the left."""

    def frequency_at(self, modulation: float) -> float:
        """The lowest frequency at which the modulation has fallen to a share; the highest one measured where it has not."""
        below = np.flatnonzero(self.mtf < modulation)
        if not len(below) or below[0] == 0:
            return float(self.frequencies[-1])
        right = int(below[0])
        high, low = self.mtf[right - 1], self.mtf[right]
        share = (high - modulation) / (high - low)
        return float(self.frequencies[right - 1] + share * (self.frequencies[right] - self.frequencies[right - 1]))


def measure_edge(light: Values) -> Edge:
    """The modulation transfer across a nearly upright edge.

    Args:
        light: (rows, cols) of light, not of encoded values: a part of an image with one edge from top to bottom, its sides
            even, 20 rows and 16 columns or more.

    Returns:
        Up to one cycle a pixel; above one half lies what a sampled image only pretends to show.

    Raises:
        CalibrationError: There is no edge, or it is not askew by 1 to 15 degrees.

    Source:
        ISO 12233:2017, 6.2 and annex D (edge-based spatial frequency response): centroids of the rows' derivatives, a line
        through them, bins of a quarter of a pixel along that line, derivative, Hamming window, discrete Fourier transform,
        and correction for the derivative's own response. P. D. Burns, Slanted-edge MTF for digital camera and scanner
        analysis, IS&T PICS (2000).
    """
    rows, cols = light.shape
    if rows < _LEAST_ROWS or cols < _LEAST_COLS:
        raise CalibrationError("The part of the image with the edge is too small to measure it: capture the target finer.")
    step = abs(float(light[:, -3:].mean() - light[:, :3].mean()))
    if step < _LEAST_STEP:
        raise CalibrationError("There is no edge where the target has one: capture it whole and lit evenly.")
    slope, start = _line(light)
    angle = float(np.degrees(np.arctan(slope)))
    if not _FLATTEST <= abs(angle) <= _STEEPEST:
        raise CalibrationError(f"The edge is askew by {abs(angle):.1f}° instead of 5°: lay the target in straight.")
    # Only so many rows that the edge passes through whole pixels: else some of its places would weigh more.
    whole = max(1, int(rows * abs(slope))) / abs(slope)
    kept = min(rows, round(whole))
    across = np.arange(cols)[None, :] - (start + slope * np.arange(kept)[:, None])
    spread = _binned(light[:kept], across)
    line = np.diff(spread)
    line *= _window(line)
    transform = np.abs(np.fft.rfft(line))
    frequencies = np.fft.rfftfreq(len(line), 1 / _BINS)
    with np.errstate(invalid="ignore"):
        # The difference of two neighbouring bins dims high frequencies itself.
        correction = np.sinc(frequencies / _BINS)
        mtf = transform / transform[0] / np.clip(correction, 0.1, None)
    # Along the normal of the edge pixels are nearer to each other than along the row.
    frequencies = frequencies / np.cos(np.radians(angle))
    shown = frequencies <= 1.0
    return Edge(frequencies[shown], mtf[shown], angle, float(start + slope * (rows - 1) / 2))


def _line(light: Values) -> tuple[float, float]:
    """Slope, in columns a row, and start of the edge: first by whole rows, then each by what is near that line."""
    cols = light.shape[1]
    places = np.arange(cols - 1) + 0.5
    change = np.abs(np.diff(light, axis=1))
    at = np.arange(light.shape[0])
    weight = change**2  # noise adds little when squared
    found = (weight * places).sum(axis=1) / np.maximum(weight.sum(axis=1), 1e-12)
    slope, start = np.polyfit(at, found, 1)
    for _ in range(3):
        near = np.exp(-(((places[None, :] - (start + slope * at[:, None])) / (0.15 * cols)) ** 4))
        signed = np.diff(light, axis=1) * near
        total = signed.sum(axis=1)
        centre = (signed * places).sum(axis=1) / np.where(np.abs(total) < 1e-9, 1e-9, total)
        slope, start = np.polyfit(at, centre, 1)
    return float(slope), float(start)


def _binned(light: Values, across: Values) -> Values:
    """The mean light in each quarter of a pixel along the edge's normal; gaps are bridged."""
    first = int(np.ceil(across[:, 0].max() * _BINS))
    last = int(np.floor(across[:, -1].min() * _BINS))
    place = np.floor(across * _BINS).astype(np.int64) - first
    inside = (place >= 0) & (place < last - first)
    count = np.bincount(place[inside], minlength=last - first)
    total = np.bincount(place[inside], weights=light[inside], minlength=last - first)
    there = np.flatnonzero(count)
    return np.interp(np.arange(last - first), there, total[there] / count[there])


def _window(line: Values) -> Values:
    """A Hamming window about the edge, as wide as its nearer end allows on both sides."""
    middle = float((np.abs(line) * np.arange(len(line))).sum() / max(np.abs(line).sum(), 1e-12))
    half = max(middle, len(line) - 1 - middle)
    return np.asarray(0.54 + 0.46 * np.cos(np.pi * (np.arange(len(line)) - middle) / half))
