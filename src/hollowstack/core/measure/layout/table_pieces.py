"""What may be a page in a frame of a camera's stream, found in ways that fail on different tables.

A port of this and of ``live_outline`` stands in the browser (``web/src/engine/camera``); a test holds the two to the same
corners on the same frames. Every step is one that can be written down there in a few lines, so that there are no others.
"""

from collections.abc import Iterator

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Pixels, as_pixels

STROKE_PX = 9
"""Wider than any stroke of writing on a frame of ``live_outline.LONGEST_PX``."""
HALF = 2
"""Pieces are looked for on every other pixel: where they end is settled on all of them."""
_STROKE, _GAP = 5, 3
"""There, what is wider than a stroke, and up to where a gap in an edge is none."""
CLEAR, WEAK = 3.5, 1.8
"""Gray levels from one pixel to the next that are an edge and no shading; and that are one if they go on from it."""
_RING = 0.05
"""Share of the shorter side along the frame's rim that tells what the table looks like."""
_LEVELS = 16
_COMMON = 0.004
"""Steps of each channel by which colours along the rim are counted, and the share from which one is the table's."""
_SHADES = (1.0, 0.85, 0.7, 0.58)
"""Of the table's light, what is left of it in a page's shadow."""
_REACHED = 0.8
"""Share of the rim that must be plain for what is reached from there to be the table; a patterned one is edges all over."""
_MIDDLE = 0.2
"""Share of the frame's middle that a page takes up, at least."""

Steps = npt.NDArray[np.float32]


def pieces_of(pixels: Pixels, steps: Steps) -> Iterator[list[Pixels]]:
    """Masks of all that may be a page, at half the frame's size, what is most often one first: 1 on the piece in the middle.

    Args:
        pixels: The frame, RGB.
        steps: Change from pixel to pixel of the frame without its writing.

    Source:
        Colours of the rim counted and looked up: M. Swain and D. Ballard, "Color indexing", 1991. A table in shadow is the
        table with less light: R. Cucchiara et al., "Detecting moving objects, ghosts, and shadows", 2003. Hysteresis: J.
        Canny, 1986. What is enclosed by edges: common practice, no source.
    """
    down, across = (length // HALF for length in steps.shape)
    blocks = (down, HALF, across, HALF)
    pixels = pixels[: down * HALF, : across * HALF].reshape(*blocks, 3).sum(axis=(1, 3), dtype=np.uint16)
    pixels = as_pixels(((pixels + HALF) // (HALF * HALF)).astype(np.uint8))
    steps = steps[: down * HALF, : across * HALF].reshape(blocks).max(axis=(1, 3))
    clear = _edges(steps, CLEAR)
    yield _present(_opened(_unlike_table(pixels)), _opened(_not_reached(clear)), _smooth(clear))
    weak = _edges(steps, WEAK)
    yield _present(_opened(_not_reached(weak)), _smooth(weak))


def _present(*pieces: Pixels | None) -> list[Pixels]:
    return [piece for piece in pieces if piece is not None]


def _opened(mask: Pixels | None) -> Pixels | None:
    return None if mask is None else _largest_in_the_middle(_morphed(mask, cv2.MORPH_OPEN, _GAP))


def without_writing(pixels: Pixels) -> Pixels:
    """The frame without dark strokes (closing: J. Serra, 1982)."""
    kernel = np.ones((STROKE_PX, STROKE_PX), np.uint8)
    return as_pixels(cv2.morphologyEx(pixels, cv2.MORPH_CLOSE, kernel, borderType=cv2.BORDER_REPLICATE))


def _edges(steps: Steps, weak: float) -> Pixels:
    """1 on clear edges, and on weak ones that go on from them."""
    count, pieces = cv2.connectedComponents((steps >= weak).astype(np.uint8), connectivity=8)
    clear = np.zeros(count, bool)
    clear[np.unique(pieces[steps >= CLEAR])] = True
    return as_pixels(clear[pieces].astype(np.uint8))


def _unlike_table(pixels: Pixels) -> Pixels:
    """1 where a colour is none of the table's, strokes filled in."""
    calm = cv2.blur(pixels, (3, 3), borderType=cv2.BORDER_REPLICATE)
    rows, cols = calm.shape[:2]
    ring = max(4, round(_RING * min(rows, cols)))
    around = np.ones((rows, cols), bool)
    around[ring : rows - ring, ring : cols - ring] = False
    counts = np.bincount(_bins(calm)[around], minlength=_LEVELS**3).reshape(_LEVELS, _LEVELS, _LEVELS)
    # A colour at the border of its bin is as often in the next.
    spread = np.pad(counts, 1)
    for axis in range(3):
        spread = spread + np.roll(spread, 1, axis) + np.roll(spread, -1, axis)
    table = (spread[1:-1, 1:-1, 1:-1] >= _COMMON * around.sum()).ravel()
    alike = np.zeros((rows, cols), bool)
    for shade in _SHADES:
        alike |= table[_bins(np.minimum(255, np.floor(calm / shade + 0.5)))]
    other = as_pixels((~alike).astype(np.uint8))
    return _morphed(other, cv2.MORPH_CLOSE, _STROKE)


def _bins(pixels: npt.NDArray[np.generic]) -> npt.NDArray[np.int64]:
    return np.asarray((pixels // (256 // _LEVELS)).astype(np.int64) @ np.array([_LEVELS * _LEVELS, _LEVELS, 1]), np.int64)


def _not_reached(edges: Pixels) -> Pixels | None:
    """1 where one does not come from the frame's rim without crossing an edge; None where the rim is no plain table."""
    free = cv2.erode(1 - edges, np.ones((_GAP, _GAP), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=1)
    count, labels = cv2.connectedComponents(as_pixels(free), connectivity=4)
    rim = np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])
    reached = np.zeros(count, bool)
    reached[rim] = True
    reached[0] = False
    if reached[rim].mean() < _REACHED:
        return None
    table = cv2.dilate(as_pixels(reached[labels].astype(np.uint8)), np.ones((_GAP, _GAP), np.uint8))
    return as_pixels(1 - table)


def _smooth(edges: Pixels) -> Pixels | None:
    """1 on the largest smooth piece in the frame's middle."""
    free = cv2.erode(1 - edges, np.ones((_GAP, _GAP), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0)
    piece = _largest_in_the_middle(as_pixels(free))
    return None if piece is None else as_pixels(cv2.dilate(piece, np.ones((_GAP, _GAP), np.uint8)))


def _largest_in_the_middle(mask: Pixels) -> Pixels | None:
    """1 on the piece of a mask that takes up most of the middle; None where it takes up little of it."""
    rows, cols = mask.shape
    _, labels = cv2.connectedComponents(mask, connectivity=4)
    middle = labels[rows // 3 : rows - rows // 3, cols // 3 : cols - cols // 3]
    sizes = np.bincount(middle[middle > 0].ravel()) if (middle > 0).any() else np.zeros(1)
    if sizes.max() < _MIDDLE * middle.size:
        return None
    return as_pixels((labels == sizes.argmax()).astype(np.uint8))


def _morphed(mask: Pixels, how: int, size: int) -> Pixels:
    """Opened or closed by a square, with nothing around the frame."""
    kernel = np.ones((size, size), np.uint8)
    return as_pixels(cv2.morphologyEx(mask, how, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=0))
