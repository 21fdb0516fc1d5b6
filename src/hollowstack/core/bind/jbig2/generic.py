"""Bitmaps coded pixel by pixel, each in the context of the sixteen around it: JBIG2's generic regions, template 0."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.jbig2.arithmetic import Coder, Contexts, compiled, put

Bitmap = npt.NDArray[np.uint8]
"""(height, width), 1 where there is ink."""
CONTEXTS = 1 << 16
_USUAL = (3, -1)
"""Where the first adaptive pixel of the template stands unless it is moved (T.88, 6.2.5.4)."""
_OTHERS = ((-3, -1), (2, -2), (-2, -2))
"""The other three, which are left where they stand."""
_TYPICAL = 0x9B25
"""The context in which it is coded whether a row is like the one above it (T.88, figure 8)."""
_LAGS = 32
"""Pixels to the left up to which a pattern is looked for that comes again, as a screen does; a pixel may stand 128 away."""
_BUSY = 0.08
"""Share of pixels that differ from the one before, from which on a bitmap may hold a screen; of text it is less."""
_AS_GOOD = 0.005
"""Share of pixels by which a lag that is nearer may be worse."""
_SAMPLE = 512
"""Rows by which that is judged."""


class Adaptive(NamedTuple):
    """Where the first adaptive pixel of the template stands, from the pixel coded: columns and rows."""

    x: int = _USUAL[0]
    y: int = _USUAL[1]


def code_generic(coder: Coder, contexts: Contexts, bitmap: Bitmap, at: Adaptive, *, typical: bool) -> None:
    """Code a bitmap.

    Args:
        coder: What it goes on from.
        contexts: ``CONTEXTS`` of them, zero at first; they may be shared by several bitmaps of one segment.
        bitmap: 1 is ink.
        at: Where the first adaptive pixel stands.
        typical: Whether rows like those above them are coded by one value (TPGDON).

    Source:
        ITU-T T.88 (08/2018), 6.2.5: template 0, typical prediction.
    """
    height, width = bitmap.shape
    coder.room(height * (width + 1))
    # Beyond its sides a bitmap is paper: with so much around it no place has to be looked at twice.
    left, right = max(4, -at.x), max(4, at.x)
    padded = np.pad(bitmap, ((max(2, -at.y), 0), (left, right))).view(np.int8)
    _code(coder.registers, coder.written, contexts, padded, (left, right), (at.x, at.y), typical)


def adaptive_for(bitmap: Bitmap) -> Adaptive:
    """Where the first adaptive pixel is worth most: at the period of a screen, or where it stands as a rule.

    Source:
        T.88, annex G ("adaptive template ... for half-tones", informative; from memory): the lag of the highest
        autocorrelation along a row.
    """
    rows = bitmap[:: max(1, bitmap.shape[0] // _SAMPLE)]
    if rows.shape[1] <= 2 * _LAGS or np.mean(rows[:, 1:] != rows[:, :-1]) < _BUSY:
        return Adaptive()
    same = [float(np.mean(rows[:, lag:] == rows[:, :-lag])) for lag in range(1, _LAGS + 1)]
    # The template holds the four pixels to the left itself; of a period and twice that the nearer one.
    best = next(lag for lag in range(5, _LAGS + 1) if same[lag - 1] >= max(same[4:]) - _AS_GOOD)
    return Adaptive(-best, 0)


def adaptive_bytes(at: Adaptive) -> bytes:
    """The four adaptive pixels as segments name them (T.88, 7.4.6.3)."""
    return b"".join(value.to_bytes(1, "big", signed=True) for place in ((at.x, at.y), *_OTHERS) for value in place)


@compiled
def _code(
    registers: npt.NDArray[np.int64],
    written: npt.NDArray[np.uint8],
    contexts: Contexts,
    padded: npt.NDArray[np.int8],
    sides: tuple[int, int],
    at: tuple[int, int],
    typical: bool,
) -> None:
    left, right = sides
    x_at, y_at = at
    moved = x_at != _USUAL[0] or y_at != _USUAL[1]
    top, width = max(2, -y_at), padded.shape[1] - left - right
    was_like = 0
    for y in range(top, padded.shape[0]):
        row, above, second = padded[y], padded[y - 1], padded[y - 2]
        if typical:
            like = 1
            for x in range(left, left + width):
                if row[x] != above[x]:
                    like = 0
                    break
            put(registers, written, contexts, _TYPICAL, like ^ was_like)
            was_like = like
            if like:
                continue
        # The pixels of each row as numbers that are moved on: T.88, figure 3.
        here = 0
        one = (above[left] << 2) | (above[left + 1] << 1) | above[left + 2]
        two = (second[left] << 1) | second[left + 1]
        for x in range(left, left + width):
            one = ((one << 1) | above[x + 3]) & 0x7F
            two = ((two << 1) | second[x + 2]) & 0x1F
            place = here | (one << 4) | (two << 11)
            if moved:
                place = (place & ~0x10) | (padded[y + y_at, x + x_at] << 4)
            bit = row[x]
            put(registers, written, contexts, place, bit)
            here = ((here << 1) | bit) & 0xF
