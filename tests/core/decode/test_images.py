"""Every format that is taken in comes out as the pixels that went in."""

import io
import struct
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from hollowstack.core.decode import count_frames, decode

GRADIENT = np.linspace(0, 255, 64 * 48).reshape(48, 64).astype(np.uint8)
COLOUR = np.dstack([GRADIENT, GRADIENT[::-1], np.full_like(GRADIENT, 90)])
TWO_TONE = np.where(GRADIENT > 127, 255, 0).astype(np.uint8)


def save(path: Path, pixels: np.ndarray[Any, Any], **how: Any) -> Path:
    Image.fromarray(pixels).save(path, **how)
    return path


@pytest.mark.parametrize(
    ("name", "how"),
    [
        pytest.param("a.tif", {}, id="TIFF, plain"),
        pytest.param("a.tif", {"compression": "tiff_lzw"}, id="TIFF, LZW"),
        pytest.param("a.tif", {"compression": "tiff_adobe_deflate"}, id="TIFF, deflate"),
        pytest.param("a.png", {}, id="PNG"),
        pytest.param("a.bmp", {}, id="BMP"),
        pytest.param("a.webp", {"lossless": True}, id="WebP, lossless"),
        pytest.param("a.jp2", {"irreversible": False}, id="JPEG 2000, lossless"),
    ],
)
def test_lossless_formats_give_back_their_pixels(tmp_path: Path, name: str, how: dict[str, Any]) -> None:
    path = save(tmp_path / name, COLOUR, **how)
    assert np.array_equal(decode(path).pixels, COLOUR)


@pytest.mark.parametrize(
    ("name", "how"),
    [
        pytest.param("a.jpg", {"quality": 95, "subsampling": 0}, id="JPEG"),
        pytest.param("a.jpg", {"quality": 95, "progressive": True, "subsampling": 0}, id="JPEG, progressive"),
        pytest.param("a.tif", {"compression": "jpeg", "quality": 95}, id="JPEG in TIFF"),
        pytest.param("a.webp", {"quality": 95}, id="WebP, lossy"),
    ],
)
def test_lossy_formats_come_close(tmp_path: Path, name: str, how: dict[str, Any]) -> None:
    path = save(tmp_path / name, COLOUR, **how)
    assert np.abs(decode(path).pixels.astype(int) - COLOUR).mean() < 4


def test_group_4_is_two_toned_gray(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    Image.fromarray(TWO_TONE).convert("1").save(path, compression="group4")
    assert np.array_equal(decode(path).pixels, TWO_TONE)


def test_a_page_of_three_equal_channels_is_gray(tmp_path: Path) -> None:
    path = save(tmp_path / "a.png", np.dstack([GRADIENT] * 3))
    assert np.array_equal(decode(path).pixels, GRADIENT)


@pytest.mark.parametrize("shape", [(48, 64), (48, 64, 3)], ids=["gray", "colour"])
@pytest.mark.parametrize("compression", [None, "zlib"])
def test_sixteen_bits_become_eight(tmp_path: Path, shape: tuple[int, ...], compression: str | None) -> None:
    deep = (np.arange(np.prod(shape)).reshape(shape) * 7 % 65536).astype(np.uint16)
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, deep, compression=compression, photometric="rgb" if len(shape) == 3 else "minisblack")
    assert np.abs(decode(path).pixels.astype(float) - deep / 257).max() <= 1


def test_planar_tiff(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, np.moveaxis(COLOUR, 2, 0), photometric="rgb", planarconfig="separate")
    assert np.array_equal(decode(path).pixels, COLOUR)


SHARES = GRADIENT / 255
COLOUR_SHARES = COLOUR / 255


