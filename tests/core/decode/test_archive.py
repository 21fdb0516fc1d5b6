"""ZIP files: what is taken from them, and what is left out with one sentence."""

import stat
import zipfile
from pathlib import Path

import pytest

from hollowstack.core.decode.archive import Entry, is_zip, opened
from hollowstack.core.page.errors import DecodeError


def packed(path: Path, *names: str, data: bytes = b"scan") -> Path:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name in names:
            archive.writestr(name, data)
    return path


def entries(path: Path) -> list[Entry]:
    with opened(path) as archive:
        return archive.entries


@pytest.fixture
def zipped(tmp_path: Path) -> Path:
    return tmp_path / "scans.zip"


def test_files_in_natural_order_without_hidden_ones(zipped):
    packed(zipped, "box/page 10.jpg", "box/page 2.jpg", "box/.DS_Store", "__MACOSX/box/._page 2.jpg", "box/Thumbs.db")
    assert [one.name for one in entries(zipped)] == ["box/page 2.jpg", "box/page 10.jpg"]
    assert is_zip(zipped.read_bytes()[:4])


@pytest.mark.parametrize("name", ["../up.jpg", "a/../../up.jpg", "/etc/passwd", "..\\up.jpg", "C:\\up.jpg"])
def test_names_that_lead_out(zipped, name):
    packed(zipped, name, "good.jpg")
    assert sorted((bool(one.left_out), "leads out" in one.left_out) for one in entries(zipped)) == [
        (False, False),
        (True, True),
    ]


def test_links(zipped):
    with zipfile.ZipFile(zipped, "w") as archive:
        link = zipfile.ZipInfo("link.jpg")
        link.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(link, "/etc/passwd")
    assert "is a link" in entries(zipped)[0].left_out


def test_a_bomb(zipped):
    packed(zipped, "bomb.tif", data=bytes(60_000_000))
    assert "it is no scan" in entries(zipped)[0].left_out


def test_an_encrypted_entry(zipped):
    packed(zipped, "a.jpg")
    raw = bytearray(zipped.read_bytes())
    raw[raw.index(b"PK\x01\x02") + 8] |= 1
    zipped.write_bytes(raw)
    assert "encrypted" in entries(zipped)[0].left_out


@pytest.mark.parametrize("data", [b"", b"PK\x03\x04 not really", b"PK\x05\x06" + bytes(18)])
def test_what_is_no_archive(zipped, data):
    zipped.write_bytes(data)
    with pytest.raises(DecodeError):
        entries(zipped)


def test_a_damaged_entry(zipped):
    packed(zipped, "a.jpg", data=bytes(range(256)) * 50)
    raw = bytearray(zipped.read_bytes())
    raw[60:80] = bytes(20)
    zipped.write_bytes(raw)
    with opened(zipped) as archive, pytest.raises(DecodeError, match="damaged"):  # noqa: SIM117, read inside of both
        with archive.bytes_of(archive.entries[0]) as stream:
            stream.read()


def test_two_files_of_one_name_are_two(zipped):
    with zipfile.ZipFile(zipped, "w") as archive:
        archive.writestr("a.jpg", b"one")
        with pytest.warns(UserWarning, match="Duplicate name"):
            archive.writestr("a.jpg", b"two")
    found = []
    with opened(zipped) as archive:
        for entry in archive.entries:
            with archive.bytes_of(entry) as stream:
                found.append(stream.read())
    assert found == [b"one", b"two"]
