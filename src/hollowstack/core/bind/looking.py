"""A written document opened as its readers will open it: one page of every kind of image is held against what was meant.

That a file conforms does not say that viewers show it right: an image may be sound, and a viewer take it for another kind.
"""

from collections.abc import Iterator
from pathlib import Path

import cv2
import numpy as np
import pypdfium2

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.page.raster import Pixels, as_pixels

_SHOWN_PX, _CELLS = 800, 100
"""Longest side of what is drawn, and of what of it is compared: so far off, grain and half a pixel make no difference."""
_SAME, _VARIED, _OFF = 0.9, 2.0, 12.0
"""Correlation of a page that looks the same; gray values by which one varies that can be told so; by which an even one may
be off. Profiles change values, and hardly their order."""


class Looked:
    """Keeps a small picture of the first page of each kind, and looks for it in the document."""

    def __init__(self) -> None:
        self._meant: dict[object, tuple[int, Pixels]] = {}

    def note(self, number: int, image: EncodedImage | Layered) -> None:
        """A page of the document, from 1, as it is written."""
        kind = _kind(image)
        if kind not in self._meant:
            self._meant[kind] = (number, _from_afar(pixels_of(image)))

    def faults(self, path: Path) -> Iterator[str]:
        """What a viewer shows otherwise than it was meant.

        Args:
            path: Of the document.

        Raises:
            pypdfium2.PdfiumError: It cannot be opened or drawn.

        Source:
            Another program's renderer (PDFium); the limits are our own.
        """
        with pypdfium2.PdfDocument(path) as document:
            for number, meant in self._meant.values():
                page = document[number - 1]
                scale = _SHOWN_PX / max(page.get_size())
                drawn = np.asarray(page.render(scale=scale, grayscale=True).to_pil().convert("L"))
                shown = _from_afar(as_pixels(drawn), meant.shape)
                if not looks_like(shown, meant):
                    yield f"Page {number} is shown otherwise than it was made."


def looks_like(shown: Pixels, meant: Pixels) -> bool:
    """Whether two small grey pictures of the same size are of the same page."""
    one, other = shown.astype(np.float64), meant.astype(np.float64)
    if other.std() < _VARIED:
        return bool(np.abs(one - other).mean() <= _OFF)
    return bool(one.std() > 0 and np.corrcoef(one.ravel(), other.ravel())[0, 1] >= _SAME)


def _kind(image: EncodedImage | Layered) -> object:
    parts = (image,) if isinstance(image, EncodedImage) else image.images
    return (type(image), image.gray, frozenset((one.filter, one.gray, bool(one.icc), bool(one.palette)) for one in parts))


def _from_afar(pixels: Pixels, shape: tuple[int, ...] | None = None) -> Pixels:
    grey = pixels if pixels.ndim == 2 else cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2GRAY)
    height, width = grey.shape
    share = _CELLS / max(height, width)
    rows, cols = shape or (max(1, round(height * share)), max(1, round(width * share)))
    return as_pixels(cv2.resize(np.ascontiguousarray(grey), (cols, rows), interpolation=cv2.INTER_AREA))