@pytest.mark.parametrize("compression", [None, "zlib"])
@pytest.mark.parametrize(
    ("samples", "how", "expected"),
    [
        pytest.param(SHARES.astype("f2"), {}, GRADIENT, id="gray, 16 bits floating"),
        pytest.param(SHARES.astype("f4"), {}, GRADIENT, id="gray, 32 bits floating"),
        pytest.param(SHARES, {}, GRADIENT, id="gray, 64 bits floating"),
        pytest.param(COLOUR_SHARES.astype("f4"), {"photometric": "rgb"}, COLOUR, id="colour, floating"),
        pytest.param((SHARES * (2**32 - 1)).astype("u4"), {}, GRADIENT, id="gray, 32 bits"),
        pytest.param((SHARES * 65535).astype("u2"), {"photometric": "miniswhite"}, 255 - GRADIENT, id="gray, 16 bits, white is zero"),
        pytest.param(SHARES, {"photometric": "miniswhite"}, 255 - GRADIENT, id="gray, floating, white is zero"),
        pytest.param(
            np.moveaxis(COLOUR_SHARES * 65535, 2, 0).astype("u2"), {"photometric": "rgb", "planarconfig": "separate"}, COLOUR,
            id="colour, 16 bits in planes",
        ),
        pytest.param(
            np.dstack([COLOUR_SHARES * 0, np.full((48, 64), 0.5)]), {"photometric": "rgb", "extrasamples": ["unassalpha"]},
            np.full((48, 64), 128), id="black at half, floating",
        ),
    ],
)  # fmt: skip
def test_deep_samples_of_every_layout(
    tmp_path: Path,
    samples: np.ndarray[Any, Any],
    how: dict[str, Any],
    expected: np.ndarray[Any, Any],
    compression: str | None,
) -> None:
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, samples, compression=compression, resolution=(118.11, 118.11), resolutionunit="centimeter", **how)
    assert count_frames(path) == 1
    page = decode(path)
    found = page.pixels if page.pixels.ndim == expected.ndim else np.dstack([page.pixels] * 3)
    assert np.abs(found.astype(int) - expected).max() <= 1
    assert page.ppi == pytest.approx((300, 300), abs=0.01)


