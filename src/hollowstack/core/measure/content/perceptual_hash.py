"""A page's hash: a few hundred bits by which two images of the same page are known, however each was captured."""

from collections.abc import Sequence

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Raster, as_pixels

_GRID = 16
_WORK = 256
_SAME = 0.16
"""Share of bits in which two images of one page differ at most (measured on the demo's pages, ``make accuracy``)."""


def perceptual_hash(page: Raster, skew_deg: float) -> str:
    """The page as bits in hexadecimal digits: for each cell of a grid, whether its right and its lower neighbour are darker.

    Args:
        page: The page alone, upright, gray; its size does not matter.
        skew_deg: Its skew, which is taken out first.

    Source:
        Difference hash (common practice, no source), on a grid of 16 by 16 cells across and down.
    """
    side = as_pixels(cv2.resize(page.gray().pixels, (_WORK, _WORK), interpolation=cv2.INTER_AREA))
    if skew_deg:
        # The page was stretched to a square, so a turn of it is a shear by its own aspect.
        aspect = page.width / max(1, page.height)
        tan = float(np.tan(np.radians(skew_deg)))
        middle = _WORK / 2
        matrix = np.array([[1, -tan / aspect, middle * tan / aspect], [tan * aspect, 1, -middle * tan * aspect]])
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        side = as_pixels(cv2.warpAffine(side, matrix, (_WORK, _WORK), flags=flags, borderMode=cv2.BORDER_REPLICATE))
    calm = cv2.GaussianBlur(side, (0, 0), _WORK / _GRID / 2.5)
    grid = cv2.resize(calm, (_GRID + 1, _GRID + 1), interpolation=cv2.INTER_AREA).astype(np.int16)
    bits = np.concatenate([(np.diff(grid, axis=1)[:-1] < 0).ravel(), (np.diff(grid, axis=0)[:, :-1] < 0).ravel()])
    return np.packbits(bits).tobytes().hex()


def alike(hashes: Sequence[str], most: float = _SAME) -> list[tuple[int, int, float]]:
    """Pairs of indexes whose hashes differ in no more than a share of their bits, with that share.

    2,000 pages take a tenth of a second and 16 MB at a time. A hash that is empty is like nothing.
    """
    known = [index for index, text in enumerate(hashes) if text]
    if len(known) < 2:
        return []
    rows = np.array([np.frombuffer(bytes.fromhex(hashes[index]), np.uint8) for index in known])
    words = rows.view(np.uint64)
    limit = int(most * rows.shape[1] * 8)
    pairs = []
    for first in range(len(known) - 1):
        apart = _ones(words[first] ^ words[first + 1 :])
        for offset in np.nonzero(apart <= limit)[0]:
            share = float(apart[offset]) / (rows.shape[1] * 8)
            pairs.append((known[first], known[first + 1 + int(offset)], round(share, 3)))
    return pairs


def drawn_apart(one: str, other: str) -> float:
    """In which share of the bits that either of two hashes has set they differ, 0 to 1; 1 where neither has one.

    Bits are set where it grows darker, so those of flat paper say nothing.

    Source:
        Jaccard distance (P. Jaccard, The distribution of the flora in the alpine zone, New Phytologist 11, 1912).
    """
    first, second = (int(text, 16) for text in (one, other))
    either = (first | second).bit_count()
    return (first ^ second).bit_count() / either if either else 1.0


def _ones(words: npt.NDArray[np.uint64]) -> npt.NDArray[np.uint32]:
    """How many bits are set in each row."""
    count: npt.NDArray[np.uint32] = _BITS[words.view(np.uint8)].sum(axis=1, dtype=np.uint32)
    return count


_BITS = np.array([bin(value).count("1") for value in range(256)], np.uint8)
