"""Streams of a document lie on the disk until it is written: they come back, are gone in the end, and memory holds none."""

from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pytest

from hollowstack.core.access import AccessOrder, AccessPage, make_access_copy
from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.lossy import encode_jpeg
from hollowstack.core.bind.spool import Spool
from hollowstack.core.page.errors import BindError

CREATED = datetime(2026, 3, 1, tzinfo=UTC)
ODD = [b"", b"endstream\nendobj\n", b"\r\n", bytes(range(256)) * 300, b"%%EOF\nxref\n0 1\n", b"stream\r"]


def test_streams_come_back_as_they_were_put(tmp_path: Path):
    with Spool(tmp_path / "streams") as spool:
        numbers = [spool.put(f"/Place {at} /Name /A#20B", data) for at, data in enumerate(ODD)]
        with spool.opened() as pdf:
            assert len(pdf.pages) == 0
            for at, (number, data) in enumerate(zip(numbers, ODD, strict=True)):
                found = pdf.get_object((number, 0))
                assert (int(found.Place), found.Name, found.read_raw_bytes()) == (at, pikepdf.Name("/A B"), data)
    assert not list(tmp_path.iterdir())


def test_a_spool_without_streams_is_an_empty_document(tmp_path: Path):
    with Spool(tmp_path / "streams") as spool, spool.opened() as pdf:
        assert len(pdf.pages) == 0


def test_it_is_gone_when_something_goes_wrong(tmp_path: Path):
    with pytest.raises(UnicodeEncodeError), Spool(tmp_path / "streams") as spool:
        spool.put("/Name /\u00fc", b"x")
    assert not list(tmp_path.iterdir())


class _Data(bytes):
    """Bytes that are counted while they are held."""

    held = 0

    def __new__(cls, data: bytes) -> "_Data":
        cls.held += 1
        return super().__new__(cls, data)

    def __del__(self) -> None:
        type(self).held -= 1


JPEG = encode_jpeg(np.full((400, 300), 200, np.uint8), 50).data


def some(count: int, most: list[int]) -> Iterator[BoundPage]:
    for at in range(count):
        most.append(_Data.held)
        yield BoundPage(EncodedImage("DCTDecode", _Data(JPEG + bytes([at]) * 500), (300, 400), gray=True), (100, 100), None)


@pytest.mark.parametrize("kind", ["archive", "access"])
def test_images_are_let_go_page_by_page(tmp_path: Path, kind: str):
    most: list[int] = []
    if kind == "archive":
        bind(some(30, most), tmp_path / "a.pdf", Binding(Description("A", CREATED)))
    else:
        order = AccessOrder(title="A", created=CREATED, labels=tuple(str(at) for at in range(30)), ppi=None)
        make_access_copy((AccessPage(page) for page in some(30, most)), tmp_path / "a.pdf", order)
    assert max(most) <= 2
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        images = [next(iter(page.get_images().values())).read_raw_bytes() for page in pdf.pages]
    assert images == [JPEG + bytes([at]) * 500 for at in range(30)]


def test_what_cannot_be_bound_leaves_nothing_behind(tmp_path: Path):
    def broken() -> Iterator[BoundPage]:
        yield from some(2, [])
        yield BoundPage(EncodedImage("DCTDecode", b"", (1, 1), gray=True), (300, 300), None)

    with pytest.raises(BindError, match="too small"):
        bind(broken(), tmp_path / "a.pdf", Binding(Description("A", CREATED)))
    assert not list(tmp_path.iterdir())
