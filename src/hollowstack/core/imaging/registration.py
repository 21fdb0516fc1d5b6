"""Colours laid on each other: what a line sensor sees of red and blue a hair away from where it sees green."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Pixels, Raster, as_pixels

_STEP = 6.0
"""Gray levels from one pixel to the next that are the edge of a stroke."""
_LEAST_EDGES = 500
_LEAST_PX, _MOST_PX = 0.06, 2.0
"""Shifts below are none; above them it is no fringe."""
_LEAST_LIKENESS = 0.3
"""How much of green's contrast a colour must share: else they do not show the same strokes."""

Channel = npt.NDArray[np.float32]


def registered(page: Raster) -> Raster:
    """A colour page whose red and blue are moved onto its green; itself where they lie there already.

    A black stroke whose colours are apart has a red rim on one side and a blue one on the other, as have all of the
    page; a coloured stroke has not. So one shift for each colour is what tells them apart.

    Args:
        page: Colour, at 72 to 200 ppi.

    Source:
        B. Lucas and T. Kanade, An iterative image registration technique with an application to stereo vision, IJCAI 1981:
        one step, with gain and offset between the channels free.
    """
    red, green, blue = cv2.split(page.pixels)
    calm = [np.asarray(cv2.GaussianBlur(channel, (3, 3), 0), dtype=np.float32) for channel in (red, green, blue)]
    across, down = (cv2.Sobel(calm[1], cv2.CV_32F, dx, 1 - dx, ksize=1, scale=0.5) for dx in (1, 0))
    edges = (np.abs(across) > _STEP) | (np.abs(down) > _STEP)
    if np.count_nonzero(edges) < _LEAST_EDGES:
        return page
    seen = np.column_stack([calm[1][edges], across[edges], down[edges], np.ones(np.count_nonzero(edges), np.float32)])
    moved = [_moved(channel, _shift(seen, smooth[edges])) for channel, smooth in ((red, calm[0]), (blue, calm[2]))]
    return Raster(as_pixels(cv2.merge([moved[0], green, moved[1]])), page.ppi)


def _shift(green: Channel, other: Channel) -> tuple[float, float]:
    """Where what is at (0, 0) in another channel lies in green, which is given by value, two slopes and 1 at each edge."""
    rows = green.astype(np.float64)
    gain, right, below, _ = np.linalg.lstsq(rows.T @ rows, rows.T @ other, rcond=None)[0]
    if gain < _LEAST_LIKENESS:
        return 0.0, 0.0
    x, y = float(right / gain), float(below / gain)
    return (x, y) if _LEAST_PX < float(np.hypot(x, y)) < _MOST_PX else (0.0, 0.0)


def _moved(channel: Pixels, shift: tuple[float, float]) -> Pixels:
    if shift == (0.0, 0.0):
        return as_pixels(channel)
    matrix = np.array([[1, 0, -shift[0]], [0, 1, -shift[1]]])
    flags = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
    return as_pixels(cv2.warpAffine(channel, matrix, channel.shape[::-1], flags=flags, borderMode=cv2.BORDER_REPLICATE))
