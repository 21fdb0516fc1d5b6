"""Every kind of image that documents hold, drawn by three programs: PDFium, Poppler (Debian) and MuPDF (Debian).

What each shows is held against the pixels that were meant; limits are those of the issue: one percent in the mean.
"""

import datetime as dt
import subprocess
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
import pypdfium2
import pytest
from PIL import Image

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import encode, encode_flate, encode_lossless
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.flavours import FLAVOURS, Flavour
from hollowstack.core.bind.jpeg2000 import encode_at, encode_reversible
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.layers.separating import separate
from hollowstack.core.bind.lossy import encode_jpeg
from hollowstack.core.page.raster import Raster, as_pixels
from tests.core.test_layers import with_picture, written

SIZE, PPI = (1200, 900), (288.0, 288.0)
"""A page that ends where a renderer's pixels do: else each draws it at a size that is off by a part of one."""
WHEN = dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC)


def grained() -> np.ndarray:
    """Text and a photograph on paper with grain."""
    page = with_picture(written(SIZE))[0].astype(np.int16)
    return np.clip(page + np.random.default_rng(3).integers(-20, 20, page.shape), 0, 255).astype(np.uint8)


def grey(page: np.ndarray) -> np.ndarray:
    return np.asarray(Image.fromarray(page).convert("L"))


def two_tones() -> np.ndarray:
    return as_pixels(np.where(grey(written(SIZE)) < 128, 0, 255).astype(np.uint8))


def layered(page: np.ndarray) -> Layered:
    found = separate(Raster(as_pixels(page), PPI), 60)
    assert found is not None
    return found


def reversible(page: np.ndarray) -> EncodedImage:
    found = encode_reversible(as_pixels(page))
    assert found is not None
    return found


KINDS: dict[str, Callable[[], EncodedImage | Layered]] = {
    "JBIG2": lambda: encode_lossless(Raster(two_tones(), PPI), "bitonal"),
    "Group 4": lambda: encode(Raster(two_tones(), PPI), "bitonal", 50, "Group 4"),
    "JPEG, grey": lambda: encode_jpeg(grey(grained()), 60),
    "JPEG, colour": lambda: encode_jpeg(grained(), 60),
    "JPEG 2000, grey": lambda: encode_at(grey(grained()), 34.0),
    "JPEG 2000, colour": lambda: encode_at(grained(), 34.0),
    "reversible JPEG 2000, grey": lambda: reversible(grey(grained())),
    "reversible JPEG 2000, colour": lambda: reversible(grained()),
    "Deflate, grey": lambda: encode_flate(grey(grained())),
    "Deflate, colour": lambda: encode_flate(grained()),
    "layers, grey": lambda: layered(grey(with_picture(written(SIZE, (236, 228, 205)))[0])),
    "layers, colour": lambda: layered(with_picture(written(SIZE, (236, 228, 205)))[0]),
}


def seen(page: np.ndarray) -> np.ndarray:
    """As from an arm's length: renderers differ in where within a pixel it begins, which changes grain and nothing else."""
    return np.asarray(cv2.resize(page, (SIZE[0] // 4, SIZE[1] // 4), interpolation=cv2.INTER_AREA)).astype(int)


def by_pdfium(path: Path, folder: Path) -> np.ndarray:
    return np.asarray(pypdfium2.PdfDocument(path)[0].render(scale=PPI[0] / 72).to_pil().convert("RGB"))


def by_poppler(path: Path, folder: Path) -> np.ndarray:
    subprocess.run(["pdftoppm", "-r", "288", "-singlefile", path, folder / "poppler"], check=True, capture_output=True)
    return np.asarray(Image.open(folder / "poppler.ppm").convert("RGB"))


def by_mupdf(path: Path, folder: Path) -> np.ndarray:
    made = folder / "mupdf.png"
    subprocess.run(["mutool", "draw", "-q", "-r", "288", "-c", "rgb", "-o", made, path], check=True, capture_output=True)
    return np.asarray(Image.open(made).convert("RGB"))


@pytest.mark.parametrize("renderer", [by_pdfium, by_poppler, by_mupdf], ids=["PDFium", "Poppler", "MuPDF"])
@pytest.mark.parametrize("kind", KINDS)
def test_all_renderers_show_what_was_meant(tmp_path: Path, kind: str, renderer: Callable[[Path, Path], np.ndarray]):
    image = KINDS[kind]()
    for flavour in _flavours(kind):
        path = tmp_path / "a.pdf"
        bind([BoundPage(image, PPI, None, "1")], path, Binding(Description("Lamp", WHEN), flavour))
        shown, meant = renderer(path, tmp_path), pixels_of(image)
        if meant.ndim == 2:
            meant = np.dstack([meant] * 3)
        assert shown.shape == meant.shape
        shown, meant = seen(shown), seen(meant)
        assert np.abs(shown - meant).mean() / 255 < 0.01, (kind, flavour)
        assert np.percentile(np.abs(shown - meant), 99) / 255 < 0.12, (kind, flavour)


def _flavours(kind: str) -> list[Flavour]:
    """One of each part: what is drawn differs between parts alone, in that the first has no JPEG 2000."""
    return [one for one in FLAVOURS if one in {"PDF/A-1b", "PDF/A-2u", "PDF/A-2a"}] if "2000" in kind else ["PDF/A-2u"]
