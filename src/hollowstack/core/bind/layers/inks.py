"""The inks of a page: each stroke in one of a few colours, near enough to its own that nobody sees the difference."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.layers.spread import Mask, Planes

_COUNTS = (1, 4, 8, 16, 32, 64)
"""So many inks are tried in turn."""
_NEAR, _SHARE = 3.0, 0.95
"""CIE Lab units within which so many strokes are of their ink's colour."""
_ONE_COLOUR = 10.0
"""Gray values by which the cells of one stroke differ in the mean, where it is of one colour."""
_SAMPLES = 4000
"""Cells that the inks are found by; all are given one of them."""
_Colours = npt.NDArray[np.float32]


class Inks(NamedTuple):
    """Which ink each cell is painted in, (rows, columns), and the inks, (n, channels)."""

    cells: npt.NDArray[np.uint8]
    colours: npt.NDArray[np.uint8]


def find_inks(ink: Mask, tint: Planes, step: int) -> Inks:
    """The few colours that the strokes of a page are painted in.

    Args:
        ink: 1 where there is ink.
        tint: The colour of ink by cells.
        step: Pixels of a cell's side.

    Source:
        Clustering: S. Lloyd, Least squares quantization in PCM, IEEE Transactions on Information Theory 28 (2), 1982, from
        seeds as D. Arthur and S. Vassilvitskii have them, k-means++, SODA 2007.
    """
    rows, cols, channels = tint.shape
    y, x = np.nonzero(ink)
    cell = (y // step) * cols + x // step
    colours = _of_strokes(ink, y, x, tint.reshape(-1, channels)[cell].astype(np.float32))
    found, place = np.unique(cell, return_inverse=True)
    means = _means(place, colours, len(found))
    inks, which = _clustered(means)
    filled = np.full(rows * cols, -1, np.int64)
    filled[found] = which
    return Inks(_run_on(filled).astype(np.uint8).reshape(rows, cols), np.clip(np.rint(inks), 0, 255).astype(np.uint8))


def _of_strokes(ink: Mask, y: npt.NDArray[np.int64], x: npt.NDArray[np.int64], colours: _Colours) -> _Colours:
    """The colour of each pixel of ink: its stroke's, or its cell's where the stroke has several."""
    count, labels = cv2.connectedComponents(ink, connectivity=8)
    stroke = labels[y, x]
    means = _means(stroke, colours, count)
    differs = _means(stroke, np.abs(colours - means[stroke]).max(axis=1, keepdims=True), count)[:, 0]
    return np.where((differs <= _ONE_COLOUR)[stroke][:, None], means[stroke], colours)


def _means(place: npt.NDArray[np.int64], colours: _Colours, count: int) -> _Colours:
    many = np.maximum(np.bincount(place, minlength=count), 1)
    sums = [np.bincount(place, colours[:, at], count) for at in range(colours.shape[1])]
    return (np.stack(sums, axis=1) / many[:, None]).astype(np.float32)


def _clustered(colours: _Colours) -> tuple[_Colours, npt.NDArray[np.int64]]:
    """As few colours as will do, and which of them each is."""
    samples = colours[:: max(1, len(colours) // _SAMPLES)]
    criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 10, 0.5)
    cv2.setRNGSeed(1)
    inks = np.zeros((0, colours.shape[1]), np.float32)
    for count in _COUNTS:
        if count > len(samples):
            break
        _, _, inks = cv2.kmeans(samples, count, None, criteria, 1, cv2.KMEANS_PP_CENTERS)
        which = _nearest(colours, inks)
        off = np.linalg.norm(_lab(colours) - _lab(inks)[which], axis=1)
        if np.mean(off <= _NEAR) >= _SHARE:
            break
    return inks, which


def _nearest(colours: _Colours, inks: _Colours) -> npt.NDArray[np.int64]:
    away = np.stack([np.abs(colours - one).sum(axis=1) for one in inks])
    return np.asarray(np.argmin(away, axis=0), np.int64)


def _lab(colours: _Colours) -> _Colours:
    planes = colours if colours.shape[1] == 3 else np.repeat(colours, 3, axis=1)
    return np.asarray(cv2.cvtColor(planes[None] / 255, cv2.COLOR_RGB2Lab)[0], np.float32)


def _run_on(filled: npt.NDArray[np.int64]) -> npt.NDArray[np.int64]:
    """Cells without ink are as the one before: so they take nothing."""
    known = np.where(filled >= 0, np.arange(len(filled)), 0)
    last = filled[np.maximum.accumulate(known)]
    return np.maximum(last, 0)
