"""A text's sketch: some numbers by which two readings of the same text are known, though both have errors."""

import hashlib
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from hollowstack.core.ocr.model import Reading

Sketch = npt.NDArray[np.uint32]
_HASHES = 64
_TOGETHER = 2
"""Words that make one piece of the text: pairs still agree where every tenth word is read wrongly."""
_LEAST_WORDS = 12
"""Of fewer words a text is like many others."""
_PRIME = np.uint64((1 << 61) - 1)
_FACTORS = np.random.default_rng(1997).integers(1, 1 << 31, (2, _HASHES), np.uint64)
"""Drawn once; another seed would make other sketches of the same texts."""


def text_sketch(reading: Reading) -> str:
    """The sketch of a text in hexadecimal digits; empty where there are too few words.

    Source:
        A. Broder, On the resemblance and containment of documents, 1997: the least of each of several hashes of the text's
        pieces.
    """
    words = [plain for word in reading.words if (plain := "".join(filter(str.isalnum, word.text.lower())))]
    if len(words) < _LEAST_WORDS:
        return ""
    pieces = {" ".join(words[at : at + _TOGETHER]) for at in range(len(words) - _TOGETHER + 1)}
    digests = [hashlib.blake2b(piece.encode(), digest_size=4).digest() for piece in pieces]
    values = np.frombuffer(b"".join(digests), np.uint32).astype(np.uint64)
    hashed = (values[:, None] * _FACTORS[0] + _FACTORS[1]) % _PRIME
    least = (hashed.min(axis=0) & np.uint64(0xFFFFFFFF)).astype(np.uint32)
    return str(least.tobytes().hex())


def resemblance(one: str, others: Sequence[str]) -> npt.NDArray[np.float64]:
    """About how much of two texts they have in common, 0 to 1, of one text with each of some others; none of them empty."""
    rows = np.array([_sketch(other) for other in others])
    return np.asarray((rows == _sketch(one)).mean(axis=1), np.float64) if len(others) else np.zeros(0)


def _sketch(text: str) -> Sketch:
    return np.frombuffer(bytes.fromhex(text), np.uint32)
