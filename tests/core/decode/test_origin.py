"""What a file's own tags say of its making, and what becomes of damaged ones."""

from datetime import UTC, datetime

import numpy as np
import pytest
from PIL import Image

from hollowstack.core.decode.origin import Origin, _origin, origin_of
from hollowstack.standins.skerry.photograph import save_photograph

GREY = np.full((40, 30, 3), 128, np.uint8)


def test_a_photograph_tells_when_and_with_what(tmp_path):
    save_photograph(tmp_path / "a.jpg", GREY, datetime(1927, 6, 9, 14, 5, 30))
    assert origin_of(tmp_path / "a.jpg") == Origin(
        taken=datetime(1927, 6, 9, 14, 5, 30, tzinfo=UTC), device="Port Annet Optical Gallery camera", photographed=True
    )


def test_the_zone_of_the_camera_counts(tmp_path):
    exif = Image.Exif()
    inner = exif.get_ifd(0x8769)
    inner[0x9003], inner[0x9011] = "1927:06:09 14:05:30", "-03:30"
    Image.fromarray(GREY).save(tmp_path / "a.jpg", exif=exif)
    assert origin_of(tmp_path / "a.jpg").taken == datetime(1927, 6, 9, 17, 35, 30, tzinfo=UTC)


def test_a_scanner_is_no_camera(tmp_path):
    Image.fromarray(GREY).save(tmp_path / "a.tif", tiffinfo={271: "Works", 272: "Works Flatbed", 306: "1931:01:02 03:04:05"})
    found = origin_of(tmp_path / "a.tif")
    assert (found.photographed, found.device) == (False, "Works Flatbed")
    assert found.taken == datetime(1931, 1, 2, 3, 4, 5, tzinfo=UTC)


def test_tags_that_make_no_sense_say_nothing(tmp_path):
    exif = Image.Exif()
    exif.get_ifd(0x8769)[0x9003] = "0000:00:00 00:00:00"
    Image.fromarray(GREY).save(tmp_path / "a.jpg", exif=exif)
    assert origin_of(tmp_path / "a.jpg") == Origin()


def test_what_cannot_be_opened_says_nothing(tmp_path):
    (tmp_path / "a.jpg").write_bytes(b"\xff\xd8\xff\xe1\x00\x10Exif\0\0MM\0*\xff\xff\xff\xff")
    (tmp_path / "b.pdf").write_bytes(b"%PDF-1.4 nothing")
    assert origin_of(tmp_path / "a.jpg") == origin_of(tmp_path / "b.pdf") == origin_of(tmp_path / "none") == Origin()


@pytest.mark.parametrize("behind", [False, True])
def test_tags_of_a_png_may_stand_behind_its_pixels(tmp_path, behind):
    exif = Image.Exif()
    exif[271], exif[272] = "Works", "Works Handheld"
    exif.get_ifd(0x8769)[0x829A] = 1 / 60
    Image.fromarray(GREY).save(tmp_path / "a.png", exif=exif)
    if behind:
        _move_exif_behind_pixels(tmp_path / "a.png")
    found = origin_of(tmp_path / "a.png")
    assert (found.photographed, found.device) == (True, "Works Handheld")


def _move_exif_behind_pixels(path):
    data, at, chunks = path.read_bytes(), 8, []
    while at < len(data):
        end = at + 12 + int.from_bytes(data[at : at + 4])
        chunks.append(data[at:end])
        at = end
    late = [chunk for chunk in chunks if chunk[4:8] == b"eXIf"]
    assert len(late) == 1
    early = [chunk for chunk in chunks[:-1] if chunk not in late]
    path.write_bytes(data[:8] + b"".join([*early, *late, chunks[-1]]))


@pytest.mark.parametrize(
    ("value", "photographed"), [(b"\x03", True), (3, True), (b"\x02", False), (b"\x01", False), (b"", False), ("3", False)]
)
def test_where_the_file_says_what_took_it_that_counts(tmp_path, value, photographed):
    """FileSource (Exif 2.32, 4.6.5, tag 0xA300): 3 is a digital still camera, 1 and 2 are scanners."""
    assert _origin({}, {0xA300: value}).photographed is photographed
