"""Bad input gets one plain sentence; nothing but a DecodeError ever comes out of the decoder."""

import io
import struct
import warnings
import zlib
from pathlib import Path

import numpy as np
import pikepdf
import pytest
import tifffile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from hollowstack.core.decode import MAX_BYTES, count_frames, decode
from hollowstack.core.page.errors import DecodeError
from tests.examples import about

NOISE = np.random.default_rng(1).integers(0, 256, (200, 160, 3), dtype=np.uint8)


def sentence(path: Path) -> str:
    def open_all() -> None:
        for frame in range(count_frames(path)):
            decode(path, frame)

    with pytest.raises(DecodeError) as caught:
        open_all()
    text = str(caught.value)
    assert text.endswith("."), text
    assert "\n" not in text
    return text


def encoded(kind: str, **how: object) -> bytes:
    buffer = io.BytesIO()
    if kind == "TIFF, floating":
        tifffile.imwrite(buffer, (NOISE / 255).astype("f4"), photometric="rgb", compression="zlib")
        return buffer.getvalue()
    Image.fromarray(NOISE).save(buffer, kind, **how)
    return buffer.getvalue()


def test_missing(tmp_path: Path) -> None:
    assert "cannot be opened" in sentence(tmp_path / "none.png")


def test_empty(tmp_path: Path) -> None:
    (tmp_path / "a.png").touch()
    assert "empty" in sentence(tmp_path / "a.png")


def test_a_folder_with_an_images_name(tmp_path: Path) -> None:
    (tmp_path / "a.png").mkdir()
    assert "folder" in sentence(tmp_path / "a.png")


def test_not_an_image(tmp_path: Path) -> None:
    (tmp_path / "a.jpg").write_text("Dear Mr. Harrow, this is a letter and no picture of one.")
    assert "not an image" in sentence(tmp_path / "a.jpg")


@pytest.mark.parametrize(
    ("begins", "named"),
    [
        (encoded("GIF"), "GIF files"),
        (b"\0\0\0\x1cftypavif\0\0\0\0avifmif1", "AVIF files"),
        (b"\0\0\0\x18ftypheic\0\0\0\0mif1heic", "HEIC files"),
        (b"\0\0\0\x18ftypmif1\0\0\0\0mif1heic", "HEIF files"),
        (b"\0\0\0\x0cJXL \r\n\x87\n", "JPEG XL files"),
        (b"\x97JB2\r\n\x1a\n", "JBIG2 files"),
        (b"AT&TFORM\0\0", "DjVu files"),
    ],
)
def test_an_image_of_a_kind_that_cannot_be_added_is_called_by_its_name(tmp_path: Path, begins: bytes, named: str) -> None:
    (tmp_path / "a.jpg").write_bytes(begins)
    assert sentence(tmp_path / "a.jpg").startswith(f"{named} cannot be added: save this one as TIFF, PNG, JPEG")


def test_a_deep_tiff_cut_short(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, NOISE / 255, photometric="rgb", extratags=[(274, "H", 1, 6)])
    path.write_bytes(path.read_bytes()[:-5000])
    with pytest.raises(DecodeError, match="incomplete") as caught:
        decode(path)
    assert caught.value.size_px == (200, 160)


def test_samples_that_nobody_reads(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, NOISE[..., 0] / 255, compression="zlib")
    data = path.read_bytes()
    # TIFF 6.0, section 3: the tag of the compression, 259; a short, of which there is one; here a private one.
    path.write_bytes(data.replace(struct.pack("<2HIHH", 259, 3, 1, 8, 0), struct.pack("<2HIHH", 259, 3, 1, 34712, 0)))
    assert "64 bits a channel, floating" in sentence(path)


def test_over_two_gigabytes(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    with path.open("wb") as file:
        file.write(b"II*\0")
        file.truncate(MAX_BYTES + 1)  # sparse: takes no room
    assert "2 GB" in sentence(path)


@pytest.mark.parametrize("share", [0.02, 0.3, 0.6, 0.9, 0.99])
@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF", "WEBP", "BMP", "JPEG2000"])
def test_cut_short(tmp_path: Path, kind: str, share: float) -> None:
    path = tmp_path / "a"
    data = encoded(kind)
    path.write_bytes(data[: int(len(data) * share)])
    sentence(path)


def png_of(width: int, height: int) -> bytes:
    """A PNG that claims a size and holds next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("width", "height", "says"),
    [
        pytest.param(30_000, 30_000, "900 megapixels", id="a bomb"),
        pytest.param(65_001, 10, "65,000", id="too wide"),
        pytest.param(10, 70_000, "65,000", id="too high"),
    ],
)
def test_too_large_is_refused_before_it_is_decoded(tmp_path: Path, width: int, height: int, says: str) -> None:
    (tmp_path / "a.png").write_bytes(png_of(width, height))
    assert says in sentence(tmp_path / "a.png")


def test_locked_pdf(tmp_path: Path) -> None:
    pdf = pikepdf.new()
    pdf.add_blank_page()
    pdf.save(tmp_path / "a.pdf", encryption=pikepdf.Encryption(owner="a", user="b"))
    assert "password" in sentence(tmp_path / "a.pdf")


def test_a_pdf_without_pages_is_not_called_locked_after_one_that_is(tmp_path: Path) -> None:
    pikepdf.new().save(tmp_path / "empty.pdf")
    locked = pikepdf.new()
    locked.add_blank_page()
    locked.save(tmp_path / "locked.pdf", encryption=pikepdf.Encryption(owner="a", user="b"))
    assert "password" in sentence(tmp_path / "locked.pdf")
    assert "no pages" in sentence(tmp_path / "empty.pdf")


def test_pdf_with_a_page_as_large_as_a_field(tmp_path: Path) -> None:
    pdf = pikepdf.new()
    pdf.add_blank_page(page_size=(14_400, 14_400))
    pdf.save(tmp_path / "a.pdf")
    assert "megapixels" in sentence(tmp_path / "a.pdf")


def test_damaged_pdf(tmp_path: Path) -> None:
    (tmp_path / "a.pdf").write_bytes(b"%PDF-1.7\n" + bytes(range(256)) * 8)
    assert "PDF" in sentence(tmp_path / "a.pdf")


@settings(max_examples=about(150), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    kind=st.sampled_from(["PNG", "JPEG", "TIFF", "TIFF, floating", "WEBP", "BMP"]),
    at=st.floats(0, 1),
    change=st.binary(min_size=1, max_size=40),
)
def test_damage_anywhere_is_a_sentence_or_an_image(tmp_path: Path, kind: str, at: float, change: bytes) -> None:
    data = bytearray(encoded(kind))
    start = int(at * (len(data) - 1))
    data[start : start + len(change)] = change
    path = tmp_path / "a"
    path.write_bytes(bytes(data))
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        try:
            decode(path)
        except DecodeError as error:
            assert str(error).endswith(".")  # noqa: PT017
