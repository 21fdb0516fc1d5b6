"""ITU-T T.6 (Group 4) inside our documents, read by other people's decoders: libtiff, in Pillow, and PDFium."""

import datetime as dt
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2
import pytest

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import encode
from hollowstack.core.page.raster import Raster

ABOUT = Binding(Description("Two tones", dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC), "en"))
RNG = np.random.default_rng(6)


@pytest.mark.parametrize("size", [(96, 96), (601, 333), (2480, 700)])
def test_every_pixel_comes_back(tmp_path: Path, size):
    pixels = np.where(RNG.random((size[1], size[0])) > 0.4, 255, 0).astype(np.uint8)
    page = BoundPage(encode(Raster(pixels, (300.0, 300.0)), "bitonal", 50, "Group 4"), (300.0, 300.0), None, "1")
    bind([page], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        image = pikepdf.PdfImage(pdf.pages[0].Resources.XObject.Im)
        assert image.filters == ["/CCITTFaxDecode"]
        assert np.array_equal(np.asarray(image.as_pil_image().convert("L")), pixels)
    shown = next(iter(pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_objects()))
    assert isinstance(shown, pypdfium2.PdfImage)
    found = shown.get_bitmap().to_numpy()
    assert np.array_equal(found.reshape(*pixels.shape, -1)[..., 0], pixels)
