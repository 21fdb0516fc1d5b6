"""A bitmap coded by what it has in common with another one: every pixel comes back, for less where the two are alike."""

import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.jbig2.arithmetic import Coder, Contexts, compiled, put
from hollowstack.core.bind.jbig2.generic import Bitmap

CONTEXTS = 1 << 10


def code_refinement(coder: Coder, contexts: Contexts, bitmap: Bitmap, reference: Bitmap, dx: int, dy: int) -> None:
    """Code a bitmap beside a reference, which lies ``dx`` to its right and ``dy`` below its top left corner.

    Source:
        ITU-T T.88 (08/2018), 6.3.5: template 1, without typical prediction.
    """
    height, width = bitmap.shape
    coder.room(bitmap.size)
    # The reference where the bitmap lies on it, and a pixel around: beyond its sides it is paper.
    under = np.zeros((height + 2, width + 2), np.int8)
    rows, cols = reference.shape
    top, left = max(0, 1 + dy), max(0, 1 + dx)
    bottom, right = min(height + 2, 1 + dy + rows), min(width + 2, 1 + dx + cols)
    if top < bottom and left < right:
        under[top:bottom, left:right] = reference[top - 1 - dy : bottom - 1 - dy, left - 1 - dx : right - 1 - dx]
    padded = np.pad(bitmap, ((1, 0), (1, 1))).view(np.int8)
    _code(coder.registers, coder.written, contexts, padded, under)


@compiled
def _code(
    registers: npt.NDArray[np.int64],
    written: npt.NDArray[np.uint8],
    contexts: Contexts,
    padded: npt.NDArray[np.int8],
    under: npt.NDArray[np.int8],
) -> None:
    height, width = under.shape[0] - 2, under.shape[1] - 2
    for y in range(1, height + 1):
        row, above = padded[y], padded[y - 1]
        first, second, third = under[y - 1], under[y], under[y + 1]
        for x in range(1, width + 1):
            # T.88, figure 13: four pixels that are known of the bitmap, six of the reference.
            place = row[x - 1] | (above[x + 1] << 1) | (above[x] << 2) | (above[x - 1] << 3)
            place |= (third[x + 1] << 4) | (third[x] << 5) | (second[x + 1] << 6) | (second[x] << 7)
            place |= (second[x - 1] << 8) | (first[x] << 9)
            put(registers, written, contexts, place, row[x])
