"""TIFF samples that few programs read: every way to store a tone gives that tone (TIFF 6.0, sections 8, 18 and 19)."""

import struct
from pathlib import Path

import numpy as np
import pytest
import tifffile

from hollowstack.core.decode import count_frames, decode

TONES = np.repeat(np.array([0.0, 0.25, 0.5, 1.0]), 4)


def ramp(dtype: str, channels: int = 0) -> np.ndarray:
    """Four tones side by side; in colour the first channel has them, the second all of half, the third none."""
    most = 1.0 if dtype.startswith("float") else float(np.iinfo(dtype).max)
    rows = np.tile(TONES, (16, 1))
    if channels:
        rows = np.stack([rows, np.full_like(rows, 0.5), np.zeros_like(rows)], axis=-1)
    return (rows * most).astype(dtype)


def opened(path: Path, samples: np.ndarray, **how: object) -> np.ndarray:
    tifffile.imwrite(path, samples, **how)  # type: ignore[arg-type]
    return decode(path).pixels


@pytest.mark.parametrize("dtype", ["uint32", "float32", "float64", "float16"])
def test_gray_tones(tmp_path: Path, dtype):
    pixels = opened(tmp_path / "a.tif", ramp(dtype), photometric="minisblack")
    assert np.abs(pixels[8, 2::4].astype(int) - [0, 64, 128, 255]).max() <= 1


def test_gray_tones_where_zero_is_white(tmp_path: Path):
    pixels = opened(tmp_path / "a.tif", ramp("uint32"), photometric="miniswhite")
    assert np.abs(pixels[8, 2::4].astype(int) - [255, 191, 127, 0]).max() <= 1


@pytest.mark.parametrize(
    ("dtype", "planar"), [("uint16", "separate"), ("float32", "contig"), ("float32", "separate"), ("uint32", "contig")]
)
def test_colours_in_planes_or_not(tmp_path: Path, dtype, planar):
    samples = ramp(dtype, 3)
    if planar == "separate":
        samples = np.ascontiguousarray(np.moveaxis(samples, 2, 0))
    pixels = opened(tmp_path / "a.tif", samples, photometric="rgb", planarconfig=planar)
    assert np.abs(pixels[8, 2::4, 0].astype(int) - [0, 64, 128, 255]).max() <= 1
    assert np.abs(pixels[..., 1].astype(int) - 128).max() <= 1
    assert pixels[..., 2].max() <= 1


@pytest.mark.parametrize(("kind", "red"), [("assocalpha", 191), ("unassalpha", 159), ("unspecified", 64)])
def test_what_is_half_transparent_lies_on_white_paper(tmp_path: Path, kind, red):
    """Red 0.25 at half opacity: multiplied by it already, 0.25 + 0.5; not yet, 0.125 + 0.5; where it is something else, 0.25."""
    samples = np.zeros((16, 16, 4), np.float32)
    samples[..., 0], samples[..., 3] = 0.25, 0.5
    pixels = opened(tmp_path / "a.tif", samples, photometric="rgb", extrasamples=[kind])
    assert abs(int(pixels[8, 8, 0]) - red) <= 1


@pytest.mark.parametrize(
    ("unit", "value", "ppi"), [("INCH", 300, 300.0), ("CENTIMETER", 118.11, 300.0), ("NONE", 300, None)]
)
def test_resolution_in_either_unit(tmp_path: Path, unit, value, ppi):
    tifffile.imwrite(tmp_path / "a.tif", ramp("float64"), resolution=(value, value), resolutionunit=unit)
    found = decode(tmp_path / "a.tif").ppi
    assert found == (None if ppi is None else pytest.approx((ppi, ppi), abs=0.1))


@pytest.mark.parametrize(("turn", "corner"), [(1, (0, 0)), (3, (-1, -1)), (6, (0, -1)), (8, (-1, 0))])
def test_turned_as_the_tag_says(tmp_path: Path, turn, corner):
    """TIFF 6.0, Orientation: 3 lies upside down, 6 has its first row on the right, 8 on the left."""
    samples = np.ones((12, 20), np.float64)
    samples[:4, :4] = 0
    tifffile.imwrite(tmp_path / "a.tif", samples, extratags=[(274, "H", 1, turn, True)])
    pixels = decode(tmp_path / "a.tif").pixels
    assert pixels.shape == ((12, 20) if turn in {1, 3} else (20, 12))
    assert pixels[corner] == 0
    assert pixels[-1 - corner[0], -1 - corner[1]] == 255


def test_reduced_copies_are_no_pages(tmp_path: Path):
    with tifffile.TiffWriter(tmp_path / "a.tif") as tiff:
        for tone, kind in ((1.0, 0), (0.5, 1), (0.25, 0)):
            tiff.write(np.full((8, 8), tone, np.float64), subfiletype=kind)
    assert count_frames(tmp_path / "a.tif") == 2
    assert int(decode(tmp_path / "a.tif", 1).pixels[4, 4]) in {63, 64}


def packed(values: np.ndarray, bits: int) -> bytes:
    """A gray TIFF of so many bits a sample, each row filled up to whole bytes (TIFF 6.0, sections 2, 4 and 8)."""
    ones = (values[..., None].astype(np.uint32) >> np.arange(bits - 1, -1, -1) & 1).astype(np.uint8)
    data = np.packbits(ones.reshape(len(values), -1), axis=1).tobytes()
    rows, cols = values.shape
    tags = [(256, cols), (257, rows), (258, bits), (259, 1), (262, 1), (273, 8), (277, 1), (278, rows), (279, len(data))]
    entries = b"".join(struct.pack("<HHII", tag, 4, 1, value) for tag, value in tags)
    return struct.pack("<2sHI", b"II", 42, 8 + len(data)) + data + struct.pack("<H", len(tags)) + entries + bytes(4)


@pytest.mark.parametrize("bits", [12, 14])
def test_odd_depths_reach_white(tmp_path: Path, bits):
    """The greatest value of so many bits is white."""
    path = tmp_path / "a.tif"
    path.write_bytes(packed(np.tile(TONES * ((1 << bits) - 1), (16, 1)), bits))
    assert np.abs(decode(path).pixels[8, 2::4].astype(int) - [0, 64, 128, 255]).max() <= 1
