"""What the values of an image are, by counting: quick on any size."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Pixels


def quantile(pixels: Pixels, share: float, where: Pixels | None = None) -> tuple[int, ...]:
    """The value of each channel at or below which a share (0 to 1) of the pixels lies; by counting, so fast on any size.

    Args:
        pixels: Any shape whose last axis is 3 for colour; everything else is one channel.
        share: 0.5 gives the (lower) median.
        where: Mask of the same rows and columns; pixels at which it is 0 do not count.
    """
    return tuple(int(np.searchsorted(count.cumsum(), share * count.sum())) for count in _counts(pixels, where))


def histogram_mode(pixels: Pixels) -> tuple[int, ...]:
    """The commonest value of each channel, found on a smoothed histogram; on a written page, the paper's."""
    kernel = np.array([1, 2, 4, 6, 4, 2, 1])
    return tuple(int(np.convolve(count, kernel, mode="same").argmax()) for count in _counts(pixels))


def _counts(pixels: Pixels, where: Pixels | None = None) -> list[npt.NDArray[np.int64]]:
    """How often each of the 256 values occurs, channel by channel."""
    colour = pixels.ndim > 1 and pixels.shape[-1] == 3
    flat = np.ascontiguousarray(pixels).reshape(-1, 1, 3 if colour else 1)
    mask = None if where is None else np.ascontiguousarray(where).reshape(-1, 1)
    return [
        cv2.calcHist([flat], [channel], mask, [256], [0, 256]).ravel().astype(np.int64) for channel in range(flat.shape[2])
    ]
