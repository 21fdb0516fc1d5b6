"""Pages bound as they came: to the bit where a PDF can hold the data so, without loss elsewhere."""

import contextlib
import io
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2
import pytest
from PIL import Image

from hollowstack.core.bind.as_it_came import as_it_came
from hollowstack.core.bind.codecs import decode_encoded, encode_lossless
from hollowstack.core.calibrate.icc import gray_profile
from hollowstack.core.page.raster import Raster
from hollowstack.core.run.batch import Order, run
from hollowstack.core.settings.shipped import SHIPPED

OPEN: list[pikepdf.Pdf] = []
NOISE = np.random.default_rng(3).integers(0, 256, (120, 90, 3)).astype(np.uint8)
"""Small, for whatever stands on a page is read."""


def bound(folder: Path, *files: Path) -> pikepdf.Pdf:
    order = Order(files, folder / "out", "doc", SHIPPED["as-captured"], None, 1, datetime(2026, 1, 1, tzinfo=UTC))
    report = run(order, lambda *_: None)
    assert [page.status for page in report.pages] == ["bound"] * len(files)
    return pikepdf.open(folder / "out" / "doc.pdf")


def image_of(pdf: pikepdf.Pdf) -> pikepdf.Object:
    OPEN.append(pdf)  # its objects live as long as it does
    return pdf.pages[0].Resources.XObject.Im


@pytest.mark.parametrize(("mode", "kwargs"), [("RGB", {}), ("RGB", {"progressive": True}), ("L", {})])
def test_a_jpeg_goes_in_byte_for_byte(tmp_path, mode, kwargs):
    file = tmp_path / "page.jpg"
    Image.fromarray(NOISE).convert(mode).save(file, quality=83, dpi=(150, 150), **kwargs)
    image = image_of(bound(tmp_path, file))
    assert image.Filter == "/DCTDecode"
    assert image.read_raw_bytes() == file.read_bytes()


def test_group_4_goes_in_byte_for_byte(tmp_path):
    bits = Image.fromarray(NOISE[..., 0]).convert("1", dither=Image.Dither.NONE)
    file = tmp_path / "page.tif"
    bits.save(file, compression="group4", strip_size=1 << 30, tiffinfo={262: 0}, dpi=(300, 300))
    with Image.open(file) as tiff:
        start, length = tiff.tag_v2[273][0], tiff.tag_v2[279][0]
    pdf = bound(tmp_path, file)
    image = image_of(pdf)
    assert image.Filter == "/CCITTFaxDecode"
    assert image.read_raw_bytes() == file.read_bytes()[start : start + length]
    assert np.array_equal(shown(tmp_path), np.asarray(bits))
    kept = as_it_came(file, 0)
    assert kept is not None
    assert np.array_equal(decode_encoded(kept) > 0, np.asarray(bits))


def shown(folder: Path) -> np.ndarray:
    """The page's image as PDFium has it, as white or not."""
    with contextlib.closing(pypdfium2.PdfDocument(folder / "out" / "doc.pdf")) as pdf:
        (image,) = pdf[0].get_objects(filter=[pypdfium2.raw.FPDF_PAGEOBJ_IMAGE])
        return np.atleast_3d(image.get_bitmap().to_numpy())[..., 0] > 127


@pytest.mark.parametrize("mode", ["RGB", "L"])
def test_other_rasters_come_back_pixel_for_pixel(tmp_path, mode):
    wanted = Image.fromarray(NOISE).convert(mode)
    wanted.save(tmp_path / "page.png", dpi=(300, 300))
    image = image_of(bound(tmp_path, tmp_path / "page.png"))
    assert image.Filter == "/FlateDecode"
    assert np.array_equal(np.asarray(pikepdf.PdfImage(image).as_pil_image().convert(mode)), np.asarray(wanted))


def test_two_tones_stay_two_tones(tmp_path):
    bits = Image.fromarray(NOISE[..., 0]).convert("1", dither=Image.Dither.NONE)
    bits.save(tmp_path / "page.png", dpi=(300, 300))
    image = image_of(bound(tmp_path, tmp_path / "page.png"))
    assert image.Filter == "/JBIG2Decode"
    assert np.array_equal(np.asarray(pikepdf.PdfImage(image).as_pil_image().convert("1")), np.asarray(bits))


def test_a_profile_goes_with_the_data(tmp_path):
    file = tmp_path / "page.jpg"
    Image.fromarray(NOISE).convert("L").save(file, icc_profile=gray_profile(), dpi=(150, 150))
    name, profile = image_of(bound(tmp_path, file)).ColorSpace
    assert (name, profile.N, profile.read_bytes()) == ("/ICCBased", 1, gray_profile())


def test_what_a_tag_turns_is_stored_anew_and_upright(tmp_path):
    file = tmp_path / "page.jpg"
    exif = Image.Exif()
    exif[0x0112] = 6
    Image.fromarray(NOISE).save(file, exif=exif, dpi=(150, 150))
    assert as_it_came(file, 0) is None
    image = image_of(bound(tmp_path, file))
    assert (image.Filter, int(image.Width), int(image.Height)) == ("/JPXDecode", *NOISE.shape[:2])


@pytest.mark.parametrize("damage", [slice(0, 2), slice(0, 30), slice(0, 0)])
def test_damaged_data_are_not_taken(tmp_path, damage):
    buffer = io.BytesIO()
    Image.fromarray(NOISE).save(buffer, "JPEG")
    (tmp_path / "page.jpg").write_bytes(buffer.getvalue()[damage])
    assert as_it_came(tmp_path / "page.jpg", 0) is None


def test_cmyk_is_not_taken(tmp_path):
    Image.fromarray(NOISE).convert("CMYK").save(tmp_path / "page.jpg")
    assert as_it_came(tmp_path / "page.jpg", 0) is None


@pytest.mark.parametrize("pixels", [NOISE, NOISE[..., 0], NOISE[:1, :1], NOISE[:, :1, 0]])
def test_without_loss_means_without_loss(pixels):
    encoded = encode_lossless(Raster(np.ascontiguousarray(pixels)), "colour")
    assert np.array_equal(decode_encoded(encoded), pixels)
