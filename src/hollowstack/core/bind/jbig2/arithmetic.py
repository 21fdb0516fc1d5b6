"""The adaptive binary arithmetic coder of JBIG2 (and of JPEG 2000), as far as it encodes.

Compiled by numba at its first use, which takes some seconds; the machine code is kept on disk beside the module, or in the
user's cache folder where that cannot be written.
"""

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba
import numpy as np
import numpy.typing as npt

Contexts = npt.NDArray[np.uint8]
"""A state for each context: twice its row in the table of estimates, and which value is the likelier one."""
_Registers = npt.NDArray[np.int64]
"""A, C, CT, and the place of the byte B in what is written."""
_F = TypeVar("_F", bound=Callable[..., Any])


def compiled(function: _F) -> _F:
    """A function in machine code, which is kept for later runs where there is any place for it."""
    try:
        return cast("_F", numba.njit(cache=True)(function))
    except RuntimeError:  # neither the modules' folder nor the user's may be written: then each run compiles its own
        return cast("_F", numba.njit(function))


# Rows of T.88, table E.1: the estimate Qe, the row after a likely and after an unlikely value, whether both change places.
_ESTIMATES = np.array([
    (0x5601, 1, 1, 1), (0x3401, 2, 6, 0), (0x1801, 3, 9, 0), (0x0AC1, 4, 12, 0), (0x0521, 5, 29, 0),
    (0x0221, 38, 33, 0), (0x5601, 7, 6, 1), (0x5401, 8, 14, 0), (0x4801, 9, 14, 0), (0x3801, 10, 14, 0),
    (0x3001, 11, 17, 0), (0x2401, 12, 18, 0), (0x1C01, 13, 20, 0), (0x1601, 29, 21, 0), (0x5601, 15, 14, 1),
    (0x5401, 16, 14, 0), (0x5101, 17, 15, 0), (0x4801, 18, 16, 0), (0x3801, 19, 17, 0), (0x3401, 20, 18, 0),
    (0x3001, 21, 19, 0), (0x2801, 22, 19, 0), (0x2401, 23, 20, 0), (0x2201, 24, 21, 0), (0x1C01, 25, 22, 0),
    (0x1801, 26, 23, 0), (0x1601, 27, 24, 0), (0x1401, 28, 25, 0), (0x1201, 29, 26, 0), (0x1101, 30, 27, 0),
    (0x0AC1, 31, 28, 0), (0x09C1, 32, 29, 0), (0x08A1, 33, 30, 0), (0x0521, 34, 31, 0), (0x0441, 35, 32, 0),
    (0x02A1, 36, 33, 0), (0x0221, 37, 34, 0), (0x0141, 38, 35, 0), (0x0111, 39, 36, 0), (0x0085, 40, 37, 0),
    (0x0049, 41, 38, 0), (0x0025, 42, 39, 0), (0x0015, 43, 40, 0), (0x0009, 44, 41, 0), (0x0005, 45, 42, 0),
    (0x0001, 45, 43, 0), (0x5601, 46, 46, 0),
], np.int64)  # fmt: skip
_QE = _ESTIMATES[:, 0].copy()
# States as contexts hold them: twice the row, and the likelier value.
_AFTER_LIKELY = np.array([[2 * row + bit for bit in (0, 1)] for row in _ESTIMATES[:, 1]], np.uint8).reshape(-1)
_AFTER_UNLIKELY = np.array(
    [[2 * row + (bit ^ swap) for bit in (0, 1)] for row, swap in zip(_ESTIMATES[:, 2], _ESTIMATES[:, 3], strict=True)],
    np.uint8,
).reshape(-1)
_A, _C, _CT, _B = range(4)
_ROOM = 4096


