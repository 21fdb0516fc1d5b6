"""Pages by coarse cells: the colour of what is known of each, brought over a whole page without a seam."""

import cv2
import numpy as np
import numpy.typing as npt

Planes = npt.NDArray[np.uint8]
"""(height, width, channels), one of gray or three."""
Mask = npt.NDArray[np.uint8]
"""(height, width), 1 where something is."""
_Values = npt.NDArray[np.float32]
_KNOWN_WELL = 4.0
"""A cell a quarter of which is known needs nothing of its surroundings."""
_BESIDE = 3
"""Cells each way that are looked at together for the colour of ink: rims may lie in another cell than their stroke."""


def coarse(planes: Planes, known: Mask, step: int) -> Planes:
    """A page by cells of so many pixels each way: the mean of what is known of each, or of what lies around it.

    Args:
        planes: The page.
        known: 1 where a pixel counts.
        step: Pixels of a cell's side; the last cells hang over the page's sides.

    Returns:
        (rows, columns, channels).
    """
    return _rounded(spread(cell_means(planes * known[:, :, None], step), cell_means(known[:, :, None], step)[:, :, 0]))


def ink_colours(planes: Planes, ink: Mask, near: Mask, ground: Planes, step: int) -> Planes:
    """The colours that a stencil is to be painted in so that each place is as dark, from afar, as it was with soft rims.

    Args:
        planes: The page.
        ink: 1 where the stencil lets colour through.
        near: 1 there and on the rims of strokes.
        ground: The page without its ink, by cells of the same size.
        step: Pixels of a cell's side.

    Returns:
        (rows, columns, channels).
    """
    height, width = ink.shape
    under = cv2.resize(ground, None, fx=step, fy=step, interpolation=cv2.INTER_NEAREST).reshape(
        ground.shape[0] * step, ground.shape[1] * step, -1
    )
    darker = cv2.subtract(under[:height, :width], planes).reshape(planes.shape) * near[:, :, None]
    around = (_BESIDE, _BESIDE)
    sums = cv2.boxFilter(cell_means(darker, step), -1, around, normalize=True).reshape(ground.shape)
    share = cv2.boxFilter(cell_means(ink[:, :, None], step)[:, :, 0], -1, around, normalize=True)
    return _rounded(ground - spread(sums, share))


def cell_means(planes: Planes, step: int) -> _Values:
    """The mean of each cell; what hangs over counts as nothing.

    To a 256th of a gray value: of many a cell only a few pixels are known.
    """
    height, width, channels = planes.shape
    over = ((0, -height % step), (0, -width % step), (0, 0))
    fine = np.left_shift(np.pad(planes, over), 8, dtype=np.uint16)
    cells = (fine.shape[1] // step, fine.shape[0] // step)
    means = cv2.resize(fine, cells, interpolation=cv2.INTER_AREA)
    return np.asarray(means, np.float32).reshape(cells[1], cells[0], channels) / np.float32(256)


def _rounded(values: _Values) -> Planes:
    return np.clip(np.rint(values), 0, 255).astype(np.uint8)


def spread(sums: _Values, shares: _Values) -> _Values:
    """The value of each cell: its own mean, and where little is known of it that of what lies around.

    Args:
        sums: (rows, columns, channels): values times what is known of each cell.
        shares: (rows, columns): that, 0 to 1.

    Source:
        Push and pull: S. J. Gortler and others, The Lumigraph, SIGGRAPH 1996, 3.4 (from memory).
    """
    levels = [(sums, shares)]
    while min(levels[-1][1].shape) > 1:
        sums, shares = (_halved(one) for one in levels[-1])
        levels.append((sums.reshape(*shares.shape, -1), shares))
    sums, shares = levels[-1]
    total = float(shares.sum())
    found: _Values = np.broadcast_to(sums.sum(axis=(0, 1)) / max(total, 1e-6), sums.shape).astype(np.float32)
    for sums, shares in reversed(levels):
        size = (shares.shape[1], shares.shape[0])
        around = cv2.resize(found, size, interpolation=cv2.INTER_LINEAR).reshape(sums.shape)
        known = np.minimum(shares * _KNOWN_WELL, 1)[:, :, None]
        found = known * (sums / np.maximum(shares, 1e-6)[:, :, None]) + (1 - known) * around
    return found


def _halved(values: _Values) -> _Values:
    size = ((values.shape[1] + 1) // 2, (values.shape[0] + 1) // 2)
    return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)
