"""PDF pages come at the resolution of the scan they hold."""

from pathlib import Path

import numpy as np
import pikepdf
import pytest

from hollowstack.core.decode import count_frames, decode

PIXELS = (np.random.default_rng(2).integers(0, 2, (275, 200)) * 200 + 20).astype(np.uint8)


def pdf_of(path: Path, pixels: np.ndarray, ppi: float, *, rotate: int = 0, pages: int = 1) -> Path:
    pdf = pikepdf.new()
    height, width = pixels.shape[0] / ppi * 72, pixels.shape[1] / ppi * 72
    for _ in range(pages):
        image = pikepdf.Stream(
            pdf, pixels.tobytes(), Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=pixels.shape[1],
            Height=pixels.shape[0], ColorSpace=pikepdf.Name.DeviceGray, BitsPerComponent=8,
        )  # fmt: skip
        page = pdf.add_blank_page(page_size=(width, height))
        page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(I=pdf.make_indirect(image)))
        page.Contents = pdf.make_stream(f"q {width} 0 0 {height} 0 0 cm /I Do Q".encode())
        if rotate:
            page.Rotate = rotate
    pdf.save(path)
    return path


@pytest.mark.parametrize("ppi", [72, 150, 200, 300])
def test_a_scan_comes_pixel_for_pixel(tmp_path: Path, ppi: int) -> None:
    page = decode(pdf_of(tmp_path / "a.pdf", PIXELS, ppi))
    assert page.ppi == pytest.approx((ppi, ppi), abs=0.5)
    assert np.array_equal(page.pixels, PIXELS)


def test_a_turned_page_comes_as_a_viewer_shows_it(tmp_path: Path) -> None:
    page = decode(pdf_of(tmp_path / "a.pdf", PIXELS, 150, rotate=90))
    assert np.array_equal(page.pixels, np.rot90(PIXELS, -1))


def test_pages_are_counted(tmp_path: Path) -> None:
    assert count_frames(pdf_of(tmp_path / "a.pdf", PIXELS, 150, pages=7)) == 7


def test_a_page_without_a_scan_is_drawn_at_300_ppi(tmp_path: Path) -> None:
    pdf = pikepdf.new()
    pdf.add_blank_page(page_size=(144, 72))
    pdf.save(tmp_path / "a.pdf")
    page = decode(tmp_path / "a.pdf")
    assert (page.width, page.height, page.ppi) == (600, 300, (300, 300))


def test_the_demos_scans_come_at_their_own_size(skerry: Path) -> None:
    with pikepdf.open(skerry / "06 notices.pdf") as pdf:
        scans = [page.Resources.XObject.Scan for page in pdf.pages]
        sizes = [(int(scan.Width), int(scan.Height)) for scan in scans]
    pages = [decode(skerry / "06 notices.pdf", number) for number in range(3)]
    assert [(page.width, page.height) for page in pages] == sizes