class Coder:
    """What was coded so far. Functions that code take ``registers`` and ``written``, after ``room`` was made for them."""

    def __init__(self) -> None:
        # INITENC (T.88, E.2.7). The byte before the first stands at place 0, and is none of the code.
        self.registers: _Registers = np.array([0x8000, 0, 12, 0], np.int64)
        self.written: npt.NDArray[np.uint8] = np.zeros(_ROOM, np.uint8)

    def room(self, decisions: int) -> None:
        """Make room for so many more values: the unlikeliest of all takes 15 bits, and a byte in 128 may be stuffed."""
        needed = int(self.registers[_B]) + 2 * decisions + 16
        if needed > self.written.size:
            grown = np.zeros(max(needed, 2 * self.written.size), np.uint8)
            grown[: self.written.size] = self.written
            self.written = grown

    def bits(self, contexts: Contexts, places: npt.NDArray[np.int64], values: npt.NDArray[np.uint8]) -> None:
        """Code values, each in the context at its place."""
        self.room(len(values))
        _put_all(self.registers, self.written, contexts, places, values)

    def finish(self) -> bytes:
        """End the code, with the marker that T.88 ends it by; nothing may be coded after that."""
        self.room(4)
        _flush(self.registers, self.written)
        return self.written[1 : int(self.registers[_B]) + 1].tobytes()


@compiled
def put(registers: _Registers, written: npt.NDArray[np.uint8], contexts: Contexts, place: int, bit: int) -> None:
    """Code one value in the context at a place, and learn from it.

    Source:
        ITU-T T.88 (08/2018), E.2.2 to E.2.6: ENCODE, CODEMPS, CODELPS, RENORME.
    """
    state = contexts[place]
    estimate = _QE[state >> 1]
    a, c = registers[_A] - estimate, registers[_C]
    if bit == (state & 1):
        if a & 0x8000:
            registers[_A], registers[_C] = a, c + estimate
            return
        if a < estimate:
            a = estimate
        else:
            c += estimate
        contexts[place] = _AFTER_LIKELY[state]
    else:
        if a < estimate:
            c += estimate
        else:
            a = estimate
        contexts[place] = _AFTER_UNLIKELY[state]
    count = registers[_CT]
    while True:
        a <<= 1
        c <<= 1
        count -= 1
        if count == 0:
            registers[_C] = c
            _byte_out(registers, written)
            c, count = registers[_C], registers[_CT]
        if a & 0x8000:
            break
    registers[_A], registers[_C], registers[_CT] = a, c, count


@compiled
def _byte_out(registers: _Registers, written: npt.NDArray[np.uint8]) -> None:
    """BYTEOUT (T.88, E.2.7): a byte of code, behind 0xFF one of seven bits so that no carry runs past it."""
    c, at = registers[_C], registers[_B]
    if written[at] != 0xFF and c >= 0x8000000:
        written[at] += 1
        c &= 0x7FFFFFF
    at += 1
    if written[at - 1] == 0xFF:
        written[at] = c >> 20
        registers[_C], registers[_CT] = c & 0xFFFFF, 7
    else:
        written[at] = c >> 19
        registers[_C], registers[_CT] = c & 0x7FFFF, 8
    registers[_B] = at


@compiled
def _flush(registers: _Registers, written: npt.NDArray[np.uint8]) -> None:
    """FLUSH (T.88, E.2.9): as many bits set as may be, then the marker 0xFFAC."""
    most = registers[_C] + registers[_A]
    registers[_C] |= 0xFFFF
    if registers[_C] >= most:
        registers[_C] -= 0x8000
    for _ in range(2):
        registers[_C] <<= registers[_CT]
        _byte_out(registers, written)
    at = registers[_B]
    if written[at] != 0xFF:
        at += 1
        written[at] = 0xFF
    written[at + 1] = 0xAC
    registers[_B] = at + 1


@compiled
def _put_all(
    registers: _Registers,
    written: npt.NDArray[np.uint8],
    contexts: Contexts,
    places: npt.NDArray[np.int64],
    values: npt.NDArray[np.uint8],
) -> None:
    for at in range(len(values)):
        put(registers, written, contexts, places[at], values[at])