def test_a_deep_page_is_turned_as_its_tag_says(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    tifffile.imwrite(path, np.rot90(SHARES), resolution=(300, 298), resolutionunit="inch", extratags=[(274, "H", 1, 6)])
    page = decode(path)
    assert np.abs(page.pixels.astype(int) - GRADIENT).max() <= 1
    assert page.ppi == (298, 300)


def test_deep_pages_expand_in_order(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    for number in range(3):
        tifffile.imwrite(path, SHARES * (1 - 0.2 * number), append=number > 0, metadata=None)
    assert count_frames(path) == 3
    assert [int(decode(path, number).pixels.max()) for number in range(3)] == [255, 204, 153]


def test_multi_page_tiff_expands_in_order(tmp_path: Path) -> None:
    path = tmp_path / "a.tif"
    pages = [Image.fromarray(np.full((20, 30 + n), 40 * n, np.uint8)) for n in range(4)]
    pages[0].save(path, save_all=True, append_images=pages[1:], dpi=(200, 200))
    assert count_frames(path) == 4
    for number in range(4):
        page = decode(path, number)
        assert (page.width, int(page.pixels[0, 0]), page.ppi) == (30 + number, 40 * number, (200, 200))


# EXIF 2.32, tag 0x0112: how the stored image is to be turned for viewing; worked out by hand from the standard's table.
UPRIGHT = np.array([[10, 60], [110, 160], [210, 250]], np.uint8)
STORED = {
    1: UPRIGHT,
    2: UPRIGHT[:, ::-1],
    3: UPRIGHT[::-1, ::-1],
    4: UPRIGHT[::-1],
    5: UPRIGHT.T,
    6: np.rot90(UPRIGHT),
    7: UPRIGHT[::-1, ::-1].T,
    8: np.rot90(UPRIGHT, -1),
}


@pytest.mark.parametrize("value", STORED)
def test_exif_turn_is_applied(tmp_path: Path, value: int) -> None:
    image = Image.fromarray(np.kron(STORED[value], np.ones((16, 16), np.uint8)))
    exif = image.getexif()
    exif[0x0112] = value
    path = tmp_path / "a.jpg"
    image.save(path, exif=exif, quality=98, dpi=(300, 298))
    page = decode(path)
    assert np.abs(page.pixels[8::16, 8::16].astype(int) - UPRIGHT).max() < 6
    assert page.ppi == ((300, 298) if value < 5 else (298, 300))


def test_cmyk_jpeg_becomes_rgb_the_right_way_round(tmp_path: Path) -> None:
    path = tmp_path / "a.jpg"
    Image.fromarray(np.full((32, 32, 3), (250, 250, 250), np.uint8)).convert("CMYK").save(path)
    assert decode(path).pixels.min() > 230


def test_embedded_profile_is_honoured(tmp_path: Path) -> None:
    """sRGB with the red and blue primaries exchanged: what is stored as red is to be seen as blue."""
    profile = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    # ICC.1, 7.3: the tag table. Exchanging two signatures exchanges what they name.
    red, blue = profile.index(b"rXYZ"), profile.index(b"bXYZ")
    profile[red : red + 4], profile[blue : blue + 4] = b"bXYZ", b"rXYZ"
    profile = profile.replace("sRGB".encode("utf-16-be"), "qRGB".encode("utf-16-be"))
    path = tmp_path / "a.png"
    Image.fromarray(np.full((16, 16, 3), (200, 30, 30), np.uint8)).save(path, icc_profile=bytes(profile))
    assert np.abs(decode(path).pixels.astype(int) - (30, 30, 200)).max() <= 3


@pytest.mark.parametrize("deep", [False, True], ids=["8 bits", "16 bits"])
def test_a_gray_profile_is_honoured(tmp_path: Path, deep: bool) -> None:
    """Gamma 1.0 stores light itself: half the light is seen as sRGB 188 (IEC 61966-2-1: 1.055 · 0.5^(1/2.4) − 0.055)."""
    path = tmp_path / "a.tif"
    stored = np.full((16, 16), 0.5 * (65535 if deep else 255) + 0.5, np.uint16 if deep else np.uint8)
    Image.fromarray(stored).save(path, icc_profile=linear_gray_profile())
    assert np.abs(decode(path).pixels.astype(int) - 188).max() <= 1


def linear_gray_profile() -> bytes:
    """An input profile of ICC.1:2001-04 with a gray curve of one segment: 7.2 (head), 7.3 (tags), 10.5 (curve), 10.23 (XYZ)."""
    white = b"XYZ " + bytes(4) + struct.pack(">3i", *(round(v * 65536) for v in (0.9642, 1.0, 0.8249)))
    parts = {
        b"wtpt": white,
        b"kTRC": b"curv" + bytes(8),
        b"desc": b"desc" + bytes(4) + struct.pack(">I", 5) + b"gray\0" + bytes(79),
    }
    start, table, body = 128 + 4 + 12 * len(parts), struct.pack(">I", len(parts)), b""
    for name, data in parts.items():
        data += bytes(-len(data) % 4)
        table += name + struct.pack(">2I", start + len(body), len(data))
        body += data
    head = struct.pack(">I4sI4s4s4s", start + len(body), bytes(4), 0x02400000, b"scnr", b"GRAY", b"XYZ ")
    head = head.ljust(36, b"\0") + b"acsp"
    return head.ljust(68, b"\0") + white[8:] + bytes(48) + table + body


def test_a_damaged_profile_says_nothing(tmp_path: Path) -> None:
    path = tmp_path / "a.png"
    Image.fromarray(COLOUR).save(path, icc_profile=b"not a profile")
    assert np.array_equal(decode(path).pixels, COLOUR)


def test_transparency_lies_on_white_paper(tmp_path: Path) -> None:
    path = save(tmp_path / "a.png", np.dstack([np.zeros((8, 8, 3), np.uint8), np.full((8, 8), 128, np.uint8)]))
    assert np.abs(decode(path).pixels.astype(int) - 127).max() <= 1


@pytest.mark.parametrize("name", ["a.tif", "a.png", "a.jpg", "a.bmp"])
def test_resolution_is_the_files(tmp_path: Path, name: str) -> None:
    assert decode(save(tmp_path / name, GRADIENT, dpi=(300, 300))).ppi == (300, 300)


@pytest.mark.parametrize("name", ["a.tif", "a.png", "a.jpg", "a.webp", "a.jp2"])
def test_resolution_is_unknown_where_the_file_says_nothing(tmp_path: Path, name: str) -> None:
    assert decode(save(tmp_path / name, GRADIENT)).ppi is None


@pytest.mark.parametrize("dpi", [(1, 1), (0, 0), (90_000, 90_000)])
def test_an_impossible_resolution_is_unknown(tmp_path: Path, dpi: tuple[int, int]) -> None:
    assert decode(save(tmp_path / "a.tif", GRADIENT, dpi=dpi)).ppi is None


def test_names_do_not_matter(tmp_path: Path) -> None:
    buffer = io.BytesIO()
    Image.fromarray(GRADIENT).save(buffer, "PNG")
    path = tmp_path / "really-a.jpg"
    path.write_bytes(buffer.getvalue())
    assert np.array_equal(decode(path).pixels, GRADIENT)


@pytest.mark.parametrize(("dots", "ppi"), [(None, None), (72.0, (72.0, 72.0)), (240.0, (240.0, 240.0))])
def test_a_resolution_that_only_exif_has_is_believed_and_none_is_invented(tmp_path: Path, dots, ppi) -> None:
    """EXIF 2.32, tags 282, 283 and 296; without JFIF's, and with none in either."""
    exif = Image.Exif()
    exif[0x010F] = "Works"
    if dots:
        exif[282] = exif[283] = dots
        exif[296] = 2
    path = tmp_path / "a.jpg"
    Image.fromarray(np.full((40, 60), 200, np.uint8)).save(path, exif=exif)
    data = path.read_bytes()
    at = data.find(b"JFIF\x00")
    if at > 0:
        # Without the segment that says it: its marker, and as many bytes as it counts.
        start = at - 4
        data = data[:start] + data[start + 2 + int.from_bytes(data[start + 2 : start + 4], "big") :]
    path.write_bytes(data)
    assert decode(path).ppi == ppi
