"""Leptonica's finder of skew: the reference that measured tilts are held against, reached in the library of tesserocr's wheel."""

import ctypes
import io
from functools import cache
from pathlib import Path

import cv2
import numpy as np
import tesserocr
from PIL import Image

_SWEEP, _SEARCH, _STEP_DEG, _LEAST_STEP_DEG = 4, 2, 1.0, 0.01
"""Leptonica's own reductions and steps for ``pixFindSkew``, which sweeps 7 degrees only."""


@cache
def _library() -> ctypes.CDLL:
    folder = Path(tesserocr.__file__).parents[1] / "tesserocr.libs"
    library = ctypes.CDLL(str(next(folder.glob("libleptonica*"))))
    library.pixReadMem.restype = ctypes.c_void_p
    library.pixReadMem.argtypes = [ctypes.c_char_p, ctypes.c_size_t]
    library.pixDestroy.argtypes = [ctypes.POINTER(ctypes.c_void_p)]
    library.pixFindSkewSweepAndSearch.argtypes = [
        ctypes.c_void_p, ctypes.POINTER(ctypes.c_float), ctypes.POINTER(ctypes.c_float),
        ctypes.c_int32, ctypes.c_int32, ctypes.c_float, ctypes.c_float, ctypes.c_float,
    ]  # fmt: skip
    return library


def skew(gray: np.ndarray, range_deg: float = 15.0) -> tuple[float, float]:
    """Degrees by which lines fall to the right, and Leptonica's confidence, of a gray page cut by Otsu's threshold.

    Source: D. Bloomberg, G. Kopec and L. Dasari, Measuring document image skew and orientation, SPIE 2422, 1995;
    ``pixFindSkewSweepAndSearch``.
    """
    level, _ = cv2.threshold(gray, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    file = io.BytesIO()
    Image.fromarray(gray > level).save(file, "PPM")
    pix = ctypes.c_void_p(_library().pixReadMem(file.getvalue(), len(file.getvalue())))
    angle, confidence = ctypes.c_float(), ctypes.c_float()
    try:
        _library().pixFindSkewSweepAndSearch(
            pix, ctypes.byref(angle), ctypes.byref(confidence), _SWEEP, _SEARCH, range_deg, _STEP_DEG, _LEAST_STEP_DEG
        )
    finally:
        _library().pixDestroy(ctypes.byref(pix))
    return -angle.value, confidence.value
