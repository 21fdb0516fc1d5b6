"""Oblong pixels are made square before anything is looked at, and the report still speaks of the file's own."""

from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.core.decode import decode
from hollowstack.core.decode.square import squared
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster, is_two_valued
from hollowstack.core.run.batch import Order, run
from hollowstack.core.settings.shipped import SHIPPED
from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.sheet import Sheet, fitted


def fax(path: Path) -> tuple[int, int]:
    """A page of print in two tones, its rows at 98 ppi and its columns at 204."""
    sheet = Sheet(180, 120, 204.0)
    for number, text in enumerate(fitted(sheet, " ".join(REPORT), "OldStandardTT-Regular", 13, 150)[:14]):
        sheet.print(15, 18 + 7 * number, text, "OldStandardTT-Regular", 13)
    ((_, layer),) = sheet.layers.items()
    width, height = sheet.size
    image = Image.fromarray(255 - np.asarray(layer)).resize((width, round(height * 98 / 204)), Image.Resampling.BOX)
    image.point(lambda v: 255 * (v > 140)).convert("1").save(
        path, compression="group4", strip_size=1 << 30, dpi=(204, 98), tiffinfo={262: 0}
    )
    return image.size


@pytest.mark.parametrize(
    ("ppi", "size", "stretch"),
    [
        ((204.0, 98.0), (10, 42), (1.0, 2.1)), ((98.0, 204.0), (21, 20), (2.1, 1.0)), ((300.0, 300.0), (10, 20), (1.0, 1.0)),
        ((300.0, 298.0), (10, 20), (1.0, 1.0)), (None, (10, 20), (1.0, 1.0)),
    ],
)  # fmt: skip
def test_the_coarser_axis_is_brought_to_the_finer(ppi, size, stretch):
    image = squared(Raster(np.full((20, 10), 7, np.uint8), ppi))
    assert (image.width, image.height) == size
    assert image.stretch == stretch
    assert image.ppi is None or len(set(image.ppi)) == 1 or ppi == image.ppi


@pytest.mark.parametrize(("ratio", "believed"), [(4.0, True), (4.1, False)])
def test_a_resolution_that_no_device_has_is_not_believed(ratio, believed):
    image = squared(Raster(np.zeros((20, 10), np.uint8), (100 * ratio, 100.0)))
    assert (image.ppi is not None) == believed
    assert (image.height > 20) == believed


def test_two_tones_stay_two_tones(tmp_path):
    fax(tmp_path / "fax.tif")
    image = decode(tmp_path / "fax.tif")
    assert is_two_valued(image.pixels)
    assert image.ppi == (204.0, 204.0)


def processed(tmp_path: Path, treatment: str, language: str | None):
    order = Order(
        (tmp_path / "fax.tif",), tmp_path / "out", "doc", SHIPPED[treatment], language, 1, datetime(2026, 1, 1, tzinfo=UTC)
    )
    (page,) = run(order, lambda *_: None).pages
    with pikepdf.open(tmp_path / "out" / "doc.pdf") as pdf:
        box = [float(v) * 25.4 / 72 for v in pdf.pages[0].MediaBox][2:]
        filter_, data = pdf.pages[0].Resources.XObject.Im.Filter, pdf.pages[0].Resources.XObject.Im.read_raw_bytes()
    return page, box, filter_, data


def test_a_fax_is_read_and_reported_in_its_own_pixels(tmp_path):
    size = fax(tmp_path / "fax.tif")
    page, box, _, _ = processed(tmp_path, "everyday", "eng")
    assert page.source_size_px == size
    assert page.source_ppi == pytest.approx((204, 98), abs=0.5)
    assert page.output_ppi[0] == page.output_ppi[1]
    assert np.abs(page.quad_px.array() - Quad.rectangle(0, 0, *size).array()).max() < 20
    assert box == pytest.approx([180, 120], abs=1)
    wanted = " ".join(REPORT).split()[:100]
    read = set(page.ocr.text.split())
    assert sum(word in read for word in wanted) >= 90


def test_as_captured_it_keeps_its_data_and_its_size_on_paper(tmp_path):
    fax(tmp_path / "fax.tif")
    _, box, filter_, data = processed(tmp_path, "as-captured", None)
    assert box == pytest.approx([180, 120], abs=1)
    assert filter_ == "/CCITTFaxDecode"
    assert data in (tmp_path / "fax.tif").read_bytes()
