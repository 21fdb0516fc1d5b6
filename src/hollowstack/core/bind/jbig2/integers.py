"""Whole numbers as decisions of the arithmetic coder, each kind of number in contexts of its own (T.88, annex A)."""

import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.jbig2.arithmetic import Coder, Contexts, compiled, put

OUT_OF_BAND = np.iinfo(np.int64).min
"""What ends a run of numbers."""
_CONTEXTS = 512


class Numbers:
    """Numbers of one kind: how far apart symbols stand, say."""

    def __init__(self, coder: Coder) -> None:
        self._coder = coder
        self._contexts = np.zeros(_CONTEXTS, np.uint8)

    def code(self, value: int) -> None:
        """Code a number of at most 32 bits, or ``OUT_OF_BAND``."""
        self._coder.room(64)
        _put_number(self._coder.registers, self._coder.written, self._contexts, value)


class Names:
    """Which symbol of so many is meant, in as many bits as that takes."""

    def __init__(self, coder: Coder, symbols: int) -> None:
        self._coder = coder
        self._bits = max(0, symbols - 1).bit_length()
        self._contexts = np.zeros(1 << self._bits, np.uint8)

    def code(self, value: int) -> None:
        """Code a symbol's number, from 0."""
        self._coder.room(64)
        _put_name(self._coder.registers, self._coder.written, self._contexts, value, self._bits)


@compiled
def _put_number(registers: npt.NDArray[np.int64], written: npt.NDArray[np.uint8], contexts: Contexts, value: int) -> None:
    """T.88, A.2 and table A.1: a sign, how large the number is, what that leaves; out of band is less than nothing."""
    negative = 1 if value < 0 else 0
    size = 0 if value == OUT_OF_BAND else abs(value)
    if size < 4:
        prefix, steps, bits, least = 0, 1, 2, 0
    elif size < 20:
        prefix, steps, bits, least = 0b10, 2, 4, 4
    elif size < 84:
        prefix, steps, bits, least = 0b110, 3, 6, 20
    elif size < 340:
        prefix, steps, bits, least = 0b1110, 4, 8, 84
    elif size < 4436:
        prefix, steps, bits, least = 0b11110, 5, 12, 340
    else:
        prefix, steps, bits, least = 0b11111, 5, 32, 4436
    code = (((negative << steps) | prefix) << bits) | (size - least)
    before = 1
    for at in range(1 + steps + bits - 1, -1, -1):
        bit = (code >> at) & 1
        put(registers, written, contexts, before, bit)
        before = (before << 1) | bit if before < 256 else ((((before << 1) | bit) & 511) | 256)


@compiled
def _put_name(
    registers: npt.NDArray[np.int64], written: npt.NDArray[np.uint8], contexts: Contexts, value: int, bits: int
) -> None:
    """T.88, A.3."""
    before = 1
    for at in range(bits - 1, -1, -1):
        bit = (value >> at) & 1
        put(registers, written, contexts, before, bit)
        before = (before << 1) | bit
